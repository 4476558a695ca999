/* sources 72d1ee322440706d5f9eafe3db3122134314fd94d79d9515d13224a068a4d4a2 */import"./editor-chunk-YDACR6AF.js";
