// Brings picture files to the library and onto the sheet.
import { closeHistory } from "@tiptap/pm/history";
import { putPicture } from "./picture.js";

const KINDS = ["image/jpeg", "image/png", "image/webp"];

export function picturesIn(transfer) {
  return [...(transfer?.files || [])].filter((file) => file.type.startsWith("image/"));
}

const TEXTS = /\.(docx|odt|md|markdown|html?|txt)$/i;

export function textsIn(transfer) {
  return [...(transfer?.files || [])].filter((file) => TEXTS.test(file.name));
}

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

async function send(address, file) {
  const form = new FormData();
  form.append("picture", file, file.name || "pasted.png");
  const response = await fetch(address, { method: "POST", body: form, headers: { accept: "application/json" } });
  const answer = await response.json().catch(() => ({}));
  if (!response.ok) throw new Error(answer.message || "The picture could not be brought in; try again.");
  return answer;
}

// One after the other, each at its place; one that fails does not stop the others.
export async function bringIn(editor, room, files, place, tell) {
  let at = place;
  for (const file of files) {
    if (!KINDS.includes(file.type)) {
      tell(`“${file.name}” is not a JPEG, PNG or WebP picture; choose one of these.`, true);
      continue;
    }
    tell(`Bringing in ${file.name}…`);
    try {
      const answer = await send(room.to.pictures, file);
      const end = editor.state.doc.content.size;
      at = Math.min(at, end);
      putPicture(editor, at, answer.src);
      at += editor.state.doc.nodeAt(at)?.nodeSize || 0;
      tell("");
    } catch (error) {
      const isAway = error instanceof TypeError;
      tell(isAway ? `“${file.name}” could not be sent; the network is away. Try again when it is back.` : error.message, true);
    }
  }
}
