/* sources 674ede45388869edb45d4298190df4813d3cec065e13f45665fb27f0c22ffc8d */import"./editor-chunk-N4K53QNK.js";
