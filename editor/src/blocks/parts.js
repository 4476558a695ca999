// What the kinds of blocks are made of. Each file beside this one is a kind (or a family that cannot do without one another), as
//
//   { nodes, sentence, entry, acts }
//
// nodes: its types for the schema, each with its view. sentence: {type: the parts of its sentence in the block line}: words, and
// fields that change an attribute. entry: what the seam offers, {words, group, block, more} or {words, group, chooses, more}. acts: (editor) =>
// {name: what a button of the sentence does}. `all.js` is the table of kinds.
import { Node } from "@tiptap/core";
import { kept } from "../core/attributes.js";

export const choice = (attr, name, choices) => ({ attr, name, choices });
export const words = (attr, name, hint = "") => ({ attr, name, hint });
export const address = (attr, name, hint = "") => ({ ...words(attr, name, hint), isAddress: true });

export const ALIGN = [["start", "at the start"], ["centre", "centred"], ["end", "at the end"]];
export const REPLACE = { act: "replace", name: "Replace it…" };

export const paragraph = () => ({ type: "paragraph" });
export const wrapped = (type) => ({ type, content: [paragraph()] });

export function element(tag, className = "", text = "") {
  const made = document.createElement(tag);
  if (className) made.className = className;
  if (text) made.textContent = text;
  return made;
}

// A block that is parsed from a copy of itself by its name.
export function block(name, { attributes = {}, tag = "div", ...rest }) {
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
export function drawn(tag, className, draw) {
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
