/* sources 674ede45388869edb45d4298190df4813d3cec065e13f45665fb27f0c22ffc8d */import{a as o}from"./editor-chunk-4JPQU7KP.js";export{o as readyToRecord};
