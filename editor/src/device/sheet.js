// The sheet of a post that is begun on this device: the writing surface, and the docket as one sentence. Every change is kept at once.
import { refusal, smaller } from "../../../mobbet/web/shell/static/uploading.js";
import { say } from "../core/messages.js";
import { debounced } from "../core/planning.js";
import { room } from "../core/roomdata.js";
import { readyForPhones } from "../panels/phone.js";
import { readyToRecord } from "../panels/recording.js";
import { askForSync } from "../saving/backgroundsync.js";
import { NEARLY_FULL, changePost, dropPost, filesOf, fullInWords, keepFile, keepPost, partUsed, postOf, postsOf } from "./kept.js";
import { kindOf } from "./posts.js";
import { localNumber, sendAll, thingsOf } from "./sending.js";

const at = (id) => document.getElementById(id);
const QUIET = 250;

function tellTask(words, isBad = false) {
  const line = document.querySelector("#actions .told");
  say(line, words);
  line.classList.toggle("problem", isBad);
}

function tellState(words) {
  for (const id of ["saved", "saved-here"]) say(at(id), words);
}

// A file as the surface knows items of the library, under a number of the device's own.
function itemOf(file) {
  const kind = kindOf(file.blob.type);
  const address = URL.createObjectURL(file.blob);
  room.pixels[file.id] = address;
  return { id: file.id, src: `media:${file.id}`, kind, name: file.name, alt: "", caption: "", credit: "", play: address, picture: address, has_picture: kind === "picture", seconds: 0, state: "here" };
}

// Keeps a file on this device, and answers with its item; with nothing where that cannot be, which is told.
async function keepHere(key, file) {
  try {
    const why = await refusal(file, room.limits);
    if (why) throw new Error(why);
    const blob = await smaller(file, room.limits);
    const kept = { post: key, id: localNumber(), name: blob.name || "picture.png", blob };
    await keepFile(kept);
    const part = await partUsed();
    if (part > NEARLY_FULL) tellTask(fullInWords(part), true);
    return itemOf(kept);
  } catch (error) {
    tellTask(error?.name === "QuotaExceededError" ? `“${file.name}” is not kept, since the browser’s room is full: send what waits, or save it to a file, and add it again.` : error.message, true);
    return null;
  }
}

export function fill(select, pairs, chosen) {
  select.replaceChildren(...pairs.map(([value, words]) => new Option(words, value)));
  select.value = pairs.some(([value]) => value === chosen) ? chosen : pairs[0][0];
}

export function timesOf(blog, when) {
  const slots = blog.slots.map((wall) => [`slot ${wall}`, `in the slot of ${wall.replace("T", " at ")}`]);
  const own = when.kind === "slot" && !blog.slots.includes(when.wall) ? [[`slot ${when.wall}`, `in the slot of ${when.wall.replace("T", " at ")}`]] : [];
  return [["draft", "not yet: it stays a draft"], ["now", "as soon as it is sent"], ["time", "at a time of its own"], ...own, ...slots];
}

// The people to choose an author from, also one who was chosen and works there no more.
export function authorsOf(blog, chosen) {
  const people = blog.people.map(([id, name]) => [String(id), name]);
  return chosen && !people.some(([id]) => id === String(chosen.id)) ? [...people, [String(chosen.id), chosen.name]] : people;
}

export const authorOf = (select) => ({ id: Number(select.value), name: select.selectedOptions[0].textContent });

export async function openSheet(key) {
  const post = await postOf(key);
  if (!post || post.person !== room.person || !room.blogs[post.blog]) {
    location.replace(room.to.device);
    return;
  }
  if (post.isSent) {
    location.replace(`${room.to.room}${post.id}`); // from here on it is written where it is
    return;
  }
  const blog = room.blogs[post.blog];
  Object.assign(room, { ...blog, to: { ...blog.to, ...room.to }, document: post.document, items: {}, post: 0 });
  for (const file of await filesOf(key)) room.items[file.id] = itemOf(file);
  room.keepHere = (file) => keepHere(key, file);
  for (const style of document.querySelectorAll(`link[title]`)) style.disabled = style.title !== post.blog;
  at("here").hidden = true;
  at("writing").hidden = false;
  at("base").hidden = false;
  at("line").hidden = false;
  document.body.classList.add("in-room");
  at("page").lang = blog.language;
  at("title").value = post.title;
  at("subtitle").value = post.subtitle;
  const { surfaceOf } = await import("../core/surface.js");
  const { editor, tools, putFiles } = surfaceOf(room, { label: "Text of the post", title: at("title"), tellTask, offerTask: (words) => tellTask(words) });
  readyForPhones({ tools, editor, camera: at("camera"), put: putFiles });
  readyToRecord(at("record"), tellTask, putFiles);

  let isDirty = false;
  let isKeeping = Promise.resolve();
  const fields = () => ({ title: at("title").value, subtitle: at("subtitle").value, document: editor.getJSON() });
  function keepNow(more = {}) {
    keepSoon.cancel();
    isDirty = false;
    Object.assign(post, fields(), more, { at: Date.now(), isSent: false });
    const { title, subtitle, document: text, categories, tags, readers, author, when, isWaiting, blog: of } = post;
    isKeeping = changePost(key, { title, subtitle, document: text, categories, tags, readers, author, when, isWaiting, blog: of, at: post.at, isSent: false, ...(more.problems ? { problems: more.problems } : {}) })
      .then((before) => before ?? keepPost(post)) // it was removed in another tab, and is written on here
      .then(() => isDirty || tellState("Kept on this device"))
      .catch(() => tellState("This browser keeps nothing: save your words elsewhere before you close the page."));
    return isKeeping;
  }
  const keepSoon = debounced(() => keepNow(), QUIET);
  function changed() {
    if (!isDirty) tellState("…");
    isDirty = true;
    keepSoon();
  }
  editor.on("update", ({ transaction }) => transaction.docChanged && changed());
  for (const line of [at("title"), at("subtitle")]) line.addEventListener("input", changed);
  addEventListener("pagehide", () => isDirty && keepNow());
  document.addEventListener("visibilitychange", () => document.hidden && isDirty && keepNow());

  docketOf(post, blog, keepNow);
  drawState(post);
  if (post.isShared) offerToAdd(post, keepNow);

  async function toggleWaiting() {
    await keepNow({ isWaiting: !post.isWaiting, problems: {} });
    drawState(post);
    if (!post.isWaiting) return tellTask("It stays on this device.");
    askForSync();
    sendNow(post);
  }
  for (const id of ["send", "send-here"]) at(id).addEventListener("click", toggleWaiting);
  addEventListener("online", () => post.isWaiting && keepNow().then(() => sendNow(post)));
  if (!post.title) at("title").focus();
  performance.mark("mobbet:ready");
  window.mobbetDevice = { editor, kept: () => (isDirty ? keepNow() : isKeeping) };
}

// What was shared can go into a post that was begun before.
async function offerToAdd(post, keepNow) {
  const others = (await postsOf(room.person)).filter((one) => one.key !== post.key && !one.isSent);
  if (!others.length) return;
  at("add").hidden = false;
  fill(at("add-to"), [["", "a post of its own"], ...others.map((one) => [one.key, `“${one.title || "Untitled"}”`])], "");
  at("add-to").addEventListener("change", async () => {
    await keepNow();
    const other = others.find((one) => one.key === at("add-to").value);
    const { document, title } = await postOf(post.key);
    const words = title ? [{ type: "paragraph", content: [{ type: "text", text: title }] }] : [];
    for (const file of await filesOf(post.key)) await keepFile({ ...file, post: other.key });
    await changePost(other.key, { document: { ...other.document, content: [...other.document.content, ...words, ...document.content] }, at: Date.now() });
    await dropPost(post.key);
    location.href = `${room.to.device}?post=${other.key}`;
  });
}

async function sendNow(post) {
  tellTask("One moment…");
  const why = await sendAll(room.to, room.person);
  const now = await postOf(post.key);
  Object.assign(post, { isWaiting: now.isWaiting, isSent: now.isSent, problems: now.problems, id: now.id });
  drawState(post);
  if (why) tellTask(`${why} It is kept here and sent then.`);
  else if (post.isSent) location.href = `${room.to.room}${post.id}`;
  else tellTask("It is not sent whole; see above.", true);
}

function drawState(post) {
  const words = post.isWaiting ? "Do not send it yet" : "Send when there is a network";
  at("send").textContent = words;
  at("send-here").textContent = post.isWaiting ? "Do not send" : "Send"; // there is no room for more on a phone's line
  at("send-here").setAttribute("aria-label", words);
  at("problems").replaceChildren(...Object.values(post.problems).map((words) => Object.assign(document.createElement("li"), { textContent: words })));
  filesOf(post.key).then((files) => {
    const count = thingsOf(post, files);
    if (post.isWaiting) tellTask(`${count} thing${count === 1 ? " waits" : "s wait"} for the network.`);
  });
}

// The docket in one sentence: each word is a field, and each choice is kept at once.
function docketOf(post, blog, keepNow) {
  const categories = blog.categories.map(([id, name]) => [String(id), name]);
  fill(at("of-blog"), Object.values(room.blogs).map(({ slug, name }) => [slug, name]), post.blog);
  fill(at("category"), [["", "no category yet"], ...categories], String(post.categories[0]?.id ?? ""));
  fill(at("category-2"), [["", "nothing else"], ...categories], String(post.categories[1]?.id ?? ""));
  at("known-tags").replaceChildren(...blog.tags.map((name) => new Option(name, name)));
  at("tags").value = post.tags;
  at("of-blog").disabled = Boolean(post.id); // it is there already
  at("by").hidden = !blog.people.length;
  if (blog.people.length) fill(at("author"), authorsOf(blog, post.author), String(post.author?.id ?? room.person));
  at("author").addEventListener("change", () => keepNow({ author: authorOf(at("author")) }));
  at("readers").append(...blog.groups.map((name) => new Option(`the group ${name}`, `group:${name}`)));
  at("readers").value = post.readers;
  fill(at("when"), timesOf(blog, post.when), post.when.kind === "slot" ? `slot ${post.when.wall}` : post.when.kind);
  at("wall").value = post.when.kind === "time" ? post.when.wall : "";
  at("wall").hidden = post.when.kind !== "time";
  const named = (id) => ({ id: Number(id), name: blog.categories.find(([one]) => one === Number(id))?.[1] ?? "" });
  for (const id of ["category", "category-2"]) {
    at(id).addEventListener("change", () => keepNow({ categories: [...new Set([at("category").value, at("category-2").value])].filter(Boolean).map(named) }));
  }
  at("tags").addEventListener("change", () => keepNow({ tags: at("tags").value }));
  at("readers").addEventListener("change", () => keepNow({ readers: at("readers").value }));
  const time = () => {
    const [kind, wall = ""] = at("when").value.split(" ");
    at("wall").hidden = kind !== "time";
    keepNow({ when: { kind, wall: kind === "time" ? at("wall").value : wall } });
  };
  at("when").addEventListener("change", time);
  at("wall").addEventListener("change", time);
  at("of-blog").addEventListener("change", async () => {
    await keepNow({ blog: at("of-blog").value, categories: [], author: null, when: { kind: "draft", wall: "" } }); // those of another blog mean nothing there
    location.reload();
  });
}
