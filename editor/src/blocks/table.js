// Tables: cells with merged places and alignment. What is done with them is in panels/tables.js, which comes once a text has one.
import { Extension, Node, callOrReturn, getExtensionField, mergeAttributes } from "@tiptap/core";
import { classOf, kept } from "../core/attributes.js";
import { paragraph, words } from "./parts.js";

function spanned(name) {
  return { default: 1, parseHTML: (element) => Number.parseInt(element.getAttribute(name) || "1", 10) || 1 };
}

const cellAttributes = () => ({
  colspan: spanned("colspan"),
  rowspan: spanned("rowspan"),
  align: kept("align", "start", classOf("align", "start")),
});

const cellNode = (name, tag, tableRole) =>
  Node.create({
    name,
    group: "cell",
    content: "block+",
    tableRole,
    isolating: true,
    addAttributes: cellAttributes,
    parseHTML: () => [{ tag }],
    renderHTML: ({ HTMLAttributes }) => [tag, mergeAttributes(HTMLAttributes), 0],
  });

// Without the style attributes that a strict Content-Security-Policy refuses.
const nodes = [
  Node.create({
    name: "table",
    group: "block",
    content: "tableRow+",
    tableRole: "table",
    isolating: true,
    addAttributes: () => ({ caption: kept("caption", "") }),
    parseHTML: () => [{ tag: "table" }],
    renderHTML: ({ node, HTMLAttributes }) => ["div", { class: "table", ...(node.attrs.caption ? { "data-said": node.attrs.caption } : {}) }, ["table", { class: "data", ...HTMLAttributes }, ["tbody", 0]]],
  }),
  Node.create({
    name: "tableRow",
    content: "cell*",
    tableRole: "row",
    parseHTML: () => [{ tag: "tr" }],
    renderHTML: ({ HTMLAttributes }) => ["tr", mergeAttributes(HTMLAttributes), 0],
  }),
  cellNode("tableCell", "td", "cell"),
  cellNode("tableHeader", "th", "header_cell"),
  // what prosemirror-tables knows the nodes by
  Extension.create({
    name: "tableRoles",
    extendNodeSchema: (extension) => ({ tableRole: callOrReturn(getExtensionField(extension, "tableRole", { name: extension.name, options: extension.options, storage: extension.storage })) }),
  }),
];

const cell = (type) => ({ type, content: [paragraph()] });
const row = (type) => ({ type: "tableRow", content: [cell(type), cell(type), cell(type)] });

export const table = {
  nodes,
  sentence: {
    table: ["A table captioned", words("caption", "Caption of the table", "no caption")],
  },
  entry: { words: "Table", group: "read", block: { type: "table", content: [row("tableHeader"), row("tableCell"), row("tableCell")] }, more: "rows columns grid" },
};
