// A file of the library, offered as a download.
import { Node } from "@tiptap/core";
import { kept } from "../core/attributes.js";
import { SRC, item } from "./figure.js";
import { REPLACE, element, words } from "./parts.js";

const File = Node.create({
  name: "file",
  group: "block",
  atom: true,
  addAttributes: () => ({ src: SRC, words: kept("words", "") }),
  parseHTML: () => [{ tag: 'p[data-kind="file"]' }],
  renderHTML: ({ HTMLAttributes }) => ["p", { "data-kind": "file", ...HTMLAttributes }],
  addNodeView: () => ({ node }) => {
    const dom = element("p", "download");
    dom.contentEditable = "false";
    const show = (next) => {
      const known = item(next.attrs.src);
      dom.replaceChildren(element("a", "", next.attrs.words || known?.name || "File"), " ", element("span", "", known ? known.name : ""));
    };
    show(node);
    return {
      dom,
      update(next) {
        if (next.type !== node.type) return false;
        show(next);
        return true;
      },
      ignoreMutation: () => true,
    };
  },
});

export const file = {
  nodes: [File],
  sentence: {
    file: ["A download called", words("words", "Words of the download", "its name"), REPLACE],
  },
  entry: { words: "File", group: "point", chooses: "file", more: "download pdf document attachment" },
};
