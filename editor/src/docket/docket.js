// The docket's sheets: each opens under its word, takes arrows, Enter and Escape, and gives the word back the focus.
import { cover, uncover } from "../shell/covering.js";
import { offer, sheet as text } from "../core/between.js";
import { withHtmx } from "../core/lazily.js";
import { say } from "../core/messages.js";
import { pull } from "../panels/phone.js";

const STEPS = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -7, ArrowDown: 7 };
const AWAY = "The network is away; try again when it is back.";
const STOPS = ".choice, input:not([type=hidden]), select, textarea, button:not([tabindex='-1'])"; // of the days of a month, one
let open = null;
let returnTo = null;

const docket = () => document.getElementById("docket");
const side = () => document.getElementById("side");

// Buttons of the docket outside its sheets send by htmx too: it is there, and the sheets are, before anybody presses one.
for (const event of ["pointerover", "focusin"]) side().addEventListener(event, () => withSheets().catch(() => {}), { once: true });

// Without a network the docket leads to where some of its lines can be changed on this device.
function tellAway() {
  const line = docket().querySelector(".away");
  if (!line) return;
  line.hidden = navigator.onLine;
  const link = line.querySelector("a");
  const title = document.getElementById("title")?.value ?? "";
  if (title) link.href = `${link.href.replace(/&title=.*/, "")}&title=${encodeURIComponent(title)}`;
}
for (const event of ["online", "offline"]) addEventListener(event, tellAway);
tellAway();

function sayAway() {
  tellAway();
  const line = docket().querySelector(".away");
  if (line) line.hidden = false;
  line?.querySelector("a").focus();
  tell(AWAY);
}

let sheetsLoading = null;

const SIGNED_OUT = "You are signed out; sign in in another tab, then go on here.";

// The room opens without the docket's sheets; every docket that is read later has them.
async function withSheets() {
  const htmx = await withHtmx();
  if (docket().querySelector(".choices")) return;
  sheetsLoading ??= fetch(docket().dataset.address).then((answer) => {
    if (answer.status === 401 || answer.redirected) throw Object.assign(new Error(SIGNED_OUT), { isRefused: true });
    if (!answer.ok) throw Object.assign(new Error("The choices could not be loaded; load the page anew."), { isRefused: true });
    return answer.text();
  });
  try {
    const whole = new DOMParser().parseFromString(await sheetsLoading, "text/html");
    if (docket().querySelector(".choices")) return;
    document.getElementById("proof").before(...whole.querySelectorAll(".choices"));
    htmx.process(docket());
  } finally {
    sheetsLoading = null;
  }
}

function sheetOf(word) {
  return document.getElementById(`sheet-${word.dataset.sheet}`);
}

async function show(word) {
  const focused = document.activeElement;
  if (!sheetOf(word)) {
    try {
      await withSheets();
    } catch (error) {
      return error.isRefused ? tell(error.message) : sayAway();
    }
    if (!word.isConnected) word = document.getElementById(word.id); // the docket was read anew meanwhile
    if (hasLeft(focused)) return;
  }
  if (word) unfold(word, sheetOf(word));
}

// Whether somebody went elsewhere while a sheet was on its way: it takes no letters from what they write there.
function hasLeft(focused) {
  const { activeElement: now, body } = document;
  return now !== focused && now !== body && !(now.id && now.id === focused.id);
}

function unfold(word, sheet) {
  hide();
  const box = side();
  if (getComputedStyle(box).display === "none") pull("side");
  sheet.hidden = false;
  const frame = box.getBoundingClientRect();
  const place = word.getBoundingClientRect();
  const left = Math.min(place.left - frame.left, frame.width - sheet.offsetWidth - 18);
  sheet.style.left = `${Math.max(12, left)}px`;
  sheet.style.top = `${place.bottom - frame.top + box.scrollTop + 2}px`;
  word.setAttribute("aria-expanded", "true");
  open = { word, sheet };
  const first = sheet.querySelector("[data-first]") ?? sheet.querySelector(".choice.on") ?? sheet.querySelector(".input, textarea, select, .choice, button");
  first?.focus();
  if (first?.matches("input:not([type=checkbox]):not([type=date]):not([type=time]), textarea")) first.select();
  for (const part of sheet.querySelectorAll("[data-lazy]")) fetchInto(part);
  sheet.scrollIntoView({ block: "nearest" });
  cover(sheet, word);
}

// What a sheet shows only when it is looked at: checks, proposals, the coast.
async function fetchInto(part) {
  const field = document.getElementById(part.dataset.with);
  const htmx = await withHtmx();
  // asked for by the part itself: of several questions that wait with nobody's name on them, htmx keeps the last alone
  await htmx.ajax("GET", part.dataset.lazy, { source: part, target: part, swap: "innerHTML", values: { value: field?.value ?? "" } });
  if (!open?.sheet.contains(part)) return;
  open.sheet.scrollIntoView({ block: "nearest" });
  cover(open.sheet, open.word); // it is larger now
  if (!open.sheet.contains(document.activeElement)) open.sheet.querySelector(STOPS)?.focus(); // it had nothing to stop at before
}

function hide() {
  if (!open) return;
  open.sheet.hidden = true;
  open.word.setAttribute("aria-expanded", "false");
  open = null;
  uncover();
}

document.addEventListener("click", (event) => {
  const word = event.target.closest(".set[data-sheet]");
  if (word) {
    if (open?.word === word) hide();
    else show(word);
    return;
  }
  const shut = event.target.closest("[data-shut]");
  if (shut) {
    const { word: from } = open;
    hide();
    from.focus();
    return;
  }
  const copy = event.target.closest("[data-copy]");
  if (copy) {
    copyAddress(copy);
    return;
  }
  const mend = event.target.closest("[data-mend]");
  if (mend) {
    show(document.getElementById(`set-${mend.dataset.mend}`));
    return;
  }
  if (event.target.closest("[data-place-now]")) {
    hide();
    place(document.getElementById("main-action"), { now: "yes" });
    return;
  }
  const press = event.target.closest("[data-press]");
  if (press) {
    hide();
    document.getElementById(press.dataset.press).click();
    return;
  }
  const offer = event.target.closest(".add-tag");
  if (offer) {
    take(offer);
    return;
  }
  const day = event.target.closest(".month .day");
  if (day) {
    chooseDay(day);
    return;
  }
  const coast = event.target.closest(".coast-map");
  if (coast) choosePoint(coast, event);
  if (open && !open.sheet.contains(event.target)) hide();
});

// A choice offered while one types: a tag more, a tag instead of another, or words for a field.
function take(offer) {
  if (offer.dataset.tag) addTag(offer.dataset.tag);
  else if (offer.dataset.instead) replaceTag(...offer.dataset.instead.split("\t"));
  else if (offer.dataset.fill) fill(document.getElementById(offer.dataset.fill), offer.dataset.words);
}

function fill(field, words) {
  field.value = words;
  field.focus();
  field.dispatchEvent(new Event("input", { bubbles: true }));
}

function replaceTag(typed, instead) {
  const field = document.getElementById("tag-names");
  const names = field.value.split(",").map((part) => part.trim()).filter(Boolean);
  fill(field, [...new Set(names.map((name) => (name.replace(/^#/, "").toLowerCase() === typed.replace(/^#/, "").toLowerCase() ? instead : name)))].join(", "));
}

async function copyAddress(button) {
  try {
    await navigator.clipboard.writeText(button.dataset.copy);
    button.textContent = "Copied";
  } catch {
    getSelection().selectAllChildren(document.querySelector(".out-address"));
    button.textContent = "Selected: press Ctrl C";
  }
}

// A changeable word is no button element, since browsers do not break those over two lines.
document.addEventListener("keydown", (event) => {
  if ((event.key !== "Enter" && event.key !== " ") || !event.target.matches?.(".set[role=button]")) return;
  event.preventDefault();
  event.target.click();
});

// Alt S gives the post the next free slot.
document.addEventListener("keydown", (event) => {
  if (!event.altKey || event.ctrlKey || event.metaKey || event.code !== "KeyS" || !docket()) return;
  event.preventDefault();
  change(docket().dataset.slot, { when: "slot" });
});

function chooseDay(day) {
  document.getElementById("goes-out-day").value = day.dataset.day;
  document.getElementById("goes-out-said").value = "";
  document.getElementById("check-when").replaceChildren();
  for (const other of document.querySelectorAll(".month .chosen")) other.classList.remove("chosen");
  day.classList.add("chosen");
}

function choosePoint(map, event) {
  const box = map.getBoundingClientRect();
  const { west, east, south, north } = map.dataset;
  const lon = Number(west) + ((event.clientX - box.left) / box.width) * (east - west);
  const lat = Number(north) - ((event.clientY - box.top) / box.height) * (north - south);
  const field = document.getElementById("place-point");
  field.value = `${lat.toFixed(3)}, ${((((lon + 180) % 360) + 360) % 360 - 180).toFixed(3)}`;
  let dot = map.querySelector("circle");
  if (!dot) dot = map.appendChild(document.createElementNS("http://www.w3.org/2000/svg", "circle"));
  dot.setAttribute("r", 5);
  dot.setAttribute("cx", ((event.clientX - box.left) / box.width) * 420);
  dot.setAttribute("cy", ((event.clientY - box.top) / box.height) * 260);
}

// Letters typed into a field leave of a list of ticks those that have them.
document.addEventListener("input", (event) => {
  const list = document.getElementById(event.target.dataset.filters ?? "");
  if (!list) return;
  const words = event.target.value.trim().toLowerCase();
  for (const row of list.querySelectorAll("label")) row.hidden = !row.textContent.toLowerCase().includes(words) && !row.control.checked;
});

// What was typed in a sheet, by field, so that a refusal loses nothing of it.
let typed = [];

const fieldsOf = (sheet) => [...sheet.querySelectorAll("input:not([type=hidden]), textarea, select")];

function keepTyped(sheet) {
  typed = fieldsOf(sheet).map((field) => [field.name, field.value, field.checked]);
}

function putTypedBack(sheet) {
  const fields = fieldsOf(sheet);
  if (fields.length !== typed.length) return;
  for (const [at, [name, value, checked]] of typed.entries()) {
    if (fields[at].name !== name) continue;
    if (["checkbox", "radio"].includes(fields[at].type)) fields[at].checked = checked;
    else fields[at].value = value;
  }
}

function addTag(name) {
  const field = document.getElementById("tag-names");
  const names = field.value.split(",").map((part) => part.trim()).filter(Boolean);
  if (!names.includes(name)) names.push(name);
  fill(field, names.join(", "));
}

document.addEventListener("keydown", (event) => {
  if (!open || !open.sheet.contains(event.target)) return;
  if (event.key === "Escape") {
    const { word } = open;
    hide();
    word.focus();
    event.preventDefault();
  } else if (event.target.matches(".day") && STEPS[event.key]) {
    const days = [...open.sheet.querySelectorAll(".day")];
    days[days.indexOf(event.target) + STEPS[event.key]]?.focus();
    event.preventDefault();
  } else if (event.key === "ArrowDown" || event.key === "ArrowUp") {
    if (event.target.matches("select, textarea, [type=date], [type=time]")) return;
    const stops = [...open.sheet.querySelectorAll(STOPS)];
    const step = event.key === "ArrowDown" ? 1 : stops.length - 1;
    stops[(stops.indexOf(event.target) + step) % stops.length].focus();
    event.preventDefault();
  } else if (event.key === "Tab") {
    const stops = [...open.sheet.querySelectorAll(STOPS)];
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
document.addEventListener("htmx:beforeRequest", (event) => {
  if (!open || event.detail.requestConfig.verb === "get") return;
  returnTo = open.word.id;
  keepTyped(open.sheet);
});
// A docket that was only read again never closes a sheet that was opened meanwhile.
function keepPublished() {
  if (published && !docket().querySelector(".out-slip")) docket().querySelector(".slip").before(published);
}

let published = null;
let isPlacing = false; // what was read meanwhile must not take the docket away from the answer

// Asked for by an element of its own: a question that nobody asks would wait for one that reads the docket, and then answer to a docket that is gone.
// Answers with whether Mobbet could be reached.
async function change(address, values, source = docket()) {
  isPlacing = true;
  try {
    const htmx = await withHtmx();
    await htmx.ajax("POST", address, { source, target: "#docket", swap: "outerHTML", values });
    return true;
  } catch {
    tell(AWAY);
    return false;
  } finally {
    isPlacing = false;
  }
}

document.addEventListener("htmx:beforeSwap", (event) => {
  const isRead = event.detail.target.id === "docket" && event.detail.requestConfig.verb === "get";
  if (isRead) published = docket().querySelector(".out-slip") ?? published; // what was just published stays told
  else if (event.detail.target.id === "docket") published = null;
  if ((open || isPlacing || isPressed) && isRead) event.detail.shouldSwap = false;
  isMissed ||= isPressed && isRead;
  if (isPressed && event.detail.target.matches(".check")) {
    event.detail.shouldSwap = false;
    held.push([event.detail.target, event.detail.serverResponse]);
  }
});

// A button that is exchanged, or moved by a check above it, between the pointer's going down and its coming up is never clicked.
let isPressed = false;
let isMissed = false;
let held = []; // answers of checks, by their place
addEventListener("pointerdown", () => (isPressed = true), true);
for (const end of ["pointerup", "pointercancel"]) addEventListener(end, () => setTimeout(letGo), true);

function letGo() {
  isPressed = false;
  if (isMissed) reread();
  isMissed = false;
  for (const [target, answer] of held) {
    if (target.isConnected) window.htmx.swap(target, answer, { swapStyle: "innerHTML" }, { eventInfo: { target } });
  }
  held = [];
}
document.addEventListener("htmx:afterSwap", (event) => {
  if (event.target.id === "docket") {
    open = null; // its sheets went with the old docket
    uncover();
  }
  keepPublished();
});
document.addEventListener("htmx:afterSettle", (event) => {
  if (event.target.id !== "docket") return;
  keepPublished();
  const page = document.getElementById("page"); // the preview has none
  if (page) page.lang = docket().dataset.language;
  const problem = docket().dataset.open;
  const word = document.getElementById(returnTo || `set-${problem}`) || document.getElementById((returnTo || "").replace(/\d+$/, ""));
  const isRoomy = !document.querySelector(".ProseMirror-focused");
  if (problem) {
    unfold(document.getElementById(`set-${problem}`), document.getElementById(`sheet-${problem}`));
    if (returnTo) putTypedBack(open.sheet);
  }
  else if (returnTo && isRoomy) word?.focus();
  returnTo = null;
  if (docket().querySelector(".out-slip")) side().scrollTop = 0;
});
// What a value was refused with stays until another value is typed; then the check of that value takes its place.
const refusalBeside = (element) => element.closest(".choices")?.querySelector(".problem[role=alert]");
document.addEventListener("input", ({ target }) => refusalBeside(target)?.classList.add("is-past"));
document.addEventListener("htmx:beforeSwap", (event) => {
  const refusal = event.detail.target.matches(".check") && refusalBeside(event.detail.target);
  if (refusal && !refusal.classList.contains("is-past")) event.detail.shouldSwap = false;
});
document.addEventListener("htmx:afterSwap", ({ detail: { target } }) => {
  if (target.matches(".check") && target.textContent.trim()) refusalBeside(target)?.remove();
});

// The docket is read again by itself: when that fails, nothing that stands in the base line makes way for a message.
const isReadAgain = ({ requestConfig }) => requestConfig.verb === "get" && requestConfig.path === docket().dataset.address;
const isOffering = () => document.querySelector("#actions .told button") !== null;

// Without a session htmx would be sent to the sign-in page; nobody is led away from what they write.
document.addEventListener("htmx:beforeOnLoad", (event) => {
  if (event.detail.xhr.status !== 401) return;
  event.preventDefault();
  if (!isReadAgain(event.detail) || !isOffering()) tell(SIGNED_OUT);
});
document.addEventListener("htmx:responseError", ({ detail }) => {
  if (!isReadAgain(detail)) tell(messageOf(detail.xhr));
});
document.addEventListener("htmx:sendError", ({ detail }) => {
  if (!isReadAgain(detail)) tell(AWAY);
});

function messageOf(request) {
  try {
    return JSON.parse(request.responseText).message;
  } catch {
    return "The server could not do this; try again.";
  }
}

function tell(words) {
  const line = document.querySelector("#actions .told");
  say(line, words);
  line.classList.add("problem");
}

let isReading = false;
let isStale = false; // something changed while an answer was on its way: htmx would queue another question, and say too early that it was answered

// Reading the docket again takes away nothing that was just said in the base line.
document.addEventListener("htmx:oobBeforeSwap", (event) => {
  if (!isReading || event.detail.target.id !== "actions") return;
  const said = event.detail.target.querySelector(".told");
  const fresh = event.detail.fragment.querySelector(".told");
  if (said?.textContent.trim() && fresh && !fresh.textContent.trim()) fresh.replaceWith(said);
});

async function reread() {
  if (open || isPlacing || !navigator.onLine) return;
  isStale = isReading;
  if (isReading) return;
  isReading = true;
  try {
    const htmx = await withHtmx();
    await htmx.ajax("GET", docket().dataset.address, { target: "#docket", swap: "outerHTML" });
    keepPublished();
  } catch {
    // the network went away meanwhile; the docket is read when it is back
  } finally {
    isReading = false;
  }
  if (isStale) reread();
}

addEventListener("online", reread);

offer("docket", {
  reread,
  place: (reason) => place(document.getElementById("main-action"), { reason }),
  lead,
  language: (value) => change(`${docket().dataset.address}/language`, { value }),
});

// The main action waits until the text is saved, and until the marks that must be settled are, or somebody says why not.
document.addEventListener("click", async (event) => {
  const button = event.target.closest("#main-action");
  if (!button) return;
  button.disabled = true;
  const isHeld = await text().hold();
  button.disabled = false;
  text().put();
  if (!isHeld) place(document.getElementById("main-action")); // the docket may have been read anew meanwhile
});

async function place(button, values = {}) {
  button.disabled = true;
  const line = document.querySelector("#actions .told");
  line.classList.remove("problem");
  say(line, "One moment…");
  isPlacing = true; // from here on, so that the button that asks is still there when the text is saved
  try {
    const isSaved = await text().flush();
    if (!isSaved) {
      button.disabled = false;
      tell("The text is not saved yet, so nothing was published; try again when it is.");
      return;
    }
    if (!(await change(button.dataset.place, values, button))) {
      button.disabled = false;
      return;
    }
  } finally {
    isPlacing = false;
  }
  const next = document.getElementById("public-link") || document.getElementById("main-action");
  (next.disabled ? document.getElementById("actions") : next).focus();
}

// “Lead with this” on the sheet: the text is saved first, so that the block is the one that is seen.
async function lead(at) {
  if (!(await text().flush())) return tell("The text is not saved yet, so nothing was changed; try again when it is.");
  change(docket().dataset.leadAddress, { value: `block:${at}` });
}

// The footprint of the main action, asked for when nothing else has happened for a moment; without an answer it stays away.
let asking = 0;

function askBelow() {
  clearTimeout(asking);
  asking = setTimeout(() => {
    for (const box of document.querySelectorAll("#footprint[data-from]")) if (navigator.onLine) fetchBelow(box);
  }, 700);
}

async function fetchBelow(box) {
  try {
    const answer = await fetch(box.dataset.from);
    if (answer.ok && !answer.redirected) box.innerHTML = await answer.text();
  } catch {
    box.replaceChildren();
  }
}

document.addEventListener("htmx:afterSettle", (event) => {
  if (event.target.id === "docket") askBelow();
});
askBelow();

// A colour that is picked is typed beside it too.
document.addEventListener("input", (event) => {
  if (event.target.matches(".docket [data-picks]")) event.target.previousElementSibling.value = event.target.value;
});
