// Slips of the timetable are moved: dragged to another day, or chosen and walked there with the arrows. A slip or a free slot that is
// chosen shows beneath the drawing what else is done with it.
const drawing = document.getElementById("weeks");
const form = document.getElementById("move-slip");
const told = document.getElementById("weeks-told");
const STEPS = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -7, ArrowDown: 7 };
const days = [...(drawing?.querySelectorAll(".day-cell") ?? [])];
let moving = null; // {slip, from, to}

const dayOf = (slip) => days.findIndex((day) => day.dataset.day === slip.dataset.day);

function mark(number) {
  for (const [at, day] of days.entries()) day.classList.toggle("aim", at === number);
}

function aim(slip, number) {
  if (number < 0 || number >= days.length) return;
  moving = { slip, to: number };
  mark(number);
  told.textContent = `“${slip.dataset.title}” to ${days[number].dataset.words}: Enter moves it, Escape leaves it.`;
}

function leave(words = "") {
  moving = null;
  mark(-1);
  told.textContent = words;
}

function send() {
  const { slip, to } = moving;
  if (days[to].dataset.day === slip.dataset.day) return leave();
  form.elements.post.value = slip.dataset.post;
  form.elements.day.value = days[to].dataset.day;
  form.submit();
  return undefined;
}

// What is done with the slip, or the free slot, that is chosen.
const slipBar = document.getElementById("slip-bar");
const slotBar = document.getElementById("slot-bar");

function choose(slip) {
  for (const other of drawing.querySelectorAll(".slip-of.chosen")) other.classList.remove("chosen");
  const bar = slip.dataset.wall ? slotBar : slip.dataset.moves ? slipBar : null;
  for (const one of [slipBar, slotBar]) if (one) one.hidden = one !== bar;
  if (!bar) return;
  slip.classList.add("chosen");
  bar.querySelector(".which").textContent = slip.dataset.words;
  for (const field of bar.querySelectorAll("input[name=post]")) field.value = slip.dataset.post;
  for (const field of bar.querySelectorAll("input[type=hidden][name=day]")) field.value = slip.dataset.wall;
  for (const option of bar.querySelectorAll("select[name=other] option")) option.hidden = option.disabled = option.value === slip.dataset.post;
  const other = bar.querySelector("select[name=other]");
  if (other) other.value = [...other.options].find((option) => !option.disabled)?.value ?? "";
  bar.querySelector(".site-then").href = drawing.querySelector(`.day-cell[data-day="${slip.dataset.day}"]`).dataset.moment;
  const open = bar.querySelector(".open-it");
  if (open) {
    open.href = slip.getAttribute("href");
    const out = bar.querySelector(".take-out");
    out.href = `${out.dataset.at}?post=${slip.dataset.post}`;
  }
}

const isChoosable = (slip) => slip && (slip.dataset.moves || slip.dataset.wall) && slipBar;
drawing?.addEventListener("focusin", (event) => {
  const slip = event.target.closest(".slip-of");
  if (slip) choose(slip);
});
drawing?.addEventListener("click", (event) => {
  const slip = event.target.closest(".slip-of");
  if (!isChoosable(slip) || event.detail === 0) return; // Enter opens it
  event.preventDefault();
  slip.focus();
});
drawing?.addEventListener("dblclick", (event) => {
  const slip = event.target.closest(".slip-of[data-moves]");
  if (slip) location.href = slip.getAttribute("href");
});
document.getElementById("print")?.addEventListener("click", () => print());

drawing?.addEventListener("keydown", (event) => {
  const slip = event.target.closest(".slip-of");
  if (!slip) return;
  if (event.key === "Enter" && slip.dataset.wall) {
    event.preventDefault();
    slotBar?.querySelector("select, a")?.focus();
    return;
  }
  if (event.key.toLowerCase() === "t" && slip.dataset.moves && !event.ctrlKey && !event.metaKey && !event.altKey) {
    event.preventDefault();
    slipBar?.querySelector("input[name=day]").focus();
    return;
  }
  if (!slip.dataset.post) return;
  if (STEPS[event.key] && slip.dataset.moves) {
    event.preventDefault();
    aim(slip, (moving?.slip === slip ? moving.to : dayOf(slip)) + STEPS[event.key]);
  } else if (event.key === "Enter" && moving?.slip === slip) {
    event.preventDefault();
    send();
  } else if (event.key === "Escape" && moving) leave("It stays where it was.");
});
drawing?.addEventListener("focusout", () => !dragged && moving && leave());

// By mouse or finger: the slip follows, the day under it is marked.
let dragged = null;
drawing?.addEventListener("pointerdown", (event) => {
  const slip = event.target.closest(".slip-of[data-moves]");
  if (slip && event.button === 0) dragged = { slip, x: event.clientX, y: event.clientY, isMoved: false };
});
addEventListener("pointermove", (event) => {
  if (!dragged) return;
  const [dx, dy] = [event.clientX - dragged.x, event.clientY - dragged.y];
  if (!dragged.isMoved && Math.hypot(dx, dy) < 6) return;
  dragged.isMoved = true;
  const scale = drawing.viewBox.baseVal.width / drawing.getBoundingClientRect().width;
  dragged.slip.setAttribute("transform", `translate(${dx * scale} ${dy * scale})`);
  const over = days.findIndex((day) => {
    const box = day.getBoundingClientRect();
    return event.clientX >= box.left && event.clientX < box.right && event.clientY >= box.top && event.clientY < box.bottom;
  });
  if (over >= 0) aim(dragged.slip, over);
});
addEventListener("pointerup", () => {
  if (!dragged) return;
  const { slip, isMoved } = dragged;
  slip.removeAttribute("transform");
  if (isMoved) {
    slip.addEventListener("click", (event) => event.preventDefault(), { once: true });
    if (moving) send();
  }
  setTimeout(() => {
    dragged = null;
  });
});
drawing?.addEventListener("dragstart", (event) => event.preventDefault());
