// A form for readers who want letters by e-mail.
import { kept } from "../core/attributes.js";
import { block, choice, drawn, element, words } from "./parts.js";

const USUAL = "New posts by e-mail";

const Subscribe = block("subscribe", {
  addAttributes: () => ({ words: kept("words", ""), what: kept("what", "all") }),
  atom: true,
  addNodeView: () =>
    drawn("div", "form-block", (dom, node) => {
      dom.replaceChildren(element("p", "form-words", node.attrs.words || USUAL), element("span", "form-field", "an e-mail address"), element("span", "form-button", "Get letters"));
    }),
});

export const subscribe = {
  nodes: [Subscribe],
  sentence: {
    subscribe: [
      "A form for letters about", choice("what", "What readers subscribe to", [["all", "everything"], ["category", "this category"], ["author", "this author"], ["series", "this series"]]),
      "saying", words("words", "Words of the form", USUAL),
    ],
  },
  entry: { words: "Letters by e-mail", group: "point", block: { type: "subscribe" }, more: "subscribe newsletter mail form" },
};
