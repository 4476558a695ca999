/* sources bdf69063f58650cb70d312372d94a9c181e47fbc7579f315f51f4664a54b4683 */import"./editor-chunk-WKNSJC2W.js";
