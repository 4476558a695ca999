// The clipboard's HTML becomes a document in Python: it knows styles that the browser may not apply here.
import { closeHistory } from "@tiptap/pm/history";
import { isAllowedAddress } from "../core/addresses.js";

const OWN = "data-pm-slice";
const ADDRESS = /^(https?:\/\/[^\s<>"]+|mailto:[^\s<>"]+)$/i;

async function readHtml(room, html) {
  const response = await fetch(room.to.read, {
    method: "POST",
    headers: { "content-type": "application/json", accept: "application/json" },
    body: JSON.stringify({ html }),
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

// Takes a paste from outside; answers false for what ProseMirror pastes well by itself.
export function takePaste(editor, room, clipboard, tell, offer) {
  if (editor.isActive("codeBlock")) return false;
  const html = clipboard?.getData("text/html") || "";
  const plain = clipboard?.getData("text/plain") || "";
  if (plain && !plain.includes("\n") && pasteAddress(editor, plain)) return true;
  if (html.includes(OWN)) return false;
  if (!html) return takePlain(editor, plain);
  const { from, to } = editor.state.selection;
  readHtml(room, html)
    .then((answer) => {
      insert(editor, { from, to }, answer.document.content);
      if (answer.told) offerUndo(editor, answer.told, offer);
    })
    .catch((error) => {
      if (error.isRefused) return tell(error.message, true);
      const place = insert(editor, { from, to }, plainBlocks(plain));
      return later(editor, room, html, place, offer);
    });
  return true;
}

export function takePlain(editor, plain) {
  const blocks = plainBlocks(plain);
  if (blocks.length < 2) return false;
  const { from, to } = editor.state.selection;
  insert(editor, { from, to }, blocks);
  return true;
}

// Mobbet could not be reached: the words stand in plain, and the full text is offered when it is back.
function later(editor, room, html, place, offer) {
  let { from, to } = place || editor.state.selection;
  const follow = ({ transaction }) => {
    from = transaction.mapping.map(from, -1);
    to = transaction.mapping.map(to, 1);
  };
  editor.on("transaction", follow);
  offer("The text came in plain, because Mobbet could not be reached.", "Put its formatting in", async () => {
    const answer = await readHtml(room, html);
    editor.off("transaction", follow);
    editor.chain().command(ownStep).insertContentAt({ from, to }, answer.document.content).run();
    if (answer.told) offerUndo(editor, answer.told, offer);
  });
}
