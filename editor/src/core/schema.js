// The writing surface's mirror of the node table in mobbet/core/document/nodes.py: the kinds of `blocks/`, and the marks.
import { Node } from "@tiptap/core";
import { Bold } from "@tiptap/extension-bold";
import { Code } from "@tiptap/extension-code";
import { HardBreak } from "@tiptap/extension-hard-break";
import { Italic } from "@tiptap/extension-italic";
import { Strike } from "@tiptap/extension-strike";
import { Text } from "@tiptap/extension-text";
import { Underline } from "@tiptap/extension-underline";
import { nodes as blocks } from "../blocks/all.js";
import { dressMarks } from "./dress.js";
import { Link } from "./link.js";

const Document = Node.create({ name: "doc", topNode: true, content: "(block | top)+" });

export const nodes = [Document, ...blocks, HardBreak.extend({ name: "lineBreak" }), Text];

export const marks = [
  Link,
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
