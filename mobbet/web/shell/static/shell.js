/* sources 31b403bdbdc964cbf09f60e5c2d134594dfce8141ac8fcd22d9925e86da2da64 */import"./editor-chunk-3GQIYK5H.js";
