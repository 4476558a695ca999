// The strip is scrolled and zoomed: by drag, by the wheel once it was clicked or with Ctrl, by keys and by the words beneath it.
const DAY = 86_400_000;
const [LEFT, RIGHT, WIDTH] = [24, 1208, 1232];
const SPANS = [1, 2, 4, 8, 12, 26, 52, 104, 208, 416, 520];
let asking = null;
let later = 0;

const strip = () => document.getElementById("strip");
const rangeOf = (element) => ({ first: Date.parse(`${element.dataset.first}T00:00Z`), weeks: Number(element.dataset.weeks) });
const span = (weeks) => weeks * 7 * DAY;

async function show(first, weeks) {
  const old = strip();
  asking?.abort();
  asking = new AbortController();
  const start = first === null ? "" : new Date(Math.round(first / DAY) * DAY).toISOString().slice(0, 10);
  try {
    const answer = await fetch(`${old.dataset.at}?${new URLSearchParams({ start, weeks })}`, { signal: asking.signal });
    if (!answer.ok) return;
    const hadFocus = old.contains(document.activeElement);
    old.outerHTML = await answer.text();
    if (hadFocus) strip().focus({ preventScroll: true });
  } catch {
    // it was scrolled on, or the network is away
  }
}

function scroll(part) {
  const { first, weeks } = rangeOf(strip());
  show(first + part * span(weeks), weeks);
}

function zoom(step, at = 2 / 3) {
  const { first, weeks } = rangeOf(strip());
  const now = SPANS.findIndex((one) => one >= weeks);
  const next = SPANS[Math.min(SPANS.length - 1, Math.max(0, now + step))];
  if (next !== weeks) show(first + at * (span(weeks) - span(next)), next);
}

const ACTS = {
  earlier: () => scroll(-0.5),
  later: () => scroll(0.5),
  closer: () => zoom(-1),
  wider: () => zoom(1),
  now: () => show(null, 12),
};
const KEYS = { ArrowLeft: () => scroll(-0.25), ArrowRight: () => scroll(0.25), "+": ACTS.closer, "=": ACTS.closer, "-": ACTS.wider, Home: ACTS.now };

document.getElementById("strip-acts")?.addEventListener("click", (event) => ACTS[event.target.closest("button")?.value]?.());
document.addEventListener("keydown", (event) => {
  if (event.ctrlKey || event.metaKey || event.altKey || event.target.id !== "strip" || !KEYS[event.key]) return;
  event.preventDefault();
  KEYS[event.key]();
});

document.addEventListener(
  "wheel",
  (event) => {
    const on = event.target.closest?.("#strip");
    const isAcross = event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY);
    if (!on || !(isAcross || event.ctrlKey || on.contains(document.activeElement))) return;
    event.preventDefault();
    const box = on.getBoundingClientRect();
    const at = Math.min(1, Math.max(0, (((event.clientX - box.left) / box.width) * WIDTH - LEFT) / (RIGHT - LEFT)));
    clearTimeout(later);
    later = setTimeout(() => (isAcross ? scroll(Math.sign(event.deltaX || event.deltaY) * 0.25) : zoom(Math.sign(event.deltaY), at)), 60);
  },
  { passive: false },
);

// By drag the drawing follows at once; what comes into sight is fetched when it is let go.
let drag = null;
document.addEventListener("pointerdown", (event) => {
  const on = event.target.closest?.("#strip");
  if (on && event.button === 0 && event.pointerType !== "touch") drag = { on, x: event.clientX, moved: 0 };
});
addEventListener("pointermove", (event) => {
  if (!drag) return;
  drag.moved = event.clientX - drag.x;
  if (Math.abs(drag.moved) < 5) return;
  const svg = drag.on.querySelector("svg");
  svg.setAttribute("viewBox", `${(-drag.moved / svg.getBoundingClientRect().width) * WIDTH} 0 ${WIDTH} 118`);
  drag.on.classList.add("dragged");
});
addEventListener("pointerup", () => {
  if (!drag) return;
  const { on, moved } = drag;
  drag = null;
  if (Math.abs(moved) < 5) return;
  addEventListener("click", (event) => on.contains(event.target) && event.preventDefault(), { once: true, capture: true });
  const width = on.querySelector("svg").getBoundingClientRect().width;
  const { first, weeks } = rangeOf(on);
  show(first - ((moved / width) * WIDTH * span(weeks)) / (RIGHT - LEFT), weeks);
});
document.addEventListener("dragstart", (event) => event.target.closest?.("#strip") && event.preventDefault());
