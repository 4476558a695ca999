// A picture on the sheet: the picture itself, the field for its alternative text, and its caption.
import { InputRule, Node } from "@tiptap/core";
import { NodeSelection, TextSelection } from "@tiptap/pm/state";
import { isAllowedAddress } from "../core/addresses.js";
import { kept } from "../core/attributes.js";
import { room } from "../core/roomdata.js";
import { REPLACE, address, choice, words } from "./parts.js";

const MEDIA = /^media:(\d+)$/;

export function pictureAddress(src) {
  const match = MEDIA.exec(src || "");
  return match ? `${room.to.picture}${match[1]}` : null;
}

export const SIZES = ["small", "half", "full", "wide"];
const SHARES = { small: 1 / 3, half: 1 / 2, full: 1, wide: 1.5 };
const FIELDS = { decoration: false, size: "full", place: "centre", around: false, frame: "plain", space: "usual", credit: "", address: "" };

function shownPicture(attrs) {
  const address = pictureAddress(attrs.src);
  if (!address) {
    const elsewhere = document.createElement("p");
    elsewhere.className = "elsewhere";
    elsewhere.textContent = `A picture at ${attrs.src}, which is not in the library; readers get a link to it.`;
    return elsewhere;
  }
  const number = Number(MEDIA.exec(attrs.src)[1]);
  const image = document.createElement("img");
  const known = room.items[number];
  if (known?.width) [image.width, image.height] = [known.width, known.height];
  image.src = room.pixels[number] || address;
  image.alt = attrs.alt;
  image.draggable = false;
  return image;
}

// The classes of a picture on the site.
function look(attrs) {
  const isAround = attrs.around && ["small", "half"].includes(attrs.size) && attrs.place !== "centre";
  const names = ["picture", attrs.size === "full" ? "" : `size-${attrs.size}`, attrs.place === "centre" ? "" : `place-${attrs.place}`, isAround ? "around" : ""];
  return [...names, attrs.frame === "plain" ? "" : `frame-${attrs.frame}`, attrs.space === "usual" ? "" : `space-${attrs.space}`].filter(Boolean).join(" ");
}

// What is wrong with a picture's width for its place, as core/media/places.py has it.
function fit(attrs, isInGallery) {
  const known = room.items[Number(MEDIA.exec(attrs.src || "")?.[1])];
  const place = room.places[attrs.size];
  if (!known?.width || isInGallery || known.name.endsWith(".svg")) return "";
  const width = known.width.toLocaleString("en");
  if (known.width < place) return `${width} px wide, too small for a place of ${place} px.`;
  return known.width > 10 * place ? `${width} px wide, far more than its place of ${place} px needs.` : "";
}

class PictureView {
  constructor(node, view, getPos) {
    Object.assign(this, { node, view, getPos });
    this.dom = document.createElement("figure");
    this.frame = document.createElement("div");
    this.frame.className = "picture-frame";
    this.frame.contentEditable = "false";
    this.shown = shownPicture(node.attrs);
    this.frame.append(this.shown);
    this.shown.addEventListener("click", () => this.select());
    this.makeEdge();
    this.makeAbout();
    this.contentDOM = document.createElement("figcaption");
    this.dom.append(this.frame, this.about, this.contentDOM);
    this.mark();
  }

  // Chooses the picture without taking the focus from its field.
  choose() {
    const { state } = this.view;
    const at = this.getPos();
    if (state.selection.from !== at) this.view.dispatch(state.tr.setSelection(NodeSelection.create(state.doc, at)).setMeta("addToHistory", false));
  }

  // The field for the alternative text, "only decoration", and what is wrong with the size.
  makeAbout() {
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
    this.alt.value = this.node.attrs.alt;
    this.alt.maxLength = 2000;
    this.alt.placeholder = "what the picture shows";
    this.alt.addEventListener("input", () => this.set({ alt: this.alt.value }));
    this.alt.addEventListener("keydown", (event) => this.leaveAlt(event));
    this.alt.addEventListener("focus", () => this.choose()); // so that the block line speaks of this picture
    const only = document.createElement("label");
    only.className = "only";
    this.decoration = document.createElement("input");
    this.decoration.type = "checkbox";
    this.decoration.addEventListener("change", () => this.set({ decoration: this.decoration.checked }));
    only.append(this.decoration, " only decoration");
    this.note = document.createElement("span");
    this.note.className = "note";
    this.about.append(label, this.alt, only, this.note);
  }

  // The edge by which a picture is sized: dragged to the next stop, or moved with the arrows.
  makeEdge() {
    this.edge = document.createElement("button");
    this.edge.type = "button";
    this.edge.className = "edge";
    this.edge.addEventListener("keydown", (event) => {
      const step = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
      if (!step) return;
      event.preventDefault();
      this.set({ size: SIZES[Math.min(SIZES.length - 1, Math.max(0, SIZES.indexOf(this.node.attrs.size) + step))] });
    });
    this.edge.addEventListener("pointerdown", (event) => {
      event.preventDefault();
      this.edge.setPointerCapture(event.pointerId);
      this.isDragged = true;
    });
    this.edge.addEventListener("pointermove", (event) => this.isDragged && this.drag(event));
    this.edge.addEventListener("pointerup", () => {
      this.isDragged = false;
    });
    this.frame.append(this.edge);
  }

  drag(event) {
    const line = this.view.dom.getBoundingClientRect();
    const box = this.frame.getBoundingClientRect();
    const isCentred = this.node.attrs.place === "centre";
    const wanted = isCentred ? 2 * Math.abs(event.clientX - (box.left + box.width / 2)) : this.node.attrs.place === "right" ? box.right - event.clientX : event.clientX - box.left;
    const share = wanted / line.width;
    const near = SIZES.reduce((best, size) => (Math.abs(SHARES[size] - share) < Math.abs(SHARES[best] - share) ? size : best));
    if (near !== this.node.attrs.size) this.set({ size: near });
  }

  select() {
    const { state } = this.view;
    this.view.dispatch(state.tr.setSelection(NodeSelection.create(state.doc, this.getPos())));
    this.view.focus();
  }

  isInGallery() {
    const position = this.getPos?.();
    return position !== undefined && this.view.state.doc.resolve(position).parent.type.name === "gallery";
  }

  mark() {
    const { attrs } = this.node;
    const isInGallery = this.isInGallery();
    this.dom.className = look(attrs);
    this.dom.classList.toggle("lacks-alt", !attrs.alt && !attrs.decoration);
    this.contentDOM.classList.toggle("is-empty", this.node.content.size === 0);
    this.contentDOM.dataset.credit = attrs.credit;
    this.decoration.checked = attrs.decoration;
    this.alt.disabled = attrs.decoration;
    const note = fit(attrs, isInGallery);
    if (this.note.textContent !== note) this.note.textContent = note;
    this.edge.hidden = isInGallery || this.shown.tagName !== "IMG";
    this.edge.setAttribute("aria-label", `Width of the picture: ${attrs.size}; arrows change it`);
    this.edge.textContent = attrs.size;
  }

  set(values) {
    const position = this.getPos();
    this.view.dispatch(this.view.state.tr.setNodeMarkup(position, undefined, { ...this.node.attrs, ...values }));
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
    return this.about.contains(event.target) || this.edge.contains(event.target);
  }

  ignoreMutation(mutation) {
    return mutation.type !== "selection" && !this.contentDOM.contains(mutation.target);
  }
}

const Picture = Node.create({
  name: "picture",
  group: "block",
  content: "inline*",
  isolating: true,
  draggable: true,
  addAttributes() {
    return { src: { default: "" }, alt: { default: "" }, ...Object.fromEntries(Object.entries(FIELDS).map(([name, fallback]) => [name, kept(name, fallback)])) };
  },
  // Only pictures copied from a sheet come in by pasting; their address names the library.
  parseHTML() {
    return [
      {
        tag: "figure[data-src]",
        contentElement: "figcaption",
        getAttrs: (element) =>
          !element.dataset.kind && MEDIA.test(element.dataset.src) ? { src: element.dataset.src, alt: element.dataset.alt || "" } : false,
      },
    ];
  },
  renderHTML({ node, HTMLAttributes }) {
    const { src, alt, ...fields } = HTMLAttributes;
    return ["figure", { ...fields, "data-src": node.attrs.src, "data-alt": node.attrs.alt }, ["figcaption", 0]];
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
    const size = (step) => () => {
      const { selection } = this.editor.state;
      const position = selection.node?.type.name === "picture" ? selection.from : selection.$from.parent.type.name === "picture" ? selection.$from.before() : null;
      if (position === null) return false;
      const now = SIZES.indexOf(this.editor.state.doc.nodeAt(position).attrs.size);
      const tr = this.editor.state.tr.setNodeAttribute(position, "size", SIZES[Math.min(SIZES.length - 1, Math.max(0, now + step))]);
      this.editor.view.dispatch(selection.node ? tr.setSelection(NodeSelection.create(tr.doc, position)) : tr);
      return true;
    };
    return {
      "Mod-Alt-ArrowRight": size(1),
      "Mod-Alt-ArrowLeft": size(-1),
      Enter: () => {
        const { $from } = this.editor.state.selection;
        if ($from.parent.type.name !== "picture") return false;
        const after = $from.after();
        return this.editor.chain().insertContentAt(after, { type: "paragraph" }).setTextSelection(after + 1).scrollIntoView().run();
      },
    };
  },
});

export const picture = {
  nodes: [Picture],
  sentence: {
    picture: [
    "A picture,", choice("size", "Width of the picture", [["small", "small"], ["half", "half the line"], ["full", "the whole line"], ["wide", "wider than the line"]]),
    ",", choice("place", "Place of the picture", [["left", "at the left"], ["centre", "centred"], ["right", "at the right"]]),
    ",", choice("around", "Text beside the picture", [[false, "text above and below"], [true, "text around it"]]),
    ",", choice("frame", "Frame of the picture", [["plain", "no frame"], ["lined", "a lined frame"], ["lifted", "lifted off the page"]]),
    ",", choice("space", "Space around the picture", [["none", "no space"], ["usual", "the usual space"], ["more", "more space"]]),
    "around it; credited to", words("credit", "Credit of the picture", "nobody named"), "leading to", address("address", "Address the picture leads to", "nowhere"),
    REPLACE, { act: "words", name: "Caption from the library" }, { act: "edit", name: "Crop it…" },
  ],
  },
  entry: { words: "Picture", group: "see", chooses: "picture", more: "image photo screenshot camera" },
};
