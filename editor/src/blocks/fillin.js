// A fill-in: a field of the post or the blog, shown as its value.
import { Node } from "@tiptap/core";
import { kept } from "../core/attributes.js";
import { room } from "../core/roomdata.js";
import { drawn } from "./parts.js";

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
      const value = live ?? room.fill.find((one) => one.name === name)?.value;
      dom.textContent = value || `{${name}}`;
      dom.title = `Fill-in: ${room.fill.find((one) => one.name === name)?.words || name}`;
    }),
});

export const fillIn = { nodes: [FillIn] };
