// A paragraph of text.
import { Paragraph } from "@tiptap/extension-paragraph";
import { classOf, kept } from "../core/attributes.js";
import { ALIGN, choice } from "./parts.js";

export const paragraphs = {
  nodes: [Paragraph.extend({ addAttributes: () => ({ align: kept("align", "start", classOf("align", "start")) }) })],
  sentence: {
    paragraph: ["Its lines stand", choice("align", "Alignment", ALIGN)],
  },
};
