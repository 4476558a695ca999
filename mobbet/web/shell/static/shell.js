/* sources 99b9d398ebd851231117920073ea1c170abc0216ea3eb4c9626763453815a90d */import"./editor-chunk-WRW2OEEZ.js";
