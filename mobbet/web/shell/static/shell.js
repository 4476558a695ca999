/* sources bd1c213c9c68d546c73e22408fb8b753814b889ef07e111f7b03299a3b6efa52 */import"./editor-chunk-VOEKQQGY.js";
