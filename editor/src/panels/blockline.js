// The block line below the toolbar: what can be settled of the block under the cursor, as a sentence with changeable words.
import { NodeSelection } from "@tiptap/pm/state";
import { addressOf } from "../core/addresses.js";
import { actsOf, sentences } from "../blocks/all.js";
import { ALIGN } from "../blocks/parts.js";
import { docket } from "../core/between.js";
import { double, move, remove } from "./moving.js";
import { afterChange } from "../core/planning.js";
import { drawWhileOpen } from "./phone.js";

const LONG_PARAGRAPH = 120;
const isOpen = () => document.body.matches(".all-open, :not(.in-room)"); // the sheet of a saved block has no line “All…”

export class BlockLine {
  constructor(box, editor, isOfPost = true) {
    Object.assign(this, { box, editor, isOfPost });
    box.setAttribute("role", "group");
    box.setAttribute("aria-label", "The block under the cursor");
    this.drawn = "";
    this.acts = actsOf(editor);
    afterChange(editor, drawWhileOpen(isOpen, () => this.update()));
    this.update();
  }

  // What is done with tables has come.
  bringTables(tables) {
    this.tables = tables;
    this.drawn = "";
    this.update();
  }

  // The blocks around the cursor that have something to settle, the innermost first: [{node, pos}].
  around() {
    const { selection } = this.editor.state;
    const found = [];
    if (selection instanceof NodeSelection) found.push({ node: selection.node, pos: selection.from });
    const { $from } = selection;
    for (let depth = $from.depth; depth > 0; depth -= 1) {
      if (this.tables?.isCells(selection) && depth > $from.depth) continue;
      found.push({ node: $from.node(depth), pos: $from.before(depth) });
    }
    return found.filter(({ node }) => sentences[node.type.name]);
  }

  update() {
    if (this.box.contains(document.activeElement)) return;
    const blocks = this.around();
    const { href } = this.editor.getAttributes("link");
    const drawing = JSON.stringify([blocks.map(({ node, pos }) => [node.type.name, node.attrs, pos]), this.countIfLong(), href]);
    if (drawing === this.drawn) return;
    this.drawn = drawing;
    const lines = blocks.slice(0, 2).map(({ node, pos }) => this.sentence(node, pos));
    const long = this.longParagraph();
    if (long) lines.unshift(long);
    if (this.tables?.isInTable(this.editor.state)) lines.push(this.tableLine());
    if (href) lines.unshift(this.linkLine(href));
    const actions = this.actions();
    lines.push(actions);
    this.box.replaceChildren(...lines);
  }

  // Where the link under the cursor leads, and a way to try it.
  linkLine(href) {
    const line = document.createElement("p");
    const words = href.replace(/^(https?:\/\/|mailto:)/, "");
    const trying = this.button("Try the link", () => this.follow?.(href));
    trying.title = "Ctrl and a click do the same";
    line.append(`The link leads to ${words.length > 60 ? `${words.slice(0, 60)}…` : words}. `, trying);
    return line;
  }

  sentence(node, pos) {
    const line = document.createElement("p");
    for (const part of sentences[node.type.name]) {
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
    align.addEventListener("change", () => this.tables.align(this.editor, align.value));
    line.append(align, " ");
    for (const [name, rows] of Object.entries(this.tables.TABLE_ACTIONS)) line.append(this.actionsOf(name, rows), " ");
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
    for (const [text, run, keys] of [["Up", () => move(this.editor, -1), "Alt+Up"], ["Down", () => move(this.editor, 1), "Alt+Down"], ["Duplicate", () => double(this.editor), "Ctrl+D"], ...(this.isOfPost ? [["Lead with this", () => this.lead(), ""], ["Save for reuse", () => this.keep?.(), ""]] : []), ["Remove", () => remove(this.editor), "Ctrl+Shift+Backspace"]]) {
      const button = this.button(text, run);
      button.setAttribute("aria-label", `${text}: this block`);
      if (keys) button.title = keys;
      group.append(button, " ");
    }
    return group;
  }

  // The top-level block under the cursor leads the post; the docket settles it.
  lead() {
    const { selection } = this.editor.state;
    docket().lead?.(selection.$from.index(0));
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


