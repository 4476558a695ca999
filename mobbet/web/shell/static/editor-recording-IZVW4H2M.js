/* sources cb8df82291b47108c65bd0f13373c935c825acef40b9ed062131372d8ebfb381 */import{a as o}from"./editor-chunk-UUT72WUT.js";export{o as readyToRecord};
