/* sources 7e39d3375f4cc561f965048f5a62eb5607771fd4f170e5f57601078dd87998b5 */import"./editor-chunk-2TOC6ZOO.js";
