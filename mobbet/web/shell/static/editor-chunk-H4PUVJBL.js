/* sources cb8df82291b47108c65bd0f13373c935c825acef40b9ed062131372d8ebfb381 */var e=JSON.parse(document.getElementById("room").textContent);e.pixels={};export{e as a};
