// What sound, video, embeds and files of the library have in common.
import { Node } from "@tiptap/core";
import { NodeSelection } from "@tiptap/pm/state";
import { room } from "../core/roomdata.js";
import { element } from "./parts.js";

const numberOf = (src) => Number(/^media:(\d+)$/.exec(src || "")?.[1] || 0);
export const item = (src) => room.items[numberOf(src)];

export const SRC = {
  default: null,
  parseHTML: (dom) => (/^media:\d+$/.test(dom.dataset.src || "") ? dom.dataset.src : null),
  renderHTML: ({ src }) => ({ "data-src": src }),
};

// A figure with something above its caption; `draw(box, node)` fills what is above.
export function figure(name, attributes, draw) {
  return Node.create({
    name,
    group: "block",
    content: "inline*",
    isolating: true,
    addAttributes: () => attributes,
    parseHTML: () => [{ tag: `figure[data-kind="${name}"]`, contentElement: "figcaption" }],
    renderHTML: ({ HTMLAttributes }) => ["figure", { "data-kind": name, ...HTMLAttributes }, ["figcaption", 0]],
    addNodeView: () => ({ node, view, getPos }) => {
      const dom = element("figure");
      const box = element("div", "played-box");
      box.contentEditable = "false";
      box.addEventListener("click", () => view.dispatch(view.state.tr.setSelection(NodeSelection.create(view.state.doc, getPos()))));
      const caption = element("figcaption");
      dom.append(box, caption);
      let shown = null;
      const show = (next) => {
        dom.className = [name, next.attrs.size && next.attrs.size !== "full" ? `size-${next.attrs.size}` : ""].filter(Boolean).join(" ");
        caption.classList.toggle("is-empty", next.content.size === 0);
        if (!shown || JSON.stringify(shown.attrs) !== JSON.stringify(next.attrs)) draw(box, next);
        shown = next;
      };
      show(node);
      return {
        dom,
        contentDOM: caption,
        update(next) {
          if (next.type !== node.type) return false;
          show(next);
          return true;
        },
        stopEvent: (event) => box.contains(event.target) && !["dragstart", "drop"].includes(event.type) && event.type !== "mousedown",
        ignoreMutation: (mutation) => mutation.type !== "selection" && !caption.contains(mutation.target),
      };
    },
    addKeyboardShortcuts() {
      return {
        Enter: () => {
          const { $from } = this.editor.state.selection;
          if ($from.parent.type.name !== name) return false;
          const after = $from.after();
          return this.editor.chain().insertContentAt(after, { type: "paragraph" }).setTextSelection(after + 1).scrollIntoView().run();
        },
      };
    },
  });
}

export function player(tag, node) {
  const made = element(tag);
  made.controls = true;
  made.preload = "none";
  made.src = `${room.to.item}${numberOf(node.attrs.src)}/play`;
  made.setAttribute("aria-label", node.attrs.title || item(node.attrs.src)?.name || tag);
  return made;
}
