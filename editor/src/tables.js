// Tables: cells with merged places and alignment; rows and columns are added, moved and removed from the block line.
import { Table, TableCell, TableHeader, TableRow } from "@tiptap/extension-table";
import { classOf, kept } from "./attributes.js";

function spanned(name) {
  return { default: 1, parseHTML: (element) => Number.parseInt(element.getAttribute(name) || "1", 10) || 1 };
}

const cellAttributes = () => ({
  colspan: spanned("colspan"),
  rowspan: spanned("rowspan"),
  align: kept("align", "start", classOf("align", "start")),
});

// Without the style attributes that a strict Content-Security-Policy refuses.
export const tableNodes = [
  Table.extend({
    addAttributes: () => ({ caption: kept("caption", "") }),
    renderHTML: ({ node, HTMLAttributes }) => ["div", { class: "table", ...(node.attrs.caption ? { "data-said": node.attrs.caption } : {}) }, ["table", { class: "data", ...HTMLAttributes }, ["tbody", 0]]],
    parseHTML: () => [{ tag: "table" }],
  }).configure({ resizable: false, View: null }),
  TableRow.extend({ content: "cell*" }),
  TableCell.extend({ group: "cell", addAttributes: cellAttributes }),
  TableHeader.extend({ group: "cell", addAttributes: cellAttributes }),
];
