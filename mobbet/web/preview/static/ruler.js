// The width ruler: dragged by its diamond or moved with the keys; tells pixels and characters a line.
const NARROWEST = 320;
const WIDEST = 1200;
const MARKS = [
  [390, "phone"],
  [768, "tablet"],
  [1180, "large screen"],
];
const SVG = "http://www.w3.org/2000/svg";

const at = (id) => document.getElementById(id);
const frame = at("frame");
const diamond = at("diamond");
const bench = at("bench");
const marks = at("marks");
// As it was last; at first as wide as there is room for, so that a wide screen shows a wide page.
let width = Number(localStorage.getItem("mobbet:width")) || Math.min(WIDEST, Math.max(NARROWEST, bench.clientWidth));

function draw(name, attributes, words) {
  const element = document.createElementNS(SVG, name);
  for (const [key, value] of Object.entries(attributes)) element.setAttribute(key, value);
  if (words) element.textContent = words;
  marks.append(element);
  return element;
}

const shown = draw("rect", { x: 0, y: 14, height: 17, width: 0 });
for (let x = 0; x <= WIDEST; x += 20) draw("line", { x1: x, x2: x, y1: x % 100 ? 24 : 17, y2: 31 });
draw("line", { class: "base-line", x1: 0, x2: WIDEST, y1: 31, y2: 31 });
for (const [x, words] of MARKS) {
  draw("path", { class: "notch", d: `M${x - 5} 17 h10 l-5 7 z` });
  draw("text", { x: x > 1100 ? x - 9 : x + 17, y: 13, "text-anchor": x > 1100 ? "end" : "start" }, words);
}

// A page that is wider than the bench is shown smaller, and the ruler with it.
function scale() {
  return Math.min(1, bench.clientWidth / width);
}

// Characters on a line of the text, measured in the page itself.
function characters() {
  const page = frame.contentDocument;
  const text = page?.querySelector(".text p, .teaser, main p");
  if (!text || !text.textContent.trim()) return 0;
  const style = page.defaultView.getComputedStyle(text);
  const brush = page.createElement("canvas").getContext("2d"); // with the letters that the page has loaded
  brush.font = `${style.fontStyle} ${style.fontWeight} ${style.fontSize} ${style.fontFamily}`;
  const words = text.textContent.trim().replace(/\s+/g, " ").slice(0, 400);
  return Math.round(text.clientWidth / (brush.measureText(words).width / words.length));
}

function tellWidth() {
  const line = characters();
  const words = line ? `${width} px wide · ${line} characters a line` : `${width} px wide`;
  at("reading").textContent = words;
  diamond.setAttribute("aria-valuenow", width);
  diamond.setAttribute("aria-valuetext", words.replace("px", "pixels"));
}

function lay() {
  const by = scale();
  const other = at("out");
  if (other) other.style.width = `${width}px`;
  const fit = by;
  frame.style.width = `${width}px`;
  for (const one of [frame, other].filter(Boolean)) {
    one.style.height = `${100 / fit}%`;
    one.style.transform = fit < 1 ? `scale(${fit})` : "";
  }
  at("ruler").classList.toggle("is-small", by < 0.7);
  const beyond = MARKS.filter(([mark]) => mark * by > bench.clientWidth);
  at("beyond").textContent = beyond.length ? `${beyond[0][1]} →` : "";
  diamond.style.left = `${width * by}px`;
  marks.style.transform = by < 1 ? `scaleX(${by})` : "";
  marks.style.transformOrigin = "0 0";
  shown.setAttribute("width", width);
  const reading = at("reading");
  reading.style.left = `${Math.min(8, width * by)}px`;
  tellWidth();
}

function setWidth(wanted) {
  width = Math.round(Math.min(WIDEST, Math.max(NARROWEST, wanted)));
  localStorage.setItem("mobbet:width", width);
  lay();
}

diamond.addEventListener("pointerdown", (event) => {
  diamond.setPointerCapture(event.pointerId);
  at("frame-box").classList.add("is-moving");
});
diamond.addEventListener("pointermove", (event) => {
  if (!diamond.hasPointerCapture(event.pointerId)) return;
  const [place, edge] = [event.clientX - bench.getBoundingClientRect().left, bench.clientWidth];
  setWidth(place > edge ? edge + (place - edge) * 3 : place); // past the edge it goes on, faster
});
diamond.addEventListener("lostpointercapture", () => at("frame-box").classList.remove("is-moving"));
diamond.addEventListener("keydown", (event) => {
  const steps = { ArrowRight: 10, ArrowUp: 10, ArrowLeft: -10, ArrowDown: -10 };
  const widths = MARKS.map(([mark]) => mark);
  const jumps = {
    Home: NARROWEST,
    End: WIDEST,
    PageUp: widths.find((mark) => mark > width) || WIDEST,
    PageDown: widths.findLast((mark) => mark < width) || NARROWEST,
  };
  if (event.key in steps) setWidth(width + steps[event.key] / (event.shiftKey ? 10 : 1));
  else if (event.key in jumps) setWidth(jumps[event.key]);
  else return;
  event.preventDefault();
});

frame.addEventListener("load", () => {
  tellWidth();
  frame.contentDocument?.fonts?.ready.then(tellWidth);
});
addEventListener("resize", lay);
lay();
