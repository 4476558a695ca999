/* sources 5e177296f030e4893abbd2197d03c39e5a198318a623a3ed1eb4381fa68e62e1 */import"./editor-chunk-UPGHX3I6.js";
