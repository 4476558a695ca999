/* sources 07c01880dd5ab2a9ee098fe536588f34b0abac22ae1a570721b5e7a6c3ca89a8 */import"./editor-chunk-NRWT375H.js";
