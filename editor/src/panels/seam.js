// The seam: the place between two blocks where something can be put. It shows under the pointer, and at
// the cursor with Alt+Enter, above it with Shift too; the words one types choose among the kinds.
import { Selection } from "@tiptap/pm/state";
import { setHidden } from "../core/dom.js";

const REACH = 11;
const DWELL = 350; // in milliseconds: how long a kind stands before a click on it is meant
const SHOWN = 6;
const GROUPS = { see: "To see and hear", read: "To read", point: "To point on", together: "To put together", kept: "What was kept" };

export class Seam {
  constructor(page, editor, kinds) {
    Object.assign(this, { page, editor, kinds });
    this.place = null;
    this.box = document.createElement("div");
    this.box.className = "seam";
    this.box.hidden = true;
    this.box.setAttribute("role", "group");
    this.box.setAttribute("aria-label", "Insert here");
    const label = document.createElement("b");
    label.textContent = "Insert:";
    this.field = document.createElement("input");
    this.field.className = "input";
    this.field.setAttribute("aria-label", "Find a kind of block");
    this.field.placeholder = "type to choose";
    this.field.addEventListener("input", () => this.draw());
    this.list = document.createElement("span");
    this.list.className = "kinds";
    this.box.append(label, this.field, this.list);
    page.append(this.box);
    page.addEventListener("mousemove", (event) => this.follow(event));
    page.addEventListener("mouseleave", () => this.hideUnlessFocused());
    this.box.addEventListener("keydown", (event) => this.walk(event));
    this.box.addEventListener("focusout", (event) => !this.box.contains(event.relatedTarget) && this.hide());
    editor.on("update", () => this.hide());
  }

  // All kinds by their purpose when it was opened to choose from, the first few under the pointer.
  draw() {
    const wanted = this.field.value.trim().toLowerCase();
    const found = this.kinds().filter(({ words, more }) => `${words} ${more || ""}`.toLowerCase().includes(wanted));
    if (!this.isWhole) {
      this.list.replaceChildren(...found.slice(0, SHOWN).map((kind) => this.choice(kind)), this.button("more…", () => this.openWhole()));
      return;
    }
    if (wanted && found.length) {
      const named = found.filter(({ words }) => words.toLowerCase().startsWith(wanted));
      this.list.replaceChildren(...[...named, ...found.filter((kind) => !named.includes(kind))].map((kind) => this.choice(kind)));
      return;
    }
    if (found.length) {
      const groups = Object.entries(GROUPS).map(([name, words]) => this.group(words, found.filter((kind) => kind.group === name)));
      this.list.replaceChildren(...groups.filter(Boolean));
      return;
    }
    const none = document.createElement("span");
    none.textContent = `No kind is called “${this.field.value.trim()}”.`;
    this.list.replaceChildren(none);
  }

  group(words, kinds) {
    if (!kinds.length) return null;
    const group = document.createElement("span");
    group.className = "purpose";
    group.setAttribute("role", "group");
    group.setAttribute("aria-label", words);
    const label = document.createElement("small");
    label.textContent = words;
    const choices = document.createElement("span");
    choices.append(...kinds.map((kind) => this.choice(kind)));
    group.append(label, choices);
    return group;
  }

  // A kind is put at once; of what was kept one says first whether it stays the same everywhere.
  choice({ words, put, ways }) {
    return this.button(words, () => (ways ? this.ask(words, ways) : this.put(put)));
  }

  ask(words, ways) {
    this.isWhole = true;
    this.box.classList.add("whole");
    const label = document.createElement("span");
    label.textContent = `${words}, as`;
    const buttons = ways.map(([way, put]) => this.button(way, () => this.put(put)));
    this.list.replaceChildren(label, ...buttons);
    buttons[0].focus();
  }

  button(words, act) {
    const button = document.createElement("button");
    button.type = "button";
    button.textContent = words;
    button.addEventListener("mousedown", (event) => event.preventDefault());
    button.addEventListener("click", (event) => (this.isUnmeant(event) ? this.goThere() : act()));
    return button;
  }

  // A click that falls on a kind which has only just come up under the pointer was meant for the place between the blocks.
  isUnmeant(event) {
    return !this.isWhole && event.detail > 0 && performance.now() - this.since < DWELL;
  }

  goThere() {
    const { doc, tr } = this.editor.state;
    const place = Math.min(this.place, doc.content.size);
    this.hide();
    this.editor.view.dispatch(tr.setSelection(Selection.near(doc.resolve(place), 1)).scrollIntoView());
    this.editor.view.focus();
  }

  put(act) {
    const place = this.place;
    this.hide();
    this.editor.view.focus();
    act(place);
  }

  walk(event) {
    const stops = [...this.list.querySelectorAll("button")];
    const at = stops.indexOf(document.activeElement);
    if (event.key === "Escape") this.leave();
    else if (event.key === "Enter" && document.activeElement === this.field) stops[0]?.click();
    else if (["ArrowRight", "ArrowDown"].includes(event.key)) stops[Math.min(at + 1, stops.length - 1)]?.focus();
    else if (["ArrowLeft", "ArrowUp"].includes(event.key) && at >= 0) (at ? stops[at - 1] : this.field).focus();
    else return;
    event.preventDefault();
  }

  // Where each seam is: [position in the document, height in pixels below the page's top].
  places() {
    const top = this.page.getBoundingClientRect().top;
    const found = [];
    this.editor.state.doc.forEach((node, offset) => {
      const rect = this.editor.view.nodeDOM(offset)?.getBoundingClientRect?.();
      if (rect) found.push({ from: offset, to: offset + node.nodeSize, top: rect.top - top, bottom: rect.bottom - top });
    });
    const between = found.map((block, index) => {
      const next = found[index + 1];
      return [block.to, next ? (block.bottom + next.top) / 2 : block.bottom + 10];
    });
    return found.length ? [[0, found[0].top - 10], ...between] : between;
  }

  follow(event) {
    if (event.buttons || this.box.contains(event.target)) return;
    if (this.box.contains(document.activeElement)) return;
    const y = event.clientY - this.page.getBoundingClientRect().top;
    const near = this.places().find(([, height]) => Math.abs(height - y) <= REACH);
    if (near && near[0] === this.place && !this.box.hidden) return;
    if (near) this.show(near, false);
    else this.hideUnlessFocused();
  }

  show([place, height], isWhole) {
    this.place = place;
    this.isWhole = isWhole;
    this.since = performance.now();
    this.field.value = "";
    this.box.classList.toggle("whole", isWhole);
    this.draw();
    this.box.style.top = `${height}px`;
    this.box.hidden = false;
  }

  openWhole() {
    this.isWhole = true;
    this.box.classList.add("whole");
    this.draw();
    this.field.focus();
  }

  hide() {
    setHidden(this.box, true);
  }

  hideUnlessFocused() {
    if (!this.box.contains(document.activeElement)) this.hide();
  }

  // Below the block in which the cursor is, or above it.
  open(isAbove = false) {
    const { selection, doc } = this.editor.state;
    const { $from } = selection;
    const [before, after] = $from.depth ? [$from.before(1), $from.after(1)] : selection.node ? [selection.from, selection.to] : [0, doc.content.size];
    const places = this.places();
    const seam = places.find(([place]) => place === (isAbove ? before : after)) || places.at(-1);
    if (!seam) return false;
    this.show(seam, true);
    this.box.scrollIntoView({ block: "nearest" });
    this.field.focus();
    return true;
  }

  leave() {
    this.hide();
    this.editor.view.focus();
  }
}
