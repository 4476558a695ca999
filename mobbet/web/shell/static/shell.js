/* sources 17c973250387af9c53ba65f69b31e4991265e2c75c01e7e035660ab2206a707c */import"./editor-chunk-4XQ6W3NZ.js";
