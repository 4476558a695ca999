// An extension that shows places on the sheet: what a transaction brings under its key is drawn, and moves along with the text.
import { Extension } from "@tiptap/core";
import { Plugin } from "@tiptap/pm/state";
import { DecorationSet } from "@tiptap/pm/view";

export function decorated(name, key, draw) {
  const state = {
    init: () => DecorationSet.empty,
    apply(tr, shown) {
      const brought = tr.getMeta(key);
      return brought ? DecorationSet.create(tr.doc, draw(brought)) : shown.map(tr.mapping, tr.doc);
    },
  };
  return Extension.create({
    name,
    addProseMirrorPlugins: () => [new Plugin({ key, state, props: { decorations: (now) => key.getState(now) } })],
  });
}
