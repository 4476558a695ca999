// The passages that marks of the proof are about, underlined on the sheet; the proof itself is loaded once there is something to read.
import { PluginKey } from "@tiptap/pm/state";
import { decorated } from "../core/decorated.js";

export const PROOF = new PluginKey("proof");
export const ProofMarks = decorated("proofMarks", PROOF, (marks) => marks);
