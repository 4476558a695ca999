// The writing room on a phone: one line on top, one line of kinds above the keyboard, the rest is the text. Everything else stands in
// sheets from below: `openAll` shows every tool and action, `pull` the docket or the outline.

export const PHONE = matchMedia("(max-width: 760px), (max-height: 480px)");

const all = () => document.querySelector(".phone-all");
const drawings = [];

// Wraps `draw` so that on a phone a panel is drawn only while its sheet is open, and once when the sheet opens.
export function drawWhileOpen(isOpen, draw) {
  const drawIfOpen = () => {
    if (!PHONE.matches || isOpen()) draw();
  };
  drawings.push(drawIfOpen);
  return drawIfOpen;
}

const drawAll = () => drawings.forEach((draw) => draw());
PHONE.addEventListener("change", drawAll);

export function openAll(isOpen) {
  if (isOpen) document.activeElement?.blur(); // the phone's keyboard goes: there is no room for both
  document.body.classList.toggle("all-open", isOpen);
  all().setAttribute("aria-expanded", String(isOpen));
  if (isOpen) drawAll();
}

// One sheet is up at a time; the focus goes into it, and back to what opens it.
export function pull(name, isUp = true) {
  for (const sheet of document.querySelectorAll(".pull")) sheet.classList.toggle("is-up", isUp && sheet.id === name);
  for (const button of document.querySelectorAll("[data-pull]")) button.setAttribute("aria-expanded", String(isUp && button.dataset.pull === name));
  openAll(false);
  if (isUp) drawAll();
  (isUp ? document.querySelector(`#${name} .pull-close button`) : all()).focus();
}

function makeAll(tools) {
  const button = document.createElement("button");
  button.type = "button";
  button.className = "phone-all";
  button.textContent = "All…";
  button.setAttribute("aria-label", "All…: every tool, the docket and the actions");
  button.setAttribute("aria-expanded", "false");
  button.addEventListener("click", () => {
    if (tools.more.hidden) tools.toggleMore(); // the sheet has room for all of them
    openAll(button.getAttribute("aria-expanded") === "false");
  });
  return button;
}

function pressed(event) {
  const button = event.target.closest("[data-pull]");
  if (button) pull(button.dataset.pull, !document.getElementById(button.dataset.pull).classList.contains("is-up"));
  else if (event.target.closest(".pull-close button")) pull("", false);
  else if (event.target.closest("#next-mark, #open-notes")) openAll(false);
}

function escaped(event) {
  if (event.key !== "Escape" || document.querySelector(".choices:not([hidden])")) return; // of what is open the innermost closes
  if (document.body.classList.contains("all-open")) {
    openAll(false);
    all().focus();
  } else if (PHONE.matches && event.target.closest?.(".pull.is-up")) pull("", false);
}

// What the phone's keyboard leaves of the window is the room's height, in browsers that lay the keyboard over the page.
function followKeyboard() {
  const seen = window.visualViewport;
  const fit = () => {
    const isCovered = PHONE.matches && innerHeight - seen.height > 60;
    document.body.style.height = isCovered ? `${seen.height}px` : "";
    if (isCovered) scrollTo(0, 0);
  };
  seen?.addEventListener("resize", fit);
  PHONE.addEventListener("change", fit);
}

// `put(files)` puts pictures at the cursor that were taken or chosen with the field `camera`.
export function readyForPhones({ tools, editor, camera, put }) {
  tools.box.append(makeAll(tools));
  camera.addEventListener("change", () => {
    if (camera.files.length) put([...camera.files]);
    camera.value = "";
  });
  // words that are chosen: the line offers what one does with words
  const follow = () => tools.box.classList.toggle("has-words", !editor.state.selection.empty && editor.state.selection.$from.parent.isTextblock);
  editor.on("selectionUpdate", follow);
  editor.on("focus", () => openAll(false));
  document.addEventListener("click", pressed);
  document.addEventListener("keydown", escaped, true);
  followKeyboard();
}
