/* sources 3f5ec0671c008643dc5d5c22c341f3e32a0bb9af8969ab0752e2b53ea62cb4aa */import"./editor-chunk-WTA6FWCZ.js";
