// Saving blocks for reuse under a name.
import { ask, awayOr } from "../core/requests.js";
import { blocksAt } from "./moving.js";

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
