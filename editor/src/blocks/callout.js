// A callout: words set apart, with a sign, a tint and perhaps a title.
import { TINTS } from "../core/dress.js";
import { room } from "../core/roomdata.js";
import { block, choice, element, paragraph, words } from "./parts.js";

const SVG = "http://www.w3.org/2000/svg";

function drawSign(name) {
  const svg = document.createElementNS(SVG, "svg");
  svg.setAttribute("class", "sign");
  svg.setAttribute("viewBox", "0 0 24 24");
  svg.setAttribute("aria-hidden", "true");
  const path = document.createElementNS(SVG, "path");
  path.setAttribute("d", room.signs[name] || "");
  svg.append(path);
  return svg;
}

const Callout = block("callout", {
  attributes: { sign: "note", tint: "moss", title: "" },
  content: "block+",
  defining: true,
  addNodeView: () => ({ node }) => {
    const dom = element("aside");
    const title = element("p", "callout-title");
    title.contentEditable = "false";
    const inner = element("div", "callout-text");
    let shown = null;
    const show = (next) => {
      dom.className = `callout wash-${next.attrs.tint}`;
      if (shown?.attrs.sign !== next.attrs.sign) {
        dom.querySelector("svg")?.remove();
        dom.prepend(drawSign(next.attrs.sign));
      }
      title.textContent = next.attrs.title;
      title.hidden = !next.attrs.title;
      shown = next;
    };
    dom.append(title, inner);
    show(node);
    return {
      dom,
      contentDOM: inner,
      update(next) {
        if (next.type !== node.type) return false;
        show(next);
        return true;
      },
      ignoreMutation: (mutation) => mutation.type !== "selection" && !inner.contains(mutation.target),
    };
  },
});

export const callout = {
  nodes: [Callout],
  sentence: {
    callout: [
    "A callout with the sign", choice("sign", "Sign of the callout", [["note", "note"], ["hint", "hint"], ["care", "take care"], ["stop", "stop"], ["question", "question"], ["done", "done"], ["date", "date"], ["tool", "tool"]]),
    "on", choice("tint", "Tint of the callout", TINTS.map((tint) => [tint, tint])), "titled", words("title", "Title of the callout", "no title"),
  ],
  },
  entry: { words: "Note box", group: "read", block: { type: "callout", content: [paragraph()] }, more: "callout warning hint tip" },
};
