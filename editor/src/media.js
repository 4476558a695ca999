// Galleries, sound, video, embeds and files on the sheet, each as it looks on the site.
import { Node } from "@tiptap/core";
import { NodeSelection, Selection } from "@tiptap/pm/state";
import { isAllowedAddress } from "./addresses.js";
import { kept } from "./attributes.js";
import { pictureAddress } from "./picture.js";
import { stretchAt } from "./putting.js";

const room = () => window.mobbetRoomData;
const numberOf = (src) => Number(/^media:(\d+)$/.exec(src || "")?.[1] || 0);
const item = (src) => room().items[numberOf(src)];

function element(tag, className = "", words = "") {
  const made = document.createElement(tag);
  if (className) made.className = className;
  if (words) made.textContent = words;
  return made;
}

const SRC = {
  default: null,
  parseHTML: (dom) => (/^media:\d+$/.test(dom.dataset.src || "") ? dom.dataset.src : null),
  renderHTML: ({ src }) => ({ "data-src": src }),
};

// A figure with something above its caption; `draw(box, node)` fills what is above.
function figure(name, attributes, draw) {
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

function clock(seconds) {
  const whole = Math.round(seconds || 0);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}

function player(tag, node) {
  const made = element(tag);
  made.controls = true;
  made.preload = "none";
  made.src = `${room().to.item}${numberOf(node.attrs.src)}/play`;
  made.setAttribute("aria-label", node.attrs.title || item(node.attrs.src)?.name || tag);
  return made;
}

const Sound = figure("sound", { src: SRC, title: kept("title", ""), size: kept("size", "full") }, (box, node) => {
  const known = item(node.attrs.src);
  const title = element("p", "played", node.attrs.title || known?.name || "Sound");
  title.append(element("span", "", known ? clock(known.seconds) : ""));
  box.replaceChildren(title, player("audio", node));
});

const Video = figure("video", { src: SRC, title: kept("title", ""), size: kept("size", "full") }, (box, node) => {
  const made = player("video", node);
  const known = item(node.attrs.src);
  if (known?.state !== "working") made.poster = pictureAddress(node.attrs.src);
  if (known?.width) {
    made.width = known.width;
    made.height = known.height;
  }
  box.replaceChildren(made, ...(known?.state === "working" ? [element("p", "hint", "The video is being made ready; the post can be published meanwhile.")] : []));
});

const Embed = figure(
  "embed",
  {
    address: { default: null, parseHTML: (dom) => (isAllowedAddress(dom.dataset.address || "") ? dom.dataset.address : null), renderHTML: ({ address }) => ({ "data-address": address }) },
    title: kept("title", ""), width: kept("width", 640), height: kept("height", 360), poster: kept("poster", ""), size: kept("size", "full"),
  },
  (box, node) => {
    const facade = element("div", "facade");
    const poster = pictureAddress(node.attrs.poster);
    if (poster) {
      const image = element("img");
      image.src = poster;
      image.alt = "";
      facade.append(image);
    }
    facade.append(element("span", "", `Play “${node.attrs.title || node.attrs.address}”`));
    box.replaceChildren(facade);
  },
);

const File = Node.create({
  name: "file",
  group: "block",
  atom: true,
  addAttributes: () => ({ src: SRC, words: kept("words", "") }),
  parseHTML: () => [{ tag: 'p[data-kind="file"]' }],
  renderHTML: ({ HTMLAttributes }) => ["p", { "data-kind": "file", ...HTMLAttributes }],
  addNodeView: () => ({ node }) => {
    const dom = element("p", "download");
    dom.contentEditable = "false";
    const show = (next) => {
      const known = item(next.attrs.src);
      dom.replaceChildren(element("a", "", next.attrs.words || known?.name || "File"), " ", element("span", "", known ? known.name : ""));
    };
    show(node);
    return {
      dom,
      update(next) {
        if (next.type !== node.type) return false;
        show(next);
        return true;
      },
      ignoreMutation: () => true,
    };
  },
});

const Gallery = Node.create({
  name: "gallery",
  group: "block",
  content: "picture+",
  isolating: true,
  addAttributes: () => ({ layout: kept("layout", "rows") }),
  parseHTML: () => [{ tag: '[data-kind="gallery"]' }],
  renderHTML: ({ HTMLAttributes, node }) => ["div", { "data-kind": "gallery", class: `gallery on-sheet ${node.attrs.layout}`, ...HTMLAttributes }, 0],
});

export const mediaNodes = [Gallery, Sound, Video, Embed, File];

// The block for an item of the library; a caption is put only where the library has one.
export function blockOf(found) {
  const caption = found.caption ? [{ type: "text", text: found.caption }] : undefined;
  if (found.kind === "picture") return { type: "picture", attrs: { src: found.src, alt: found.alt || "", credit: found.credit || "" }, content: caption };
  if (found.kind === "file") return { type: "file", attrs: { src: found.src, words: found.caption || found.name } };
  return { type: found.kind, attrs: { src: found.src, title: found.caption || "" } };
}

// Puts blocks between two others, and the cursor to where the next word about them is typed.
export function putMedia(editor, place, blocks, takesFocus = true) {
  const { from: at, to } = stretchAt(editor, place);
  const isLast = to >= editor.state.doc.content.size;
  editor.chain().insertContentAt({ from: at, to }, isLast ? [...blocks, { type: "paragraph" }] : blocks).run();
  const dom = editor.view.nodeDOM(at);
  dom?.scrollIntoView?.({ block: "nearest" });
  if (!takesFocus) return;
  const field = dom?.querySelector?.(".about .input");
  if (field && !field.value) field.focus();
  else {
    const node = editor.state.doc.nodeAt(at);
    const { tr, doc } = editor.state;
    editor.view.dispatch(tr.setSelection(node?.isAtom ? NodeSelection.create(doc, at) : Selection.near(doc.resolve(at + 1), 1)).scrollIntoView());
    editor.view.focus();
  }
}

export function putItem(editor, data, place, found, takesFocus) {
  data.items[found.id] = found;
  putMedia(editor, place, [blockOf(found)], takesFocus);
}

// Puts another item in the place of the one a block shows; every setting of the block stays.
export function replaceItem(editor, data, position, found) {
  data.items[found.id] = found;
  const { state, view } = editor;
  const tr = state.tr.setNodeAttribute(position, "src", found.src);
  view.dispatch(state.selection instanceof NodeSelection ? tr.setSelection(NodeSelection.create(tr.doc, position)) : tr);
}
