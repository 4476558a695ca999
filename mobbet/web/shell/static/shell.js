/* sources af288310c4e4526c3260f4b22565845e7d4c68f22c9dc132f31ba87bb4864f93 */import"./editor-chunk-5YQ6L6HZ.js";
