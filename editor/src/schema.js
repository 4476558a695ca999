// The writing surface's mirror of the node table in mobbet/core/document/nodes.py.
import { InputRule, Node, textblockTypeInputRule } from "@tiptap/core";
import { Blockquote } from "@tiptap/extension-blockquote";
import { Bold } from "@tiptap/extension-bold";
import { Code } from "@tiptap/extension-code";
import { CodeBlock } from "@tiptap/extension-code-block";
import { HardBreak } from "@tiptap/extension-hard-break";
import { Heading } from "@tiptap/extension-heading";
import { HorizontalRule } from "@tiptap/extension-horizontal-rule";
import { Italic } from "@tiptap/extension-italic";
import { Link } from "@tiptap/extension-link";
import { BulletList, ListItem, ListKeymap, OrderedList } from "@tiptap/extension-list";
import { Paragraph } from "@tiptap/extension-paragraph";
import { Strike } from "@tiptap/extension-strike";
import { Text } from "@tiptap/extension-text";
import { Underline } from "@tiptap/extension-underline";
import { isAllowedAddress } from "./addresses.js";
import { classOf, kept, keptAddress } from "./attributes.js";
import { dressMarks } from "./dress.js";
import { kindNodes } from "./kinds.js";
import { mediaNodes } from "./media.js";
import { tableNodes } from "./tables.js";

const Document = Node.create({ name: "doc", topNode: true, content: "(block | top)+" });

// Posts have their title above the text, so typing # begins a heading of the second level too.
const TypedHeading = Heading.extend({
  addAttributes() {
    return { level: { default: 2, rendered: false }, ...hidden("anchor", "") };
  },
  addInputRules() {
    return [
      textblockTypeInputRule({
        find: /^(#{1,4})\s$/,
        type: this.type,
        getAttributes: (match) => ({ level: Math.max(2, match[1].length) }),
      }),
    ];
  },
  addKeyboardShortcuts() {
    return Object.fromEntries([2, 3, 4].map((level) => [`Mod-Alt-${level}`, () => this.editor.commands.toggleHeading({ level })]));
  },
});

const NUMBER_TYPES = { "lower-alpha": "a", "upper-alpha": "A", "lower-roman": "i", "upper-roman": "I" };
const isLoose = kept("loose", false, (value) => (value ? { class: "loose" } : {}));

const startAttribute = {
  default: 1,
  parseHTML: (element) => {
    const start = Number.parseInt(element.getAttribute("start") || "1", 10);
    return start >= 0 && start <= 999999999 ? start : 1;
  },
};

function numbersLook(numbers) {
  if (numbers === "lower-greek") return { class: "numbers-greek" };
  return NUMBER_TYPES[numbers] ? { type: NUMBER_TYPES[numbers] } : {};
}

const linkAttributes = {
  href: { default: null, parseHTML: (element) => element.getAttribute("href") },
  title: kept("title", ""),
  window: kept("window", "here"),
  paid: kept("paid", false, (value) => (value ? { class: "paid-link" } : {})),
};

// Keeps an attribute that only matters elsewhere, such as the anchor of a heading, without showing it.
const hidden = (name, fallback) => ({ [name]: kept(name, fallback) });

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

export const nodes = [
  Document,
  Paragraph.extend({ addAttributes: () => ({ align: kept("align", "start", classOf("align", "start")) }) }),
  TypedHeading.configure({ levels: [1, 2, 3, 4, 5, 6] }),
  BulletList.extend({ addAttributes: () => ({ sign: kept("sign", "disc", classOf("sign", "disc")), loose: isLoose }) }),
  OrderedList.extend({ addAttributes: () => ({ start: startAttribute, numbers: kept("numbers", "decimal", numbersLook), loose: isLoose }) }),
  ListItem,
  ListKeymap.configure({
    listTypes: [{ itemName: "listItem", wrapperNames: ["bulletList", "orderedList"] }],
  }),
  Blockquote.extend({ name: "quote", addAttributes: () => ({ source: kept("source", "", (source) => (source ? { "data-said": source } : {})), address: keptAddress("address", isAllowedAddress) }) }),
  CodeBlock.extend({ addAttributes: () => ({ language: kept("language", "") }) }),
  ...tableNodes,
  ...kindNodes,
  ...mediaNodes,
  HorizontalRule.extend({ name: "divider" }),
  HardBreak.extend({ name: "lineBreak" }),
  Text,
];

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
