// Where colleagues write in the same text: their block is edged, with their name beside it.
import { PluginKey } from "@tiptap/pm/state";
import { Decoration } from "@tiptap/pm/view";
import { decorated } from "../core/decorated.js";
import { follow } from "../shell/presence.js";

const KEY = new PluginKey("writers");
const LATELY = 60_000;
export const Writers = decorated("writers", KEY, (marks) => marks);

export function showWriters(editor) {
  let changed = 0;
  editor.on("update", ({ transaction }) => transaction.docChanged && (changed = Date.now()));

  function read() {
    const { doc, selection } = editor.state;
    const block = selection.$from.index(0);
    let heading = "";
    for (let at = 0; at <= block && at < doc.childCount; at += 1) if (doc.child(at).type.name === "heading") heading = doc.child(at).textContent;
    return { block: Date.now() - changed < LATELY ? block : -1, heading };
  }

  function show(rooms) {
    const { doc } = editor.state;
    const drawn = rooms.filter(({ block }) => block >= 0 && block < doc.childCount).flatMap(({ name, block }) => {
      let from = 0;
      for (let at = 0; at < block; at += 1) from += doc.child(at).nodeSize;
      const label = () => Object.assign(document.createElement("span"), { className: "written-by", textContent: `${name} writes here` });
      return [Decoration.node(from, from + doc.child(block).nodeSize, { class: "is-written" }), Decoration.widget(from, label, { side: -1, key: name })];
    });
    if (drawn.length || KEY.getState(editor.state).find().length) editor.view.dispatch(editor.state.tr.setMeta(KEY, drawn).setMeta("addToHistory", false));
  }

  follow(read, show);
}
