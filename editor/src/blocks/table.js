// Tables: cells with merged places and alignment; rows and columns are added, moved and removed from the block line.
import { CellSelection, moveTableColumn, moveTableRow, selectedRect } from "@tiptap/pm/tables";
import { TextSelection } from "@tiptap/pm/state";
import { Table, TableCell, TableHeader, TableRow } from "@tiptap/extension-table";
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

// Without the style attributes that a strict Content-Security-Policy refuses.
const nodes = [
  Table.extend({
    addAttributes: () => ({ caption: kept("caption", "") }),
    renderHTML: ({ node, HTMLAttributes }) => ["div", { class: "table", ...(node.attrs.caption ? { "data-said": node.attrs.caption } : {}) }, ["table", { class: "data", ...HTMLAttributes }, ["tbody", 0]]],
    parseHTML: () => [{ tag: "table" }],
  }).configure({ resizable: false, View: null }),
  TableRow.extend({ content: "cell*" }),
  TableCell.extend({ group: "cell", addAttributes: cellAttributes }),
  TableHeader.extend({ group: "cell", addAttributes: cellAttributes }),
];

// What the line of a table offers: {list: [[words, what it does]]}.
export const TABLE_ACTIONS = {
  "Rows…": [
    ["Row above", (editor) => editor.chain().addRowBefore().run()],
    ["Row below", (editor) => editor.chain().addRowAfter().run()],
    ["Move row up", (editor) => moveRow(editor, -1)],
    ["Move row down", (editor) => moveRow(editor, 1)],
    ["Heading row, or not", (editor) => editor.chain().toggleHeaderRow().run()],
    ["Remove row", (editor) => editor.chain().deleteRow().run()],
  ],
  "Columns…": [
    ["Column before", (editor) => editor.chain().addColumnBefore().run()],
    ["Column after", (editor) => editor.chain().addColumnAfter().run()],
    ["Move column left", (editor) => moveColumn(editor, -1)],
    ["Move column right", (editor) => moveColumn(editor, 1)],
    ["Heading column, or not", (editor) => editor.chain().toggleHeaderColumn().run()],
    ["Remove column", (editor) => editor.chain().deleteColumn().run()],
  ],
  "Cells…": [
    ["Merge the selected cells", (editor) => editor.chain().mergeCells().run()],
    ["Split the cell", (editor) => editor.chain().splitCell().run()],
  ],
};

function moveRow(editor, step) {
  const { top, bottom, map } = selectedRect(editor.state);
  const to = step < 0 ? top - 1 : bottom;
  if (to < 0 || to >= map.height) return false;
  return moveTableRow({ from: top, to, select: true })(editor.state, editor.view.dispatch) && intoCell(editor);
}

function moveColumn(editor, step) {
  const { left, right, map } = selectedRect(editor.state);
  const to = step < 0 ? left - 1 : right;
  if (to < 0 || to >= map.width) return false;
  return moveTableColumn({ from: left, to, select: true })(editor.state, editor.view.dispatch) && intoCell(editor);
}

// The cursor goes into the first of the cells that were moved, so that what comes next is done to one cell.
function intoCell(editor) {
  const { selection, doc, tr } = editor.state;
  if (selection instanceof CellSelection) editor.view.dispatch(tr.setSelection(TextSelection.near(doc.resolve(selection.$anchorCell.pos + 1))));
  return true;
}

const cell = (type) => ({ type, content: [paragraph()] });
const row = (type) => ({ type: "tableRow", content: [cell(type), cell(type), cell(type)] });

export const table = {
  nodes,
  sentence: {
    table: ["A table captioned", words("caption", "Caption of the table", "no caption")],
  },
  entry: { words: "Table", group: "read", block: { type: "table", content: [row("tableHeader"), row("tableCell"), row("tableCell")] }, more: "rows columns grid" },
};
