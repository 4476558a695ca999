// The library's screen: files dropped, pasted or chosen; items walked by keyboard, and many of them labelled at once.
import { uploadLine } from "./uploading.js";

const at = (id) => document.getElementById(id);
const bring = at("bring");
const limits = JSON.parse(bring.dataset.limits);

function bringIn(files) {
  if (!files.length) return;
  const list = at("uploads");
  list.hidden = false;
  for (const file of files) list.append(uploadLine(file, bring.dataset.to, limits, () => refresh()));
}

let timer = null;
function refresh() {
  clearTimeout(timer);
  timer = setTimeout(() => htmx.trigger(at("filter"), "submit"), 150);
}

// Changing a word of the sentence asks again at once, typing when it pauses; leaving the field asks nothing.
at("filter").addEventListener("change", (event) => event.target !== at("find") && refresh());
at("find").addEventListener("input", () => refresh());

at("choose").addEventListener("click", () => at("files").click());
at("files").addEventListener("change", (event) => {
  bringIn([...event.target.files]);
  event.target.value = "";
});
addEventListener("dragover", (event) => {
  if (![...event.dataTransfer.types].includes("Files")) return;
  event.preventDefault();
  document.body.classList.add("is-over");
});
addEventListener("dragleave", (event) => event.relatedTarget || document.body.classList.remove("is-over"));
addEventListener("drop", (event) => {
  event.preventDefault();
  document.body.classList.remove("is-over");
  bringIn([...event.dataTransfer.files]);
});
addEventListener("paste", (event) => bringIn([...event.clipboardData.files]));

at("address-form").addEventListener("submit", async (event) => {
  event.preventDefault();
  const form = event.target;
  const line = form.querySelector(".told");
  line.textContent = "Fetching it…";
  line.classList.remove("problem");
  try {
    const response = await fetch(form.action, { method: "POST", body: new URLSearchParams(new FormData(form)), headers: { accept: "application/json" } });
    const answer = await response.json();
    line.textContent = response.ok ? `${answer.name} is kept.` : answer.message;
    line.classList.toggle("problem", !response.ok);
    if (!response.ok) return;
    form.reset();
    refresh();
  } catch {
    line.textContent = "The network is away; try again when it is back.";
    line.classList.add("problem");
  }
});

// Arrows walk the items, Space chooses, Enter opens.
const links = () => [...document.querySelectorAll("#shelf .show")];
function across() {
  const all = links();
  const top = all[0]?.getBoundingClientRect().top;
  return Math.max(1, all.filter((link) => link.getBoundingClientRect().top === top).length);
}
document.addEventListener("keydown", (event) => {
  if (event.key === "/" && !event.target.matches("input, textarea, select")) {
    event.preventDefault();
    at("find").focus();
    return;
  }
  const isField = event.target === at("find");
  if (isField && event.key === "ArrowDown") {
    links()[0]?.focus();
    event.preventDefault();
    return;
  }
  if (!event.target.matches(".show")) return;
  const all = links();
  const step = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: across(), ArrowUp: -across() }[event.key];
  if (step) {
    const to = all.indexOf(event.target) + step;
    if (to < 0) at("find").focus();
    else all[Math.min(to, all.length - 1)].focus();
    event.preventDefault();
  } else if (event.key === " ") {
    const box = event.target.closest(".item").querySelector("[name=item]");
    box.checked = !box.checked;
    box.dispatchEvent(new Event("change", { bubbles: true }));
    event.preventDefault();
  }
});

const chosen = () => [...document.querySelectorAll("#shelf [name=item]:checked")].map((box) => box.value);
function showChosen() {
  const numbers = chosen();
  at("chosen").hidden = !numbers.length;
  at("chosen").querySelector(".count").textContent = `${numbers.length} chosen`;
  const isAside = document.querySelector("[name=aside]").checked;
  at("set-aside").textContent = isAside ? "Restore" : "Set aside";
}
document.addEventListener("change", (event) => event.target.matches("[name=item]") && showChosen());
document.addEventListener("htmx:afterSwap", showChosen);

function tell(words, isBad = false) {
  const line = at("chosen").querySelector(".told");
  line.textContent = words;
  line.classList.toggle("problem", isBad);
}

async function send(address, values) {
  const body = new URLSearchParams({ ids: chosen().join(","), ...values });
  try {
    const response = await fetch(address, { method: "POST", body, headers: { accept: "application/json" } });
    const answer = await response.json();
    tell(answer.told || answer.message, !response.ok);
    return response.ok;
  } catch {
    tell("The network is away; try again when it is back.", true);
    return false;
  }
}

at("label-form").addEventListener("submit", async (event) => {
  event.preventDefault();
  await send(at("chosen").dataset.labels, { labels: at("labels").value, act: event.submitter?.value || "add" });
});
at("describe").addEventListener("click", () => {
  location.href = `${at("chosen").dataset.describe}?ids=${chosen().join(",")}`;
});
at("set-aside").addEventListener("click", async () => {
  const act = at("set-aside").textContent === "Restore" ? "restore" : "aside";
  if (await send(at("chosen").dataset.aside, { act })) refresh();
});
at("choose-none").addEventListener("click", () => {
  for (const box of document.querySelectorAll("#shelf [name=item]:checked")) box.checked = false;
  showChosen();
});

// While something is being made ready, its line is read again.
setInterval(() => {
  if (document.querySelector("#shelf .working") && !chosen().length && document.visibilityState === "visible" && !at("shelf").contains(document.activeElement)) refresh();
}, 2000);
