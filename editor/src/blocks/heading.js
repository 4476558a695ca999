// Headings, which divide a text into parts.
import { textblockTypeInputRule } from "@tiptap/core";
import { Heading } from "@tiptap/extension-heading";
import { kept } from "../core/attributes.js";

// Posts have their title above the text, so typing # begins a heading of the second level too.
const TypedHeading = Heading.extend({
  addAttributes() {
    return { level: { default: 2, rendered: false }, anchor: kept("anchor", "") };
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

export const heading = {
  nodes: [TypedHeading.configure({ levels: [1, 2, 3, 4, 5, 6] })],
  entry: { words: "Heading", group: "read", block: { type: "heading", attrs: { level: 2 } }, more: "title section" },
};

export const subheading = { nodes: [], entry: { words: "Subheading", group: "read", block: { type: "heading", attrs: { level: 3 } }, more: "title section" } };
