// The composed kinds of blocks, each as it looks on the site; their settings stand in the block line.
import { Node } from "@tiptap/core";
import { isAllowedAddress } from "./addresses.js";
import { kept, keptAddress } from "./attributes.js";
import { Review } from "./review.js";
import { RawHtml } from "./rawhtml.js";

const room = () => JSON.parse(document.getElementById("room").textContent);

function element(tag, className = "", words = "") {
  const made = document.createElement(tag);
  if (className) made.className = className;
  if (words) made.textContent = words;
  return made;
}

// A block that is parsed from a copy of itself by its name.
function block(name, { attributes = {}, tag = "div", ...rest }) {
  return Node.create({
    name,
    group: "block",
    addAttributes: () => Object.fromEntries(Object.entries(attributes).map(([key, fallback]) => [key, kept(key, fallback)])),
    parseHTML: () => [{ tag: `[data-kind="${name}"]` }],
    renderHTML({ HTMLAttributes, node }) {
      const shell = [tag, { "data-kind": name, ...HTMLAttributes }];
      return node.isLeaf ? shell : [...shell, 0];
    },
    ...rest,
  });
}

// A view that is drawn anew from its node; `draw(dom, node)` fills it.
function drawn(tag, className, draw) {
  return ({ node, editor, getPos }) => {
    const dom = element(tag, className);
    dom.contentEditable = "false";
    let shown = node;
    const redraw = () => draw(dom, shown, editor, getPos);
    redraw();
    return {
      dom,
      update(next) {
        if (next.type !== shown.type) return false;
        shown = next;
        redraw();
        return true;
      },
      ignoreMutation: () => true,
    };
  };
}

const SVG = "http://www.w3.org/2000/svg";

function drawSign(name) {
  const svg = document.createElementNS(SVG, "svg");
  svg.setAttribute("class", "sign");
  svg.setAttribute("viewBox", "0 0 24 24");
  svg.setAttribute("aria-hidden", "true");
  const path = document.createElementNS(SVG, "path");
  path.setAttribute("d", room().signs[name] || "");
  svg.append(path);
  return svg;
}

const Callout = block("callout", {
  attributes: { sign: "note", tint: "moss", title: "" },
  content: "block+",
  defining: true,
  addNodeView: () => ({ node }) => {
    const dom = element("aside");
    const title = element("p", "callout-title");
    title.contentEditable = "false";
    const inner = element("div", "callout-text");
    let shown = null;
    const show = (next) => {
      dom.className = `callout wash-${next.attrs.tint}`;
      if (shown?.attrs.sign !== next.attrs.sign) {
        dom.querySelector("svg")?.remove();
        dom.prepend(drawSign(next.attrs.sign));
      }
      title.textContent = next.attrs.title;
      title.hidden = !next.attrs.title;
      shown = next;
    };
    dom.append(title, inner);
    show(node);
    return {
      dom,
      contentDOM: inner,
      update(next) {
        if (next.type !== node.type) return false;
        show(next);
        return true;
      },
      ignoreMutation: (mutation) => mutation.type !== "selection" && !inner.contains(mutation.target),
    };
  },
});

const Button = block("button", {
  addAttributes: () => ({ words: kept("words", ""), address: keptAddress("address", isAllowedAddress), weight: kept("weight", "strong") }),
  atom: true,
  addNodeView: () =>
    drawn("p", "put-button", (dom, node) => {
      const link = element("span", `button-${node.attrs.weight}`, node.attrs.words || "Button without words yet");
      dom.replaceChildren(link);
      dom.classList.toggle("is-unsettled", !node.attrs.words || !node.attrs.address);
    }),
});

const Beside = block("beside", {
  attributes: { share: 50 },
  content: "side side",
  isolating: true,
  renderHTML: ({ node, HTMLAttributes }) => ["div", { "data-kind": "beside", class: `beside share-${node.attrs.share}`, ...HTMLAttributes }, 0],
});

const Side = Node.create({
  name: "side",
  content: "block+",
  isolating: true,
  parseHTML: () => [{ tag: '[data-kind="side"]' }],
  renderHTML: () => ["div", { "data-kind": "side", class: "side" }, 0],
});

const Contents = block("contents", {
  attributes: { depth: 3 },
  atom: true,
  addNodeView: () => ({ node, editor }) => {
    const dom = element("nav", "contents");
    dom.contentEditable = "false";
    let shown = node;
    const draw = () => {
      const list = element("ol");
      editor.state.doc.descendants((inner) => {
        if (inner.type.name !== "heading") return inner.isBlock && !inner.isTextblock;
        const { level } = inner.attrs;
        if (level >= 2 && level <= shown.attrs.depth && inner.textContent.trim()) list.append(element("li", `level-${level}`, inner.textContent));
        return false;
      });
      dom.replaceChildren(list.children.length ? list : element("p", "hint", "Contents: the headings you write appear here."));
    };
    let timer = null;
    const plan = () => {
      clearTimeout(timer);
      timer = setTimeout(draw, 200);
    };
    draw();
    editor.on("update", plan);
    return {
      dom,
      update(next) {
        if (next.type !== shown.type) return false;
        shown = next;
        draw();
        return true;
      },
      destroy: () => editor.off("update", plan),
      ignoreMutation: () => true,
    };
  },
});

const TeaserLine = block("teaserLine", {
  group: "top",
  atom: true,
  addNodeView: () => drawn("div", "teaser-line", (dom) => dom.replaceChildren(element("span", "", "Lists show what stands above this line"))),
});

const Standing = block("standing", {
  attributes: { copy: 0 },
  atom: true,
  addNodeView: () =>
    drawn("div", "standing", (dom, node) => {
      const name = room().kept.find((one) => one.id === node.attrs.copy)?.name;
      const label = element("p", "hint", name ? `Standing copy: ${name}` : "Standing copy that is no longer kept; its last text stays.");
      const shown = element("div", "shown");
      dom.replaceChildren(label, shown);
      fetch(`${room().to.kept}${node.attrs.copy}/shown`)
        .then((response) => (response.ok ? response.text() : ""))
        .then((html) => {
          shown.innerHTML = html;
        })
        .catch(() => {});
    }),
});

const FillIn = Node.create({
  name: "fillIn",
  group: "inline",
  inline: true,
  atom: true,
  addAttributes: () => ({ name: kept("name", "title") }),
  parseHTML: () => [{ tag: 'span[data-kind="fillIn"]' }],
  renderHTML: ({ HTMLAttributes }) => ["span", { "data-kind": "fillIn", ...HTMLAttributes }],
  addNodeView: () =>
    drawn("span", "fill-in", (dom, node) => {
      const { name } = node.attrs;
      const live = { title: document.getElementById("title")?.value, subtitle: document.getElementById("subtitle")?.value }[name];
      const value = live ?? room().fill.find((one) => one.name === name)?.value;
      dom.textContent = value || `{${name}}`;
      dom.title = `Fill-in: ${room().fill.find((one) => one.name === name)?.words || name}`;
    }),
});

export const kindNodes = [Callout, Button, Beside, Side, Contents, TeaserLine, Review, RawHtml, Standing, FillIn];
