/* sources aa359b8706f6d9bf49ba2faa0fd4400a04bc932dff47f6d83d5d3bc10e74561b */import"./editor-chunk-UWA3XU2G.js";
