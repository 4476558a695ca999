// Splitting a long post at its headings.
import { ask, awayOr } from "../core/requests.js";
import { afterChange } from "../core/planning.js";

// The outline's headings become choices; each chosen one begins a part of its own.
export class Splitting {
  constructor({ button, form, list, editor, room, saving, offer }) {
    Object.assign(this, { button, form, list, editor, room, saving, offer });
    button.addEventListener("click", () => this.open());
    form.querySelector("[type=button]").addEventListener("click", () => this.close());
    form.addEventListener("submit", (event) => {
      event.preventDefault();
      this.split();
    });
    const show = () => {
      button.hidden = this.headings().length === 0 || !form.hidden;
    };
    afterChange(editor, show);
    show();
  }

  // [index of the top-level block, words] of every heading that can begin a part.
  headings() {
    const found = [];
    this.editor.state.doc.forEach((node, offset, index) => {
      if (node.type.name === "heading" && index > 0 && node.textContent.trim()) found.push([index, node.textContent]);
    });
    return found;
  }

  open() {
    const boxes = this.headings().map(([index, words]) => {
      const label = document.createElement("label");
      const box = document.createElement("input");
      box.type = "checkbox";
      box.value = index;
      label.append(box, ` ${words}`);
      return label;
    });
    this.form.querySelector(".cuts")?.remove();
    const cuts = document.createElement("div");
    cuts.className = "cuts";
    cuts.append(...boxes);
    this.form.querySelector("p").after(cuts);
    this.form.hidden = false;
    this.button.hidden = true;
    boxes[0]?.querySelector("input").focus();
  }

  close() {
    this.form.hidden = true;
    this.button.hidden = false;
  }

  async split() {
    const blocks = [...this.form.querySelectorAll("input:checked")].map((box) => Number(box.value));
    try {
      if (!(await this.saving.flush())) throw new TypeError();
      const made = await ask(this.room.to.split, { blocks });
      sessionStorage.setItem(`mobbet:split:${this.room.post}`, JSON.stringify(made));
      location.reload();
    } catch (error) {
      this.offer(awayOr(error));
    }
  }

  // After the page has come again: says what was done, with its undo.
  tellLast() {
    const key = `mobbet:split:${this.room.post}`;
    const made = JSON.parse(sessionStorage.getItem(key) || "null");
    if (!made) return;
    sessionStorage.removeItem(key);
    this.offer(`Split into ${made.count} parts of one series.`, "Undo the split", async () => {
      if (!(await this.saving.flush())) throw new TypeError();
      await ask(`${this.room.to.split}/undo`, made);
      location.reload();
    });
  }
}
