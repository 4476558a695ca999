/* sources 0527108a3429c5f5e9756c963bff1aa4b9278f637d8782027881ee5d4895c0c5 */import{a as o}from"./editor-chunk-BCLLJVNG.js";export{o as readyToRecord};
