// Notes of people in the margin, each level with its passage: read, left, answered, settled; proposed words taken as one step.
import { closeHistory } from "@tiptap/pm/history";
import { NodeSelection, TextSelection } from "@tiptap/pm/state";
import { Decoration } from "@tiptap/pm/view";
import { ask, awayOr } from "../core/requests.js";
import { setHidden } from "../core/dom.js";
import { afterChange } from "../core/planning.js";
import { blockAt, placeOf } from "../core/places.js";
import { levelOf, stack } from "./level.js";
import { NOTES } from "./notemarks.js";

const isNarrow = matchMedia("(max-width: 1080px)");
const STATES = { settled: "settled", taken: "words taken", left: "words not taken" };

function made(tag, words, more = {}) {
  const element = Object.assign(document.createElement(tag), more);
  element.textContent = words;
  return element;
}

function button(words, act, label = "") {
  const element = made("button", words, { type: "button", className: "mend" });
  element.dataset.act = act;
  if (label) element.ariaLabel = `${words}: ${label}`;
  return element;
}

export class BlueNotes {
  constructor({ box, toggle, editor, room, saving, tell }) {
    Object.assign(this, { box, toggle, editor, room, saving, tell });
    this.notes = [];
    this.current = 0;
    this.isOpen = false;
    this.scroller = document.getElementById("scroll");
    this.scroller.addEventListener("scroll", () => this.layLater(), { passive: true });
    addEventListener("resize", () => this.layLater());
    afterChange(editor, () => this.layLater());
    box.addEventListener("click", (event) => this.press(event));
    box.addEventListener("submit", (event) => this.submit(event));
    editor.view.dom.addEventListener("click", (event) => this.touch(event));
  }

  async load() {
    if (!navigator.onLine) return;
    try {
      const answer = await fetch(this.room.to.notes, { headers: { accept: "application/json" } });
      if (answer.ok) this.take(await answer.json());
    } catch {
      // the network is away; the notes that are here stay
    }
  }

  // An answer about an older text than the one on the sheet moves no passage; the next save brings a newer one.
  take({ revision, notes }) {
    this.notes = notes;
    if (revision >= this.saving.revision && !this.saving.isDirty) this.mark();
    this.draw();
  }

  mark() {
    const drawn = this.notes.filter((note) => !note.state).flatMap((note) => note.parts.flatMap((part) => {
      const found = blockAt(this.editor.state.doc, part.path);
      if (!part.path.length || !found) return [];
      const shape = { class: `blue-mark${note.proposal === null ? "" : " proposes"}` };
      if (part.isBlock) return [Decoration.node(found.place, found.place + found.node.nodeSize, shape, { id: note.id })];
      if (part.to > found.node.content.size) return [];
      return [Decoration.inline(found.inside + part.from, found.inside + part.to, shape, { id: note.id })];
    }));
    this.editor.view.dispatch(this.editor.state.tr.setMeta(NOTES, drawn).setMeta("addToHistory", false));
  }

  // Where each note stands now: {id: {from, to}}, over all the blocks it reaches.
  places() {
    const found = new Map();
    for (const { from, to, spec } of NOTES.getState(this.editor.state).find()) {
      const known = found.get(spec.id);
      found.set(spec.id, known ? { from: Math.min(known.from, from), to: Math.max(known.to, to) } : { from, to });
    }
    return found;
  }

  open(isOpen = true) {
    this.isOpen = isOpen;
    this.box.hidden = !isOpen;
    document.getElementById("main").classList.toggle("with-notes", isOpen);
    this.toggle.setAttribute("aria-expanded", String(isOpen));
    this.layLater();
  }

  draw() {
    const open = this.notes.filter((note) => !note.state).length;
    this.toggle.textContent = open ? `${open} open note${open === 1 ? "" : "s"}` : "Notes";
    const typed = this.box.querySelector("form.new-note");
    const focused = this.box.contains(document.activeElement) && !typed?.contains(document.activeElement) ? this.current : 0;
    const head = made("div", "", { className: "blue-head" });
    head.append(made("h2", this.notes.length ? "Notes in blue pencil" : "No notes yet"));
    if (!typed) head.append(button("Leave a note…", "new"), " ");
    if (this.notes.length) head.append(Object.assign(made("a", "Print or export"), { href: `${this.room.to.notes}/print` }));
    this.box.replaceChildren(head, ...(typed ? [typed] : []), ...this.notes.map((note) => this.note(note)));
    if (focused) this.box.querySelector(`[data-note="${focused}"] button`)?.focus({ preventScroll: true });
    this.layLater();
  }

  note(note) {
    const element = made("div", "", { className: `note blue${note.state || note.isGone ? " past" : ""}${note.id === this.current ? " on" : ""}` });
    element.dataset.note = note.id;
    const words = made("p", "", { className: "words" });
    words.append(made("b", note.who), " ", made("small", `${note.when}${note.isReader ? ", reading copy" : ""}${note.state ? `, ${STATES[note.state]}` : ""}`));
    element.append(words);
    if (note.isGone) element.append(made("p", `Its passage is gone: “${note.quote}”`, { className: "gone" }));
    if (note.proposal !== null) {
      const proposal = made("p", "proposes ");
      proposal.append(made("ins", note.proposal || "nothing"), " for ", made("del", note.quote));
      element.append(proposal);
    }
    if (note.said) element.append(made("p", note.said, { className: "said-words" }));
    for (const answer of note.answers) {
      const line = made("p", "", { className: "answer" });
      line.append(made("b", answer.who), `: ${answer.said}`);
      element.append(line);
    }
    const acts = made("p", "", { className: "acts" });
    if (!note.state && note.proposal !== null && note.mayTake) acts.append(button("Take it", "take", note.proposal), " ", button("Leave it", "leave", note.proposal), " ");
    acts.append(button("Answer", "answer", note.who), " ");
    if (note.mayEnd) acts.append(note.state ? button("Open again", "reopen", note.who) : button("Settled", "settle", note.who), " ");
    if (note.isMine) acts.append(button("Remove", "remove", note.said || note.quote));
    element.append(acts);
    return element;
  }

  layLater() {
    if (!this.isOpen) return;
    this.laying ||= requestAnimationFrame(() => {
      this.laying = 0;
      this.lay();
    });
  }

  // Notes on passages stand level with them; the others, and the form, stand on top.
  lay() {
    const places = this.places();
    const all = [...this.box.querySelectorAll(".note")];
    const [pinned, loose] = [[], []];
    for (const note of all) (places.has(Number(note.dataset.note)) ? pinned : loose).push(note);
    if (isNarrow.matches) {
      for (const note of all) setHidden(note, false);
      return;
    }
    let top = this.box.firstElementChild.getBoundingClientRect().bottom;
    const frame = this.box.getBoundingClientRect();
    for (const part of [this.box.querySelector("form.new-note"), ...loose].filter(Boolean)) {
      part.hidden = false;
      part.style.top = `${Math.round(top - frame.top + 8)}px`;
      top += part.offsetHeight + 8;
    }
    pinned.sort((one, other) => places.get(Number(one.dataset.note)).from - places.get(Number(other.dataset.note)).from);
    stack(this.box, this.scroller, pinned, pinned.map((note) => levelOf(this.editor, places.get(Number(note.dataset.note)))), top);
  }

  // The next open note after the current one, in the order of the text.
  step(by) {
    const places = [...this.places()].sort(([, one], [, other]) => one.from - other.from);
    if (!places.length) return this.tell(this.notes.length ? "None of the notes is on a passage that stands." : "Nobody left a note on this text.");
    const at = places.findIndex(([id]) => id === this.current);
    const next = at < 0 ? (by > 0 ? 0 : places.length - 1) : (at + by + places.length) % places.length;
    return this.go(...places[next]);
  }

  go(id, place) {
    const { state, view } = this.editor;
    const node = state.doc.nodeAt(place.from);
    const selection = node?.isBlock && node.isAtom ? NodeSelection.create(state.doc, place.from) : TextSelection.between(state.doc.resolve(place.from), state.doc.resolve(place.to));
    view.dispatch(state.tr.setSelection(selection));
    view.focus();
    const dom = view.domAtPos(place.from).node;
    (dom?.nodeType === 1 ? dom : dom?.parentElement)?.scrollIntoView({ block: "center" });
    this.choose(id);
  }

  choose(id) {
    this.current = id;
    for (const note of this.box.querySelectorAll(".note")) note.classList.toggle("on", Number(note.dataset.note) === id);
    this.layLater();
  }

  touch(event) {
    if (!event.target.closest?.(".blue-mark")) return;
    const { pos } = this.editor.view.posAtCoords({ left: event.clientX, top: event.clientY }) || {};
    for (const [id, { from, to }] of this.places()) if (from <= pos && pos <= to) {
      this.open();
      this.choose(id);
    }
  }

  press(event) {
    const pressed = event.target.closest("button[data-act]");
    const element = event.target.closest(".note");
    const note = this.notes.find((one) => one.id === Number(element?.dataset.note));
    if (pressed) {
      const { act } = pressed.dataset;
      if (act === "new") this.begin();
      else if (act === "cancel") this.cancel();
      else if (act === "answer") this.askAnswer(element, note);
      else if (act === "take") this.takeWords(note);
      else this.send(note, act);
    } else if (note && !event.target.closest("form, a")) {
      const place = this.places().get(note.id);
      if (place) this.go(note.id, place);
      else this.choose(note.id);
    }
  }

  askAnswer(element, note) {
    if (element.querySelector("form")) return;
    const form = made("form", "", { className: "answering" });
    form.append(made("textarea", "", { name: "said", rows: 2, maxLength: 4000, required: true, className: "textarea", ariaLabel: `Answer to ${note.who}` }), made("button", "Answer", { className: "button is-small" }));
    element.append(form);
    form.elements.said.focus();
    this.layLater();
  }

  // The form for a note on what is chosen on the sheet: a passage, a block, or with nothing chosen the whole post.
  begin() {
    this.open();
    this.cancel();
    const { state } = this.editor;
    const { selection } = state;
    const quote = selection.empty ? "" : state.doc.textBetween(selection.from, selection.to, " ", " ").trim();
    const isNode = selection instanceof NodeSelection;
    const inside = isNode ? { path: [...placeOf(selection.$from).path, selection.$from.index()], at: 0 } : null;
    this.chosen = selection.empty ? null : isNode ? { start: inside, end: { ...inside, at: 10_000_000 } } : { start: placeOf(selection.$from), end: placeOf(selection.$to) };
    const form = made("form", "", { className: "new-note" });
    const about = made("p", "On ");
    about.append(quote ? made("q", quote.length > 80 ? `${quote.slice(0, 79)}…` : quote) : isNode ? "this block" : "the whole post");
    form.append(about, made("textarea", "", { name: "said", rows: 3, maxLength: 4000, className: "textarea", ariaLabel: "Your note" }));
    if (quote) {
      const more = made("details", "");
      more.append(made("summary", "Propose other words"), made("textarea", "", { name: "proposal", rows: 2, maxLength: 4000, className: "textarea", ariaLabel: "Words for those that are chosen", value: quote }));
      form.append(more);
    }
    form.append(made("button", "Leave the note", { className: "button is-small is-primary" }), " ", button("Cancel", "cancel"));
    this.box.append(form);
    this.draw();
    form.elements.said.focus();
  }

  cancel() {
    this.box.querySelector("form.new-note")?.remove();
    this.draw();
  }

  async submit(event) {
    event.preventDefault();
    const form = event.target;
    if (form.matches(".answering")) {
      await this.send(this.notes.find((one) => one.id === Number(form.closest(".note").dataset.note)), "answer", form.elements.said.value);
      return;
    }
    const proposes = form.querySelector("details")?.open;
    try {
      if (!(await this.saving.flush())) return this.tell("The text is not saved yet, so the note waits; try again when it is.", true);
      const answer = await ask(this.room.to.addNote, { revision: this.saving.revision, ...(this.chosen ?? {}), said: form.elements.said.value, proposal: proposes ? form.elements.proposal.value : null });
      form.remove();
      this.take(answer);
      this.editor.view.focus();
      this.tell("The note is left.");
    } catch (error) {
      this.tell(awayOr(error), true);
    }
    return null;
  }

  // The proposed words in the place of the passage, with its marks, as one step; where the passage reads otherwise by now, it is told.
  async takeWords(note) {
    const place = this.places().get(note.id);
    const { state, view } = this.editor;
    const words = place ? state.doc.textBetween(place.from, place.to, "\n", "\ufffc") : "";
    if (!place || words !== note.quote) {
      this.tell(place ? `It no longer fits: the passage reads “${words.slice(0, 80)}” now.` : "It no longer fits: its passage is gone.", true);
      return;
    }
    const [$from, $to] = [state.doc.resolve(place.from), state.doc.resolve(place.to)];
    const marks = $from.marksAcross($to) || [];
    const { tr } = state;
    if (note.proposal) tr.replaceWith(place.from, place.to, state.schema.text(note.proposal.replaceAll("\n", " "), marks));
    else tr.delete(place.from, place.to);
    view.dispatch(closeHistory(tr).scrollIntoView());
    await this.saving.flush(); // where that fails, the sheet says so, and saves it later
    await this.send(note, "take");
    view.focus();
  }

  async send(note, act, said = "") {
    try {
      this.take(await ask(this.room.to.note.replace("NUMBER", note.id).replace("WHAT", act), { said }));
    } catch (error) {
      this.tell(awayOr(error), true);
    }
  }
}
