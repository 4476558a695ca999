// Keeping a block under a name, splitting a long post, and saying what a line of the base line can undo.
import { blocksAt } from "./moving.js";
import { afterChange } from "../core/planning.js";

async function ask(address, body) {
  const response = await fetch(address, {
    method: "POST",
    headers: { "content-type": "application/json", accept: "application/json" },
    body: JSON.stringify(body),
  });
  const answer = await response.json().catch(() => ({}));
  if (!response.ok) throw new Error(answer.message || "It could not be done; try again.");
  return answer;
}

const awayOr = (error) => (error instanceof TypeError ? "The network is away; try again when it is back." : error.message);

export class KeepForm {
  constructor(form, editor, room, tell) {
    Object.assign(this, { form, editor, room, tell });
    this.name = form.querySelector("input");
    this.problem = form.querySelector(".problem");
    form.addEventListener("submit", (event) => {
      event.preventDefault();
      this.keep();
    });
    form.querySelector("[type=button]").addEventListener("click", () => this.close());
    form.addEventListener("keydown", (event) => event.key === "Escape" && this.close());
  }

  open() {
    this.blocks = blocksAt(this.editor.state);
    if (!this.blocks.length) return;
    this.name.value = this.blocks[0].textContent.trim().split(/\s+/).slice(0, 5).join(" ").slice(0, 60);
    this.problem.textContent = "";
    this.form.hidden = false;
    this.name.focus();
    this.name.select();
  }

  close() {
    this.form.hidden = true;
    this.editor.view.focus();
  }

  async keep() {
    const blocks = this.blocks.map((block) => block.toJSON()).flatMap((json) => (json.type === "listItem" ? json.content : [json]));
    try {
      const kept = await ask(this.room.to.kept, { name: this.name.value, blocks });
      this.room.kept.push(kept);
      this.close();
      this.tell(`Saved as “${kept.name}”. Insert… offers it as a copy and as standing copy.`);
    } catch (error) {
      this.problem.textContent = awayOr(error);
    }
  }
}

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
