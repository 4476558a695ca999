// The writing surface's mirror of the node table in mobbet/core/document/nodes.py: the kinds of `blocks/`, and the marks.
import { InputRule, Node } from "@tiptap/core";
import { Bold } from "@tiptap/extension-bold";
import { Code } from "@tiptap/extension-code";
import { HardBreak } from "@tiptap/extension-hard-break";
import { Italic } from "@tiptap/extension-italic";
import { Link } from "@tiptap/extension-link";
import { Strike } from "@tiptap/extension-strike";
import { Text } from "@tiptap/extension-text";
import { Underline } from "@tiptap/extension-underline";
import { nodes as blocks } from "../blocks/all.js";
import { isAllowedAddress } from "./addresses.js";
import { kept } from "./attributes.js";
import { dressMarks } from "./dress.js";

const Document = Node.create({ name: "doc", topNode: true, content: "(block | top)+" });

const linkAttributes = {
  href: { default: null, parseHTML: (element) => element.getAttribute("href") },
  title: kept("title", ""),
  window: kept("window", "here"),
  paid: kept("paid", false, (value) => (value ? { class: "paid-link" } : {})),
};

// [words](address) becomes a link as it is typed.
function typedLink() {
  return [
    new InputRule({
      find: /(?<!!)\[([^\]]+)\]\(([^()\s]+)\)$/,
      handler: ({ state, range, match }) => {
        if (!isAllowedAddress(match[2])) return null;
        const mark = state.schema.marks.link.create({ href: match[2] });
        state.tr.replaceWith(range.from, range.to, state.schema.text(match[1], [mark])).removeStoredMark(mark);
        return undefined;
      },
    }),
  ];
}

export const nodes = [Document, ...blocks, HardBreak.extend({ name: "lineBreak" }), Text];

export const marks = [
  Link.extend({ addAttributes: () => linkAttributes, addInputRules: typedLink }).configure({
    openOnClick: false,
    autolink: true,
    linkOnPaste: true,
    defaultProtocol: "https",
    HTMLAttributes: { target: null, rel: null },
    isAllowedUri: (address) => isAllowedAddress(address),
  }),
  Italic.extend({ name: "emphasis" }),
  Bold.extend({ name: "strong" }),
  Underline,
  Strike,
  ...dressMarks,
  Code.extend({ excludes: "" }),
];

// The schema as data, in the shape of nodes.description(), for the test that compares the two.
export function description(schema) {
  const described = { nodes: {}, marks: {} };
  for (const [name, type] of Object.entries(schema.nodes)) {
    described.nodes[name] = {
      content: type.spec.content || "",
      group: (type.spec.group || "").split(" ")[0],
      attributes: Object.keys(type.spec.attrs || {}).sort(),
      marks: type.spec.marks !== "",
    };
  }
  for (const [name, type] of Object.entries(schema.marks)) {
    described.marks[name] = Object.keys(type.spec.attrs || {}).sort();
  }
  return described;
}
