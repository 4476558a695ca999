// Two sides beside one another.
import { Node } from "@tiptap/core";
import { block, choice, wrapped } from "./parts.js";

const Beside = block("beside", {
  attributes: { share: 50 },
  content: "side side",
  isolating: true,
  renderHTML: ({ node, HTMLAttributes }) => ["div", { "data-kind": "beside", class: `beside share-${node.attrs.share}`, ...HTMLAttributes }, 0],
});

const Side = Node.create({
  name: "side",
  content: "block+",
  isolating: true,
  parseHTML: () => [{ tag: '[data-kind="side"]' }],
  renderHTML: () => ["div", { "data-kind": "side", class: "side" }, 0],
});

function swap(editor, pos) {
  const { state, view } = editor;
  const node = state.doc.nodeAt(pos);
  const [first, second] = [node.child(0), node.child(1)];
  view.dispatch(state.tr.replaceWith(pos + 1, pos + node.nodeSize - 1, [second, first]));
}

export const beside = {
  nodes: [Beside, Side],
  sentence: {
    beside: ["Side by side, the first taking", choice("share", "Share of the first side", [25, 33, 40, 50, 60, 67, 75].map((share) => [share, `${share} %`])), { act: "swap", name: "Swap the sides" }],
  },
  entry: { words: "Beside", group: "together", block: { type: "beside", content: [wrapped("side"), wrapped("side")] }, more: "columns two side by side" },
  acts: (editor) => ({ swap: (pos) => swap(editor, pos) }),
};
