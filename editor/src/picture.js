// A picture on the sheet: the picture itself, the field for its alternative text, and its caption.
import { InputRule, Node } from "@tiptap/core";
import { TextSelection } from "@tiptap/pm/state";
import { isAllowedAddress } from "./addresses.js";

const MEDIA = /^media:(\d+)$/;

export function pictureAddress(src) {
  const match = MEDIA.exec(src || "");
  return match ? `/pictures/${match[1]}` : null;
}

function shownPicture(attrs) {
  const address = pictureAddress(attrs.src);
  if (!address) {
    const elsewhere = document.createElement("p");
    elsewhere.className = "elsewhere";
    elsewhere.textContent = `A picture at ${attrs.src}, which is not in the library; readers get a link to it.`;
    return elsewhere;
  }
  const image = document.createElement("img");
  image.src = address;
  image.alt = attrs.alt;
  return image;
}

class PictureView {
  constructor(node, view, getPos) {
    this.node = node;
    this.view = view;
    this.getPos = getPos;
    this.dom = document.createElement("figure");
    this.dom.className = "picture";
    this.shown = shownPicture(node.attrs);
    this.about = document.createElement("div");
    this.about.className = "about";
    this.about.contentEditable = "false";
    const id = `alt-${Math.random().toString(36).slice(2)}`;
    const label = document.createElement("label");
    label.htmlFor = id;
    label.textContent = "For people who can’t see it:";
    this.alt = document.createElement("input");
    this.alt.className = "input";
    this.alt.id = id;
    this.alt.value = node.attrs.alt;
    this.alt.maxLength = 2000;
    this.alt.placeholder = "what the picture shows";
    this.alt.addEventListener("input", () => this.keepAlt());
    this.alt.addEventListener("keydown", (event) => this.leaveAlt(event));
    this.about.append(label, this.alt);
    this.contentDOM = document.createElement("figcaption");
    this.dom.append(this.shown, this.about, this.contentDOM);
    this.mark();
  }

  mark() {
    this.dom.classList.toggle("lacks-alt", !this.node.attrs.alt);
    this.contentDOM.classList.toggle("is-empty", this.node.content.size === 0);
  }

  keepAlt() {
    const attrs = { ...this.node.attrs, alt: this.alt.value };
    this.view.dispatch(this.view.state.tr.setNodeMarkup(this.getPos(), undefined, attrs));
  }

  // Enter and the down arrow go on into the caption, the up arrow to the text above.
  leaveAlt(event) {
    if (!["Enter", "ArrowDown", "ArrowUp", "Escape"].includes(event.key)) return;
    event.preventDefault();
    const inside = this.getPos() + 1;
    const place = event.key === "ArrowUp" ? Math.max(0, this.getPos() - 1) : inside;
    const doc = this.view.state.doc;
    this.view.dispatch(this.view.state.tr.setSelection(TextSelection.near(doc.resolve(place), event.key === "ArrowUp" ? -1 : 1)));
    this.view.focus();
  }

  update(node) {
    if (node.type !== this.node.type) return false;
    if (node.attrs.src !== this.node.attrs.src) return false;
    this.node = node;
    if (this.alt.value.trim() !== node.attrs.alt.trim() && document.activeElement !== this.alt) this.alt.value = node.attrs.alt;
    if (this.shown.tagName === "IMG") this.shown.alt = node.attrs.alt;
    this.mark();
    return true;
  }

  stopEvent(event) {
    return this.about.contains(event.target);
  }

  ignoreMutation(mutation) {
    return mutation.type !== "selection" && !this.contentDOM.contains(mutation.target);
  }
}

export const Picture = Node.create({
  name: "picture",
  group: "block",
  content: "inline*",
  isolating: true,
  draggable: true,
  addAttributes() {
    return { src: { default: "" }, alt: { default: "" } };
  },
  // Only pictures copied from a sheet come in by pasting; their address names the library.
  parseHTML() {
    return [
      {
        tag: "figure[data-src]",
        contentElement: "figcaption",
        getAttrs: (element) =>
          MEDIA.test(element.dataset.src) ? { src: element.dataset.src, alt: element.dataset.alt || "" } : false,
      },
    ];
  },
  renderHTML({ node }) {
    return ["figure", { "data-src": node.attrs.src, "data-alt": node.attrs.alt }, ["figcaption", 0]];
  },
  // ![what it shows](address) on a line of its own becomes a picture as it is typed.
  addInputRules() {
    return [
      new InputRule({
        find: /^!\[([^\]]*)\]\(([^()\s]+)\)$/,
        handler: ({ state, range, match }) => {
          const $from = state.doc.resolve(range.from);
          if (!isAllowedAddress(match[2]) || $from.depth !== 1) return null;
          state.tr.replaceWith($from.before(), $from.after(), [this.type.create({ src: match[2], alt: match[1] }), state.schema.nodes.paragraph.create()]);
          return undefined;
        },
      }),
    ];
  },
  addNodeView() {
    return ({ node, view, getPos }) => new PictureView(node, view, getPos);
  },
  addKeyboardShortcuts() {
    return {
      Enter: () => {
        const { $from } = this.editor.state.selection;
        if ($from.parent.type.name !== "picture") return false;
        const after = $from.after();
        return this.editor.chain().insertContentAt(after, { type: "paragraph" }).setTextSelection(after + 1).scrollIntoView().run();
      },
    };
  },
});

// Puts a picture at a place between two blocks and asks at once what it shows.
export function putPicture(editor, place, src) {
  const blocks = [{ type: "picture", attrs: { src, alt: "" } }];
  if (place >= editor.state.doc.content.size) blocks.push({ type: "paragraph" });
  editor.chain().insertContentAt(place, blocks).run();
  const figure = editor.view.nodeDOM(place);
  figure?.scrollIntoView({ block: "nearest" });
  figure?.querySelector(".about input")?.focus();
}
