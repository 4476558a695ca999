// Lists, with signs or with numbers.
import { BulletList, ListItem, ListKeymap, OrderedList } from "@tiptap/extension-list";
import { classOf, kept } from "../core/attributes.js";
import { choice, paragraph } from "./parts.js";

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

const list = (type) => ({ type, content: [{ type: "listItem", content: [paragraph()] }] });

export const bulletList = {
  nodes: [BulletList.extend({ addAttributes: () => ({ sign: kept("sign", "disc", classOf("sign", "disc")), loose: isLoose }) })],
  sentence: {
    bulletList: [
    "A list with", choice("sign", "Sign of the list", [["disc", "discs"], ["circle", "circles"], ["square", "squares"], ["tick", "ticks"], ["star", "stars"], ["arrow", "arrows"]]),
    "and its items", choice("loose", "Space between the items", [[false, "close together"], [true, "set apart"]]),
  ],
  },
  entry: { words: "List", group: "read", block: list("bulletList"), more: "bullets points" },
};

export const orderedList = {
  nodes: [
    OrderedList.extend({ addAttributes: () => ({ start: startAttribute, numbers: kept("numbers", "decimal", numbersLook), loose: isLoose }) }),
    ListItem,
    ListKeymap.configure({
    listTypes: [{ itemName: "listItem", wrapperNames: ["bulletList", "orderedList"] }],
  }),
  ],
  sentence: {
    orderedList: [
    "A list numbered", choice("numbers", "Kind of numbers", [["decimal", "1, 2, 3"], ["lower-alpha", "a, b, c"], ["upper-alpha", "A, B, C"], ["lower-roman", "i, ii, iii"], ["upper-roman", "I, II, III"], ["lower-greek", "α, β, γ"]]),
    "from", { attr: "start", name: "First number", number: [0, 999999999] },
    "and its items", choice("loose", "Space between the items", [[false, "close together"], [true, "set apart"]]),
  ],
  },
  entry: { words: "Numbered list", group: "read", block: list("orderedList"), more: "steps" },
};
