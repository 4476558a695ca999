// A button that leads to an address.
import { isAllowedAddress } from "../core/addresses.js";
import { kept, keptAddress } from "../core/attributes.js";
import { address, block, choice, drawn, element, words } from "./parts.js";

const Button = block("button", {
  addAttributes: () => ({ words: kept("words", ""), address: keptAddress("address", isAllowedAddress), weight: kept("weight", "strong") }),
  atom: true,
  addNodeView: () =>
    drawn("p", "put-button", (dom, node) => {
      const link = element("span", `button-${node.attrs.weight}`, node.attrs.words || "Button without words yet");
      dom.replaceChildren(link);
      dom.classList.toggle("is-unsettled", !node.attrs.words || !node.attrs.address);
    }),
});

export const button = {
  nodes: [Button],
  sentence: {
    button: [
    "A", choice("weight", "Weight of the button", [["strong", "strong"], ["quiet", "quiet"]]), "button saying", words("words", "Words of the button", "nothing yet"),
    "that leads to", address("address", "Address of the button", "no address yet"),
  ],
  },
  entry: { words: "Button", group: "point", block: { type: "button", attrs: { words: "", address: "" } }, more: "call to action link" },
};
