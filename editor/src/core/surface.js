// The writing surface with its tools: what the writing room and the sheet of a saved block share.
import { Editor } from "@tiptap/core";
import { Dropcursor, Gapcursor, Placeholder, UndoRedo } from "@tiptap/extensions";
import { Fragment, Slice } from "@tiptap/pm/model";
import { NodeSelection, TextSelection } from "@tiptap/pm/state";
import { Arriving, mediaIn, textsIn } from "../bringing/arriving.js";
import { Embeds } from "../bringing/embeds.js";
import { blockOf, putItem, putMedia, replaceItem } from "../bringing/items.js";
import { plainBlocks, takePaste, takePlain } from "../bringing/paste.js";
import { BlockLine } from "../panels/blockline.js";
import { Finding } from "../panels/found.js";
import { Grip, Moving } from "../panels/moving.js";
import { kinds } from "../panels/putting.js";
import { Seam } from "../panels/seam.js";
import { Tools } from "../panels/tools.js";
import { follow, followClick, isFollowed } from "./following.js";
import { lazily } from "./lazily.js";
import { afterChange } from "./planning.js";
import { marks, nodes } from "./schema.js";

const at = (id) => document.getElementById(id);

// Ctrl+Shift+V pastes plain text; ProseMirror is told by the same key.
let isPlainPaste = false;
addEventListener("keydown", (event) => {
  isPlainPaste = (event.ctrlKey || event.metaKey) && event.shiftKey && event.key.toLowerCase() === "v";
}, true);
addEventListener("keyup", () => {
  isPlainPaste = false;
}, true);

// `tellTask` says what came of something, `offerTask` with one thing to do about it; a pasted heading may become the `title`, where there is one.
export function surfaceOf(room, { label, title = null, extensions = [], tellTask, offerTask }) {
  const editor = new Editor({
    element: at("surface"),
    injectCSS: false,
    enableCoreExtensions: { delete: false }, // it replays every transaction to emit `delete` events, which nothing here listens to
    extensions: [
      ...nodes,
      ...marks,
      Arriving,
      Moving,
      Finding,
      ...extensions,
      UndoRedo,
      Gapcursor,
      Dropcursor.configure({ color: false, class: "drop-line" }),
      Placeholder.configure({ placeholder: "Write here, or paste", emptyEditorClass: "is-first", emptyNodeClass: "is-empty" }),
    ],
    content: room.document,
    enableContentCheck: true,
    editorProps: {
      clipboardTextParser: (text, $context, isPlain, view) => {
        const blocks = plainBlocks(text);
        if ($context.parent.type.name === "codeBlock" || !blocks.length) return null;
        return Slice.maxOpen(Fragment.fromJSON(view.state.schema, blocks));
      },
      attributes: { class: "text", role: "textbox", "aria-multiline": "true", "aria-label": label, spellcheck: "true" },
      // before ProseMirror reads the HTML itself, which would wake its event handlers and styles
      handleDOMEvents: {
        mousedown: (view, event) => isFollowed(event) && !event.preventDefault(), // or it would select the block
        click: (view, event) => followClick(editor, room, event),
        paste: (view, event) => {
          if (takeFiles(event.clipboardData, view.state.selection.from, event)) return true;
          if (isPlainPaste) {
            if (!takePlain(editor, room, event.clipboardData?.getData("text/plain") || "", tellTask, offerTask)) return false;
            event.preventDefault();
            return true;
          }
          if (embeds.take(event.clipboardData, view.state.selection, seamAt)) {
            event.preventDefault();
            return true;
          }
          if (!takePaste(editor, room, event.clipboardData, tellTask, offerTask, title)) return false;
          event.preventDefault();
          return true;
        },
      },
      // letters typed while a whole block is chosen stand below it; they do not take its place
      handleTextInput: (view, from, to, text) => {
        const { selection, schema } = view.state;
        if (!(selection instanceof NodeSelection) || !selection.node.isBlock || selection.$from.depth) return false;
        const tr = view.state.tr.insert(selection.to, schema.nodes.paragraph.create(null, schema.text(text)));
        view.dispatch(tr.setSelection(TextSelection.create(tr.doc, selection.to + 1 + text.length)).scrollIntoView());
        return true;
      },
      handleDrop: (view, event, slice, isMoved) => {
        if (isMoved) return false;
        const place = view.posAtCoords({ left: event.clientX, top: event.clientY });
        return takeFiles(event.dataTransfer, place ? place.pos : view.state.doc.content.size, event);
      },
    },
  });

  // The seam nearest to a position: after the top-level block it is in, or before it when it is at its start.
  function seamAt(position) {
    const $position = editor.state.doc.resolve(Math.min(position, editor.state.doc.content.size));
    if ($position.depth === 0) return $position.pos;
    const isEmpty = $position.node(1).content.size === 0;
    return $position.parentOffset === 0 && !isEmpty && $position.depth === 1 ? $position.before(1) : $position.after(1);
  }

  function takeFiles(transfer, position, event) {
    const [media, texts] = [mediaIn(transfer), textsIn(transfer)];
    if (!media.length && !texts.length) return false;
    event.preventDefault();
    const seam = seamAt(position);
    if (texts.length) bring(({ bringTexts }) => bringTexts(editor, room, texts, seam, tellTask, offerTask));
    if (media.length) bring(({ bringIn }) => bringIn(editor, room, media, seam));
    return true;
  }

  const bring = lazily(() => import("../bringing/upload.js"), (upload) => upload, tellTask);
  const embeds = new Embeds(editor, room, tellTask, offerTask);

  const gallery = (items, place) => {
    for (const item of items) room.items[item.id] = item;
    putMedia(editor, place, [{ type: "gallery", content: items.map(blockOf) }]);
  };

  // Chooses what is put at a place, in the place of what a block shows, or added to a gallery.
  const picker = lazily(() => import("../panels/picker.js"), ({ Picker }) => new Picker(at("picker"), room, {
    files: (kind, files, place) => bring(({ bringGallery, bringIn }) => (kind === "gallery" ? bringGallery(editor, room, files, place, gallery) : bringIn(editor, room, files, place))),
    items: (kind, items, place) => (kind === "gallery" ? gallery(items, place) : putItem(editor, room, place, items[0], true)),
    embed: (found, typed, place) => embeds.put(found, typed, place),
  }), tellTask);

  function choose(kind, place) {
    const where = place ?? seamAt(editor.state.selection.from);
    picker((one) => one.open(kind, where));
  }

  const page = document.querySelector(".page");
  const seam = new Seam(page, editor, kinds(editor, room, choose));
  const finder = lazily(() => import("../panels/finding.js"), ({ Finder }) => new Finder(at("finder"), editor), tellTask);
  const find = () => finder((one) => one.open());
  const source = lazily(() => import("../panels/source.js"), ({ Source }) => new Source(at("source"), editor, room), tellTask);
  const tools = new Tools(at("tools"), editor, room, {
    picture: () => choose("picture"),
    camera: () => at("camera")?.click(),
    putHere: () => seam.open(),
    find,
    source: (format) => source((one) => one.toggle(format)),
  });
  const links = lazily(() => import("../panels/linkform.js"), ({ LinkForm }) => new LinkForm(at("link-form"), tools, editor, room), tellTask);
  tools.link = () => links((one) => one.open());
  const blockLine = new BlockLine(at("block-line"), editor, Boolean(room.post));
  new Grip(page, editor);

  // What is done with tables comes with the first one of a text.
  let tablesComing = null;
  function bringTables() {
    if (tablesComing) return;
    let hasTable = false;
    editor.state.doc.descendants((node) => {
      hasTable ||= node.type.name === "table";
      return !hasTable && !node.isTextblock;
    });
    if (!hasTable) return;
    tablesComing = import("../panels/tables.js").then((tables) => {
      for (const plugin of tables.plugins()) editor.registerPlugin(plugin, (own, others) => [own, ...others]);
      blockLine.bringTables(tables);
    }, () => {
      tablesComing = null; // without a network; asked for again with the next change
    });
  }
  bringTables();
  if (room.post) {
    const keepForm = lazily(() => import("../panels/keepform.js"), ({ KeepForm }) => new KeepForm(at("keep-form"), editor, room, tellTask), tellTask);
    blockLine.keep = () => keepForm((one) => one.open());
  }
  blockLine.follow = (href) => follow(editor, room, href);
  Object.assign(blockLine.acts, {
    replace: (pos) => {
      const { name } = editor.state.doc.nodeAt(pos).type;
      picker((chooser) => chooser.open(name, pos, { one: (item) => replaceItem(editor, room, pos, item), title: "Replace it with" }));
    },
    more: (pos) => {
      const add = (items) => {
        for (const item of items) room.items[item.id] = item;
        editor.commands.insertContentAt(pos + editor.state.doc.nodeAt(pos).nodeSize - 1, items.map(blockOf));
      };
      picker((chooser) => chooser.open("gallery", pos, { many: add, title: "Add to the gallery" }));
    },
    words: (pos) => takeWords(pos),
    edit: (pos) => open(`${room.to.item}${/\d+/.exec(editor.state.doc.nodeAt(pos).attrs.src)?.[0]}`, "_blank", "noopener"),
  });

  // The caption, description and credit that the library has for a picture, as it has them now.
  async function takeWords(pos) {
    const node = editor.state.doc.nodeAt(pos);
    const number = /^media:(\d+)$/.exec(node.attrs.src)?.[1];
    const response = number ? await fetch(`${room.to.item}${number}/state`, { headers: { accept: "application/json" } }).catch(() => null) : null;
    if (!response?.ok) {
      tellTask("The library could not be asked; try again when the network is back.", true);
      return;
    }
    const item = await response.json();
    room.items[item.id] = item;
    const block = editor.schema.nodeFromJSON({ ...blockOf(item), attrs: { ...node.attrs, alt: item.alt, credit: item.credit } });
    editor.view.dispatch(editor.state.tr.replaceWith(pos, pos + node.nodeSize, block));
    tellTask(item.alt || item.caption ? "The caption and description of the library are taken; change them here as you like." : "The library has no caption or description for it yet.");
  }

  // What opens by a key and is typed into is there by the time anybody presses that key.
  for (const event of ["keydown", "pointerdown"]) addEventListener(event, () => [finder, links].forEach((part) => part.warm()), { once: true });

  // Keys that concern the text work while it has the focus.
  const keys = { k: () => tools.link(), "\\": () => tools.chain().unsetAllMarks().run() };
  addEventListener("keydown", (event) => {
    const isCommand = (event.ctrlKey || event.metaKey) && !event.shiftKey && !event.altKey;
    const act = isCommand ? (event.key.toLowerCase() === "f" ? find : editor.isFocused && keys[event.key.toLowerCase()]) : null;
    if (act) {
      event.preventDefault();
      act();
    } else if (event.altKey && event.key === "Enter" && editor.isFocused) {
      event.preventDefault();
      seam.open(event.shiftKey);
    } else if (event.altKey && event.key === "F10") {
      event.preventDefault();
      tools.focus();
    }
  });
  afterChange(editor, bringTables);

  // Pictures as they are taken, several at once, where the cursor is.
  const putFiles = (files) => bring(({ bringIn }) => bringIn(editor, room, files, seamAt(editor.state.selection.from)));

  return { editor, blockLine, tools, putFiles };
}
