// The places that find and replace found, drawn on the sheet; the form is loaded when somebody asks for it.
import { PluginKey } from "@tiptap/pm/state";
import { Decoration } from "@tiptap/pm/view";
import { decorated } from "../core/decorated.js";

export const FINDING = new PluginKey("finding");
export const Finding = decorated("finding", FINDING, ({ found, at }) => found.map(({ from, to }, number) => Decoration.inline(from, to, { class: number === at ? "found here" : "found" })));
