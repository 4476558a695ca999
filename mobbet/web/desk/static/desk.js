// The desk by keyboard: arrows walk the rows, letters search, Shift with the arrows chooses, Enter on a chosen row goes to what is done with them,
// Alt N begins a new post.
const find = document.getElementById("find");
const links = () => [...document.querySelectorAll(".posts td.t a")];
const boxOf = (element) => element.closest("tr")?.querySelector("input[form=choose-posts]");
const linkOf = (element) => element.closest("tr")?.querySelector("td.t a");

function walk(event, step) {
  const rows = links();
  const here = rows.indexOf(linkOf(event.target));
  const next = rows[here + step];
  const box = here >= 0 && boxOf(event.target);
  if (event.shiftKey && box && !box.checked) box.click();
  if (here === 0 && step < 0) find.focus();
  else if (next) (event.target === box ? boxOf(next) : next).focus();
  else return;
  if (event.shiftKey && next && boxOf(next) && !boxOf(next).checked) boxOf(next).click();
  event.preventDefault();
}

document.addEventListener("keydown", (event) => {
  if (event.altKey && event.code === "KeyN") {
    event.preventDefault();
    document.querySelector(".line form button").click();
  }
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const isRow = event.target.closest(".posts tr") && event.target.matches("td.t a, input[form=choose-posts]");
  const isFree = isRow || event.target === document.body;
  if ((event.key === "ArrowDown" || event.key === "ArrowUp") && (isFree || event.target === find)) walk(event, event.key === "ArrowDown" ? 1 : -1);
  else if (event.key === "ArrowLeft" && isRow) boxOf(event.target)?.focus();
  else if (event.key === "ArrowRight" && isRow) linkOf(event.target).focus();
  else if (event.key === "Enter" && event.target.matches("input[form=choose-posts]")) {
    event.preventDefault();
    choosing.querySelector("button:not([hidden])")?.focus();
  } else if (event.key.length === 1 && /[\p{L}\p{N}"/]/u.test(event.key) && isRow) { // a key of one letter acts where the focus is alone (WCAG 2.1.4)
    event.preventDefault();
    find.focus();
    if (event.key !== "/") find.setRangeText(event.key, 0, find.value.length, "end");
    find.dispatchEvent(new Event("input", { bubbles: true }));
  }
});

// With chosen posts one does something at once; the line that offers it shows while there are any. A choice outlives another search.
const choosing = document.getElementById("choose-posts");
const elsewhere = document.createElement("span"); // what is chosen and not in the list just now
choosing.append(elsewhere);
const picked = new Set();
const boxes = () => [...document.querySelectorAll("input[type=checkbox][form=choose-posts]")];

function tellChosen() {
  const shown = new Set(boxes().map((box) => box.value));
  elsewhere.replaceChildren(
    ...[...picked].filter((number) => !shown.has(number)).map((number) => Object.assign(document.createElement("input"), { type: "hidden", name: "post", value: number })),
  );
  choosing.hidden = picked.size === 0;
  choosing.querySelector("p").textContent = `${picked.size} post${picked.size === 1 ? "" : "s"} chosen`;
}

function pick(box) {
  if (box.checked) picked.add(box.value);
  else picked.delete(box.value);
}

document.addEventListener("change", (event) => {
  if (!event.target.matches("input[form=choose-posts]")) return;
  pick(event.target);
  tellChosen();
});
document.getElementById("choose-none").addEventListener("click", () => {
  picked.clear();
  for (const box of boxes()) box.checked = false;
  tellChosen();
});
function keepChosen() {
  for (const box of boxes()) box.checked = picked.has(box.value);
  tellChosen();
}
document.body.addEventListener("htmx:afterSwap", keepChosen);
choosing.addEventListener("keydown", (event) => {
  if (event.key === "Escape") boxes().find((box) => box.checked)?.focus();
});
for (const box of boxes()) pick(box); // as the browser had them before the page was left
tellChosen();

// Each letter asks at once, and its answer is shown unless that of a later one was there first. What came before goes as it is: nothing has to be
// undone about it, which takes htmx as long as the search.
let asked = 0;
let shown = 0;
let words = find.value;

async function search() {
  if (find.value === words) return;
  words = find.value;
  asked += 1;
  const turn = asked;
  try {
    const answer = await fetch(`${find.dataset.rows}?${new URLSearchParams({ q: words })}`, { headers: { "hx-request": "true" } });
    if (answer.status === 401) location.assign(answer.headers.get("HX-Redirect")); // signed out meanwhile
    const rows = await answer.text();
    if (!answer.ok || turn < shown) return;
    shown = turn;
    document.getElementById("rows").outerHTML = rows;
    htmx.process(document.getElementById("rows"));
    keepChosen();
    sayFound();
  } catch {
    // the network is away; the next letter asks again
  }
}
find.addEventListener("input", search);

// How many were found is spoken once the typing rests.
let saying = 0;

function sayFound() {
  clearTimeout(saying);
  saying = setTimeout(() => {
    document.getElementById("found-said").textContent = document.querySelector("#rows .group th, #rows .problem, #rows .empty")?.textContent.trim() ?? "";
  }, 700);
}

// A word of the sentence that was changed is shown at once; while arrows walk its choices, after a moment.
const filter = document.getElementById("filter");
let showing = 0;
document.documentElement.classList.add("js-filter");
filter.addEventListener("change", () => {
  clearTimeout(showing);
  showing = setTimeout(() => {
    const said = new URLSearchParams([...new FormData(filter)].filter(([name, value]) => value && !(name === "order" && value === "newest")));
    location.href = `${filter.action}${said.size ? `?${said}` : ""}`;
  }, 350);
});

// A look at a post beside the list: Space on its row, or the mouse resting there; Escape closes it.
const peek = document.getElementById("peek");
const RESTING = 450;
let resting = 0;
let peeking = null;

async function look(link) {
  if (!link || peek.dataset.of === link.dataset.peek) return;
  peeking?.abort();
  peeking = new AbortController();
  try {
    const answer = await fetch(link.dataset.peek, { signal: peeking.signal });
    if (!answer.ok) return;
    peek.innerHTML = await answer.text();
    peek.dataset.of = link.dataset.peek;
    peek.hidden = false;
  } catch {
    // another row was looked at, or the network is away
  }
}

function close() {
  peek.hidden = true;
  delete peek.dataset.of;
}

document.addEventListener("keydown", (event) => {
  const link = event.target.closest?.("a[data-peek]");
  if (event.key === " " && link) {
    event.preventDefault();
    if (peek.hidden || peek.dataset.of !== link.dataset.peek) look(link);
    else close();
  } else if (event.key === "Escape" && !peek.hidden) close();
});
document.addEventListener("focusin", (event) => !peek.hidden && event.target.matches("a[data-peek]") && look(event.target));
document.addEventListener("pointerover", (event) => {
  clearTimeout(resting);
  const link = event.pointerType === "mouse" && (event.target.closest?.(".posts tr")?.querySelector("a[data-peek]") ?? event.target.closest?.("#strip a[data-peek]"));
  if (link) resting = setTimeout(() => look(link), RESTING);
});
