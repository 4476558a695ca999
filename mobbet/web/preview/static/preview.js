// The preview: the main action, what is out beside or below it, and the page as it is being written in another tab.
const at = (id) => document.getElementById(id);
const viewer = document.querySelector(".viewer");
const frame = at("frame");
const out = at("out");

const action = at("main-action");
action.addEventListener("click", async () => {
  action.disabled = true;
  try {
    const response = await fetch(action.dataset.place, { method: "POST", headers: { "hx-request": "true" } });
    const answer = new DOMParser().parseFromString(await response.text(), "text/html");
    const told = answer.querySelector("#actions .told");
    at("told").replaceChildren(...(told ? told.cloneNode(true).childNodes : ["The server could not do this; try again."]));
    const next = answer.querySelector("#main-action");
    if (next) {
      action.textContent = next.textContent;
      action.disabled = next.disabled;
    }
    const problem = answer.querySelector(".choices .problem");
    if (problem) at("told").textContent = problem.textContent;
    frame.contentWindow.location.reload();
    (action.disabled ? at("told") : action).focus();
  } catch {
    action.disabled = false;
    action.focus();
    at("told").textContent = "The network is away; nothing was published. Try again when it is back.";
  }
});

// Both pages scroll together.
function together(one, other) {
  one.addEventListener("load", () => {
    one.contentWindow.addEventListener("scroll", () => {
      const [from, to] = [one.contentDocument.scrollingElement, other.contentDocument?.scrollingElement];
      if (!to || !one.matches(":hover, :focus-within")) return;
      to.scrollTop = (from.scrollTop / Math.max(1, from.scrollHeight - from.clientHeight)) * (to.scrollHeight - to.clientHeight);
    });
  });
}
if (out) {
  together(frame, out);
  together(out, frame);
}

// One over the other: the slider says how much of the new page covers the old one.
const over = at("over");
function cover() {
  frame.style.clipPath = `inset(0 0 0 ${100 - over.value}%)`;
}
if (over) {
  over.addEventListener("input", cover);
  cover();
}

// Follows the writing: the sheet, open in another tab, tells of each change while somebody looks.
const channel = new BroadcastChannel(`mobbet:post:${viewer.dataset.post}`);
const hello = () => channel.postMessage({ kind: "hello" });
let waiting = null;
let isAsking = false;

async function follow() {
  if (isAsking || !waiting) return;
  isAsking = true;
  const sheet = waiting;
  waiting = null;
  try {
    const answer = await fetch(viewer.dataset.live, { method: "POST", headers: { "content-type": "application/json" }, body: JSON.stringify(sheet) });
    if (answer.ok) put(new DOMParser().parseFromString(await answer.text(), "text/html"));
  } catch {
    // the network is away: the page stays as it was, and follows again when it is back
  }
  isAsking = false;
  follow();
}

// The new text takes the place of the old one where it differs, so that the page keeps its place and its pictures.
function put(page) {
  const now = frame.contentDocument?.querySelector("main .article");
  const fresh = page.querySelector("main .article");
  if (!now || !fresh) return;
  const place = frame.contentDocument.scrollingElement.scrollTop;
  mend(now, fresh);
  frame.contentDocument.scrollingElement.scrollTop = place;
}

function mend(now, fresh) {
  const [old, next] = [[...now.childNodes], [...fresh.childNodes]];
  next.forEach((node, index) => {
    const there = old[index];
    if (!there) now.append(now.ownerDocument.adoptNode(node));
    else if (there.isEqualNode(node)) return;
    else if (there.nodeName === node.nodeName && node.matches?.("div.text, header")) mend(there, node);
    else there.replaceWith(now.ownerDocument.adoptNode(node));
  });
  old.slice(next.length).forEach((node) => node.remove());
}

channel.addEventListener("message", ({ data }) => {
  if (data.kind !== "text" || !frame.src.includes("/preview/in/")) return;
  waiting = data.sheet;
  follow();
});
hello();
setInterval(hello, 4000);
addEventListener("pagehide", () => channel.close());
