// HTML written by hand: typed here, cleaned by Python, which says what it took away.
import { Node } from "@tiptap/core";
import { kept } from "../core/attributes.js";
import { field, formView, labelled } from "../core/forms.js";
import { room } from "../core/roomdata.js";

function build(dom, node, keep) {
  const area = field(node.attrs.html, { tag: "textarea", rows: 4, max: 100000 });
  area.spellcheck = false;
  const told = document.createElement("p");
  told.className = "hint";
  told.setAttribute("role", "status");
  let timer = null;
  const clean = async () => {
    const response = await fetch(room.to.clean, {
      method: "POST",
      headers: { "content-type": "application/json", accept: "application/json" },
      body: JSON.stringify({ html: area.value }),
    }).catch(() => null);
    if (!response?.ok) {
      told.textContent = "Mobbet could not be reached to clean this; it is cleaned before it goes out.";
      return;
    }
    const answer = await response.json();
    told.textContent = answer.removed.length ? `Left out, because it may not stand on a page: ${answer.removed.join(", ")}.` : "Everything here may stand on the page.";
  };
  area.addEventListener("input", () => {
    keep({ html: area.value });
    clearTimeout(timer);
    timer = setTimeout(clean, 500);
  });
  dom.append(labelled("HTML by hand", area), told);
  return (attrs) => {
    if (document.activeElement !== area) area.value = attrs.html;
  };
}

// What readers get of it, as Python has cleaned it.
async function draw(seen, attrs) {
  if (!attrs.html.trim()) return false;
  const response = await fetch(room.to.clean, {
    method: "POST",
    headers: { "content-type": "application/json", accept: "application/json" },
    body: JSON.stringify({ html: attrs.html }),
  }).catch(() => null);
  if (!response?.ok) return false;
  seen.className = "seen by-hand";
  seen.innerHTML = (await response.json()).html;
  return seen.textContent.trim() !== "";
}

const RawHtml = Node.create({
  name: "rawHtml",
  group: "block",
  atom: true,
  addAttributes: () => ({ html: kept("html", "") }),
  parseHTML: () => [{ tag: '[data-kind="rawHtml"]' }],
  renderHTML: ({ HTMLAttributes }) => ["div", { "data-kind": "rawHtml", ...HTMLAttributes }],
  addNodeView: () => formView("block-form raw-html", build, draw),
});

export const rawHtml = {
  nodes: [RawHtml],
  entry: { words: "HTML by hand", group: "together", block: { type: "rawHtml" }, more: "raw markup source" },
};
