/* sources d91b0555bb336ca16e044dae8bc0ac61f475f805a79e89aab78d407478eaefe4 */import"./editor-chunk-NNQ6FPKN.js";
