/* sources 280b82b10fc283766b7a0b60f518079af7f6841c8c62071bc382f45c79cc23c4 */import"./editor-chunk-4MQZBZWD.js";
