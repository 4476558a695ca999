/* sources 7e39d3375f4cc561f965048f5a62eb5607771fd4f170e5f57601078dd87998b5 */import{a as o}from"./editor-chunk-4WGUSNBW.js";export{o as readyToRecord};
