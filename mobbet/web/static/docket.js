// The docket's sheets: each opens under its word, takes arrows, Enter and Escape, and gives the word back the focus.
let open = null;
let returnTo = null;

const docket = () => document.getElementById("docket");
const side = () => document.getElementById("side");

function sheetOf(word) {
  return document.getElementById(`sheet-${word.dataset.sheet}`);
}

function show(word) {
  hide();
  const sheet = sheetOf(word);
  const box = side();
  sheet.hidden = false;
  const frame = box.getBoundingClientRect();
  const place = word.getBoundingClientRect();
  const left = Math.min(place.left - frame.left, frame.width - sheet.offsetWidth - 18);
  sheet.style.left = `${Math.max(12, left)}px`;
  sheet.style.top = `${place.bottom - frame.top + box.scrollTop + 2}px`;
  word.setAttribute("aria-expanded", "true");
  open = { word, sheet };
  const first = sheet.querySelector(".choice.on") ?? sheet.querySelector(".input, textarea, select, .choice, button");
  first?.focus();
  if (first?.matches("input:not([type=checkbox]):not([type=date]):not([type=time]), textarea")) first.select();
  sheet.scrollIntoView({ block: "nearest" });
}

function hide() {
  if (!open) return;
  open.sheet.hidden = true;
  open.word.setAttribute("aria-expanded", "false");
  open = null;
}

document.addEventListener("click", (event) => {
  const word = event.target.closest(".set[data-sheet]");
  if (word) {
    if (open?.word === word) hide();
    else show(word);
    return;
  }
  const tag = event.target.closest(".add-tag");
  if (tag) {
    addTag(tag.dataset.tag);
    return;
  }
  if (open && !open.sheet.contains(event.target)) hide();
});

function addTag(name) {
  const field = document.getElementById("tag-names");
  const names = field.value.split(",").map((part) => part.trim()).filter(Boolean);
  if (!names.includes(name)) names.push(name);
  field.value = names.join(", ");
  field.focus();
}

document.addEventListener("keydown", (event) => {
  if (!open || !open.sheet.contains(event.target)) return;
  if (event.key === "Escape") {
    const { word } = open;
    hide();
    word.focus();
    event.preventDefault();
  } else if (event.key === "ArrowDown" || event.key === "ArrowUp") {
    if (event.target.matches("select, textarea, [type=date], [type=time]")) return;
    const stops = [...open.sheet.querySelectorAll(".choice, input, select, textarea, button")];
    const step = event.key === "ArrowDown" ? 1 : stops.length - 1;
    stops[(stops.indexOf(event.target) + step) % stops.length].focus();
    event.preventDefault();
  } else if (event.key === "Tab") {
    const stops = [...open.sheet.querySelectorAll(".choice, input, select, textarea, button")];
    const last = event.shiftKey ? stops[0] : stops.at(-1);
    if (event.target !== last) return;
    const { word } = open;
    hide();
    word.focus();
    if (event.shiftKey) event.preventDefault();
  } else if (event.key === "Enter" && event.target.matches("textarea")) {
    event.preventDefault();
    event.target.form.requestSubmit();
  }
});

// The docket is read anew after every change: focus goes back to the word, or stays in a sheet that has a problem to tell.
document.addEventListener("htmx:beforeRequest", () => {
  if (open) returnTo = open.word.id;
});
// A docket that was only read again never closes a sheet that was opened meanwhile.
document.addEventListener("htmx:beforeSwap", (event) => {
  if (open && event.detail.requestConfig.verb === "get") event.detail.shouldSwap = false;
});
document.addEventListener("htmx:afterSwap", (event) => {
  if (event.target.id === "docket") open = null; // its sheets went with the old docket
});
document.addEventListener("htmx:afterSettle", (event) => {
  if (event.target.id !== "docket") return;
  const problem = docket().dataset.open;
  const word = document.getElementById(returnTo || `set-${problem}`) || document.getElementById((returnTo || "").replace(/\d+$/, ""));
  const isRoomy = !document.querySelector(".ProseMirror-focused");
  if (problem) show(document.getElementById(`set-${problem}`));
  else if (returnTo && isRoomy) word?.focus();
  returnTo = null;
});
document.addEventListener("htmx:responseError", (event) => tell(messageOf(event.detail.xhr)));
document.addEventListener("htmx:sendError", () => tell("The network is away; try again when it is back."));

function messageOf(request) {
  try {
    return JSON.parse(request.responseText).message;
  } catch {
    return "The server could not do this; try again.";
  }
}

function tell(words) {
  const line = document.querySelector("#actions .told");
  line.textContent = words;
  line.classList.add("problem");
}

document.addEventListener("mobbet:reread", () => {
  if (open) return;
  htmx.ajax("GET", `/posts/${docket().dataset.post}/docket`, { target: "#docket", swap: "outerHTML" });
});

// The main action waits until the text is saved.
document.addEventListener("click", async (event) => {
  const button = event.target.closest("#main-action");
  if (!button) return;
  button.disabled = true;
  const isSaved = await window.mobbetRoom.saving.flush();
  if (!isSaved) {
    button.disabled = false;
    tell("The text is not saved yet, so nothing was published; try again when it is.");
    return;
  }
  await htmx.ajax("POST", button.dataset.place, { target: "#docket", swap: "outerHTML" });
  (document.getElementById("public-link") || document.getElementById("main-action"))?.focus();
});
