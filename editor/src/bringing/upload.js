// Brings files onto the sheet: pictures, sound, video and downloads by way of the library, texts as text.
import { closeHistory } from "@tiptap/pm/history";
import { putItem } from "./items.js";
import { arrive } from "./sending.js";

// The text of files comes onto the sheet, one after the other; each says what came of it.
export async function bringTexts(editor, room, files, place, tell, offer) {
  let at = place;
  for (const file of files) {
    tell(`Reading ${file.name}…`);
    const form = new FormData();
    form.append("file", file);
    try {
      const response = await fetch(room.to.file, { method: "POST", body: form, headers: { accept: "application/json" } });
      const answer = await response.json().catch(() => ({}));
      if (!response.ok) throw new Error(answer.message || "The file could not be read; try again.");
      const before = editor.state.doc.content.size;
      at = Math.min(at, before);
      editor.chain().command(({ tr }) => Boolean(closeHistory(tr))).insertContentAt(at, answer.document.content).run();
      at += editor.state.doc.content.size - before;
      offer(`${file.name}: ${answer.told || "brought in."}`, "Undo", () => editor.chain().focus().undo().run());
    } catch (error) {
      tell(error instanceof TypeError ? `“${file.name}” could not be sent; the network is away. Try again when it is back.` : error.message, true);
    }
  }
}

// All at once, each at its place in the order they were chosen; one that fails does not stop the others.
export function bringIn(editor, room, files, place) {
  if (room.keepHere) {
    bringHere(editor, room, files, place);
    return;
  }
  const group = [];
  for (const file of files) arrive(editor, room, file, place, (item, at) => putItem(editor, room, at, item, files.length === 1), () => {}, group);
}

// Files that stay on this device until they are sent; those that it cannot keep are left out.
async function bringHere(editor, room, files, place) {
  let at = place;
  for (const file of files) {
    const item = await room.keepHere(file);
    if (!item) continue;
    const before = editor.state.doc.content.size;
    putItem(editor, room, Math.min(at, before), item, files.length === 1);
    at += editor.state.doc.content.size - before;
  }
}

// Files of one gallery: it is put when the last of them is kept; those that fail are left out.
export async function bringGallery(editor, room, files, place, put) {
  if (room.keepHere) {
    const items = [];
    for (const file of files) items.push(await room.keepHere(file));
    if (items.some(Boolean)) put(items.filter(Boolean), place);
    return;
  }
  const kept = new Map();
  let left = files.length;
  for (const [index, file] of files.entries()) {
    arrive(editor, room, file, place, (item, at) => kept.set(index, [item, at]), () => {
      left -= 1;
      if (left || !kept.size) return;
      const rows = [...kept].sort(([one], [other]) => one - other).map(([, row]) => row);
      put(rows.map(([item]) => item), Math.min(...rows.map(([, at]) => at)));
    });
  }
}
