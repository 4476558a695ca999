// The Filing screen: categories moved by dragging and by keys.
const tree = document.getElementById("tree");
const rows = () => [...tree.querySelectorAll("li")];
const idOf = (row) => row.dataset.id;
const parentOf = (row) => row.dataset.parent;

// Posts a change as a form would, so that its footprint is shown first.
function send(row, what, fields = {}) {
  const form = document.createElement("form");
  form.method = "post";
  form.action = `${tree.dataset.to}/category/${idOf(row)}/${what}`;
  for (const [name, value] of Object.entries(fields)) {
    const field = document.createElement("input");
    Object.assign(field, { type: "hidden", name, value });
    form.append(field);
  }
  document.body.append(form);
  form.submit();
}

const inside = (id) => ({ parent: id ? `#${id}` : "" });

function byKey(row, key) {
  const all = rows();
  const siblings = all.filter((other) => parentOf(other) === parentOf(row));
  const at = siblings.indexOf(row);
  if (key === "ArrowUp" && at > 0) send(row, "up");
  if (key === "ArrowDown" && at < siblings.length - 1) send(row, "down");
  if (key === "ArrowRight" && at > 0) send(row, "move", inside(idOf(siblings[at - 1])));
  if (key === "ArrowLeft" && parentOf(row)) {
    const parent = all.find((other) => idOf(other) === parentOf(row));
    send(row, "move", inside(parent ? parentOf(parent) : ""));
  }
}

function walk(row, key) {
  const all = rows();
  const next = all[all.indexOf(row) + (key === "ArrowDown" ? 1 : -1)];
  next?.querySelector("a").focus();
}

tree?.addEventListener("keydown", (event) => {
  const row = event.target.closest("li");
  if (!row || !event.key.startsWith("Arrow")) return;
  if (event.altKey && "canMove" in tree.dataset) byKey(row, event.key);
  else if (event.key === "ArrowUp" || event.key === "ArrowDown") walk(row, event.key);
  else return;
  event.preventDefault();
});

// Dragging: onto the middle of a row puts it inside, onto its upper or lower edge puts it before or after.
let dragged = null;
const zones = ["drop-before", "drop-inside", "drop-after"];

function zoneOf(event, row) {
  const box = row.getBoundingClientRect();
  const part = (event.clientY - box.top) / box.height;
  return part < 0.28 ? "drop-before" : part > 0.72 ? "drop-after" : "drop-inside";
}

function isBelow(row, above) {
  const byId = new Map(rows().map((one) => [idOf(one), one]));
  for (let one = row; one; one = byId.get(parentOf(one))) if (one === above) return true;
  return false;
}

const clear = () => rows().forEach((row) => row.classList.remove(...zones));

if (tree && "canMove" in tree.dataset) {
  tree.addEventListener("dragstart", (event) => {
    dragged = event.target.closest("li");
    event.dataTransfer.effectAllowed = "move";
    event.dataTransfer.setData("text/plain", dragged.querySelector(".name").textContent);
  });
  tree.addEventListener("dragover", (event) => {
    const row = event.target.closest("li");
    clear();
    if (!dragged || !row || isBelow(row, dragged)) return;
    event.preventDefault();
    row.classList.add(zoneOf(event, row));
  });
  tree.addEventListener("dragleave", clear);
  tree.addEventListener("dragend", clear);
  tree.addEventListener("drop", (event) => {
    const row = event.target.closest("li");
    clear();
    if (!dragged || !row || isBelow(row, dragged)) return;
    event.preventDefault();
    const zone = zoneOf(event, row);
    if (zone === "drop-inside") return send(dragged, "move", inside(idOf(row)));
    const siblings = rows().filter((other) => parentOf(other) === parentOf(row) && other !== dragged);
    const before = zone === "drop-before" ? row : siblings[siblings.indexOf(row) + 1];
    send(dragged, "move", { ...inside(parentOf(row)), before: before ? idOf(before) : "" });
  });
}
