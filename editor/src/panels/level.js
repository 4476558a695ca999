// Notes in the margin, each level with its passage.
import { setHidden } from "../core/dom.js";

const GAP = 6;

export function levelOf(editor, place) {
  try {
    const { view } = editor;
    const dom = view.nodeDOM(place.from);
    return dom?.getBoundingClientRect && dom.nodeType === 1 && editor.state.doc.nodeAt(place.from)?.isBlock ? dom.getBoundingClientRect().top : view.coordsAtPos(place.from).top;
  } catch {
    return null;
  }
}

// Each note at its level, below `top` and below the note before it; those whose passage is out of sight are not shown, unless they have none.
export function stack(box, scroller, notes, levels, top) {
  const frame = box.getBoundingClientRect();
  const sheet = scroller.getBoundingClientRect();
  const shown = notes.map((note, at) => levels[at] !== null && levels[at] > sheet.top - 4 && levels[at] < sheet.bottom - 16);
  for (const [at, note] of notes.entries()) setHidden(note, !shown[at]);
  const heights = notes.map((note, at) => (shown[at] ? note.offsetHeight : 0));
  let free = top - frame.top + 14;
  for (const [at, note] of notes.entries()) {
    if (!shown[at]) continue;
    const height = Math.max(free, levels[at] - frame.top);
    setHidden(note, height >= frame.height - 30);
    note.style.top = `${Math.round(height)}px`;
    free = height + heights[at] + GAP;
  }
}
