// The sheet of a saved block: the writing surface, whose document goes to the server with its form.
import "../shell/shell.js";
import { say } from "./messages.js";
import { room } from "./roomdata.js";
import { surfaceOf } from "./surface.js";

const form = document.getElementById("block-form");
const told = document.getElementById("sheet-told");

function tellTask(words, isBad = false) {
  say(told, words);
  told.classList.toggle("problem", isBad);
}

function offerTask(words, verb, act) {
  tellTask(words);
  if (!verb) return () => {};
  const button = Object.assign(document.createElement("button"), { type: "button", className: "plain", textContent: verb });
  button.addEventListener("click", () => {
    tellTask("");
    act();
  });
  told.append(" ", button);
  return () => button.remove();
}

const { editor } = surfaceOf(room, { label: "Text of the saved block", tellTask, offerTask });

let isChanged = false;
editor.on("update", ({ transaction }) => {
  isChanged ||= transaction.docChanged;
});
form.addEventListener("submit", () => {
  form.elements.document.value = JSON.stringify(editor.getJSON());
  isChanged = false;
});
addEventListener("beforeunload", (event) => {
  if (isChanged) event.preventDefault();
});

performance.mark("mobbet:ready");
