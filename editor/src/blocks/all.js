// The table of kinds, in the order of the schema; a new kind is a file beside this one and a line here.
import { ask } from "./ask.js";
import { beside } from "./beside.js";
import { button } from "./button.js";
import { callout } from "./callout.js";
import { code } from "./code.js";
import { contents } from "./contents.js";
import { divider } from "./divider.js";
import { embed } from "./embed.js";
import { file } from "./file.js";
import { fillIn } from "./fillin.js";
import { gallery } from "./gallery.js";
import { heading, subheading } from "./heading.js";
import { bulletList, orderedList } from "./lists.js";
import { paragraphs } from "./paragraph.js";
import { picture } from "./picture.js";
import { quote } from "./quote.js";
import { rawHtml } from "./rawhtml.js";
import { review } from "./review.js";
import { sound } from "./sound.js";
import { standing } from "./standing.js";
import { subscribe } from "./subscribe.js";
import { table } from "./table.js";
import { teaserLine } from "./teaserline.js";
import { video } from "./video.js";

const KINDS = [
  paragraphs, heading, subheading, bulletList, orderedList, quote, code, table, callout, button, subscribe, ask, beside, contents, teaserLine, review, rawHtml, standing, fillIn,
  gallery, sound, video, embed, file, divider, picture,
];

// What the seam offers, first what people put most.
const OFFERED = [
  picture, gallery, video, sound, file, table, callout, button, beside, heading, subheading, bulletList, orderedList, quote, code, divider, contents, teaserLine,
  review, ask, subscribe, rawHtml,
];

export const nodes = KINDS.flatMap((kind) => kind.nodes);
export const sentences = Object.assign({}, ...KINDS.map((kind) => kind.sentence));
export const entries = [...OFFERED, ...KINDS.filter((kind) => kind.entry && !OFFERED.includes(kind))].map((kind) => kind.entry);
export const actsOf = (editor) => Object.assign({}, ...KINDS.map((kind) => kind.acts?.(editor)));
