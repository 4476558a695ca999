/* sources e0cda1ec10593a1f7df5b168b85176073ac37527d1d421974dea96fc9f59bf87 */import"./editor-chunk-IKCF2S2G.js";
