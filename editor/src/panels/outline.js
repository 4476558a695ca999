// The margin's outline: the title and the headings; a click goes there, and it moves with the cursor.
import { closeHistory } from "@tiptap/pm/history";
import { afterChange, debounced } from "../core/planning.js";
import { drawWhileOpen } from "./phone.js";

const PAUSE = 120;

export class Outline {
  constructor(list, editor, title) {
    Object.assign(this, { list, editor, title });
    this.drawn = "";
    this.rows = [];
    const drawSoon = debounced(drawWhileOpen(() => list.closest(".pull").classList.contains("is-up"), () => this.draw()), PAUSE);
    afterChange(editor, drawSoon);
    title.addEventListener("input", drawSoon);
    this.draw();
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
    const drawing = JSON.stringify([rows.map(({ words, level }) => [words, level]), here]);
    if (drawing === this.drawn) {
      rows.forEach(({ place }, index) => {
        this.rows[index].place = place; // typing moves the headings below; their rows stay the same
      });
      return;
    }
    this.drawn = drawing;
    this.rows = rows;
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
    if (row.place >= 0) this.makeDraggable(item, row);
    return item;
  }

  // A heading dragged onto another takes all that stands under it along, to before that one.
  makeDraggable(item, row) {
    item.draggable = true;
    item.addEventListener("dragstart", (event) => {
      this.dragged = row.place;
      event.dataTransfer.effectAllowed = "move";
      event.dataTransfer.setData("text/plain", row.words);
    });
    item.addEventListener("dragover", (event) => {
      if (this.dragged === undefined || this.dragged === row.place) return;
      event.preventDefault();
      item.classList.add("is-over");
    });
    item.addEventListener("dragleave", () => item.classList.remove("is-over"));
    item.addEventListener("drop", (event) => {
      event.preventDefault();
      item.classList.remove("is-over");
      this.moveSection(this.dragged, row.place);
      this.dragged = undefined;
    });
    item.addEventListener("keydown", (event) => {
      if (!event.altKey || !["ArrowUp", "ArrowDown"].includes(event.key)) return;
      event.preventDefault();
      this.step(row.place, event.key === "ArrowUp" ? -1 : 1);
    });
  }

  // Where the section of a heading ends: at the next heading of its level or above, or the text's end.
  endOf(place) {
    const { doc } = this.editor.state;
    const { level } = doc.nodeAt(place).attrs;
    let end = doc.content.size;
    doc.forEach((node, offset) => {
      if (offset > place && offset < end && node.type.name === "heading" && node.attrs.level <= level) end = offset;
    });
    return end;
  }

  moveSection(from, to) {
    const { state, view } = this.editor;
    const end = this.endOf(from);
    if (from === undefined || (to >= from && to <= end)) return;
    const section = state.doc.slice(from, end).content;
    const tr = state.tr;
    if (to > from) tr.insert(to, section).delete(from, end);
    else tr.delete(from, end).insert(to, section);
    view.dispatch(closeHistory(tr).scrollIntoView());
  }

  // With Alt and an arrow: past the section before or after it.
  step(place, by) {
    const places = this.headings().filter((row) => row.place >= 0).map((row) => row.place);
    const at = places.indexOf(place);
    if (by < 0 && at > 0) this.moveSection(place, places[at - 1]);
    else if (by > 0) {
      const end = this.endOf(place);
      if (end < this.editor.state.doc.content.size) this.moveSection(end, place);
    }
    this.draw();
  }

  go(row) {
    document.querySelector("#outline").classList.remove("is-up");
    row.place = this.headings()[this.rows.indexOf(row)]?.place ?? row.place; // what was written a moment ago moved it
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
