// Where files on their way onto the sheet stand; what sends them is loaded with the first of them.
import { Extension } from "@tiptap/core";
import { Plugin, PluginKey } from "@tiptap/pm/state";
import { Decoration, DecorationSet } from "@tiptap/pm/view";

export const ARRIVING = new PluginKey("arriving");

const widget = (place, dom, id) => Decoration.widget(place, dom, { id, side: -1, ignoreSelection: true, stopEvent: () => true });

export const Arriving = Extension.create({
  name: "arriving",
  addProseMirrorPlugins: () => [
    new Plugin({
      key: ARRIVING,
      state: {
        init: () => DecorationSet.empty,
        apply(tr, before) {
          let set = before.map(tr.mapping, tr.doc);
          const change = tr.getMeta(ARRIVING);
          if (change?.add) set = set.add(tr.doc, [widget(change.add.place, change.add.dom, change.add.id)]);
          for (const { id, dom, place } of change?.move || []) {
            set = set.remove(set.find(null, null, (spec) => spec.id === id)).add(tr.doc, [widget(place, dom, id)]);
          }
          if (change?.remove) set = set.remove(set.find(null, null, (spec) => spec.id === change.remove));
          return set;
        },
      },
      props: { decorations: (state) => ARRIVING.getState(state) },
    }),
  ],
});

const TEXTS = /\.(docx|odt|md|markdown|html?|txt)$/i;

export function textsIn(transfer) {
  return [...(transfer?.files || [])].filter((file) => TEXTS.test(file.name));
}

export function mediaIn(transfer) {
  return [...(transfer?.files || [])].filter((file) => !TEXTS.test(file.name));
}
