// Slips of the timetable are moved: dragged to another day, or chosen by keyboard and walked there with the arrows.
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

drawing?.addEventListener("keydown", (event) => {
  const slip = event.target.closest(".slip-of[data-post]");
  if (!slip) return;
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
