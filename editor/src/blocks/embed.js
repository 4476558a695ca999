// A work of a provider, behind a picture that readers press first.
import { isAllowedAddress } from "../core/addresses.js";
import { kept } from "../core/attributes.js";
import { figure } from "./figure.js";
import { address, choice, element, words } from "./parts.js";
import { pictureAddress } from "./picture.js";

const Embed = figure(
  "embed",
  {
    address: { default: null, parseHTML: (dom) => (isAllowedAddress(dom.dataset.address || "") ? dom.dataset.address : null), renderHTML: ({ address }) => ({ "data-address": address }) },
    title: kept("title", ""), width: kept("width", 640), height: kept("height", 360), poster: kept("poster", ""), size: kept("size", "full"), frame: kept("frame", ""), provider: kept("provider", ""),
  },
  (box, node) => {
    const facade = element("div", "facade");
    const poster = pictureAddress(node.attrs.poster);
    if (poster) {
      const image = element("img");
      image.src = poster;
      image.alt = "";
      facade.append(image);
    }
    facade.append(element("span", "", `Play “${node.attrs.title || node.attrs.address}”`));
    box.replaceChildren(facade);
  },
);

export const embed = {
  nodes: [Embed],
  sentence: {
    embed: ["From", { ...address("address", "Address of the embed", "no address"), isFixed: true }, "titled", words("title", "Title of the embed", "no title"), choice("size", "Width of the embed", [["small", "small"], ["full", "as wide as the line"], ["wide", "wider than the line"]])],
  },
};
