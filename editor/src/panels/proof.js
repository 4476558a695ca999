// The proof on the sheet: passages underlined, a note in the margin level with each, F8 from one to the next, mends as one step.
import { docket } from "../core/between.js";
import { closeHistory } from "@tiptap/pm/history";
import { Fragment } from "@tiptap/pm/model";
import { TextSelection } from "@tiptap/pm/state";
import { Decoration } from "@tiptap/pm/view";
import { setHidden } from "../core/dom.js";
import { afterChange } from "../core/planning.js";
import { blockAt } from "../core/places.js";
import { levelOf, stack } from "./level.js";
import { PROOF } from "./proofmarks.js";

const AGAIN = 500;
const MOST_WAIT = 1500;
const isNarrow = matchMedia("(max-width: 1080px)");

// What a mend does to the document, as one transaction; null where the text is another by now.
function mending(state, mend) {
  const found = blockAt(state.doc, mend.path || []);
  if (!found) return null;
  const { tr, schema } = state;
  const { node, place, inside } = found;
  if (mend.end !== undefined && inside + mend.end > place + node.nodeSize) return null;
  const put = (start, end, text) => {
    const [from, to] = [tr.mapping.map(inside + start), tr.mapping.map(inside + end)];
    const marks = tr.doc.resolve(from).marksAcross(tr.doc.resolve(to)) || [];
    if (text) tr.replaceWith(from, to, schema.text(text, marks));
    else tr.delete(from, to);
  };
  const acts = {
    replace: () => put(mend.start, mend.end, mend.text),
    "replace-each": () => [...mend.changes].reverse().forEach((change) => put(...change)),
    remove: () => (tr.doc.childCount === 1 && mend.path.length === 1 ? tr.replaceWith(place, place + node.nodeSize, schema.nodes.paragraph.create()) : tr.delete(place, place + node.nodeSize)),
    set: () => tr.setNodeMarkup(place, null, { ...node.attrs, [mend.name]: mend.value }),
    heading: () => {
      tr.removeMark(inside, inside + node.content.size, schema.marks.bold ?? schema.marks.strong);
      tr.setBlockType(inside, inside + node.content.size, schema.nodes.heading, { level: mend.level });
    },
    link: () => eachLink(tr, inside + mend.start, inside + mend.end, (attrs) => ({ ...attrs, href: mend.href })),
    paid: () => eachLink(tr, inside + mend.start, inside + mend.end, (attrs) => ({ ...attrs, paid: mend.value })),
    "top-row": () => {
      const row = node.child(0);
      const cells = [];
      row.forEach((cell) => cells.push(schema.nodes.tableHeader.create(cell.attrs, cell.content, cell.marks)));
      tr.replaceWith(inside, inside + row.nodeSize, row.copy(Fragment.from(cells)));
    },
  };
  acts[mend.do]();
  return tr.docChanged ? tr : null;
}

// The links of a stretch in another form; words without one get one.
function eachLink(tr, from, to, change) {
  const { link } = tr.doc.type.schema.marks;
  tr.doc.nodesBetween(from, to, (node, at) => {
    if (!node.isText) return;
    const [first, last] = [Math.max(from, at), Math.min(to, at + node.nodeSize)];
    const old = node.marks.find((mark) => mark.type === link);
    tr.removeMark(first, last, link).addMark(first, last, link.create(change(old?.attrs || {})));
  });
}

function made(tag, words, more = {}) {
  const element = Object.assign(document.createElement(tag), more);
  element.textContent = words;
  return element;
}

// What a part that opens is known by, from one reading of the proof to the next.
const nameOf = (part) => part.querySelector("summary").ariaLabel || part.className;

// A form for the reason why a mark may stand.
function standing(kind) {
  const form = made("form", "", { className: "stand" });
  form.append(made("input", "", { name: "reason", className: "input", maxLength: 200, autocomplete: "off", placeholder: "because…", ariaLabel: "Why it may stand", required: true }), made("button", "Let it stand", { className: kind }));
  return form;
}

export class Proof {
  constructor(box, { editor, room, saving, tell }) {
    Object.assign(this, { box, editor, room, saving, tell });
    this.marks = [];
    this.must = 0;
    this.sending = 0;
    this.current = -1;
    this.scroller = document.getElementById("scroll");
    this.scroller.addEventListener("scroll", () => this.layLater(), { passive: true });
    addEventListener("resize", () => this.layLater());
    afterChange(editor, () => this.layLater());
    document.addEventListener("click", (event) => this.press(event));
    document.addEventListener("submit", (event) => this.submit(event));
    document.addEventListener("htmx:afterSettle", (event) => event.target.id === "docket" && this.put());
    document.addEventListener("htmx:afterSwap", (event) => event.target.id === "docket" && this.askLater());
    this.box.addEventListener("keydown", (event) => this.leave(event));
    editor.view.dom.addEventListener("click", (event) => this.touch(event));
    new ResizeObserver(() => this.layLater()).observe(document.getElementById("outline-list"));
    this.opened = new Set();
    document.addEventListener("toggle", ({ target }) => target.closest("#proof") && this.opened[target.open ? "add" : "delete"](nameOf(target)), true);
    this.askLater();
  }

  // Asked for when writing pauses, after the text is saved; an answer of an earlier text is left.
  askLater() {
    clearTimeout(this.asking);
    this.asking = setTimeout(() => this.ask(), AGAIN);
  }

  async ask(sent = null, isHeld = false) {
    if (!navigator.onLine) return null;
    if (this.sending && !sent) return this.askLater(); // what is on its way changes the answer, and is not broken off
    if (this.saving.isDirty && !this.saving.failures && !this.saving.isHalted && !sent && !isHeld) return null; // somebody writes on: the save that follows asks again
    if (!this.sending) this.stop?.abort();
    this.stop = new AbortController();
    this.sending += sent ? 1 : 0;
    try {
      const answer = await fetch(sent?.address || this.room.to.proof, { signal: this.stop.signal, headers: { accept: "application/json" }, ...(sent ? { method: "POST", body: new URLSearchParams(sent.values) } : {}) });
      const proof = await answer.json();
      if (answer.ok) this.take(proof);
      else if (sent || isHeld) this.tell(proof.message, true); // a reading that nobody asked for fails in silence
    } catch {
      // the network is away, or a newer question was asked
    } finally {
      this.sending -= sent ? 1 : 0;
    }
    return null;
  }

  take(proof) {
    if (proof.revision < this.saving.revision) return;
    this.revision = proof.revision;
    this.html = proof.html;
    this.must = proof.must;
    const kept = this.marks[this.current]?.sign;
    this.marks = proof.marks;
    this.why = proof.why;
    this.count = proof.count;
    this.current = kept ? this.marks.findIndex((mark) => mark.sign === kept) : -1;
    this.underline();
    this.put();
    this.draw();
  }

  // The list in the docket, which is read anew with every change, and the words of the main action.
  put() {
    const list = document.getElementById("proof");
    if (list && this.html !== undefined && list.dataset.shown !== this.html && !list.contains(document.activeElement)) {
      list.innerHTML = this.html;
      for (const part of list.querySelectorAll("details")) part.open = this.opened.has(nameOf(part)); // what somebody reads stays open
      list.dataset.shown = this.html;
    }
    const action = document.getElementById("main-action");
    if (!action) return;
    action.dataset.words ??= action.textContent;
    const isEmpty = !this.editor.state.doc.textContent && !document.getElementById("title").value;
    const isHeld = this.must > 0 && !action.disabled && !isEmpty; // an empty post is not nagged about its title
    action.textContent = isHeld ? `Check ${this.must} mark${this.must === 1 ? "" : "s"} first` : action.dataset.words;
    action.dataset.held = isHeld ? "yes" : "";
  }

  placeOf(mark) {
    const found = mark.path.length ? blockAt(this.editor.state.doc, mark.path) : null;
    if (!found || found.node.type.name !== mark.type) return null;
    if (mark.to > mark.from && mark.to > found.node.content.size) return null;
    return mark.to > mark.from ? { from: found.inside + mark.from, to: found.inside + mark.to, isBlock: false } : { from: found.place, to: found.place + found.node.nodeSize, isBlock: true };
  }

  underline() {
    const drawn = this.marks.flatMap((mark, number) => [mark, ...mark.others.map((other) => ({ ...mark, ...other }))].flatMap((one) => {
      const place = this.placeOf(one);
      if (!place) return [];
      const shape = { class: `proof-mark ${mark.severity}` };
      return [place.isBlock ? Decoration.node(place.from, place.to, shape, { number }) : Decoration.inline(place.from, place.to, shape, { number, inclusiveStart: false })];
    }));
    this.editor.view.dispatch(this.editor.state.tr.setMeta(PROOF, drawn).setMeta("addToHistory", false));
  }

  // Where each mark stands now, after what was written since: [{number, from, to}] in reading order.
  places() {
    const found = PROOF.getState(this.editor.state).find();
    return found.map(({ from, to, spec }) => ({ number: spec.number, from, to })).sort((one, other) => one.from - other.from || one.number - other.number);
  }

  // The first place of each mark, by its number: its note stands level with it.
  firsts() {
    const firsts = new Map();
    for (const place of this.places()) if (!firsts.has(place.number)) firsts.set(place.number, place);
    return firsts;
  }

  draw() {
    const focused = this.box.contains(document.activeElement) ? document.activeElement : null;
    const known = new Map([...this.box.children].map((note) => [note.dataset.mark, note]));
    const notes = [...this.firsts().keys()].map((number) => {
      const note = known.get(JSON.stringify(this.marks[number])) ?? this.note(this.marks[number], number);
      note.dataset.number = number;
      note.classList.toggle("on", number === this.current);
      return note; // one that says the same stays, with the reason that is being typed in it
    });
    for (const note of [...this.box.children]) if (!notes.includes(note)) note.remove();
    for (const [at, note] of notes.entries()) if (this.box.children[at] !== note) this.box.insertBefore(note, this.box.children[at] ?? null);
    this.lay();
    if (focused && document.activeElement !== focused) this.counterpartOf(focused)?.focus({ preventScroll: true });
  }

  // The control that stands now where one stood before the notes were drawn anew.
  counterpartOf(control) {
    if (control.isConnected) return control;
    const { sign } = control.closest(".note").dataset;
    const note = [...this.box.children].find((one) => one.dataset.sign === sign);
    const alike = [...(note?.querySelectorAll(control.tagName) ?? [])].filter((one) => one.className === control.className);
    return alike.find((one) => one.textContent === control.textContent) ?? alike[0] ?? note?.querySelector("button");
  }

  note(mark, number) {
    const note = made("div", "", { className: `note ${mark.severity}${number === this.current ? " on" : ""}` });
    note.dataset.number = number;
    note.dataset.sign = mark.sign;
    note.dataset.mark = JSON.stringify(mark);
    const severity = { must: "must be settled", should: "should be settled", could: "could be better" }[mark.severity];
    note.append(made("button", mark.times > 1 ? `${mark.message} ${mark.times} times.` : mark.message, { type: "button", className: "words", title: `${this.why[mark.check][0]}: ${severity}` }));
    const acts = made("p", "", { className: "acts" });
    for (const [at, mend] of mark.mends.entries()) {
      const button = made("button", mend.words, { type: "button", className: "mend" });
      button.dataset.at = at;
      if (at < 4) acts.append(button, " ");
    }
    note.append(acts, this.more(mark));
    return note;
  }

  // What a note offers beside its mends when it is the current one.
  more(mark) {
    const more = made("div", "", { className: "more" });
    if (mark.word) {
      for (const [whose, words] of [["me", "Learn it for me"], ["blog", "Learn it for the blog"]]) {
        const button = made("button", words, { type: "button", className: "learn" });
        button.dataset.whose = whose;
        more.append(button);
      }
    }
    const letting = made("details", "");
    letting.append(made("summary", "Let it stand…"), standing("let"));
    const [name, sentences, example] = this.why[mark.check];
    const why = made("details", "");
    why.append(made("summary", "Why?", { ariaLabel: `Why? ${name}` }), made("p", `${sentences} `));
    why.querySelector("p").append(made("i", example));
    more.append(letting, why);
    return more;
  }

  layLater() {
    this.laying ||= requestAnimationFrame(() => {
      this.laying = 0;
      this.lay();
    });
  }

  // Each note level with its passage, below the outline and below the note before it; those out of sight are not shown.
  lay() {
    const notes = [...this.box.children];
    if (isNarrow.matches) {
      for (const note of notes) setHidden(note, !note.classList.contains("on"));
      return;
    }
    const above = ["outline-list", "split", "splitting"].map((id) => document.getElementById(id)).filter((part) => part && !part.hidden);
    const places = this.firsts();
    const levels = notes.map((note) => {
      const place = places.get(Number(note.dataset.number));
      return place ? levelOf(this.editor, place) : null;
    });
    stack(this.box, this.scroller, notes, levels, Math.max(...above.map((part) => part.getBoundingClientRect().bottom)));
  }

  leave(event) {
    if (event.key !== "Escape" || !this.box.contains(event.target)) return;
    event.preventDefault();
    this.editor.view.focus();
    this.settle(-1);
  }

  // The next mark after the cursor, or after the current one; round to the first after the last.
  step(by) {
    const places = this.places();
    if (!places.length) {
      this.tell(this.marks.length ? "The marks are on the docket; none is in the text." : "Nothing stands out in the text.");
      return;
    }
    const cursor = this.editor.state.selection.from;
    const at = places.findIndex((place) => place.number === this.current && place.from <= cursor && cursor <= place.to);
    let next = at + by;
    if (at < 0) {
      next = by > 0 ? places.findIndex((place) => place.from >= cursor) : places.findLastIndex((place) => place.from < cursor);
      if (next < 0) next = by > 0 ? 0 : places.length - 1;
    }
    this.goTo(places[(next + places.length) % places.length]);
  }

  go(number, isFocused = true) {
    const place = this.firsts().get(number);
    if (place) this.goTo(place, isFocused);
  }

  goTo(place, isFocused = true) {
    const { number } = place;
    const { state, view } = this.editor;
    const mark = this.marks[number];
    const isBlock = mark.to <= mark.from;
    const $from = state.doc.resolve(isBlock ? Math.min(place.from + 1, place.to) : place.from);
    view.dispatch(state.tr.setSelection(isBlock ? TextSelection.near($from) : TextSelection.create(state.doc, place.from, place.to)));
    view.focus(); // so that the passage is seen to be chosen, also while a note has the focus
    const dom = isBlock ? view.nodeDOM(place.from) : view.domAtPos(place.from).node;
    (dom?.nodeType === 1 ? dom : dom?.parentElement)?.scrollIntoView({ block: "center" });
    for (const sheet of document.querySelectorAll(".pull")) sheet.classList.remove("is-up");
    this.settle(number);
    const note = this.box.querySelector(`.note[data-number="${number}"]`);
    if (isFocused) (note?.querySelector(".mend") ?? note?.querySelector(".words"))?.focus({ preventScroll: true });
  }

  settle(number) {
    this.current = number;
    for (const note of this.box.children) note.classList.toggle("on", Number(note.dataset.number) === number);
    this.lay();
  }

  // A passage that is clicked brings its note forward.
  touch(event) {
    if (!event.target.closest?.(".proof-mark")) {
      if (isNarrow.matches && this.current >= 0) this.settle(-1);
      return;
    }
    const { pos } = this.editor.view.posAtCoords({ left: event.clientX, top: event.clientY }) || {};
    const place = this.places().find((one) => one.from <= pos && pos <= one.to);
    if (place) this.settle(place.number);
  }

  mend(number, at) {
    const [mark, mend] = [this.marks[number], this.marks[number].mends[at]];
    if (mend.do === "language") {
      docket().language(mend.language);
      return;
    }
    const tr = mark.others.length && mend.do === "replace" ? this.everywhere(mark, number, mend.text) : mending(this.editor.state, mend);
    if (!tr) {
      this.tell("The text changed meanwhile; the proof is read again.", true);
      this.askLater();
      return;
    }
    const from = this.firsts().get(number)?.from ?? 0;
    const mended = closeHistory(tr);
    const place = Math.min(mended.mapping.map(from, -1), mended.doc.content.size);
    this.editor.view.dispatch(mended.setSelection(TextSelection.near(mended.doc.resolve(place))));
    const left = this.places().filter((place) => place.number !== number);
    this.editor.view.dispatch(this.editor.state.tr.setMeta(PROOF, PROOF.getState(this.editor.state).find().filter((one) => left.some((place) => place.number === one.spec.number))).setMeta("addToHistory", false));
    this.current = -1;
    this.draw();
    this.editor.view.focus(); // the cursor stands where the mend was made, so F8 goes on from there
  }

  // Other words wherever the passage of a mark stands now, as one step.
  everywhere(mark, number, text) {
    const { tr, schema, doc } = this.editor.state;
    for (const { from, to } of this.places().filter((place) => place.number === number).reverse()) {
      if (doc.textBetween(from, to) === mark.word) tr.replaceWith(from, to, schema.text(text, doc.resolve(from).marksAcross(doc.resolve(to)) || []));
    }
    return tr.docChanged ? tr : null;
  }

  press(event) {
    const button = event.target.closest("button");
    if (!button) return;
    const note = button.closest(".note");
    if (note && this.box.contains(note)) {
      const number = Number(note.dataset.number);
      if (button.matches(".words")) this.go(number, event.detail === 0);
      else if (button.matches(".mend")) this.act(number, Number(button.dataset.at));
      else if (button.matches(".learn")) this.send(this.room.to.learn, { word: this.marks[number].word, whose: button.dataset.whose });
    } else if (button.dataset.markGo) this.go(Number(button.dataset.markGo));
    else if (button.dataset.markMend) this.mend(Number(button.dataset.markMend), Number(button.dataset.at));
    else if (button.dataset.markReopen) this.send(this.room.to.reopen, { sign: button.dataset.markReopen });
    else if (button.dataset.markStand) this.askWhy(button);
  }

  act(number, at) {
    const mend = this.marks[number].mends[at];
    if (mend.do === "docket") document.getElementById(`set-${mend.sheet}`)?.click();
    else this.mend(number, at);
  }

  // The reason why a mark of the list may stand, asked for in its place.
  askWhy(button) {
    const form = standing("button is-small");
    form.dataset.sign = button.dataset.markStand;
    button.replaceWith(form);
    form.elements.reason.focus();
  }

  submit(event) {
    const form = event.target;
    if (form.matches("form.stand")) {
      event.preventDefault();
      const sign = form.dataset.sign || this.marks[Number(form.closest(".note").dataset.number)].sign;
      this.send(this.room.to.stand, { sign, reason: form.elements.reason.value });
    } else if (form.matches("#despite")) {
      event.preventDefault();
      docket().place(form.elements.reason.value);
    }
  }

  async send(address, values) {
    document.activeElement?.closest("#proof, .note")?.querySelector("input")?.blur();
    await this.ask({ address, values });
  }

  // The main action does not go on while a mark must be settled: it leads to the first of them, by the text as it stands now.
  async hold() {
    // The server reads it once more before anything goes out; here nobody waits longer than a moment for marks to be drawn.
    if ((await this.saving.flush()) && this.revision !== this.saving.revision) await Promise.race([this.ask(null, true), new Promise((resolve) => setTimeout(resolve, MOST_WAIT))]);
    if (!(this.must > 0)) return false;
    const number = this.marks.findIndex((mark) => mark.severity === "must");
    const isPlaced = this.firsts().has(number);
    if (isPlaced) this.go(number);
    else document.getElementById("proof")?.scrollIntoView({ block: "start" });
    const despite = document.getElementById("despite") ? ", or let it go out all the same below the docket" : "";
    this.tell(`${this.marks[number].message.replace(/\.$/, "")}: settle it first${despite}.`, true);
    return true;
  }
}
