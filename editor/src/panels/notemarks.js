// The passages that notes of people are about, in blue pencil on the sheet; the notes themselves are loaded when somebody asks for them.
import { PluginKey } from "@tiptap/pm/state";
import { decorated } from "../core/decorated.js";

export const NOTES = new PluginKey("notes");
export const NoteMarks = decorated("noteMarks", NOTES, (marks) => marks);
