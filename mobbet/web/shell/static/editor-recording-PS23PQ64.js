/* sources a17ede17115e267390aa4f6ab09d0e3580a7581f1c562d1b1574c7b9e7305c72 */import{a as o}from"./editor-chunk-22XUC52K.js";export{o as readyToRecord};
