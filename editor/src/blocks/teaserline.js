// The line above which a text is shown in lists.
import { block, drawn, element } from "./parts.js";

const TeaserLine = block("teaserLine", {
  group: "top",
  atom: true,
  addNodeView: () => drawn("div", "teaser-line", (dom) => dom.replaceChildren(element("span", "", "Lists show what stands above this line"))),
});

export const teaserLine = {
  nodes: [TeaserLine],
  entry: { words: "Teaser line", group: "point", block: { type: "teaserLine" }, more: "more break excerpt fold" },
};
