// A standing copy: a block that is kept once and shown in many posts.
import { room } from "../core/roomdata.js";
import { block, drawn, element } from "./parts.js";

const Standing = block("standing", {
  attributes: { copy: 0 },
  atom: true,
  addNodeView: () =>
    drawn("div", "standing", (dom, node) => {
      const name = room.kept.find((one) => one.id === node.attrs.copy)?.name;
      const label = element("p", "hint", name ? `Standing copy: ${name}` : "Standing copy that is no longer kept; its last text stays.");
      const shown = element("div", "shown");
      dom.replaceChildren(label, shown);
      fetch(`${room.to.kept}${node.attrs.copy}/shown`)
        .then((response) => (response.ok ? response.text() : ""))
        .then((html) => {
          shown.innerHTML = html;
        })
        .catch(() => {});
    }),
});

export const standing = { nodes: [Standing] };
