// Moving, doubling and removing whole blocks: by keys, from the block line, and by dragging the grip in the margin.
import { Extension } from "@tiptap/core";
import { Fragment } from "@tiptap/pm/model";
import { closeHistory } from "@tiptap/pm/history";
import { NodeSelection, Selection, TextSelection } from "@tiptap/pm/state";
import { setHidden } from "../core/dom.js";

const MOVABLE = new Set(["listItem", "tableRow"]);

// The block that a key or button acts on: the selected one, a list item, or else the one nearest around the cursor.
export function blockAt(state) {
  const { selection } = state;
  if (selection instanceof NodeSelection && selection.node.isBlock) return { node: selection.node, from: selection.from, depth: selection.$from.depth };
  const { $from } = selection;
  for (let depth = $from.depth; depth > 0; depth -= 1) {
    const node = $from.node(depth);
    const parent = $from.node(depth - 1);
    const isPlaced = MOVABLE.has(node.type.name) || ["doc", "quote", "callout", "side", "tableCell", "tableHeader"].includes(parent.type.name);
    if (isPlaced && !["tableCell", "tableHeader", "side"].includes(node.type.name)) return { node, from: $from.before(depth), depth: depth - 1 };
  }
  return null;
}

// The blocks that the selection reaches: those side by side under its deepest common parent, or the one of blockAt.
export function blocksAt(state) {
  const { $from, $to } = state.selection;
  const range = $from.blockRange($to);
  if (!range || range.endIndex - range.startIndex < 2) return [blockAt(state)?.node].filter(Boolean);
  return Array.from({ length: range.endIndex - range.startIndex }, (_, at) => range.parent.child(range.startIndex + at));
}

function keepCursor(tr, state, shift) {
  const { selection } = state;
  const made =
    selection instanceof NodeSelection
      ? NodeSelection.create(tr.doc, selection.from + shift)
      : TextSelection.create(tr.doc, selection.anchor + shift, selection.head + shift);
  return closeHistory(tr).setSelection(made).scrollIntoView();
}

// Swaps the block with its neighbour; `step` is -1 for up, 1 for down.
export function move(editor, step) {
  const { state } = editor;
  const block = blockAt(state);
  if (!block) return false;
  const $from = state.doc.resolve(block.from);
  const parent = $from.parent;
  const index = $from.index();
  const other = index + step;
  if (other < 0 || other >= parent.childCount) return false;
  const neighbour = parent.child(other);
  const start = step < 0 ? block.from - neighbour.nodeSize : block.from;
  const end = step < 0 ? block.from + block.node.nodeSize : block.from + block.node.nodeSize + neighbour.nodeSize;
  const swapped = step < 0 ? [block.node, neighbour] : [neighbour, block.node];
  const tr = state.tr.replaceWith(start, end, Fragment.fromArray(swapped));
  editor.view.dispatch(keepCursor(tr, state, step < 0 ? -neighbour.nodeSize : neighbour.nodeSize));
  return true;
}

export function double(editor) {
  const block = blockAt(editor.state);
  if (!block) return false;
  const after = block.from + block.node.nodeSize;
  const tr = editor.state.tr.insert(after, block.node);
  editor.view.dispatch(keepCursor(tr, editor.state, block.node.nodeSize));
  return true;
}

export function remove(editor) {
  const { state } = editor;
  const block = blockAt(state);
  if (!block) return false;
  const $from = state.doc.resolve(block.from);
  const isOnly = $from.parent.childCount === 1;
  const tr = isOnly && $from.depth === 0 ? state.tr.replaceWith(block.from, block.from + block.node.nodeSize, state.schema.nodes.paragraph.create()) : state.tr.delete(block.from, block.from + block.node.nodeSize);
  if (!isOnly || $from.depth === 0) editor.view.dispatch(closeHistory(tr).setSelection(Selection.near(tr.doc.resolve(Math.min(block.from, tr.doc.content.size)))).scrollIntoView());
  return true;
}

// Escape selects the block around the cursor, and again the one around that.
function selectAround(editor) {
  const { state, view } = editor;
  const { selection } = state;
  if (selection instanceof NodeSelection) {
    const { $from } = selection;
    if ($from.depth === 0) return false;
    view.dispatch(state.tr.setSelection(NodeSelection.create(state.doc, $from.before($from.depth))));
    return true;
  }
  const block = blockAt(state);
  if (!block || !NodeSelection.isSelectable(block.node)) return false;
  view.dispatch(state.tr.setSelection(NodeSelection.create(state.doc, block.from)));
  return true;
}

export const Moving = Extension.create({
  name: "moving",
  priority: 200,
  addKeyboardShortcuts() {
    return {
      "Alt-ArrowUp": () => move(this.editor, -1),
      "Alt-ArrowDown": () => move(this.editor, 1),
      "Mod-d": () => double(this.editor),
      "Mod-Shift-Backspace": () => remove(this.editor),
      Escape: () => selectAround(this.editor),
    };
  },
});

// The grip in the margin of the block under the pointer: drag it, or press it to select the block.
export class Grip {
  constructor(page, editor) {
    Object.assign(this, { page, editor });
    this.box = document.createElement("button");
    this.box.type = "button";
    this.box.className = "grip";
    this.box.textContent = "Move";
    this.box.tabIndex = -1;
    this.box.draggable = true;
    this.box.hidden = true;
    this.box.title = "Drag to another place, or press to select the block";
    page.append(this.box);
    page.addEventListener("mousemove", (event) => this.follow(event));
    page.addEventListener("mouseleave", () => this.hide());
    this.box.addEventListener("click", () => this.select());
    this.box.addEventListener("dragstart", (event) => this.drag(event));
    this.box.addEventListener("dragend", () => {
      this.editor.view.dragging = null;
    });
    editor.on("update", () => this.hide());
  }

  hide() {
    setHidden(this.box, true);
  }

  follow(event) {
    if (event.buttons || this.box.contains(event.target)) return;
    const top = this.page.getBoundingClientRect().top;
    let found = null;
    this.editor.state.doc.forEach((node, offset) => {
      const rect = this.editor.view.nodeDOM(offset)?.getBoundingClientRect?.();
      if (rect && event.clientY >= rect.top && event.clientY <= rect.bottom) found = { offset, top: rect.top - top };
    });
    if (!found) return this.hide();
    this.place = found.offset;
    this.box.style.top = `${found.top}px`;
    this.box.hidden = false;
    return undefined;
  }

  select() {
    const { state, view } = this.editor;
    view.focus();
    view.dispatch(state.tr.setSelection(NodeSelection.create(state.doc, this.place)));
  }

  drag(event) {
    this.select();
    const { view, state } = this.editor;
    const dom = view.nodeDOM(this.place);
    event.dataTransfer.effectAllowed = "move";
    event.dataTransfer.setData("text/plain", state.selection.node.textContent);
    if (dom instanceof Element) event.dataTransfer.setDragImage(dom, 0, 0);
    view.dragging = { slice: state.selection.content(), move: true };
  }
}
