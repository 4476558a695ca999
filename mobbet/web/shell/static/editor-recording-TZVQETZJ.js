/* sources bdf69063f58650cb70d312372d94a9c181e47fbc7579f315f51f4664a54b4683 */import{a as o}from"./editor-chunk-OFLOINXB.js";export{o as readyToRecord};
