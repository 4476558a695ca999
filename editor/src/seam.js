// The seam: the place between two blocks where something can be put. It shows under the pointer, and at
// the cursor with Alt+Enter.
const REACH = 11;

export class Seam {
  constructor(page, editor, kinds) {
    Object.assign(this, { page, editor });
    this.place = null;
    this.box = document.createElement("div");
    this.box.className = "seam";
    this.box.hidden = true;
    this.box.setAttribute("role", "group");
    this.box.setAttribute("aria-label", "Put here");
    const label = document.createElement("b");
    label.textContent = "Put here:";
    this.box.append(label);
    for (const [words, put] of kinds) {
      const button = document.createElement("button");
      button.type = "button";
      button.textContent = words;
      button.addEventListener("click", () => {
        const place = this.place;
        this.hide();
        put(place);
      });
      this.box.append(button);
    }
    page.append(this.box);
    page.addEventListener("mousemove", (event) => this.follow(event));
    page.addEventListener("mouseleave", () => this.hideUnlessFocused());
    this.box.addEventListener("keydown", (event) => event.key === "Escape" && this.leave());
    this.box.addEventListener("focusout", (event) => !this.box.contains(event.relatedTarget) && this.hide());
    editor.on("update", () => this.hide());
  }

  // Where each seam is: [position in the document, height in pixels below the page's top].
  places() {
    const top = this.page.getBoundingClientRect().top;
    const found = [];
    this.editor.state.doc.forEach((node, offset) => {
      const rect = this.editor.view.nodeDOM(offset)?.getBoundingClientRect?.();
      if (rect) found.push({ from: offset, to: offset + node.nodeSize, top: rect.top - top, bottom: rect.bottom - top });
    });
    return found.map((block, index) => {
      const next = found[index + 1];
      return [block.to, next ? (block.bottom + next.top) / 2 : block.bottom + 10];
    });
  }

  follow(event) {
    if (event.buttons || this.box.contains(event.target)) return;
    const y = event.clientY - this.page.getBoundingClientRect().top;
    const near = this.places().find(([, height]) => Math.abs(height - y) <= REACH);
    if (near) this.show(near);
    else this.hideUnlessFocused();
  }

  show([place, height]) {
    this.place = place;
    this.box.style.top = `${height}px`;
    this.box.hidden = false;
  }

  hide() {
    this.box.hidden = true;
  }

  hideUnlessFocused() {
    if (!this.box.contains(document.activeElement)) this.hide();
  }

  // After the block in which the cursor is.
  open() {
    const { $from } = this.editor.state.selection;
    const after = $from.depth ? $from.after(1) : this.editor.state.doc.content.size;
    const places = this.places();
    const seam = places.find(([place]) => place === after) || places.at(-1);
    if (!seam) return false;
    this.show(seam);
    this.box.scrollIntoView({ block: "nearest" });
    this.box.querySelector("button").focus();
    return true;
  }

  leave() {
    this.hide();
    this.editor.view.focus();
  }
}
