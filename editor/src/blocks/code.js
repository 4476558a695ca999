// Code, as it is typed.
import { CodeBlock } from "@tiptap/extension-code-block";
import { kept } from "../core/attributes.js";
import { words } from "./parts.js";

export const code = {
  nodes: [CodeBlock.extend({ addAttributes: () => ({ language: kept("language", "") }) })],
  sentence: {
    codeBlock: ["Code in", words("language", "Language of the code", "no language")],
  },
  entry: { words: "Code", group: "read", block: { type: "codeBlock" }, more: "program listing" },
};
