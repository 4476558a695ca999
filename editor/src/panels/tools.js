// The toolbar: every control in words, its state always that of the text under the cursor.
import { redoDepth, undoDepth } from "@tiptap/pm/history";
import { STEPS, TINTS } from "../core/dress.js";
import { afterChange } from "../core/planning.js";

const KINDS = [
  ["paragraph", "Paragraph", (chain) => chain.setParagraph()],
  ["h2", "Heading", (chain) => chain.setHeading({ level: 2 })],
  ["h3", "Subheading", (chain) => chain.setHeading({ level: 3 })],
  ["h4", "Small heading", (chain) => chain.setHeading({ level: 4 })],
  ["code", "Code", (chain) => chain.setCodeBlock()],
  ["callout", "Callout", (chain) => chain.toggleWrap("callout")],
];

const BUTTONS = [
  null,
  { words: "B", name: "Bold", look: "strong", phone: "always", keys: "Ctrl+B", on: "strong", run: (chain) => chain.toggleBold() },
  { words: "I", name: "Italic", look: "em", phone: "always", keys: "Ctrl+I", on: "emphasis", run: (chain) => chain.toggleItalic() },
  { words: "U", name: "Underline", look: "u", phone: "words", keys: "Ctrl+U", on: "underline", run: (chain) => chain.toggleUnderline() },
  { words: "Link", phone: "always", keys: "Ctrl+K", on: "link", act: (tools) => tools.link() },
  null,
  { words: "List", phone: "writing", on: "bulletList", keys: "Ctrl+Shift+8", run: (chain) => chain.toggleBulletList() },
  { words: "1. 2. 3.", name: "1. 2. 3.: numbered list", keys: "Ctrl+Shift+7", on: "orderedList", run: (chain) => chain.toggleOrderedList() },
  { words: "Quote", phone: "words", keys: "Ctrl+Shift+B", on: "quote", run: (chain) => chain.toggleBlockquote() },
  { words: "Camera", phone: "writing only", act: (tools) => tools.acts.camera() },
  { words: "Picture", act: (tools) => tools.acts.picture() },
  { words: "Insert…", keys: "Alt+Enter", act: (tools) => tools.acts.putHere() },
  null,
  { words: "Undo", keys: "Ctrl+Z", can: (editor) => undoDepth(editor.state) > 0, run: (chain) => chain.undo() },
  { words: "Redo", keys: "Ctrl+Shift+Z", can: (editor) => redoDepth(editor.state) > 0, run: (chain) => chain.redo() },
  null,
  { words: "More", name: "More formatting", opens: true, phone: "never", act: (tools) => tools.toggleMore() },
];

const MORE = [
  { words: "S", name: "Strike through", look: "s", keys: "Ctrl+Shift+S", on: "strike", run: (chain) => chain.toggleStrike() },
  { words: "Code", name: "Code in the line", keys: "Ctrl+E", on: "code", run: (chain) => chain.toggleCode() },
  { words: "Raised", keys: "Ctrl+.", on: "superscript", run: (chain) => chain.toggleMark("superscript") },
  { words: "Lowered", keys: "Ctrl+,", on: "subscript", run: (chain) => chain.toggleMark("subscript") },
  { words: "Larger", act: (tools) => tools.resize(1) },
  { words: "Smaller", act: (tools) => tools.resize(-1) },
  { words: "Markdown", act: (tools) => tools.acts.source("markdown") },
  { words: "HTML", act: (tools) => tools.acts.source("html") },
];

// The words alone, for the pairs of tint and marker that can be read on each other (the server says which).
function optionsOf(select, first, names) {
  select.replaceChildren(new Option(first, ""), ...names.map((name) => new Option(name, name)));
}

export class Tools {
  constructor(box, editor, room, acts) {
    Object.assign(this, { box, editor, room, acts });
    this.buttons = [];
    this.kind = this.makeSelect("kind", "Kind of block", (value) => KINDS.find(([name]) => name === value)?.[2](this.chain()).run());
    for (const [value, words] of KINDS) this.kind.add(new Option(words, value));
    box.append(this.kind, ...BUTTONS.map((row) => (row ? this.makeButton(row) : this.makeLine())));
    this.more = document.createElement("span");
    this.more.className = "more";
    this.more.hidden = true;
    this.makeMore();
    box.append(this.more);
    box.addEventListener("keydown", (event) => this.walk(event));
    afterChange(editor, () => this.update());
    this.update();
  }

  makeMore() {
    this.tint = this.makeSelect("", "Tint of the words", (value) => this.dress("tint", value));
    this.marker = this.makeSelect("", "Marker behind the words", (value) => this.dress("marker", value));
    this.language = this.makeSelect("", "Language of the words", (value) => (value ? this.chain().setMark("language", { language: value }).run() : this.chain().unsetMark("language").run()));
    this.language.replaceChildren(new Option("In another language…", ""), ...this.room.languages.map(([tag, name]) => new Option(name, tag)));
    this.fill = this.makeSelect("", "Put a fill-in here", (value) => {
      this.fill.value = "";
      if (value) this.chain().insertContent({ type: "fillIn", attrs: { name: value } }).run();
    });
    this.fill.replaceChildren(new Option("Fill-in…", ""), ...this.room.fill.map((one) => new Option(one.words, one.name)));
    const clear = { words: "Clear formatting", keys: "Ctrl+\\", run: (chain) => chain.unsetAllMarks() };
    const find = { words: "Find", name: "Find and replace", keys: "Ctrl+F", act: (tools) => tools.acts.find() };
    const dress = [...MORE.map((row) => this.makeButton(row)), this.tint, this.marker, this.language, this.makeButton(clear)];
    this.more.append(...dress, this.fill, this.makeLine(), this.makeButton(find));
  }

  makeSelect(className, name, act) {
    const select = document.createElement("select");
    if (className) select.className = className;
    select.setAttribute("aria-label", name);
    select.addEventListener("change", () => act(select.value));
    return select;
  }

  makeLine() {
    const line = document.createElement("span");
    line.className = "sep";
    return line;
  }

  makeButton(row) {
    const button = document.createElement("button");
    button.type = "button";
    button.tabIndex = -1;
    const words = document.createElement(row.look || "span");
    words.textContent = row.words;
    button.append(words);
    if (row.name) button.setAttribute("aria-label", row.name);
    if (row.phone) button.dataset.phone = row.phone;
    if (row.opens) button.setAttribute("aria-expanded", "false");
    if (row.keys) button.title = `${row.name || row.words}: ${row.keys}`;
    button.addEventListener("mousedown", (event) => event.preventDefault());
    button.addEventListener("click", () => (row.act ? row.act(this) : row.run(this.chain()).run()));
    this.buttons.push({ button, row });
    return button;
  }

  toggleMore() {
    this.more.hidden = !this.more.hidden;
    this.buttons.find(({ row }) => row.opens).button.setAttribute("aria-expanded", String(!this.more.hidden));
  }

  // Commands on the text, which has the focus at once rather than with the next frame.
  chain() {
    this.editor.view.domObserver.flush(); // a selection made a moment ago counts
    this.editor.view.focus();
    return this.editor.chain();
  }

  resize(by) {
    const steps = [STEPS[0], STEPS[1], 0, ...STEPS.slice(2)];
    const now = this.editor.getAttributes("size").step || 0;
    const next = steps[Math.min(steps.length - 1, Math.max(0, steps.indexOf(now) + by))];
    if (next) this.chain().setMark("size", { step: next }).run();
    else this.chain().unsetMark("size").run();
  }

  dress(name, value) {
    if (value) this.chain().setMark(name, { [name]: value }).run();
    else this.chain().unsetMark(name).run();
  }

  // One stop for Tab; the arrows go from control to control.
  walk(event) {
    if (event.key === "Escape") this.editor.view.focus();
    if (!["ArrowLeft", "ArrowRight"].includes(event.key)) return;
    const stops = [...this.box.querySelectorAll("select, button")].filter((stop) => !stop.disabled && stop.offsetParent);
    const next = stops[(stops.indexOf(event.target) + (event.key === "ArrowRight" ? 1 : stops.length - 1)) % stops.length];
    for (const stop of stops) stop.tabIndex = stop === next ? 0 : -1;
    next.focus();
    event.preventDefault();
  }

  focus() {
    (this.box.querySelector('[tabindex="0"]') || this.kind).focus();
  }

  update() {
    const { editor } = this;
    for (const { button, row } of this.buttons) {
      if (row.on) {
        const isOn = String(editor.isActive(row.on));
        if (button.getAttribute("aria-pressed") !== isOn) button.setAttribute("aria-pressed", isOn);
      }
      if (row.can && button.disabled === row.can(editor)) button.disabled = !button.disabled;
    }
    const level = editor.getAttributes("heading").level;
    const value = editor.isActive("codeBlock")
      ? "code"
      : editor.isActive("heading")
        ? `h${Math.min(4, Math.max(2, level))}`
        : editor.isActive("callout")
          ? "callout"
          : "paragraph";
    if (this.kind.value !== value) this.kind.value = value;
    if (!this.more.hidden || !this.tint.length) this.updateDress();
  }

  updateDress() {
    this.language.value = this.editor.getAttributes("language").language || "";
    const tint = this.editor.getAttributes("tint").tint || "";
    const marker = this.editor.getAttributes("marker").marker || "";
    const pair = `${tint} ${marker}`;
    if (pair === this.pair) return;
    this.pair = pair;
    const { tintsOn, markersUnder } = this.room.palette;
    optionsOf(this.tint, "Tint…", TINTS.filter((name) => name === tint || tintsOn[marker].includes(name)));
    optionsOf(this.marker, "Marker…", TINTS.filter((name) => name === marker || markersUnder[tint].includes(name)));
    this.tint.value = tint;
    this.marker.value = marker;
  }
}
