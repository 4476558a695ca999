// Pages and menu: entries are moved by dragging, or with Alt and the arrows.
const lists = document.querySelectorAll("[data-move]");

function send(action, at, to) {
  const form = document.createElement("form");
  form.method = "post";
  form.action = action;
  for (const [name, value] of Object.entries({ at, to })) {
    const field = document.createElement("input");
    field.type = "hidden";
    field.name = name;
    field.value = value;
    form.append(field);
  }
  document.body.append(form);
  form.submit();
}

function clear() {
  for (const one of document.querySelectorAll(".dropping")) one.classList.remove("dropping", "after");
}

for (const list of lists) {
  const spots = [...list.children];
  let dragged = -1;

  spots.forEach((spot, index) => {
    spot.addEventListener("dragstart", (event) => {
      if (event.target.closest(".parts")) return event.preventDefault();
      dragged = index;
      event.dataTransfer.effectAllowed = "move";
      event.dataTransfer.setData("text/plain", spot.querySelector(".entry").textContent.trim());
    });
    spot.addEventListener("dragend", () => {
      dragged = -1;
      clear();
    });
    spot.addEventListener("dragover", (event) => {
      if (dragged < 0) return;
      event.preventDefault();
      clear();
      spot.classList.add("dropping");
      spot.classList.toggle("after", isAfter(spot, event));
    });
    spot.addEventListener("drop", (event) => {
      if (dragged < 0) return;
      event.preventDefault();
      const wanted = index + (isAfter(spot, event) ? 1 : 0);
      const to = wanted > dragged ? wanted - 1 : wanted;
      if (to !== dragged) send(list.dataset.move, spots[dragged].dataset.at, String(to + 1));
    });
  });

  list.addEventListener("keydown", (event) => {
    const spot = event.target.closest(".spot");
    if (!spot || event.target.closest(".parts") || event.ctrlKey || event.metaKey) return;
    const step = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[event.key];
    const index = spots.indexOf(spot);
    const other = spots[index + step];
    if (!step || !other) return;
    event.preventDefault();
    if (event.altKey) send(list.dataset.move, spot.dataset.at, String(index + step + 1));
    else other.querySelector(".entry").focus();
  });
}

function isAfter(spot, event) {
  const box = spot.getBoundingClientRect();
  const isColumn = spot.parentElement.clientWidth < box.width * 1.5;
  return isColumn ? event.clientY > box.top + box.height / 2 : event.clientX > box.left + box.width / 2;
}

// After a move the focus is on the entry that moved.
const chosen = document.querySelector(".entry[aria-current]");
if (chosen && new URLSearchParams(location.search).get("told")) chosen.focus();
