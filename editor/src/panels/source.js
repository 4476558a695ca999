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
    const isSame = this.format === format;
    if (this.isOpen) this.close();
    if (isSame) return;
    await this.closing;
    this.format = format;
    this.known = undefined;
    this.name.textContent = format === "html" ? "As HTML" : "As Markdown";
    this.area.setAttribute("aria-label", `The text as ${format === "html" ? "HTML" : "Markdown"}`);
    await this.write();
    const unread = sessionStorage.getItem(this.place());
    if (unread !== null) {
      this.area.value = unread;
      sessionStorage.removeItem(this.place());
    }
    this.box.hidden = false;
    document.querySelector(".room").classList.add("with-source");
    this.area.focus();
    this.area.setSelectionRange(0, 0);
    this.area.scrollTop = 0;
    if (unread !== null) await this.read();
  }

  // What was typed and not read yet is read now; what cannot be read stays in this tab, and is there again when
  // the source is opened.
  close() {
    clearTimeout(this.timer);
    const [place, text] = [this.place(), this.area.value];
    if (text !== this.known) this.closing = this.read().then((isRead) => isRead || sessionStorage.setItem(place, text));
    this.format = null;
    this.box.hidden = true;
    document.querySelector(".room").classList.remove("with-source");
    this.editor.view.focus();
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

  // The sheet as source; what is typed there in the meantime stays.
  async write() {
    const before = this.area.value;
    if (before !== this.known && this.known !== undefined) return;
    try {
      const answer = await this.ask(this.room.to.written, { document: this.editor.getJSON(), format: this.format });
      if (this.area.value !== before) return;
      this.area.value = answer.text;
      this.known = answer.text;
      this.tell("");
    } catch (error) {
      this.tell(error instanceof TypeError ? "The network is away; the sheet goes on without this view." : error.message);
    }
  }

  // The source as sheet; answers whether it could be read. Only the last of several answers counts.
  async read() {
    const text = this.area.value;
    this.asked = (this.asked || 0) + 1;
    const turn = this.asked;
    try {
      const answer = await this.ask(this.room.to.source, { text, format: this.format });
      if (turn !== this.asked) return true;
      this.isReading = true;
      this.editor.commands.setContent(answer.document, { emitUpdate: true });
      this.isReading = false;
      this.known = text;
      this.tell(answer.notes.join(" "));
      return true;
    } catch (error) {
      this.tell(error instanceof TypeError ? "The network is away; what you typed here is kept in this field." : error.message);
      return false;
    }
  }

  tell(words) {
    this.told.textContent = words;
  }
}
