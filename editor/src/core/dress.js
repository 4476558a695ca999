// Marks that raise, lower, resize and colour words.
import { Mark } from "@tiptap/core";
import { kept } from "./attributes.js";

export const TINTS = ["plum", "clay", "amber", "moss", "sea", "slate"];
export const STEPS = [-2, -1, 1, 2, 3];

function simple(name, tag, keys) {
  return Mark.create({
    name,
    excludes: name === "superscript" ? "subscript" : name === "subscript" ? "superscript" : undefined,
    parseHTML: () => [{ tag }],
    renderHTML: () => [tag, 0],
    addKeyboardShortcuts() {
      return { [keys]: () => this.editor.commands.toggleMark(name) };
    },
  });
}

function valued(name, attribute, choices, tag) {
  return Mark.create({
    name,
    addAttributes: () => ({ [attribute]: kept(attribute, choices[0], (value) => (choices.includes(value) ? { class: `${attribute}-${value}` } : {})) }),
    parseHTML: () => [{ tag: `${tag}[data-${attribute}]` }],
    renderHTML: ({ HTMLAttributes }) => [tag, HTMLAttributes, 0],
  });
}

// Words in another language than the text around them.
const language = Mark.create({
  name: "language",
  addAttributes: () => ({ language: kept("language", "en", (value) => ({ class: "language", lang: value })) }),
  parseHTML: () => [{ tag: "span[data-language]" }],
  renderHTML: ({ HTMLAttributes }) => ["span", HTMLAttributes, 0],
});

export const dressMarks = [
  simple("superscript", "sup", "Mod-."),
  simple("subscript", "sub", "Mod-,"),
  valued("size", "step", STEPS, "span"),
  valued("tint", "tint", TINTS, "span"),
  valued("marker", "marker", TINTS, "mark"),
  language,
];
