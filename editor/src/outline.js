// The margin's outline: the title and the headings; a click goes there, and it moves with the cursor.
export class Outline {
  constructor(list, editor, title) {
    Object.assign(this, { list, editor, title });
    this.drawn = "";
    editor.on("update", () => this.plan());
    editor.on("selectionUpdate", () => this.plan());
    title.addEventListener("input", () => this.plan());
    this.draw();
  }

  plan() {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.draw(), 120);
  }

  headings() {
    const found = [{ words: this.title.value.trim() || "Title", level: 1, place: -1 }];
    this.editor.state.doc.forEach((node, offset) => {
      if (node.type.name === "heading") found.push({ words: node.textContent || "Empty heading", level: node.attrs.level, place: offset });
    });
    return found;
  }

  draw() {
    const rows = this.headings();
    const cursor = this.editor.state.selection.from;
    const here = rows.filter((row) => row.place < cursor).length - 1;
    const drawing = JSON.stringify([rows, here]);
    if (drawing === this.drawn) return;
    this.drawn = drawing;
    this.list.replaceChildren(...rows.map((row, index) => this.entry(row, index === here)));
  }

  entry(row, isHere) {
    const item = document.createElement("li");
    item.className = `level-${row.level}${isHere ? " on" : ""}`;
    const button = document.createElement("button");
    button.type = "button";
    button.textContent = row.words;
    if (isHere) button.setAttribute("aria-current", "true");
    button.addEventListener("click", () => this.go(row));
    item.append(button);
    return item;
  }

  go(row) {
    document.querySelector("#outline").classList.remove("is-up");
    if (row.place < 0) {
      this.title.focus();
      this.title.scrollIntoView({ block: "center" });
      return;
    }
    this.editor.view.focus();
    this.editor.commands.setTextSelection(row.place + 1);
    this.editor.view.nodeDOM(row.place)?.scrollIntoView({ block: "start" });
  }
}
