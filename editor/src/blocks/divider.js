// A line across the page.
import { HorizontalRule } from "@tiptap/extension-horizontal-rule";

export const divider = {
  nodes: [HorizontalRule.extend({ name: "divider" })],
  entry: { words: "Rule", group: "together", block: { type: "divider" }, more: "line across divider separator" },
};
