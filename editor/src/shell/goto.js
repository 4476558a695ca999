// “Find or go to”, on every screen: Alt J, a few letters, the arrows and Enter.
const field = document.getElementById("goto");
const list = document.getElementById("goto-list");
const PAUSE = 90;
let rows = [];
let at = -1;
let timer = 0;
let stop = null;

function show(isShown) {
  list.hidden = !isShown;
  field.setAttribute("aria-expanded", String(isShown));
  if (!isShown) field.removeAttribute("aria-activedescendant");
}

async function ask() {
  stop?.abort();
  stop = new AbortController();
  try {
    const answer = await fetch(`${field.dataset.from}?q=${encodeURIComponent(field.value)}`, { signal: stop.signal, headers: { accept: "application/json" } });
    if (answer.ok) draw((await answer.json()).places);
  } catch {
    // a newer question was asked, or the network is away
  }
}

function draw(places) {
  rows = places;
  list.replaceChildren(...rows.map((place, number) => {
    const item = Object.assign(document.createElement("li"), { id: `goto-${number}` });
    item.setAttribute("role", "option");
    item.append(Object.assign(document.createElement("b"), { textContent: place.words }), " ", Object.assign(document.createElement("span"), { textContent: place.hint }));
    item.addEventListener("mousedown", (event) => {
      event.preventDefault();
      go(place);
    });
    return item;
  }));
  if (!rows.length) {
    const item = Object.assign(document.createElement("li"), { textContent: "No match. Try fewer letters." });
    item.setAttribute("role", "option");
    item.setAttribute("aria-disabled", "true");
    list.append(item);
  }
  choose(rows.length ? 0 : -1);
  show(document.activeElement === field);
}

function choose(number) {
  at = number;
  for (const [index, item] of [...list.children].entries()) item.setAttribute("aria-selected", String(index === at));
  if (at < 0) return;
  field.setAttribute("aria-activedescendant", `goto-${at}`);
  list.children[at].scrollIntoView({ block: "nearest" });
}

// An action is sent as a form; the text of the writing room is saved first.
async function go(place) {
  await window.mobbetRoom?.saving.flush();
  if (!place.is_action) {
    location.href = place.href;
    return;
  }
  const form = Object.assign(document.createElement("form"), { method: "post", action: place.href });
  document.body.append(form);
  form.submit();
}

field?.addEventListener("input", () => {
  clearTimeout(timer);
  timer = setTimeout(ask, PAUSE);
});
field?.addEventListener("focus", ask);
field?.addEventListener("blur", () => show(false));
field?.addEventListener("keydown", (event) => {
  if (event.key === "ArrowDown" || event.key === "ArrowUp") {
    if (rows.length) choose((at + (event.key === "ArrowDown" ? 1 : rows.length - 1)) % rows.length);
    event.preventDefault();
  } else if (event.key === "Enter") {
    event.preventDefault();
    if (rows[at]) go(rows[at]);
  } else if (event.key === "Escape") {
    field.value = "";
    field.blur();
    event.stopPropagation();
  }
});
document.addEventListener("keydown", (event) => {
  if (!event.altKey || event.ctrlKey || event.metaKey || event.code !== "KeyJ" || !field) return;
  event.preventDefault();
  field.focus();
  field.select();
});
