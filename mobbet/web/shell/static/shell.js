/* sources 32b9addfcfe6cd7abe1c87855637ec1acaf53d693063c4844e03a6b935edc8fd */import"./editor-chunk-AEC47AH6.js";
