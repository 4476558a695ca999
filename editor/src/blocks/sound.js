// Sound of the library, with its player.
import { kept } from "../core/attributes.js";
import { SRC, figure, item, player } from "./figure.js";
import { REPLACE, choice, element, words } from "./parts.js";

function clock(seconds) {
  const whole = Math.round(seconds || 0);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}

const Sound = figure("sound", { src: SRC, title: kept("title", ""), size: kept("size", "full") }, (box, node) => {
  const known = item(node.attrs.src);
  const title = element("p", "played", node.attrs.title || known?.name || "Sound");
  title.append(element("span", "", known ? clock(known.seconds) : ""));
  box.replaceChildren(title, player("audio", node));
});

export const sound = {
  nodes: [Sound],
  sentence: {
    sound: ["A sound titled", words("title", "Title of the sound", "its name in the library"), choice("size", "Width of the player", [["small", "small"], ["full", "as wide as the line"]]), REPLACE, { act: "edit", name: "Transcript…" }],
  },
  entry: { words: "Sound", group: "see", chooses: "sound", more: "audio music recording embed" },
};
