/* sources bf74eb3750e0ec1dee226b1209393bb7497591f3acfeae9e6e816963a55de9b3 */import"./editor-chunk-5ITM6NL3.js";
