/* sources 0f950fb6111ec46ffe9bc9b7c996297df53cef4e3a5df051f301aac4b40e4f32 */import{a as o}from"./editor-chunk-HA3JWJUF.js";export{o as readyToRecord};
