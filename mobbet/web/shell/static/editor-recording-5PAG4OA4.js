/* sources 91c72b0042e4190694c093f1a5893640a587e90d3231e98a55fb6f1eda947bd7 */import{a as o}from"./editor-chunk-SAEO7KOA.js";export{o as readyToRecord};
