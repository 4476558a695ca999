// The clipboard's HTML becomes a document in Python: it knows styles that the browser may not apply here.
import { closeHistory } from "@tiptap/pm/history";
import { isAllowedAddress } from "../core/addresses.js";

const OWN = "data-pm-slice";
const ADDRESS = /^(https?:\/\/[^\s<>"]+|mailto:[^\s<>"]+)$/i;

async function read(room, pasted) {
  const response = await fetch(room.to.read, {
    method: "POST",
    headers: { "content-type": "application/json", accept: "application/json" },
    body: JSON.stringify(pasted),
    signal: AbortSignal.timeout(8000),
  });
  const answer = await response.json().catch(() => ({}));
  if (!response.ok) throw Object.assign(new Error(answer.message || "not read"), { isRefused: response.status < 500 });
  return answer;
}

// Plain text: blank lines make paragraphs, other line breaks are spaces.
export function plainBlocks(text) {
  return text
    .replace(/\r\n?/g, "\n")
    .split(/\n\s*\n/)
    .filter((block) => block.trim())
    .map((block) => ({ type: "paragraph", content: [{ type: "text", text: block.trim().replace(/\s*\n\s*/g, " ") }] }));
}

// Undoing the paste is offered until anything else changes the text.
function offerUndo(editor, words, offer) {
  const withdraw = offer(words, "Undo the paste", () => editor.chain().focus().undo().run());
  const pasted = editor.state.doc;
  const watch = () => {
    if (editor.state.doc.eq(pasted)) return;
    editor.off("update", watch);
    withdraw();
  };
  editor.on("update", watch);
}

// A step of undo of its own.
const ownStep = ({ tr }) => Boolean(closeHistory(tr));

// One paragraph goes into the line; anything more stands as blocks. Answers with where it stands now.
function insert(editor, range, blocks) {
  const isLine = blocks.length === 1 && blocks[0].type === "paragraph";
  const content = isLine ? blocks[0].content || [] : blocks;
  if (!content.length) return null;
  const before = editor.state.doc.content.size;
  editor.chain().command(ownStep).insertContentAt(range, content).scrollIntoView().run();
  const grown = editor.state.doc.content.size - before;
  return { from: range.from, to: Math.min(editor.state.doc.content.size, range.to + grown) };
}

// Words that are an address link the words that were selected, or stand as a link.
function pasteAddress(editor, text) {
  const address = text.trim();
  if (!ADDRESS.test(address) || !isAllowedAddress(address)) return false;
  const link = { type: "link", attrs: { href: address } };
  if (editor.state.selection.empty) editor.chain().command(ownStep).insertContent({ type: "text", text: address, marks: [link] }).unsetMark("link").run();
  else editor.chain().command(ownStep).setMark("link", link.attrs).run();
  return true;
}

let pastes = 0;

// Takes a paste from outside; answers false for what ProseMirror pastes well by itself. `title` is the field of the post's title.
export function takePaste(editor, room, clipboard, tell, offer, title) {
  if (editor.isActive("codeBlock")) return false;
  const html = clipboard?.getData("text/html") || "";
  const plain = clipboard?.getData("text/plain") || "";
  pastes += 1;
  tell(""); // what an earlier paste came to is told no longer
  if (plain && !plain.includes("\n") && pasteAddress(editor, plain)) return true;
  if (html.includes(OWN)) return false;
  if (!html && !/\n|https?:|www\./i.test(plain.trim())) return false;
  bring(editor, room, html ? { html } : { plain }, plain, tell, offer, title);
  return true;
}

// Reads what was pasted, and puts it where the cursor stood; reports on the last paste alone.
function bring(editor, room, pasted, plain, tell, offer, title) {
  const number = pastes;
  const { from, to } = editor.state.selection;
  const begins = from === to && !editor.state.doc.textBetween(0, from).trim();
  return read(room, pasted)
    .then((answer) => {
      insert(editor, { from, to }, answer.document.content);
      if (number !== pastes) return;
      const heading = answer.document.content[0];
      if (begins && title && !title.value.trim() && heading?.type === "heading" && answer.document.content.length > 1) offerTitle(editor, title, answer.told, offer);
      else offerUndo(editor, answer.told, offer);
    })
    .catch((error) => {
      if (error.isRefused) return tell(error.message, true);
      const place = insert(editor, { from, to }, plainBlocks(plain));
      return later(editor, room, pasted, place, offer);
    });
}

// The heading that a pasted text begins with may be the title of a post that has none.
function offerTitle(editor, title, words, offer) {
  const withdraw = offer(`${words} It begins with a heading, and the post has no title yet.`, "Make it the title", () => {
    const first = editor.state.doc.firstChild;
    if (first?.type.name !== "heading") return;
    title.value = first.textContent.trim().slice(0, 300);
    title.dispatchEvent(new Event("input", { bubbles: true }));
    editor.chain().focus().deleteRange({ from: 0, to: first.nodeSize }).run();
  });
  const watch = () => {
    if (editor.state.doc.firstChild?.type.name === "heading" && !title.value.trim()) return;
    editor.off("update", watch);
    withdraw();
  };
  editor.on("update", watch);
}

// Text without its formatting, as it was asked for.
export function takePlain(editor, room, plain, tell, offer) {
  if (!plain.includes("\n") || editor.isActive("codeBlock")) return false;
  pastes += 1;
  tell("");
  bring(editor, room, { plain }, plain, tell, offer, null);
  return true;
}

// Mobbet could not be reached: the words stand in plain, and the full text is offered when it is back.
function later(editor, room, pasted, place, offer) {
  let { from, to } = place || editor.state.selection;
  const follow = ({ transaction }) => {
    from = transaction.mapping.map(from, -1);
    to = transaction.mapping.map(to, 1);
  };
  editor.on("transaction", follow);
  offer("The text came in plain, because Mobbet could not be reached.", "Put its formatting in", async () => {
    const answer = await read(room, pasted);
    editor.off("transaction", follow);
    editor.chain().command(ownStep).insertContentAt({ from, to }, answer.document.content).run();
    offerUndo(editor, answer.told, offer);
  });
}
