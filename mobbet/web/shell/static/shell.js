/* sources 7f0062bdd5339f2b55cdafc816df24310191097f0d6c94983b7b30edd6d44418 */import"./editor-chunk-DWXDD55E.js";
