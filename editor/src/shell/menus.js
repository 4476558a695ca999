// Menus on the bar, and the settings that open under their words: one is open at a time, and closes with Escape or a click elsewhere.
import { cover, uncover } from "./covering.js";

for (const shown of document.querySelectorAll("[data-focus]")) shown.focus();

const ALL = "details.menu, details.setting";
const OPEN = "details.menu[open], details.setting[open]";

function opened(details) {
  for (const other of document.querySelectorAll(OPEN)) if (other !== details) other.open = false;
  const box = details.querySelector(":scope > ul, :scope > .choices");
  if (details.matches(".setting")) {
    const field = details.querySelector(".input, textarea, select, .choice.on, .choice");
    field?.focus();
    if (field?.matches("input, textarea")) field.select();
    details.classList.remove("to-left"); // measured as it would open to the right
    details.classList.toggle("to-left", box.getBoundingClientRect().right > document.documentElement.clientWidth - 8);
  }
  cover(box, details.querySelector("summary"));
}

document.addEventListener("toggle", (event) => {
  if (!event.target.matches(ALL)) return;
  if (event.target.open) opened(event.target);
  else if (!document.querySelector(OPEN)) uncover();
}, true);

document.addEventListener("click", (event) => {
  for (const open of document.querySelectorAll(OPEN)) if (!open.contains(event.target)) open.open = false;
});

document.addEventListener("keydown", (event) => {
  if (event.key !== "Escape") return;
  for (const open of document.querySelectorAll(OPEN)) {
    open.open = false;
    open.querySelector("summary").focus();
  }
});
