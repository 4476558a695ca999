// Several pictures, in rows, in a grid or as slides.
import { Node } from "@tiptap/core";
import { NodeSelection } from "@tiptap/pm/state";
import { kept } from "../core/attributes.js";
import { choice } from "./parts.js";

const Gallery = Node.create({
  name: "gallery",
  group: "block",
  content: "picture+",
  isolating: true,
  addAttributes: () => ({ layout: kept("layout", "rows") }),
  parseHTML: () => [{ tag: '[data-kind="gallery"]' }],
  renderHTML: ({ HTMLAttributes, node }) => ["div", { "data-kind": "gallery", class: `gallery on-sheet ${node.attrs.layout}`, ...HTMLAttributes }, 0],
});

// The picture of a gallery in which the cursor is: {gallery, at, index, node}; null outside of any.
function inGallery({ selection, doc }, gallery) {
  const node = doc.nodeAt(gallery);
  let at = gallery + 1;
  for (let index = 0; index < node.childCount; index += 1) {
    const end = at + node.child(index).nodeSize;
    if (selection.from >= at && selection.from < end) return { at, index, node: node.child(index), gallery: node };
    at = end;
  }
  return { at: gallery + 1, index: 0, node: node.child(0), gallery: node };
}

function galleryActs(editor) {
  const shift = (step) => (pos) => {
    const found = inGallery(editor.state, pos);
    const to = found.index + step;
    if (to < 0 || to >= found.gallery.childCount) return;
    const children = [...found.gallery.content.content];
    children.splice(to, 0, ...children.splice(found.index, 1));
    const tr = editor.state.tr.replaceWith(pos + 1, pos + 1 + found.gallery.content.size, children);
    const place = pos + 1 + children.slice(0, to).reduce((sum, child) => sum + child.nodeSize, 0);
    editor.view.dispatch(tr.setSelection(NodeSelection.create(tr.doc, place)));
  };
  return {
    earlier: shift(-1),
    later: shift(1),
    takeOut(pos) {
      const found = inGallery(editor.state, pos);
      const isLast = found.gallery.childCount === 1;
      editor.view.dispatch(isLast ? editor.state.tr.delete(pos, pos + found.gallery.nodeSize) : editor.state.tr.delete(found.at, found.at + found.node.nodeSize));
    },
  };
}

export const gallery = {
  nodes: [Gallery],
  sentence: {
    gallery: ["A gallery in", choice("layout", "Layout of the gallery", [["rows", "even rows"], ["grid", "a grid"], ["slides", "slides"]]), { act: "more", name: "More pictures…" }, { act: "earlier", name: "Picture before" }, { act: "later", name: "Picture after" }, { act: "takeOut", name: "Take the picture out" }],
  },
  entry: { words: "Gallery", group: "see", chooses: "gallery", more: "pictures photos several rows grid slides" },
  acts: galleryActs,
};
