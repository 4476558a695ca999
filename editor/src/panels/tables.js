// What is done with tables, loaded once a text has one: cells chosen together, rows and columns, the keys of a table.
import {
  CellSelection, TableMap, addColumnAfter, addColumnBefore, addRowAfter, addRowBefore, deleteColumn, deleteRow, findTable, goToNextCell, mergeCells, moveTableColumn,
  moveTableRow, selectedRect, setCellAttr, splitCell, tableEditing, toggleHeader,
} from "@tiptap/pm/tables";
import { keymap } from "@tiptap/pm/keymap";
import { TextSelection } from "@tiptap/pm/state";

// One command for a click on the block line.
const does = (command) => (editor) => {
  editor.view.focus();
  return command(editor.state, editor.view.dispatch);
};

// What the line of a table offers: {list: [[words, what it does]]}.
export const TABLE_ACTIONS = {
  "Rows…": [
    ["Row above", does(addRowBefore)],
    ["Row below", does(addRowAfter)],
    ["Move row up", (editor) => moveRow(editor, -1)],
    ["Move row down", (editor) => moveRow(editor, 1)],
    ["Heading row, or not", does(toggleHeader("row"))],
    ["Remove row", does(deleteRow)],
  ],
  "Columns…": [
    ["Column before", does(addColumnBefore)],
    ["Column after", does(addColumnAfter)],
    ["Move column left", (editor) => moveColumn(editor, -1)],
    ["Move column right", (editor) => moveColumn(editor, 1)],
    ["Heading column, or not", does(toggleHeader("column"))],
    ["Remove column", does(deleteColumn)],
  ],
  "Cells…": [
    ["Merge the selected cells", does(mergeCells)],
    ["Split the cell", does(splitCell)],
  ],
};

// Moves the chosen rows or columns by one place; `first` and `last` are the sides of the selection, `count` how many the table has.
const moving = (command, first, last, count) => (editor, step) => {
  const chosen = selectedRect(editor.state);
  const to = step < 0 ? chosen[first] - 1 : chosen[last];
  if (to < 0 || to >= chosen.map[count]) return false;
  return command({ from: chosen[first], to, select: true })(editor.state, editor.view.dispatch) && intoCell(editor);
};

const moveRow = moving(moveTableRow, "top", "bottom", "height");
const moveColumn = moving(moveTableColumn, "left", "right", "width");

// The cursor goes into the first of the cells that were moved, so that what comes next is done to one cell.
function intoCell(editor) {
  const { selection, doc, tr } = editor.state;
  if (selection instanceof CellSelection) editor.view.dispatch(tr.setSelection(TextSelection.near(doc.resolve(selection.$anchorCell.pos + 1))));
  return true;
}

export const align = (editor, value) => does(setCellAttr("align", value))(editor);
export const isInTable = (state) => Boolean(findTable(state.selection.$from));
export const isCells = (selection) => selection instanceof CellSelection;

// The next cell, and a new row after the last one.
function nextCell(state, dispatch) {
  if (goToNextCell(1)(state, dispatch)) return true;
  if (!addRowAfter(state)) return false;
  if (dispatch) {
    let after = state;
    addRowAfter(state, (tr) => {
      after = state.apply(tr);
      dispatch(tr);
    });
    goToNextCell(1)(after, dispatch);
  }
  return true;
}

// A table goes when all its cells are chosen and removed.
function removeWhole(state, dispatch) {
  const table = findTable(state.selection.$from);
  if (!isCells(state.selection) || !table) return false;
  const chosen = state.selection.ranges.length;
  if (new Set(TableMap.get(table.node).map).size !== chosen) return false;
  dispatch?.(state.tr.delete(table.pos, table.pos + table.node.nodeSize));
  return true;
}

export const plugins = () => [
  keymap({ Tab: nextCell, "Shift-Tab": goToNextCell(-1), Backspace: removeWhole, "Mod-Backspace": removeWhole, Delete: removeWhole, "Mod-Delete": removeWhole }),
  tableEditing(),
];
