/* sources 8aed09bf921982c9dbd52b11ff0688a0b96ae715cdcce3376641118143e29c1c */import"./editor-chunk-B2BV4BAY.js";
