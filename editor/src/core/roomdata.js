// What the server told the room when it was opened: addresses, items of the library, fill-ins, what was kept.
export const room = JSON.parse(document.getElementById("room").textContent);
room.pixels = {}; // pictures that were brought in here, as the browser has them
