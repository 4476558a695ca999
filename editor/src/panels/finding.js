// Find and replace in the post, with every place shown on the sheet.
import { closeHistory } from "@tiptap/pm/history";
import { TextSelection } from "@tiptap/pm/state";
import { FINDING } from "./found.js";

// Every place of the words: [{from, to}], each within one block of text.
export function places(doc, { words, isCase, isWhole }) {
  if (!words) return [];
  const escaped = words.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
  const pattern = new RegExp(isWhole ? `(?<![\\p{L}\\p{N}_])${escaped}(?![\\p{L}\\p{N}_])` : escaped, isCase ? "gu" : "giu");
  const found = [];
  doc.descendants((node, position) => {
    if (!node.isTextblock) return true;
    const text = node.textBetween(0, node.content.size, undefined, "\ufffc");
    for (const match of text.matchAll(pattern)) {
      if (match[0]) found.push({ from: position + 1 + match.index, to: position + 1 + match.index + match[0].length });
    }
    return false;
  });
  return found;
}

export class Finder {
  constructor(box, editor) {
    Object.assign(this, { box, editor });
    this.at = 0;
    const at = (name) => box.querySelector(`[name=${name}]`);
    this.words = at("words");
    this.instead = at("instead");
    this.isCase = at("case");
    this.isWhole = at("whole");
    this.count = box.querySelector(".count");
    for (const control of [this.words, this.isCase, this.isWhole]) control.addEventListener("input", () => this.look(0));
    box.addEventListener("submit", (event) => {
      event.preventDefault();
      this.step(event.submitter?.value === "before" ? -1 : 1);
    });
    box.querySelector("[value=before]").addEventListener("click", () => this.step(-1));
    box.querySelector("[value=one]").addEventListener("click", () => this.replaceOne());
    box.querySelector("[value=all]").addEventListener("click", () => this.replaceAll());
    box.querySelector("[value=close]").addEventListener("click", () => this.close());
    box.addEventListener("keydown", (event) => event.key === "Escape" && this.close());
    editor.on("update", () => !box.hidden && this.look(this.at, false));
  }

  open() {
    const { from, to } = this.editor.state.selection;
    const chosen = this.editor.state.doc.textBetween(from, to, " ");
    if (chosen && chosen.length < 80) this.words.value = chosen;
    this.box.hidden = false;
    this.words.focus();
    this.words.select();
    this.look(0);
  }

  close() {
    this.box.hidden = true;
    this.show([]);
    const here = this.found?.[this.at];
    this.editor.view.focus();
    if (here) this.editor.commands.setTextSelection(here);
  }

  search() {
    return { words: this.words.value, isCase: this.isCase.checked, isWhole: this.isWhole.checked };
  }

  look(at, isGoing = true) {
    this.found = places(this.editor.state.doc, this.search());
    this.at = Math.min(at, Math.max(0, this.found.length - 1));
    this.show(this.found);
    this.count.textContent = this.words.value ? (this.found.length ? `${this.at + 1} of ${this.found.length}` : "nowhere in this post") : "";
    if (isGoing && this.found.length) this.scroll();
  }

  show(found) {
    this.editor.view.dispatch(this.editor.state.tr.setMeta(FINDING, { found, at: this.at }).setMeta("addToHistory", false));
  }

  scroll() {
    const place = this.found[this.at];
    const { node } = this.editor.view.domAtPos(place.from);
    (node.nodeType === 1 ? node : node.parentElement)?.scrollIntoView({ block: "center" });
  }

  step(by) {
    if (!this.found?.length) return;
    this.look((this.at + by + this.found.length) % this.found.length);
  }

  replaceOne() {
    const place = this.found?.[this.at];
    if (!place) return;
    const { state, view } = this.editor;
    view.dispatch(this.put(state.tr, place).setSelection(TextSelection.create(state.doc, place.from)));
    this.look(this.at);
  }

  replaceAll() {
    const { state, view } = this.editor;
    const count = this.found?.length || 0;
    if (!count) return;
    const tr = state.tr;
    for (const place of [...this.found].reverse()) this.put(tr, place);
    view.dispatch(closeHistory(tr));
    this.look(0, false);
    this.count.textContent = `${count} replaced`;
  }

  put(tr, { from, to }) {
    const { schema } = this.editor.state;
    const marks = tr.doc.resolve(from).marksAcross(tr.doc.resolve(to)) || [];
    return this.instead.value ? tr.replaceWith(from, to, schema.text(this.instead.value, marks)) : tr.delete(from, to);
  }
}
