// What the seam offers: each kind of block, the blocks that were kept, and the standing copies.
import { Selection } from "@tiptap/pm/state";

const paragraph = () => ({ type: "paragraph" });
const cell = (type) => ({ type, content: [paragraph()] });
const row = (type) => ({ type: "tableRow", content: [cell(type), cell(type), cell(type)] });
const wrapped = (type) => ({ type, content: [paragraph()] });
const list = (type) => ({ type, content: [{ type: "listItem", content: [paragraph()] }] });

// [words, block, further words to be found by]
const KINDS = [
  ["Table", { type: "table", content: [row("tableHeader"), row("tableCell"), row("tableCell")] }, "rows columns grid"],
  ["Callout", { type: "callout", content: [paragraph()] }, "note warning box hint"],
  ["Button", { type: "button", attrs: { words: "", address: "" } }, "call to action link"],
  ["Beside", { type: "beside", content: [wrapped("side"), wrapped("side")] }, "columns two side by side"],
  ["Heading", { type: "heading", attrs: { level: 2 } }, "title section"],
  ["Subheading", { type: "heading", attrs: { level: 3 } }, "title section"],
  ["List", list("bulletList"), "bullets points"],
  ["Numbered list", list("orderedList"), "steps"],
  ["Quote", wrapped("quote"), "citation said"],
  ["Code", { type: "codeBlock" }, "program listing"],
  ["Divider", { type: "divider" }, "line rule"],
  ["Contents", { type: "contents" }, "outline headings toc"],
  ["Teaser line", { type: "teaserLine" }, "more break excerpt fold"],
  ["Review", { type: "review" }, "score rating test stars"],
  ["HTML by hand", { type: "rawHtml" }, "raw markup source"],
];

// The stretch that blocks put at a place between two others take: that of the empty line above it with the cursor, or none.
export function stretchAt(editor, place) {
  const { doc, selection } = editor.state;
  const to = Math.min(place ?? doc.content.size, doc.content.size);
  const above = doc.resolve(to).nodeBefore;
  const isEmptyLine = above?.type.name === "paragraph" && !above.content.size && selection.empty && selection.from === to - 1;
  return { from: isEmptyLine ? to - above.nodeSize : to, to };
}

// Puts blocks at a place between two others; the cursor goes into the first, or selects it.
export function putBlocks(editor, place, blocks) {
  const end = editor.state.doc.content.size;
  const { from: at, to } = stretchAt(editor, place);
  const isLast = to >= end;
  const needsParagraph = isLast && !["paragraph", "heading"].includes(blocks.at(-1).type);
  editor.chain().insertContentAt({ from: at, to }, needsParagraph ? [...blocks, paragraph()] : blocks).run();
  const node = editor.state.doc.nodeAt(at);
  if (!node) return;
  if (node.isAtom) {
    editor.commands.setNodeSelection(at);
    const form = editor.view.nodeDOM(at)?.querySelector?.("input, textarea");
    if (form) form.focus();
  } else {
    editor.view.dispatch(editor.state.tr.setSelection(Selection.near(editor.state.doc.resolve(at + 1), 1)).scrollIntoView());
    editor.view.focus();
  }
}

export function kinds(editor, room, choose) {
  const put = (blocks) => (place) => putBlocks(editor, place, blocks);
  return () => [
    ["Picture", (place) => choose("picture", place), "image photo screenshot camera"],
    ["Gallery", (place) => choose("gallery", place), "pictures photos several rows grid slides"],
    ["Video", (place) => choose("video", place), "film clip embed"],
    ["Sound", (place) => choose("sound", place), "audio music recording embed"],
    ["File", (place) => choose("file", place), "download pdf document attachment"],
    ...KINDS.map(([words, block, more]) => [words, put([block]), more]),
    ...room.kept.map((one) => [`${one.name} (standing copy)`, put([{ type: "standing", attrs: { copy: one.id } }]), "kept standing copy"]),
    ...room.kept.map((one) => [`${one.name} (as a copy)`, put(one.blocks), "kept copy"]),
  ];
}
