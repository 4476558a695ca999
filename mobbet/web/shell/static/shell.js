/* sources 6a03d2094f359a69c998b8d6ccf6bfaf5288255d75d4f0fb5de8d97e4f638fbf */import"./editor-chunk-422GGW3T.js";
