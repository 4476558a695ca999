// The writing room: puts the surface, its tools, the saving and the base line together.
import { follow, followClick, isFollowed } from "./following.js";
import { Editor } from "@tiptap/core";
import { Dropcursor, Gapcursor, Placeholder, UndoRedo } from "@tiptap/extensions";
import { Fragment, Slice } from "@tiptap/pm/model";
import { NodeSelection, TextSelection } from "@tiptap/pm/state";
import { Arriving } from "../bringing/arriving.js";
import { Embeds } from "../bringing/embeds.js";
import { blockOf, putItem, putMedia, replaceItem } from "../bringing/items.js";
import { plainBlocks, takePaste, takePlain } from "../bringing/paste.js";
import { bringGallery, bringIn, bringTexts, mediaIn, textsIn } from "../bringing/upload.js";
import "../docket/docket.js";
import "../shell/presence.js";
import "../shell/shell.js";
import { BlockLine } from "../panels/blockline.js";
import { Finder, Finding } from "../panels/finding.js";
import { Grip, Moving } from "../panels/moving.js";
import { KeepForm } from "../panels/keepform.js";
import { LinkForm } from "../panels/linkform.js";
import { Outline } from "../panels/outline.js";
import { Proof, ProofMarks } from "../panels/proof.js";
import { kinds } from "../panels/putting.js";
import { Seam } from "../panels/seam.js";
import { Splitting } from "../panels/splitting.js";
import { Tools } from "../panels/tools.js";
import { drop, textsOf } from "../saving/browserkept.js";
import { Following } from "../saving/following.js";
import { Saving, acknowledgedKey } from "../saving/saving.js";
import { docket, offer } from "./between.js";
import { lazily } from "./lazily.js";
import { room } from "./roomdata.js";
import { description, marks, nodes } from "./schema.js";
import { say } from "./messages.js";

const at = (id) => document.getElementById(id);
const title = at("title");
const subtitle = at("subtitle");
const saved = at("saved");

let said = "Saved"; // what a screen reader was last told of the text's state

// How old the last save is shows and is not spoken: only another state is, and the first save of what was written.
function tell(words, isBad = false) {
  if (saved.textContent !== words) say(saved, words);
  saved.classList.toggle("bad", isBad);
  const state = isBad ? words : words.startsWith("Saved") ? "Saved" : "";
  if (!state && said === "Saved" && !at("saved-said").textContent) said = "";
  if (!state || state === said) return;
  said = state;
  at("saved-said").textContent = state;
}

// What came of bringing a picture in, until the next save has something to say.
function tellTask(words, isBad = false) {
  const line = document.querySelector("#actions .told");
  say(line, words);
  line.classList.toggle("problem", isBad);
}

// A line with one thing to do about it, at the base line; answers with a function that takes the offer away.
function offerTask(words, verb, act) {
  tellTask(words);
  if (!verb) return () => {};
  const button = document.createElement("button");
  button.type = "button";
  button.className = "plain";
  button.textContent = verb;
  button.addEventListener("click", async () => {
    try {
      tellTask("");
      await act();
    } catch {
      offerTask("Mobbet could still not be reached; the text stays in plain.", verb, act);
    }
  });
  document.querySelector("#actions .told").append(" ", button);
  return () => button.remove();
}

// What spoke of the network is over when the network is back.
addEventListener("online", () => {
  const line = document.querySelector("#actions .told");
  if (/network is (away|back)|could not be reached/.test(line.textContent) && !line.querySelector("button")) tellTask("");
});

// Ctrl+Shift+V pastes plain text; ProseMirror is told by the same key.
let isPlainPaste = false;
addEventListener("keydown", (event) => {
  isPlainPaste = (event.ctrlKey || event.metaKey) && event.shiftKey && event.key.toLowerCase() === "v";
}, true);
addEventListener("keyup", () => {
  isPlainPaste = false;
}, true);

const editor = new Editor({
  element: at("surface"),
  injectCSS: false,
  extensions: [
    ...nodes,
    ...marks,
    Arriving,
    Moving,
    Finding,
    ProofMarks,
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
    attributes: { class: "text", role: "textbox", "aria-multiline": "true", "aria-label": "Text of the post", spellcheck: "true" },
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
  if (texts.length) bringTexts(editor, room, texts, seamAt(position), tellTask, offerTask);
  if (media.length) bringIn(editor, room, media, seamAt(position));
  return true;
}

const embeds = new Embeds(editor, room, tellTask, offerTask);

const gallery = (items, place) => {
  for (const item of items) room.items[item.id] = item;
  putMedia(editor, place, [{ type: "gallery", content: items.map(blockOf) }]);
};

// Chooses what is put at a place, in the place of what a block shows, or added to a gallery.
const picker = lazily(() => import("../panels/picker.js"), ({ Picker }) => new Picker(at("picker"), room, {
  files: (kind, files, place) => (kind === "gallery" ? bringGallery(editor, room, files, place, gallery) : bringIn(editor, room, files, place)),
  items: (kind, items, place) => (kind === "gallery" ? gallery(items, place) : putItem(editor, room, place, items[0], true)),
  embed: (found, typed, place) => embeds.put(found, typed, place),
}), tellTask);

function choose(kind, place) {
  const where = place ?? seamAt(editor.state.selection.from);
  picker((one) => one.open(kind, where));
}

const page = document.querySelector(".page");
const seam = new Seam(page, editor, kinds(editor, room, choose));
const finder = new Finder(at("finder"), editor);
const source = lazily(() => import("../panels/source.js"), ({ Source }) => new Source(at("source"), editor, room), tellTask);
const tools = new Tools(at("tools"), editor, room, {
  picture: () => choose("picture"),
  putHere: () => seam.open(),
  find: () => finder.open(),
  source: (format) => source((one) => one.toggle(format)),
});
tools.links = new LinkForm(at("link-form"), tools, editor, room);
const blockLine = new BlockLine(at("block-line"), editor);
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
const keepForm = new KeepForm(at("keep-form"), editor, room, tellTask);
blockLine.keep = () => keepForm.open();
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
const outline = new Outline(at("outline-list"), editor, title);

function read() {
  return { title: title.value, subtitle: subtitle.value, document: editor.getJSON() };
}

function count(answer) {
  const time = answer.minutes === 1 ? "a minute’s reading" : `${answer.minutes} minutes’ reading`;
  at("counts").textContent = `${answer.words.toLocaleString("en")} word${answer.words === 1 ? "" : "s"}${answer.words ? ` · ${time}` : ""}`;
  at("revision").textContent = `Revision ${answer.revision}`;
}

let titleOnDocket = title.value;
const shapeOf = () => editor.state.doc.content.content.map((node) => node.type.name).join(" ");
let shapeOnDocket = shapeOf();
const REREAD_AFTER = 6000;
let rereading = 0;

// The docket tells of the text as well (what leads it, what lists show): read again when writing pauses.
function rereadLater() {
  clearTimeout(rereading);
  rereading = setTimeout(() => docket().reread(), REREAD_AFTER);
}

const saving = new Saving(room, {
  read,
  tell,
  saved(answer) {
    count(answer);
    bringLetters();
    proof.askLater();
    // the docket tells what is not out yet, and the address that follows from the title
    const shape = shapeOf();
    const isStale = title.value !== titleOnDocket || at("main-action").disabled;
    const isReshaped = shape !== shapeOnDocket;
    titleOnDocket = title.value;
    shapeOnDocket = shape;
    if (isStale || isReshaped) docket().reread();
    else rereadLater();
    at("room-name").textContent = title.value || "New post";
    document.title = `${title.value || "New post"} · Mobbet`;
  },
  met: showConflict,
});

const proof = new Proof(at("notes"), { editor, room, saving, tell: tellTask });
const following = new Following(room.post, () => ({ title: title.value, subtitle: subtitle.value, document: editor.getJSON() }));
editor.on("update", ({ transaction }) => {
  if (!transaction.docChanged) return;
  saving.changed();
  following.changed();
  if (!tablesComing) bringTables();
});
for (const line of [title, subtitle]) {
  line.addEventListener("input", () => {
    fit(line);
    if (line.value.length >= line.maxLength) tellTask(`The ${line.id} has ${line.maxLength} letters now, the most that it can have.`, true);
    saving.changed();
    following.changed();
  });
}

// The slanted letters come with the first save; until then the browser slants the upright ones.
let hasLetters = false;
function bringLetters() {
  if (hasLetters) return;
  hasLetters = true;
  const { letters } = at("main").dataset;
  document.head.append(Object.assign(document.createElement("link"), { rel: "stylesheet", href: letters }));
}

// Grows a one-line field with its words where the browser does not do so by itself.
function fit(line) {
  if (CSS.supports("field-sizing", "content")) return;
  line.style.height = "auto";
  line.style.height = `${line.scrollHeight}px`;
}
fit(title);
fit(subtitle);

title.addEventListener("keydown", (event) => {
  if (event.key === "Enter" || event.key === "ArrowDown") {
    event.preventDefault();
    subtitle.focus();
  }
});
subtitle.addEventListener("keydown", (event) => {
  if (event.key === "Enter" || event.key === "ArrowDown") {
    event.preventDefault();
    editor.view.focus();
    editor.commands.setTextSelection(1);
  } else if (event.key === "ArrowUp") title.focus();
});

const meeting = lazily(() => import("../saving/meeting.js"), ({ Meeting }) => new Meeting(at("conflict"), {
  room,
  read,
  put: (text) => setSheet(text),
  async over(current) {
    const sent = await post(room.to.over, current);
    if (sent.revision) {
      saving.goOnFrom(sent.revision);
      count(sent);
    }
    return sent;
  },
  async theirs(current) {
    const sent = await post(room.to.apart, current);
    if (!sent.address) return;
    saving.goOnFrom(current);
    await drop(acknowledgedKey(room.post));
    location.reload();
  },
  away: () => tell("The network is away; choose again when it is back.", true),
}), tellTask);

function showConflict(answer) {
  meeting((one) => one.show(answer));
}

function setSheet(text) {
  title.value = text.title;
  subtitle.value = text.subtitle;
  fit(title);
  fit(subtitle);
  editor.commands.setContent(text.document);
}

async function post(address, base) {
  const response = await fetch(address, {
    method: "POST",
    headers: { "content-type": "application/json", accept: "application/json" },
    body: JSON.stringify({ ...read(), base }),
  });
  return response.json();
}

// Text that a tab kept and the server never acknowledged comes back, and goes to the server. A page that was
// opened while the network is away may be older than the last text that the server has.
async function bringBack() {
  const onPage = read();
  const stable = (text) => JSON.stringify({ title: text.title, subtitle: text.subtitle, document: text.document });
  for (const kept of await textsOf(room.post)) {
    const isNewer = kept.base > room.revision;
    if (kept.isSent) {
      if (!isNewer || saving.revision >= kept.base) continue;
      setSheet(kept);
      saving.goOnFrom(kept.base);
      continue;
    }
    await drop(kept.key);
    if (stable(kept) === stable(onPage) || saving.isDirty) continue;
    setSheet(kept);
    saving.revision = kept.base;
    saving.unanswered = kept.unanswered || [];
    saving.changed();
    offerTask("Text that had not reached the server was brought back.", "Compare", () => meeting((one) => one.compare(onPage, read())));
  }
}
const coming = bringBack();

const splitting = new Splitting({ button: at("split"), form: at("splitting"), list: at("outline-list"), editor, room, saving, offer: offerTask });
splitting.tellLast();

// Leaving by a link or an action of this page waits until the text is saved.
document.addEventListener("click", async (event) => {
  const link = event.target.closest("a[href]");
  if (!link || link.target || event.metaKey || event.ctrlKey || event.defaultPrevented || !saving.isDirty) return;
  if (link.closest(".surface")) return;
  event.preventDefault();
  await saving.flush();
  location.href = link.href;
});

// Keys of the whole room; those that concern the text work while it has the focus.
const ROOM_KEYS = { s: () => saving.flush(), f: () => finder.open() };
const TEXT_KEYS = { k: () => tools.links.open(), "\\": () => tools.chain().unsetAllMarks().run() };

addEventListener("keydown", (event) => {
  const isCommand = (event.ctrlKey || event.metaKey) && !event.shiftKey && !event.altKey;
  const act = isCommand ? ROOM_KEYS[event.key.toLowerCase()] || (editor.isFocused && TEXT_KEYS[event.key.toLowerCase()]) : null;
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

// Sheets that are pulled up stand on the base line, which has two lines on a phone.
new ResizeObserver(([{ target }]) => document.documentElement.style.setProperty("--base", `${target.offsetHeight}px`)).observe(document.querySelector(".base"));

for (const button of document.querySelectorAll("[data-pull]")) {
  button.addEventListener("click", () => {
    const sheet = at(button.dataset.pull);
    const isUp = !sheet.classList.contains("is-up");
    for (const other of document.querySelectorAll(".pull")) other.classList.remove("is-up");
    for (const other of document.querySelectorAll("[data-pull]")) other.setAttribute("aria-expanded", "false");
    sheet.classList.toggle("is-up", isUp);
    button.setAttribute("aria-expanded", String(isUp));
  });
}

if (!title.value) title.focus();

// The room can be opened again while the network is away.
navigator.serviceWorker?.register(room.to.worker).catch(() => {});

offer("sheet", { flush: () => saving.flush(), hold: () => proof.hold(), put: () => proof.put() });

performance.mark("mobbet:ready");
// for the scripts of other screens parts that stand on this page too, and for tests
window.mobbetRoom = { saving, proof, coming, docket, schema: () => description(editor.schema), outline, blockLine };
