/* sources 3a424c578e9d32d174177c674537fad5b0ef69b8d849b559ac197e47026ae19f */import"./editor-chunk-IIA5ED4O.js";
