// The whole sheet as Markdown or HTML, beside it: typed there it comes to the sheet, typed on the sheet it comes there.
const QUIET = 500;

export class Source {
  constructor(box, editor, room) {
    Object.assign(this, { box, editor, room });
    this.area = box.querySelector("textarea");
    this.told = box.querySelector(".told");
    this.name = box.querySelector("h2");
    this.format = null;
    this.area.addEventListener("input", () => this.plan(() => this.read()));
    this.area.addEventListener("keydown", (event) => event.key === "Escape" && this.close());
    box.querySelector("button").addEventListener("click", () => this.close());
    addEventListener("pagehide", () => this.isOpen && this.area.value !== this.known && sessionStorage.setItem(this.place(), this.area.value));
    editor.on("update", () => this.isOpen && !this.isReading && this.plan(() => this.write()));
  }

  get isOpen() {
    return this.format !== null;
  }

  place() {
    return `mobbet:source:${this.room.post}:${this.format}`;
  }

  plan(act) {
    clearTimeout(this.timer);
    this.timer = setTimeout(act, QUIET);
  }

  async toggle(format) {
    if (this.format === format) return this.close();
    if (this.isOpen) {
      await this.settle();
      if (this.area.value !== this.known) sessionStorage.setItem(this.place(), this.area.value);
      this.known = this.area.value;
    }
    this.format = format;
    this.name.textContent = format === "html" ? "As HTML" : "As Markdown";
    this.area.setAttribute("aria-label", `The text as ${format === "html" ? "HTML" : "Markdown"}`);
    this.box.hidden = false;
    document.querySelector(".room").classList.add("with-source");
    await this.write();
    const unread = sessionStorage.getItem(this.place());
    if (unread !== null) {
      this.area.value = unread;
      sessionStorage.removeItem(this.place());
      await this.read();
    }
    this.area.focus();
    this.area.setSelectionRange(0, 0);
    this.area.scrollTop = 0;
    return undefined;
  }

  // What could not be read stays in this tab, and is there again when the source is opened.
  async close() {
    await this.settle();
    if (this.area.value !== this.known) sessionStorage.setItem(this.place(), this.area.value);
    this.format = null;
    this.box.hidden = true;
    document.querySelector(".room").classList.remove("with-source");
    this.editor.view.focus();
  }

  // What was typed and not read yet is read now.
  async settle() {
    clearTimeout(this.timer);
    if (this.area.value !== this.known) await this.read();
  }

  async ask(address, body) {
    const response = await fetch(address, {
      method: "POST",
      headers: { "content-type": "application/json", accept: "application/json" },
      body: JSON.stringify(body),
    });
    const answer = await response.json();
    if (!response.ok) throw new Error(answer.message || "It could not be read.");
    return answer;
  }

  async write() {
    if (this.area.value !== this.known && this.known !== undefined && document.activeElement === this.area) return;
    try {
      const answer = await this.ask(this.room.to.written, { document: this.editor.getJSON(), format: this.format });
      this.area.value = answer.text;
      this.known = answer.text;
      this.tell("");
    } catch (error) {
      this.tell(error instanceof TypeError ? "The network is away; the sheet goes on without this view." : error.message);
    }
  }

  async read() {
    const text = this.area.value;
    try {
      const answer = await this.ask(this.room.to.source, { text, format: this.format });
      this.isReading = true;
      this.editor.chain().setMeta("addToHistory", true).setContent(answer.document, { emitUpdate: true }).run();
      this.isReading = false;
      this.known = text;
      this.tell(answer.notes.join(" "));
    } catch (error) {
      this.tell(error instanceof TypeError ? "The network is away; what you typed here is kept in this field." : error.message);
    }
  }

  tell(words) {
    this.told.textContent = words;
  }
}
