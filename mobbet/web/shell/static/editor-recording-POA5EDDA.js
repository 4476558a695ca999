/* sources 661294a0cea459e9dbe7a6aea606e4dab6c46ccf758d94824cf10d3caf044a41 */import{a as o}from"./editor-chunk-2C5I7MRN.js";export{o as readyToRecord};
