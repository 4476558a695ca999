// The clipboard's HTML becomes a document in Python: it knows styles that the browser may not apply here.
const OWN = "data-pm-slice";

async function readHtml(room, html) {
  const response = await fetch(room.to.read, {
    method: "POST",
    headers: { "content-type": "application/json", accept: "application/json" },
    body: JSON.stringify({ html }),
    signal: AbortSignal.timeout(8000),
  });
  if (!response.ok) throw new Error("not read");
  return response.json();
}

function plainBlocks(text) {
  return text
    .split(/\n\s*\n/)
    .filter((block) => block.trim())
    .map((block) => ({ type: "paragraph", content: [{ type: "text", text: block.trim().replace(/\s*\n\s*/g, " ") }] }));
}

// One paragraph goes into the line; anything more stands as blocks.
function insert(editor, range, blocks) {
  const isLine = blocks.length === 1 && blocks[0].type === "paragraph";
  const content = isLine ? blocks[0].content || [] : blocks;
  if (content.length) editor.chain().insertContentAt(range, content).scrollIntoView().run();
}

// Takes a paste of HTML from outside; answers false for what ProseMirror pastes well by itself.
export function takeHtml(editor, room, clipboard, tell) {
  const html = clipboard?.getData("text/html") || "";
  if (!html || html.includes(OWN) || editor.isActive("codeBlock")) return false;
  const plain = clipboard.getData("text/plain");
  const { from, to } = editor.state.selection;
  readHtml(room, html)
    .then((document) => insert(editor, { from, to }, document.content))
    .catch(() => {
      insert(editor, { from, to }, plainBlocks(plain));
      tell("The text came in plain, because Mobbet could not be reached to read its formatting.", true);
    });
  return true;
}
