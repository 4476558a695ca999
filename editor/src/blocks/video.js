// A video of the library, with its player.
import { kept } from "../core/attributes.js";
import { SRC, figure, item, player } from "./figure.js";
import { REPLACE, choice, element, words } from "./parts.js";
import { pictureAddress } from "./picture.js";

const Video = figure("video", { src: SRC, title: kept("title", ""), size: kept("size", "full") }, (box, node) => {
  const made = player("video", node);
  const known = item(node.attrs.src);
  if (known?.state !== "working") made.poster = pictureAddress(node.attrs.src);
  if (known?.width) {
    made.width = known.width;
    made.height = known.height;
  }
  box.replaceChildren(made, ...(known?.state === "working" ? [element("p", "hint", "The video is being made ready; the post can be published meanwhile.")] : []));
});

export const video = {
  nodes: [Video],
  sentence: {
    video: ["A video titled", words("title", "Title of the video", "its name in the library"), choice("size", "Width of the video", [["small", "small"], ["full", "as wide as the line"], ["wide", "wider than the line"]]), REPLACE, { act: "edit", name: "Poster and captions…" }],
  },
  entry: { words: "Video", group: "see", chooses: "video", more: "film clip embed" },
};
