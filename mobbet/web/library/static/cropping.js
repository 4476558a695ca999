// Crop, turn, straighten, mirror and focal point on a canvas, by mouse and keyboard; Python works the cuts out.
const box = document.getElementById("cropping");
const at = (id) => document.getElementById(id);
const told = at("crop-told");
const editing = JSON.parse(box.dataset.editing);
let recipe = editing.recipe;
let cuts = null; // {width, height, cuts} as Python has them
let adjusted = null; // the use whose cut is on the stage; null for the crop
const stage = at("stage");
const source = new Image();
const HANDLE = 9;
const LEAST = 0.02;

const clamp = (value, least, most) => Math.min(most, Math.max(least, value));

// The upright original, mirrored, turned and straightened, as a canvas.
function straightened() {
  const turned = recipe.turn % 180 !== 0;
  const [wide, high] = turned ? [source.naturalHeight, source.naturalWidth] : [source.naturalWidth, source.naturalHeight];
  const angle = (recipe.straighten * Math.PI) / 180;
  const [cosine, sine] = [Math.cos(Math.abs(angle)), Math.sin(Math.abs(angle))];
  const part = Math.min(wide / (wide * cosine + high * sine), high / (wide * sine + high * cosine));
  const canvas = document.createElement("canvas");
  canvas.width = Math.max(1, Math.round(wide * part));
  canvas.height = Math.max(1, Math.round(high * part));
  const pen = canvas.getContext("2d");
  pen.translate(canvas.width / 2, canvas.height / 2);
  pen.rotate(angle);
  pen.rotate((recipe.turn * Math.PI) / 180);
  if (recipe.mirror) pen.scale(-1, 1);
  pen.drawImage(source, -source.naturalWidth / 2, -source.naturalHeight / 2);
  return canvas;
}

// The picture on the stage: the straightened one for the crop, the cropped one for a cut.
let plain = null;
function onStage() {
  if (!adjusted) return plain;
  const [x, y, w, h] = recipe.crop;
  const canvas = document.createElement("canvas");
  canvas.width = Math.max(1, Math.round(w * plain.width));
  canvas.height = Math.max(1, Math.round(h * plain.height));
  canvas.getContext("2d").drawImage(plain, x * plain.width, y * plain.height, canvas.width, canvas.height, 0, 0, canvas.width, canvas.height);
  return canvas;
}

const frame = () => (adjusted ? recipe.cuts[adjusted] || cuts?.cuts[adjusted] || [0, 0, 1, 1] : recipe.crop);
function setFrame(next) {
  if (adjusted) recipe.cuts[adjusted] = next;
  else recipe.crop = next;
}
const shape = () => (adjusted ? editing.uses[adjusted].shape : editing.shapes[at("shape").value]);

function draw() {
  const image = onStage();
  const room = stage.parentElement.clientWidth;
  const scale = Math.min(room / image.width, 400 / image.height, 1.5);
  const ratio = window.devicePixelRatio || 1;
  const [wide, high] = [Math.round(image.width * scale), Math.round(image.height * scale)];
  stage.style.width = `${wide}px`;
  stage.style.height = `${high}px`;
  stage.width = wide * ratio;
  stage.height = high * ratio;
  const pen = stage.getContext("2d");
  pen.scale(ratio, ratio);
  pen.drawImage(image, 0, 0, wide, high);
  const [x, y, w, h] = frame();
  const [left, top, width, height] = [x * wide, y * high, w * wide, h * high];
  pen.fillStyle = "rgb(23 38 43 / .55)";
  pen.beginPath();
  pen.rect(0, 0, wide, high);
  pen.rect(left, top, width, height);
  pen.fill("evenodd");
  pen.strokeStyle = "#fff";
  pen.lineWidth = 3;
  pen.strokeRect(left, top, width, height);
  pen.strokeStyle = "#5b2a5e";
  pen.lineWidth = 1.5;
  pen.strokeRect(left, top, width, height);
  pen.fillStyle = "#5b2a5e";
  for (const [cornerX, cornerY] of corners(left, top, width, height)) pen.fillRect(cornerX - 5, cornerY - 5, 10, 10);
  if (!adjusted) drawFocus(pen, left + recipe.focus[0] * width, top + recipe.focus[1] * height);
}

const corners = (left, top, width, height) => [[left, top], [left + width, top], [left, top + height], [left + width, top + height]];

function drawFocus(pen, x, y) {
  pen.lineWidth = 4;
  pen.strokeStyle = "#17262b";
  pen.beginPath();
  pen.arc(x, y, 11, 0, 7);
  pen.stroke();
  pen.lineWidth = 2;
  pen.strokeStyle = "#ffe58a";
  pen.beginPath();
  pen.arc(x, y, 11, 0, 7);
  pen.moveTo(x - 4, y);
  pen.lineTo(x + 4, y);
  pen.moveTo(x, y - 4);
  pen.lineTo(x, y + 4);
  pen.stroke();
}

// Each cut as it will be, drawn from what Python answered.
function drawCuts() {
  if (!cuts) return;
  const [cropX, cropY, cropW, cropH] = recipe.crop;
  for (const canvas of document.querySelectorAll("[data-use]")) {
    const { shape: wanted } = editing.uses[canvas.dataset.use];
    const [x, y, w, h] = cuts.cuts[canvas.dataset.use];
    canvas.height = 216;
    canvas.width = Math.round(216 * wanted);
    const pen = canvas.getContext("2d");
    const [left, top] = [(cropX + x * cropW) * plain.width, (cropY + y * cropH) * plain.height];
    pen.drawImage(plain, left, top, w * cropW * plain.width, h * cropH * plain.height, 0, 0, canvas.width, canvas.height);
  }
}

const size = () => ({ width: plain.width, height: plain.height });

// The size of the original's picture in pixels, of which the numbers speak.
function whole() {
  const turned = recipe.turn % 180 !== 0;
  const wide = turned ? editing.height : editing.width;
  const factor = wide / (turned ? source.naturalHeight : source.naturalWidth);
  return { width: plain.width * factor, height: plain.height * factor };
}

function showNumbers() {
  const { width, height } = whole();
  const [x, y, w, h] = recipe.crop;
  const values = { "crop-left": x * width, "crop-top": y * height, "crop-width": w * width, "crop-height": h * height, "focus-x": 100 * recipe.focus[0], "focus-y": 100 * recipe.focus[1] };
  for (const [id, value] of Object.entries(values)) if (document.activeElement !== at(id)) at(id).value = Math.round(value);
  if (document.activeElement !== at("straighten")) at("straighten").value = recipe.straighten;
  at("mirror").setAttribute("aria-pressed", String(recipe.mirror));
  stage.setAttribute("aria-label", `${adjusted ? editing.uses[adjusted].words : "Crop"}: ${Math.round(w * width)} by ${Math.round(h * height)} pixels, ${Math.round(x * width)} from the left, ${Math.round(y * height)} from the top; focal point at ${Math.round(100 * recipe.focus[0])} and ${Math.round(100 * recipe.focus[1])} percent`);
}

let asking = null;
function ask() {
  clearTimeout(asking);
  asking = setTimeout(async () => {
    const response = await fetch(editing.cuts, { method: "POST", headers: { "content-type": "application/json", accept: "application/json" }, body: JSON.stringify({ recipe }) }).catch(() => null);
    const answer = await response?.json().catch(() => null);
    if (!response?.ok) {
      told.textContent = answer?.message || "The network is away; the cuts are worked out when it is back.";
      return;
    }
    cuts = answer;
    drawCuts();
    draw();
  }, 60);
}

function changed(isNewPicture = false) {
  told.textContent = "";
  if (isNewPicture) plain = straightened();
  showNumbers();
  draw();
  ask();
}

// A frame of the shape asked for, inside the picture, that keeps the corner which is not moved.
function shaped([x, y, w, h], keepRight = false, keepBottom = false) {
  const picture = adjusted ? onStage() : size();
  const wanted = shape();
  w = clamp(w, LEAST, 1);
  h = clamp(h, LEAST, 1);
  if (wanted) {
    h = (w * picture.width) / wanted / picture.height;
    if (h > 1) {
      h = 1;
      w = (wanted * picture.height) / picture.width;
    }
  }
  const right = x + w > 1 ? 1 - w : x;
  const down = y + h > 1 ? 1 - h : y;
  return [keepRight ? Math.max(0, x) : clamp(right, 0, 1 - w), keepBottom ? Math.max(0, y) : clamp(down, 0, 1 - h), w, h];
}

// Dragging: a corner sizes, the round point focuses, inside moves.
let drag = null;
function place(event) {
  const rect = stage.getBoundingClientRect();
  return [clamp((event.clientX - rect.left) / rect.width, 0, 1), clamp((event.clientY - rect.top) / rect.height, 0, 1)];
}
stage.addEventListener("pointerdown", (event) => {
  const [px, py] = place(event);
  const [x, y, w, h] = frame();
  const near = (a, b) => Math.hypot((px - a) * stage.clientWidth, (py - b) * stage.clientHeight);
  const corner = corners(x, y, w, h).findIndex(([a, b]) => near(a, b) < HANDLE + 6);
  const isFocus = !adjusted && near(x + recipe.focus[0] * w, y + recipe.focus[1] * h) < HANDLE + 6;
  drag = { from: [px, py], frame: [x, y, w, h], what: isFocus ? "focus" : corner >= 0 ? corner : "move" };
  stage.setPointerCapture(event.pointerId);
  stage.focus();
  event.preventDefault();
});
stage.addEventListener("pointermove", (event) => {
  if (!drag) return;
  const [px, py] = place(event);
  const [x, y, w, h] = drag.frame;
  if (drag.what === "focus") recipe.focus = [clamp((px - x) / w, 0, 1), clamp((py - y) / h, 0, 1)];
  else if (drag.what === "move") setFrame([clamp(x + px - drag.from[0], 0, 1 - w), clamp(y + py - drag.from[1], 0, 1 - h), w, h]);
  else {
    const [isRight, isBottom] = [drag.what % 2 === 1, drag.what >= 2];
    const [left, top] = [isRight ? x : Math.min(px, x + w - LEAST), isBottom ? y : Math.min(py, y + h - LEAST)];
    const [wide, high] = [isRight ? px - x : x + w - left, isBottom ? py - y : y + h - top];
    const next = shaped([left, top, wide, high]);
    if (!isRight) next[0] = clamp(x + w - next[2], 0, 1 - next[2]);
    if (!isBottom) next[1] = clamp(y + h - next[3], 0, 1 - next[3]);
    setFrame(next);
  }
  changed();
});
stage.addEventListener("pointerup", () => {
  drag = null;
});

stage.addEventListener("keydown", (event) => {
  const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
  if (!step) return;
  event.preventDefault();
  const [dx, dy] = step.map((part) => part * (event.ctrlKey ? 0.002 : 0.01));
  const [x, y, w, h] = frame();
  if (event.altKey && !adjusted) recipe.focus = [clamp(recipe.focus[0] + dx, 0, 1), clamp(recipe.focus[1] + dy, 0, 1)];
  else if (event.shiftKey) {
    const wanted = shape();
    setFrame(wanted && dy ? shaped([x, y, w + dy, h]) : shaped([x, y, w + dx, h + dy]));
  } else setFrame([clamp(x + dx, 0, 1 - w), clamp(y + dy, 0, 1 - h), w, h]);
  changed();
});

at("shape").addEventListener("change", () => {
  adjust(null);
  recipe.crop = shaped(recipe.crop);
  changed();
});
const turn = (by) => () => {
  adjust(null);
  recipe.turn = (recipe.turn + by + 360) % 360;
  recipe.crop = [0, 0, 1, 1];
  recipe.cuts = {};
  changed(true);
};
at("turn-left").addEventListener("click", turn(-90));
at("turn-right").addEventListener("click", turn(90));
at("mirror").addEventListener("click", () => {
  adjust(null);
  recipe.mirror = !recipe.mirror;
  changed(true);
});
at("as-it-came").addEventListener("click", () => {
  adjust(null);
  recipe = { turn: 0, mirror: false, straighten: 0, crop: [0, 0, 1, 1], focus: [0.5, 0.5], cuts: {} };
  at("shape").value = "free";
  changed(true);
});
at("straighten").addEventListener("input", () => {
  recipe.straighten = clamp(Number(at("straighten").value) || 0, -editing.mostStraightening, editing.mostStraightening);
  changed(true);
});
for (const id of ["crop-left", "crop-top", "crop-width", "crop-height"]) {
  at(id).addEventListener("change", () => {
    adjust(null);
    const { width, height } = whole();
    const [x, y, w, h] = [at("crop-left").value / width, at("crop-top").value / height, at("crop-width").value / width, at("crop-height").value / height];
    const isHeight = id === "crop-height" && shape();
    recipe.crop = shaped([clamp(x, 0, 1 - LEAST), clamp(y, 0, 1 - LEAST), isHeight ? (h * height * shape()) / width : w, h]);
    changed();
  });
}
for (const [id, part] of [["focus-x", 0], ["focus-y", 1]]) {
  at(id).addEventListener("change", () => {
    recipe.focus[part] = clamp(at(id).value / 100, 0, 1);
    changed();
  });
}

// One cut on the stage, to be moved and sized by itself; pressed again, it follows the focal point anew.
function adjust(use) {
  adjusted = use;
  for (const button of document.querySelectorAll("[data-adjust]")) {
    const isOn = button.dataset.adjust === use;
    button.setAttribute("aria-pressed", String(isOn));
    button.textContent = isOn ? "Back to the crop" : recipe.cuts[button.dataset.adjust] ? "Follow the focal point" : "Adjust";
  }
}
for (const button of document.querySelectorAll("[data-adjust]")) {
  button.addEventListener("click", () => {
    const use = button.dataset.adjust;
    if (adjusted === use) adjust(null);
    else if (recipe.cuts[use]) {
      delete recipe.cuts[use];
      adjust(null);
    } else {
      recipe.cuts[use] = [...cuts.cuts[use]];
      adjust(use);
      stage.focus();
    }
    changed();
  });
}

at("keep-crop").addEventListener("click", async () => {
  told.classList.remove("problem");
  try {
    const response = await fetch(editing.save, { method: "POST", headers: { "content-type": "application/json", accept: "application/json" }, body: JSON.stringify({ recipe }) });
    const answer = await response.json();
    told.textContent = response.ok ? "Kept; its copies are being made." : answer.message;
    told.classList.toggle("problem", !response.ok);
    if (response.ok) follow();
  } catch {
    told.textContent = "The network is away; try again when it is back.";
    told.classList.add("problem");
  }
});
async function follow() {
  const response = await fetch(editing.state, { headers: { accept: "application/json" } }).catch(() => null);
  const item = await response?.json().catch(() => null);
  if (!item || item.state === "working") setTimeout(follow, 400);
  else told.textContent = item.state === "ready" ? "Kept, and every copy is made." : item.problem;
}

source.addEventListener("load", () => {
  adjust(null);
  changed(true);
  box.dataset.ready = "yes";
});
source.addEventListener("error", () => {
  told.textContent = "The picture could not be shown; reload the page.";
});
source.src = editing.canvas;
addEventListener("resize", () => plain && draw());
