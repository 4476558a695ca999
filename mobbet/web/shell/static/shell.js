/* sources 9b2f67e0f0361d4404136c92a456c8b3305533cb57e114008c4129e81bb10778 */import"./editor-chunk-YLMVRYKL.js";
