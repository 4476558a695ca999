/* sources 341a43b5c00bddd940d6ac157e74140ac3c32aa9c5915027e7e0a6cc26d26b41 */import"./editor-chunk-OZTPHK7F.js";
