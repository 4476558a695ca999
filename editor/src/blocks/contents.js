// A table of contents of the headings in the text.
import { block, choice, element } from "./parts.js";

const Contents = block("contents", {
  attributes: { depth: 3 },
  atom: true,
  addNodeView: () => ({ node, editor }) => {
    const dom = element("nav", "contents");
    dom.contentEditable = "false";
    let shown = node;
    const draw = () => {
      const list = element("ol");
      editor.state.doc.descendants((inner) => {
        if (inner.type.name !== "heading") return inner.isBlock && !inner.isTextblock;
        const { level } = inner.attrs;
        if (level >= 2 && level <= shown.attrs.depth && inner.textContent.trim()) list.append(element("li", `level-${level}`, inner.textContent));
        return false;
      });
      dom.replaceChildren(list.children.length ? list : element("p", "hint", "Contents: the headings you write appear here."));
    };
    let timer = null;
    const plan = () => {
      clearTimeout(timer);
      timer = setTimeout(draw, 200);
    };
    draw();
    editor.on("update", plan);
    return {
      dom,
      update(next) {
        if (next.type !== shown.type) return false;
        shown = next;
        draw();
        return true;
      },
      destroy: () => editor.off("update", plan),
      ignoreMutation: () => true,
    };
  },
});

export const contents = {
  nodes: [Contents],
  sentence: {
    contents: ["Contents down to", choice("depth", "Depth of the contents", [[2, "headings"], [3, "subheadings"], [4, "small headings"], [5, "level 5"], [6, "level 6"]])],
  },
  entry: { words: "Contents", group: "point", block: { type: "contents" }, more: "outline headings toc" },
};
