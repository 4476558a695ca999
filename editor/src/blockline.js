// The block line below the toolbar: what can be settled of the block under the cursor, as a sentence with changeable words.
import { NodeSelection, TextSelection } from "@tiptap/pm/state";
import { CellSelection, findTable, moveTableColumn, moveTableRow, selectedRect } from "@tiptap/pm/tables";
import { addressOf } from "./addresses.js";
import { TINTS } from "./dress.js";
import { double, move, remove } from "./moving.js";
import { afterChange } from "./planning.js";

const ALIGN = [["start", "at the start"], ["centre", "centred"], ["end", "at the end"]];
const choice = (attr, name, choices) => ({ attr, name, choices });
const words = (attr, name, hint = "") => ({ attr, name, hint });

// Each kind's sentence: words, and fields that change an attribute of the node.
const SENTENCES = {
  paragraph: ["Its lines stand", choice("align", "Alignment", ALIGN)],
  bulletList: [
    "A list with", choice("sign", "Sign of the list", [["disc", "discs"], ["circle", "circles"], ["square", "squares"], ["tick", "ticks"], ["star", "stars"], ["arrow", "arrows"]]),
    "and its items", choice("loose", "Space between the items", [[false, "close together"], [true, "set apart"]]),
  ],
  orderedList: [
    "A list numbered", choice("numbers", "Kind of numbers", [["decimal", "1, 2, 3"], ["lower-alpha", "a, b, c"], ["upper-alpha", "A, B, C"], ["lower-roman", "i, ii, iii"], ["upper-roman", "I, II, III"], ["lower-greek", "α, β, γ"]]),
    "from", { attr: "start", name: "First number", number: [0, 999999999] },
    "and its items", choice("loose", "Space between the items", [[false, "close together"], [true, "set apart"]]),
  ],
  quote: ["Said by", words("source", "Source of the quote", "nobody named"), "found at", { ...words("address", "Address of the source", "no address"), isAddress: true }],
  codeBlock: ["Code in", words("language", "Language of the code", "no language")],
  callout: [
    "A callout with the sign", choice("sign", "Sign of the callout", [["note", "note"], ["hint", "hint"], ["care", "take care"], ["stop", "stop"], ["question", "question"], ["done", "done"], ["date", "date"], ["tool", "tool"]]),
    "on", choice("tint", "Tint of the callout", TINTS.map((tint) => [tint, tint])), "titled", words("title", "Title of the callout", "no title"),
  ],
  button: [
    "A", choice("weight", "Weight of the button", [["strong", "strong"], ["quiet", "quiet"]]), "button saying", words("words", "Words of the button", "nothing yet"),
    "that leads to", { ...words("address", "Address of the button", "no address yet"), isAddress: true },
  ],
  beside: ["Side by side, the first taking", choice("share", "Share of the first side", [25, 33, 40, 50, 60, 67, 75].map((share) => [share, `${share} %`])), { act: "swap", name: "Swap the sides" }],
  contents: ["Contents down to", choice("depth", "Depth of the contents", [[2, "headings"], [3, "subheadings"], [4, "small headings"], [5, "level 5"], [6, "level 6"]])],
  picture: [
    "A picture,", choice("size", "Width of the picture", [["small", "small"], ["half", "half the line"], ["full", "the whole line"], ["wide", "wider than the line"]]),
    ",", choice("place", "Place of the picture", [["left", "at the left"], ["centre", "centred"], ["right", "at the right"]]),
    ",", choice("around", "Text beside the picture", [[false, "text above and below"], [true, "text around it"]]),
    ",", choice("frame", "Frame of the picture", [["plain", "no frame"], ["lined", "a lined frame"], ["lifted", "lifted off the page"]]),
    ",", choice("space", "Space around the picture", [["none", "no space"], ["usual", "the usual space"], ["more", "more space"]]),
    "around it; credited to", words("credit", "Credit of the picture", "nobody named"), "leading to", { ...words("address", "Address the picture leads to", "nowhere"), isAddress: true },
    { act: "replace", name: "Replace it…" }, { act: "words", name: "Caption from the library" }, { act: "edit", name: "Crop it…" },
  ],
  gallery: ["A gallery in", choice("layout", "Layout of the gallery", [["rows", "even rows"], ["grid", "a grid"], ["slides", "slides"]]), { act: "more", name: "More pictures…" }, { act: "earlier", name: "Picture before" }, { act: "later", name: "Picture after" }, { act: "takeOut", name: "Take the picture out" }],
  sound: ["A sound titled", words("title", "Title of the sound", "its name in the library"), choice("size", "Width of the player", [["small", "small"], ["full", "as wide as the line"]]), { act: "replace", name: "Replace it…" }, { act: "edit", name: "Transcript…" }],
  video: ["A video titled", words("title", "Title of the video", "its name in the library"), choice("size", "Width of the video", [["small", "small"], ["full", "as wide as the line"], ["wide", "wider than the line"]]), { act: "replace", name: "Replace it…" }, { act: "edit", name: "Poster and captions…" }],
  embed: ["From", { ...words("address", "Address of the embed", "no address"), isAddress: true, isFixed: true }, "titled", words("title", "Title of the embed", "no title"), choice("size", "Width of the embed", [["small", "small"], ["full", "as wide as the line"], ["wide", "wider than the line"]])],
  file: ["A download called", words("words", "Words of the download", "its name"), { act: "replace", name: "Replace it…" }],
  table: ["A table captioned", words("caption", "Caption of the table", "no caption")],
};

const TABLE_ACTIONS = {
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

// The picture of a gallery in which the cursor is: {gallery, at, index, node}; null outside of any.
function inGallery({ selection, doc }, gallery) {
  const node = doc.nodeAt(gallery);
  let at = gallery + 1;
  for (let index = 0; index < node.childCount; index += 1) {
    const end = at + node.child(index).nodeSize;
    if (selection.from >= at && selection.from < end) return { at, index, node: node.child(index), gallery: node };
    at = end;
  }
  return { at: gallery + 1, index: 0, node: node.child(0), gallery: node };
}

function galleryActs(editor) {
  const shift = (step) => (pos) => {
    const found = inGallery(editor.state, pos);
    const to = found.index + step;
    if (to < 0 || to >= found.gallery.childCount) return;
    const children = [...found.gallery.content.content];
    children.splice(to, 0, ...children.splice(found.index, 1));
    const tr = editor.state.tr.replaceWith(pos + 1, pos + 1 + found.gallery.content.size, children);
    const place = pos + 1 + children.slice(0, to).reduce((sum, child) => sum + child.nodeSize, 0);
    editor.view.dispatch(tr.setSelection(NodeSelection.create(tr.doc, place)));
  };
  return {
    earlier: shift(-1),
    later: shift(1),
    takeOut(pos) {
      const found = inGallery(editor.state, pos);
      const isLast = found.gallery.childCount === 1;
      editor.view.dispatch(isLast ? editor.state.tr.delete(pos, pos + found.gallery.nodeSize) : editor.state.tr.delete(found.at, found.at + found.node.nodeSize));
    },
  };
}

const LONG_PARAGRAPH = 120;

// The cursor goes into the first of the cells that were moved, so that what comes next is done to one cell.
function intoCell(editor) {
  const { selection, doc, tr } = editor.state;
  if (selection instanceof CellSelection) editor.view.dispatch(tr.setSelection(TextSelection.near(doc.resolve(selection.$anchorCell.pos + 1))));
  return true;
}

export class BlockLine {
  constructor(box, editor) {
    Object.assign(this, { box, editor });
    box.setAttribute("role", "group");
    box.setAttribute("aria-label", "The block under the cursor");
    this.drawn = "";
    this.acts = { swap: (pos) => this.swap(pos), ...galleryActs(editor) };
    afterChange(editor, () => this.update());
    this.update();
  }

  // The blocks around the cursor that have something to settle, the innermost first: [{node, pos}].
  around() {
    const { selection } = this.editor.state;
    const found = [];
    if (selection instanceof NodeSelection) found.push({ node: selection.node, pos: selection.from });
    const { $from } = selection;
    for (let depth = $from.depth; depth > 0; depth -= 1) {
      if (selection instanceof CellSelection && depth > $from.depth) continue;
      found.push({ node: $from.node(depth), pos: $from.before(depth) });
    }
    return found.filter(({ node }) => SENTENCES[node.type.name]);
  }

  update() {
    if (this.box.contains(document.activeElement)) return;
    const blocks = this.around();
    const drawing = JSON.stringify([blocks.map(({ node, pos }) => [node.type.name, node.attrs, pos]), this.countIfLong()]);
    if (drawing === this.drawn) return;
    this.drawn = drawing;
    const lines = blocks.slice(0, 2).map(({ node, pos }) => this.sentence(node, pos));
    const long = this.longParagraph();
    if (long) lines.unshift(long);
    if (findTable(this.editor.state.selection.$from)) lines.push(this.tableLine());
    const actions = this.actions();
    lines.push(actions);
    this.box.replaceChildren(...lines);
  }

  sentence(node, pos) {
    const line = document.createElement("p");
    for (const part of SENTENCES[node.type.name]) {
      if (part === ",") line.lastChild.replaceWith(", ");
      else if (typeof part === "string") line.append(`${part} `);
      else line.append(part.act ? this.button(part.name, () => this.acts[part.act](pos)) : this.control(part, node, pos), " ");
    }
    return line;
  }

  control(part, node, pos) {
    const value = node.attrs[part.attr];
    const control = document.createElement(part.choices ? "select" : "input");
    control.className = "word";
    control.setAttribute("aria-label", part.name);
    if (part.choices) {
      for (const [choiceValue, text] of part.choices) control.add(new Option(text, JSON.stringify(choiceValue)));
      control.value = JSON.stringify(value);
      control.addEventListener("change", () => this.set(pos, node, part.attr, JSON.parse(control.value)));
      return control;
    }
    control.value = value;
    control.size = Math.min(40, Math.max(String(value || part.hint || "").length, 4));
    control.placeholder = part.hint || "";
    control.readOnly = Boolean(part.isFixed);
    if (part.number) {
      control.type = "number";
      [control.min, control.max] = part.number;
    }
    control.addEventListener("change", () => this.settle(control, part, node, pos));
    control.addEventListener("keydown", (event) => {
      if (event.key !== "Enter" && event.key !== "Escape") return;
      event.preventDefault();
      if (event.key === "Enter") this.settle(control, part, node, pos);
      this.editor.view.focus();
    });
    return control;
  }

  settle(control, part, node, pos) {
    let value = control.value.trim();
    if (part.number) value = Math.min(part.number[1], Math.max(part.number[0], Math.round(Number(value)) || 0));
    if (part.isAddress && value) {
      const typed = value;
      value = addressOf(typed);
      if (!value) {
        control.setCustomValidity(`“${typed}” is no address of a page; write it like https://name.example.`);
        control.reportValidity();
        return;
      }
      control.setCustomValidity("");
    }
    control.value = value;
    this.set(pos, node, part.attr, value);
  }

  set(pos, node, attr, value) {
    const { state, view } = this.editor;
    const now = state.doc.nodeAt(pos);
    if (now?.type !== node.type || now.attrs[attr] === value) return;
    const tr = state.tr.setNodeAttribute(pos, attr, value);
    if (state.selection instanceof NodeSelection && state.selection.from === pos) tr.setSelection(NodeSelection.create(tr.doc, pos));
    view.dispatch(tr);
  }

  swap(pos) {
    const { state, view } = this.editor;
    const node = state.doc.nodeAt(pos);
    const [first, second] = [node.child(0), node.child(1)];
    view.dispatch(state.tr.replaceWith(pos + 1, pos + node.nodeSize - 1, [second, first]));
  }

  // How many words the paragraph has, when it is a long one; 0 for any other.
  countIfLong() {
    const { parent } = this.editor.state.selection.$from;
    if (parent.type.name !== "paragraph" || parent.content.size < 2 * LONG_PARAGRAPH) return 0;
    const count = parent.textContent.split(/\s+/).filter(Boolean).length;
    return count > LONG_PARAGRAPH ? count : 0;
  }

  // A paragraph of more than 120 words offers to break after one of its sentences.
  longParagraph() {
    const { $from } = this.editor.state.selection;
    const node = $from.parent;
    const count = this.countIfLong();
    if (!count) return null;
    const text = node.textBetween(0, node.content.size, undefined, "\ufffc");
    const starts = [...new Intl.Segmenter(document.documentElement.lang || "en", { granularity: "sentence" }).segment(text)].slice(1);
    if (!starts.length) return null;
    const line = document.createElement("p");
    const place = $from.start();
    const choices = starts.map(({ index, segment }) => [`before “${segment.trim().split(/\s+/).slice(0, 5).join(" ")}…”`, () => this.breakAt(place + index)]);
    line.append(`A paragraph of ${count} words: `, this.actionsOf("Break it…", choices));
    return line;
  }

  breakAt(position) {
    const { state, view } = this.editor;
    const before = state.doc.textBetween(position - 1, position);
    const tr = state.tr.split(position);
    if (before === " ") tr.delete(position - 1, position);
    view.dispatch(tr.scrollIntoView());
  }

  tableLine() {
    const line = document.createElement("p");
    line.append("Cells stand ");
    const align = document.createElement("select");
    align.className = "word";
    align.setAttribute("aria-label", "Alignment of the cells");
    for (const [value, text] of ALIGN) align.add(new Option(text, value));
    align.value = this.editor.getAttributes("tableCell").align || this.editor.getAttributes("tableHeader").align || "start";
    align.addEventListener("change", () => this.editor.chain().setCellAttribute("align", align.value).run());
    line.append(align, " ");
    for (const [name, rows] of Object.entries(TABLE_ACTIONS)) line.append(this.actionsOf(name, rows), " ");
    return line;
  }

  // A list of things to do, each done as it is chosen.
  actionsOf(name, rows) {
    const select = document.createElement("select");
    select.className = "word";
    select.setAttribute("aria-label", name.replace("…", ""));
    select.add(new Option(name, ""));
    for (const [text] of rows) select.add(new Option(text, text));
    select.addEventListener("change", () => {
      const run = rows.find(([text]) => text === select.value)?.[1];
      select.value = "";
      this.editor.view.focus();
      run?.(this.editor);
    });
    return select;
  }

  actions() {
    const group = document.createElement("span");
    group.className = "block-actions";
    group.append("This block: ");
    for (const [text, run, keys] of [["Up", () => move(this.editor, -1), "Alt+Up"], ["Down", () => move(this.editor, 1), "Alt+Down"], ["Double", () => double(this.editor), "Ctrl+D"], ["Lead with this", () => this.lead(), ""], ["Keep", () => this.keep?.(), ""], ["Remove", () => remove(this.editor), "Ctrl+Shift+Backspace"]]) {
      const button = this.button(text, run);
      button.setAttribute("aria-label", { Up: "Move the block up", Down: "Move the block down", Double: "Double the block", "Lead with this": "Lead the post with this block", Keep: "Keep the block under a name", Remove: "Remove the block" }[text]);
      if (keys) button.title = keys;
      group.append(button, " ");
    }
    return group;
  }

  // The top-level block under the cursor leads the post; the docket settles it.
  lead() {
    const { selection } = this.editor.state;
    document.dispatchEvent(new CustomEvent("mobbet:lead", { detail: { at: selection.$from.index(0) } }));
  }

  button(text, run) {
    const button = document.createElement("button");
    button.type = "button";
    button.textContent = text;
    button.addEventListener("mousedown", (event) => event.preventDefault());
    button.addEventListener("click", () => {
      run();
      this.drawn = "";
      this.editor.view.focus();
      requestAnimationFrame(() => this.update());
    });
    return button;
  }
}


