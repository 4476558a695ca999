// A reading copy: chosen words become what the note is on, those of one's notes are marked, and it is told how far one read.
const panel = document.getElementById("copy-notes");
const form = document.getElementById("copy-form");
const offer = panel.querySelector(".copy-on-these");
const CONTEXT = 32;

// The words of the page outside of the panel, as one text, and where each text node begins in it.
function wordsOfPage() {
  const nodes = [];
  let text = "";
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  while (walker.nextNode()) {
    const node = walker.currentNode;
    if (panel.contains(node) || node.parentElement.closest("script, style")) continue;
    nodes.push({ node, start: text.length });
    text += node.data;
  }
  return { nodes, text };
}

function offsetOf({ nodes }, node, offset) {
  const found = nodes.find((one) => one.node === node);
  return found ? found.start + offset : -1;
}

let chosen = null;

function read() {
  const selection = getSelection();
  const range = selection.rangeCount && !selection.isCollapsed ? selection.getRangeAt(0) : null;
  if (!range || panel.contains(range.commonAncestorContainer)) return null;
  const quote = selection.toString().trim();
  if (!quote) return null;
  const page = wordsOfPage();
  const [start, end] = [offsetOf(page, range.startContainer, range.startOffset), offsetOf(page, range.endContainer, range.endOffset)];
  return { quote, prefix: start < 0 ? "" : page.text.slice(Math.max(0, start - CONTEXT), start), suffix: end < 0 ? "" : page.text.slice(end, end + CONTEXT) };
}

function put(about) {
  for (const name of ["quote", "prefix", "suffix"]) form.elements[name].value = about?.[name] ?? "";
  form.querySelector(".copy-about").hidden = !about;
  form.querySelector(".copy-line").hidden = Boolean(about);
  form.querySelector(".copy-about q").textContent = about?.quote ?? "";
}

if (form) {
  document.addEventListener("selectionchange", () => {
    chosen = read();
    offer.hidden = !chosen;
  });
  offer.addEventListener("pointerdown", (event) => event.preventDefault()); // the words stay chosen
  offer.addEventListener("click", () => {
    put(chosen);
    offer.hidden = true;
    form.elements.said.focus();
    form.scrollIntoView({ block: "nearest" });
  });
  form.querySelector("[data-not-these]").addEventListener("click", () => put(null));
}

// The words of one's notes are marked where they stand on the page.
function mark() {
  if (!CSS.highlights) return;
  const page = wordsOfPage();
  const ranges = [...panel.querySelectorAll("li[data-quote]")].flatMap(({ dataset: { quote } }) => {
    const at = quote ? page.text.indexOf(quote) : -1;
    if (at < 0) return [];
    const range = document.createRange();
    const place = (offset) => page.nodes.findLast((one) => one.start <= offset);
    const [first, last] = [place(at), place(at + quote.length - 1)];
    range.setStart(first.node, at - first.start);
    range.setEnd(last.node, at + quote.length - last.start);
    return [range];
  });
  CSS.highlights.set("mobbet-notes", new Highlight(...ranges));
}
mark();

// How far somebody read: the last heading that came into sight, and the share of the text.
const headings = [...document.querySelectorAll("h1, h2, h3, h4")].filter((one) => !panel.contains(one));
const text = document.querySelector("article") ?? document.body;
let told = -1;
let came = "";

function tell() {
  const bottom = innerHeight;
  for (const heading of headings) if (text.contains(heading) && heading.getBoundingClientRect().top < bottom) came = heading.textContent.trim();
  const frame = text.getBoundingClientRect();
  const share = Math.round(Math.min(1, Math.max(0, (bottom - frame.top) / Math.max(1, frame.height))) * 100);
  if (share <= told || !panel.dataset.read) return;
  told = share;
  fetch(panel.dataset.read, { method: "POST", body: new URLSearchParams({ came_to: came, share }), keepalive: true }).catch(() => {});
}

let soon = 0;
addEventListener("scroll", () => {
  clearTimeout(soon);
  soon = setTimeout(tell, 1500);
}, { passive: true });
addEventListener("visibilitychange", () => document.visibilityState === "hidden" && tell());
setTimeout(tell, 3000);
