// Puts items of the library on the sheet.
import { NodeSelection, Selection } from "@tiptap/pm/state";
import { stretchAt } from "../panels/putting.js";

// The block for an item of the library; a caption is put only where the library has one.
export function blockOf(found) {
  const caption = found.caption ? [{ type: "text", text: found.caption }] : undefined;
  if (found.kind === "picture") return { type: "picture", attrs: { src: found.src, alt: found.alt || "", credit: found.credit || "" }, content: caption };
  if (found.kind === "file") return { type: "file", attrs: { src: found.src, words: found.caption || found.name } };
  return { type: found.kind, attrs: { src: found.src, title: found.caption || "" } };
}

// Puts blocks between two others, and the cursor to where the next word about them is typed.
export function putMedia(editor, place, blocks, takesFocus = true) {
  const { from: at, to } = stretchAt(editor, place);
  const isLast = to >= editor.state.doc.content.size;
  editor.chain().insertContentAt({ from: at, to }, isLast ? [...blocks, { type: "paragraph" }] : blocks).run();
  const dom = editor.view.nodeDOM(at);
  dom?.scrollIntoView?.({ block: "nearest" });
  if (!takesFocus) return;
  const field = dom?.querySelector?.(".about .input");
  if (field && !field.value) field.focus();
  else {
    const node = editor.state.doc.nodeAt(at);
    const { tr, doc } = editor.state;
    editor.view.dispatch(tr.setSelection(node?.isAtom ? NodeSelection.create(doc, at) : Selection.near(doc.resolve(at + 1), 1)).scrollIntoView());
    editor.view.focus();
  }
}

export function putItem(editor, data, place, found, takesFocus) {
  data.items[found.id] = found;
  putMedia(editor, place, [blockOf(found)], takesFocus);
}

// Puts another item in the place of the one a block shows; every setting of the block stays.
export function replaceItem(editor, data, position, found) {
  data.items[found.id] = found;
  const { state, view } = editor;
  const tr = state.tr.setNodeAttribute(position, "src", found.src);
  view.dispatch(state.selection instanceof NodeSelection ? tr.setSelection(NodeSelection.create(tr.doc, position)) : tr);
}
