// The toolbar: every control in words, its state always that of the text under the cursor.
const KINDS = [
  ["paragraph", "Paragraph", (chain) => chain.setParagraph()],
  ["h2", "Heading", (chain) => chain.setHeading({ level: 2 })],
  ["h3", "Subheading", (chain) => chain.setHeading({ level: 3 })],
  ["h4", "Small heading", (chain) => chain.setHeading({ level: 4 })],
  ["code", "Code", (chain) => chain.setCodeBlock()],
];

const BUTTONS = [
  null,
  { words: "B", name: "Bold", look: "strong", keys: "Ctrl+B", on: "strong", run: (chain) => chain.toggleBold() },
  { words: "I", name: "Italic", look: "em", keys: "Ctrl+I", on: "emphasis", run: (chain) => chain.toggleItalic() },
  { words: "U", name: "Underline", look: "u", keys: "Ctrl+U", on: "underline", run: (chain) => chain.toggleUnderline() },
  { words: "S", name: "Strike through", look: "s", keys: "Ctrl+Shift+S", on: "strike", run: (chain) => chain.toggleStrike() },
  { words: "Code", name: "Code in the line", keys: "Ctrl+E", on: "code", run: (chain) => chain.toggleCode() },
  { words: "Link", keys: "Ctrl+K", on: "link", act: (tools) => tools.openLink() },
  null,
  { words: "List", on: "bulletList", keys: "Ctrl+Shift+8", run: (chain) => chain.toggleBulletList() },
  { words: "1. 2. 3.", name: "Numbered list", keys: "Ctrl+Shift+7", on: "orderedList", run: (chain) => chain.toggleOrderedList() },
  { words: "Quote", keys: "Ctrl+Shift+B", on: "quote", run: (chain) => chain.toggleBlockquote() },
  { words: "Divider", run: (chain) => chain.setHorizontalRule() },
  { words: "Picture", act: (tools) => tools.choosePicture() },
  null,
  { words: "Undo", keys: "Ctrl+Z", can: (editor) => editor.can().undo(), run: (chain) => chain.undo() },
  { words: "Redo", keys: "Ctrl+Shift+Z", can: (editor) => editor.can().redo(), run: (chain) => chain.redo() },
];

export class Tools {
  constructor(box, editor, { choosePicture, isAllowedAddress }) {
    Object.assign(this, { box, editor, choosePicture, isAllowedAddress });
    this.buttons = [];
    this.kind = this.makeKind();
    box.append(this.kind);
    for (const row of BUTTONS) box.append(row ? this.makeButton(row) : this.makeLine());
    this.makeLinkForm();
    box.addEventListener("keydown", (event) => this.walk(event));
    editor.on("transaction", () => this.planUpdate());
    this.update();
  }

  makeKind() {
    const select = document.createElement("select");
    select.className = "kind";
    select.setAttribute("aria-label", "Kind of block");
    for (const [value, words] of KINDS) select.add(new Option(words, value));
    select.addEventListener("change", () => {
      const row = KINDS.find(([value]) => value === select.value);
      row[2](this.chain()).run();
    });
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
    const words = row.look ? document.createElement(row.look) : document.createElement("span");
    words.textContent = row.words;
    button.append(words);
    if (row.name) button.setAttribute("aria-label", row.name);
    if (row.keys) button.title = `${row.name || row.words}: ${row.keys}`;
    button.addEventListener("mousedown", (event) => event.preventDefault());
    button.addEventListener("click", () => (row.act ? row.act(this) : row.run(this.chain()).run()));
    this.buttons.push({ button, row });
    return button;
  }

  makeLinkForm() {
    this.form = document.createElement("form");
    this.form.className = "link-form";
    this.form.hidden = true;
    this.address = document.createElement("input");
    this.address.className = "input";
    this.address.setAttribute("aria-label", "Address of the link");
    this.address.placeholder = "https://";
    this.use = this.formButton("Use", "submit");
    this.remove = this.formButton("Remove the link", "button");
    this.problem = document.createElement("span");
    this.problem.className = "problem";
    this.problem.setAttribute("role", "alert");
    this.form.append(this.address, this.use, this.remove, this.problem);
    this.form.addEventListener("submit", (event) => {
      event.preventDefault();
      this.setLink();
    });
    this.remove.addEventListener("click", () => {
      this.form.hidden = true;
      this.chain().extendMarkRange("link").unsetLink().run();
    });
    this.box.append(this.form);
  }

  formButton(words, type) {
    const button = document.createElement("button");
    button.type = type;
    button.className = "button is-small";
    button.textContent = words;
    return button;
  }

  openLink() {
    this.editor.view.domObserver.flush(); // a selection made a moment ago counts
    const href = this.editor.getAttributes("link").href || "";
    this.address.value = href;
    this.remove.hidden = !href;
    this.problem.textContent = "";
    this.form.hidden = false;
    this.address.focus();
    this.address.select();
  }

  closeLink() {
    this.form.hidden = true;
    this.editor.view.focus();
  }

  // Commands on the text, which has the focus at once rather than with the next frame.
  chain() {
    this.editor.view.domObserver.flush(); // a selection made a moment ago counts
    this.editor.view.focus();
    return this.editor.chain();
  }

  setLink() {
    let href = this.address.value.trim();
    if (/^[^\s@/:]+@[^\s@/]+\.[^\s@/]+$/.test(href)) href = `mailto:${href}`;
    else if (/^[\w-]+(\.[\w-]+)+([/?#].*)?$/.test(href)) href = `https://${href}`;
    const leads = /^([a-z][a-z0-9+.-]*:|[/#])/i.test(href);
    if (!leads || !this.isAllowedAddress(href)) {
      this.problem.textContent = href ? `“${href}” is no address of a page; write it like https://name.example.` : "Type the address it leads to.";
      return;
    }
    this.form.hidden = true;
    const chain = this.chain().extendMarkRange("link");
    if (this.editor.state.selection.empty && !this.editor.isActive("link")) {
      chain.insertContent({ type: "text", text: this.address.value.trim(), marks: [{ type: "link", attrs: { href } }] }).unsetMark("link").run();
    } else chain.setLink({ href }).run();
  }

  // One stop for Tab; the arrows go from control to control.
  walk(event) {
    if (event.target.closest("form")) {
      if (event.key === "Escape") this.closeLink();
      return;
    }
    if (event.key === "Escape") this.editor.view.focus();
    if (!["ArrowLeft", "ArrowRight"].includes(event.key)) return;
    const stops = [this.kind, ...this.buttons.map(({ button }) => button)].filter((stop) => !stop.disabled);
    const next = stops[(stops.indexOf(event.target) + (event.key === "ArrowRight" ? 1 : stops.length - 1)) % stops.length];
    for (const stop of stops) stop.tabIndex = stop === next ? 0 : -1;
    next.focus();
    event.preventDefault();
  }

  planUpdate() {
    if (this.frame) return;
    this.frame = requestAnimationFrame(() => {
      this.frame = null;
      this.update();
    });
  }

  update() {
    const { editor } = this;
    for (const { button, row } of this.buttons) {
      if (row.on) button.setAttribute("aria-pressed", String(editor.isActive(row.on)));
      if (row.can) button.disabled = !row.can(editor);
    }
    const level = editor.getAttributes("heading").level;
    const value = editor.isActive("codeBlock") ? "code" : editor.isActive("heading") ? `h${Math.min(4, Math.max(2, level))}` : "paragraph";
    if (this.kind.value !== value) this.kind.value = value;
  }
}
