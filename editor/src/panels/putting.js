// What the seam offers: each kind of block, the blocks that were kept, and the standing copies.
import { Selection } from "@tiptap/pm/state";
import { entries } from "../blocks/all.js";
import { paragraph } from "../blocks/parts.js";

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
    ...entries.filter(({ block }) => room.post || block?.type !== "teaserLine").map(({ words, block, chooses, more, group }) => ({ words, more, group, put: block ? put([block]) : (place) => choose(chooses, place) })),
    ...room.kept.filter((one) => one.id !== room.block).map((one) => ({ words: `“${one.name}”`, more: "kept standing copy", group: "kept", ways: [
      ["the same everywhere", put([{ type: "standing", attrs: { copy: one.id } }])],
      ["a copy of its own", put(one.blocks)],
    ] })),
  ];
}
