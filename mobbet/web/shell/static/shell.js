/* sources f06fe99706a2bb00ac5d188be94b049a99978c02881ab839b9de8bcc9f017a01 */import"./editor-chunk-RIJGQWIR.js";
