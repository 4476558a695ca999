/* sources 2b8800a2d5e60ee9b08e9dd551a998444cb4ffbcff8bcb85b425df215d61dfa2 */import"./editor-chunk-I3F4GYSV.js";
