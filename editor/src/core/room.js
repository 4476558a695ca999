// The writing room: puts the surface, its tools, the saving and the base line together.
import "../docket/docket.js";
import "../shell/shell.js";
import { Outline } from "../panels/outline.js";
import { NoteMarks } from "../panels/notemarks.js";
import { PHONE, readyForPhones } from "../panels/phone.js";
import { ProofMarks } from "../panels/proofmarks.js";
import { Splitting } from "../panels/splitting.js";
import { Writers, showWriters } from "../panels/writers.js";
import { drop, textsOf } from "../saving/browserkept.js";
import { Following } from "../saving/following.js";
import { Saving, acknowledgedKey } from "../saving/saving.js";
import { docket, offer } from "./between.js";
import { setText } from "./dom.js";
import { lazily } from "./lazily.js";
import { room } from "./roomdata.js";
import { description } from "./schema.js";
import { surfaceOf } from "./surface.js";
import { say } from "./messages.js";

const at = (id) => document.getElementById(id);
const title = at("title");
const subtitle = at("subtitle");
const saved = at("saved");

let said = "Saved"; // what a screen reader was last told of the text's state

// How old the last save is shows and is not spoken: only another state is, and the first save of what was written.
function tell(words, isBad = false, brief = words) {
  for (const [line, told] of [[saved, words], [at("saved-here"), brief]]) {
    if (line.textContent !== told) say(line, told);
    line.classList.toggle("bad", isBad);
  }
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

const { editor, blockLine, tools, putFiles } = surfaceOf(room, { label: "Text of the post", title, extensions: [ProofMarks, NoteMarks, Writers], tellTask, offerTask });
showWriters(editor);
readyForPhones({ tools, editor, camera: at("camera"), put: putFiles });
const recording = lazily(() => import("../panels/recording.js"), ({ readyToRecord }) => readyToRecord(at("record"), tellTask, putFiles), tellTask);
for (const event of ["keydown", "pointerdown"]) addEventListener(event, () => PHONE.matches && recording.warm(), { once: true });
const outline = new Outline(at("outline-list"), editor, title);

function read() {
  return { title: title.value, subtitle: subtitle.value, document: editor.getJSON() };
}

function count(answer) {
  const time = answer.minutes === 1 ? "a minute’s reading" : `${answer.minutes} minutes’ reading`;
  setText(at("counts"), `${answer.words.toLocaleString("en")} word${answer.words === 1 ? "" : "s"}${answer.words ? ` · ${time}` : ""}`);
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

// The same as JSON, made anew only for the blocks that changed: a long text is saved while somebody writes on.
const jsonOfBlocks = new WeakMap();
function written() {
  const blocks = editor.state.doc.content.content.map((block) => {
    if (!jsonOfBlocks.has(block)) jsonOfBlocks.set(block, JSON.stringify(block));
    return jsonOfBlocks.get(block);
  });
  return `{"title":${JSON.stringify(title.value)},"subtitle":${JSON.stringify(subtitle.value)},"document":{"type":"doc","content":[${blocks.join(",")}]}}`;
}

const saving = new Saving(room, {
  written,
  tell,
  saved(answer) {
    count(answer);
    bringLetters();
    withProof.quietly((one) => one.askLater());
    if (hasNotes) notes.quietly((one) => one.load());
    // the docket tells what is not out yet, and the address that follows from the title
    const shape = shapeOf();
    const isStale = title.value !== titleOnDocket || at("main-action").disabled;
    const isReshaped = shape !== shapeOnDocket;
    titleOnDocket = title.value;
    shapeOnDocket = shape;
    if (isStale || isReshaped) docket().reread();
    else rereadLater();
    setText(at("room-name"), title.value || "New post");
    setText(document.querySelector("title"), `${title.value || "New post"} · Mobbet`);
  },
  met: showConflict,
});

// Notes of people come when there are some, or when somebody asks for them.
const openNotes = at("open-notes");
let hasNotes = openNotes.dataset.count !== "0";
const notes = lazily(() => import("../panels/bluenotes.js"), ({ BlueNotes }) => new BlueNotes({ box: at("blue-notes"), toggle: openNotes, editor, room, saving, tell: tellTask }), tellTask);

async function withNotes(act) {
  const isFirst = !hasNotes || !at("blue-notes").childElementCount;
  hasNotes = true;
  await notes(async (one) => {
    if (isFirst) await one.load();
    act(one);
  });
}

openNotes.addEventListener("click", () => withNotes((one) => one.open(!one.isOpen)));
addEventListener("keydown", (event) => {
  if (event.key === "F9" && !event.ctrlKey && !event.altKey && !event.metaKey) {
    event.preventDefault();
    withNotes((one) => {
      one.open();
      one.step(event.shiftKey ? -1 : 1);
    });
  } else if (event.altKey && !event.ctrlKey && !event.metaKey && event.code === "KeyM") {
    event.preventDefault();
    withNotes((one) => one.begin());
  }
});
if (hasNotes) addEventListener("load", () => notes.quietly((one) => one.load()));

// The proof comes with the first words.
let proof = null;
const withProof = lazily(() => import("../panels/proof.js"), ({ Proof }) => (proof = new Proof(at("notes"), { editor, room, saving, tell: tellTask })), tellTask);
if (editor.state.doc.childCount > 1 || editor.state.doc.textContent) addEventListener("load", withProof.warm);
at("next-mark").addEventListener("click", () => withProof((one) => one.step(1)).catch(() => {}));
addEventListener("keydown", (event) => {
  if (event.key !== "F8" || event.ctrlKey || event.altKey || event.metaKey) return;
  event.preventDefault();
  withProof((one) => one.step(event.shiftKey ? -1 : 1)).catch(() => {});
});
const following = new Following(room.post, () => ({ title: title.value, subtitle: subtitle.value, document: editor.getJSON() }));
editor.on("update", ({ transaction }) => {
  if (!transaction.docChanged) return;
  saving.changed();
  following.changed();
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
  for (const kept of await textsOf(room.post, room.person)) {
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

addEventListener("keydown", (event) => {
  if (!(event.ctrlKey || event.metaKey) || event.shiftKey || event.altKey || event.key.toLowerCase() !== "s") return;
  event.preventDefault();
  saving.flush();
});

// Sheets that are pulled up stand on the base line, which has two lines on a phone.
new ResizeObserver(([{ target }]) => document.documentElement.style.setProperty("--base", `${target.offsetHeight}px`)).observe(document.querySelector(".base"));

if (!title.value) title.focus();

offer("sheet", { flush: () => saving.flush(), hold: () => withProof((one) => one.hold()).catch(() => false), put: () => proof?.put() });

performance.mark("mobbet:ready");
// for the scripts of other screens parts that stand on this page too, and for tests
window.mobbetRoom = { saving, get proof() { return proof; }, notes, coming, docket, schema: () => description(editor.schema), outline, blockLine };
