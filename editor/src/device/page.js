// “On this device”: what was begun without a network, and the sheet for new posts, which needs none.
import { choose, chosen, keep, signOut, unsentPosts } from "../shell/device.js";
import "../shell/shell.js";
import { room } from "../core/roomdata.js";
import { say } from "../core/messages.js";
import { askForSync } from "../saving/backgroundsync.js";
import { dropText, everyUnsentText, unsentTexts } from "../saving/browserkept.js";
import { fromFile, toFile } from "./file.js";
import { NEARLY_FULL, changePost, dropAll, dropPost, filesOf, fullInWords, keepFile, keepPost, partUsed, postsOf } from "./kept.js";
import { isUntouched, newPost } from "./posts.js";
import { sendAll } from "./sending.js";
import { readyForNotices } from "./notices.js";
import { changesInWords, openSettings } from "./settings.js";
import { openSheet } from "./sheet.js";

const at = (id) => document.getElementById(id);
const asked = new URLSearchParams(location.search);

function tell(words, isBad = false) {
  say(at("told"), words);
  at("told").classList.toggle("problem", isBad);
}

function button(words, act) {
  const made = Object.assign(document.createElement("button"), { type: "button", className: "plain", textContent: words });
  made.addEventListener("click", act);
  return made;
}

function link(words, href) {
  return Object.assign(document.createElement("a"), { textContent: words, href });
}

const stateOf = (post) => {
  if (post.isSent) return "is sent";
  if (Object.keys(post.problems).length) return "could not be sent whole";
  return post.isWaiting ? "waits for the network" : "is a draft on this device";
};

// Settings of a post that is there already.
function settingsRow(post) {
  const line = document.createElement("li");
  const name = Object.assign(document.createElement("b"), { textContent: post.title });
  line.append("Settings of ", name, post.isSent ? " are sent. " : ` (${changesInWords(post.changes)}) ${post.isWaiting ? "wait for the network" : "were not taken"}. `);
  for (const why of Object.values(post.problems)) line.append(Object.assign(document.createElement("p"), { className: "problem", textContent: why }));
  line.append(link("Open the post", `${room.to.room}${post.id}`), " ");
  if (post.isSent) line.append(button("Take it off this list", () => dropPost(post.key).then(draw)));
  else {
    if (room.blogs[post.blog]) line.append(link("Choose others", `${room.to.device}?${new URLSearchParams({ settings: post.id, blog: post.blog, title: post.title })}`), " ");
    line.append(button(post.isWaiting ? "Do not send them" : "Send them", () => wait(post)), " ", button("Remove them", () => remove(post)));
  }
  return line;
}

function row(post) {
  if (post.changes) return settingsRow(post);
  const line = document.createElement("li");
  const name = document.createElement("b");
  name.textContent = post.title || "Untitled";
  const words = document.createElement("span");
  words.textContent = ` for ${room.blogs[post.blog]?.name ?? post.blog} ${stateOf(post)}. `;
  line.append(name, words);
  for (const why of Object.values(post.problems)) line.append(Object.assign(document.createElement("p"), { className: "problem", textContent: why }));
  if (post.isSent) line.append(link("Open it", `${room.to.room}${post.id}`), " ", button("Take it off this list", () => dropPost(post.key).then(draw)));
  else {
    if (room.blogs[post.blog]) line.append(link("Write on", `${room.to.device}?post=${post.key}`), " ");
    if (room.blog && (!room.blogs[post.blog] || (post.problems.text && !post.hasConflict))) line.append(button("Make it a post of its own", () => beginAnew(post)), " ");
    if (post.id) line.append(link("Open what is there", `${room.to.room}${post.id}`), " ");
    if (post.hasConflict) line.append(button("Put mine beside it as a draft", () => putApart(post)), " ");
    line.append(button(post.isWaiting ? "Do not send it" : "Send it", () => wait(post)), " ", button("Remove it", () => remove(post)));
  }
  return line;
}

async function wait(post) {
  await changePost(post.key, { isWaiting: !post.isWaiting, problems: {} });
  await draw();
  if (post.isWaiting) return;
  askForSync();
  send();
}

async function putApart(post) {
  await changePost(post.key, { isApart: true, isWaiting: true, hasConflict: false, problems: {} });
  send();
}

// A post that the server does not take any more goes on as a new one, in its blog or, where the person has left that, in another of theirs.
async function beginAnew(post) {
  const { title, subtitle, document, tags, readers, categories } = post;
  const isThere = Boolean(room.blogs[post.blog]);
  const own = newPost(room.person, isThere ? post.blog : room.blog, { title, subtitle, document, tags, ...(isThere ? { readers, categories } : {}) });
  for (const file of await filesOf(post.key)) await keepFile({ ...file, post: own.key });
  await keepPost(own);
  await dropPost(post.key);
  location.href = `${room.to.device}?post=${own.key}`;
}

// A text that the server does not take any more goes on as a new post.
async function beginOf(text) {
  const { title, subtitle, document } = JSON.parse(text.text);
  const own = newPost(room.person, room.blog, { title, subtitle, document });
  await keepPost(own);
  await dropText(text.key);
  location.href = `${room.to.device}?post=${own.key}`;
}

async function remove(post) {
  const files = await filesOf(post.key);
  await dropPost(post.key);
  await draw();
  tell(`“${post.title || "Untitled"}” is removed from this device.`);
  at("told").append(" ", button("Undo", async () => {
    await keepPost(post);
    for (const file of files) await keepFile(file);
    tell("");
    draw();
  }));
}

async function send() {
  const why = await sendAll(room.to, room.person, draw);
  at("network").textContent = why;
  await draw();
}

// Changes to posts that are there already: they are sent by themselves, but for those that met other ones.
function textRow(text) {
  const line = document.createElement("li");
  const name = Object.assign(document.createElement("b"), { textContent: JSON.parse(text.text).title || "Untitled" });
  line.append("Changes to ", name, text.hasConflict ? " met other ones. " : text.problem ? " were not taken. " : " wait for the network. ");
  if (text.problem) line.append(Object.assign(document.createElement("p"), { className: "problem", textContent: text.problem }));
  line.append(link("Open it", `${room.to.room}${text.post}`));
  if (text.problem && room.blog) line.append(" ", button("Make it a post of its own", () => beginOf(text)));
  return line;
}

async function draw() {
  const posts = (await postsOf(room.person)).filter((post) => !isUntouched(post));
  const texts = await unsentTexts(room.person).catch(() => []);
  at("posts").replaceChildren(...posts.map(row), ...texts.map(textRow));
  at("none").hidden = posts.length + texts.length > 0;
  at("send-all").hidden = !posts.some((post) => post.isWaiting);
}

async function readFile(file) {
  try {
    tell(await fromFile(file, room.person));
    draw();
  } catch {
    tell(`“${file.name}” is no file of posts that this page saved; choose another.`, true);
  }
}

// How much room the browser leaves, told before it is scarce; and the wish that it throws nothing away.
async function tellRoom() {
  const isReady = await window.caches?.match(room.to.ready);
  at("ready").textContent = isReady ? "This device is ready: a post can be begun without a network." : "This device is not ready yet; leave this page open for a moment.";
  const isKept = await navigator.storage?.persisted?.();
  const part = await partUsed();
  const words = part > NEARLY_FULL ? fullInWords(part) : isKept ? "" : "The browser may throw this away when the device runs out of room, and a private window does when it is closed.";
  at("room-left").textContent = words;
  at("room-left").classList.toggle("problem", part > NEARLY_FULL);
}

function tellNetwork() {
  at("network").textContent = navigator.onLine ? "" : "There is no network.";
}

const A_DAY = 24 * 3600 * 1000;

// A post into which nothing was put leaves nothing behind, once no tab can have it open any more.
async function dropUntouched() {
  for (const post of await postsOf(room.person)) {
    if (isUntouched(post) && Date.now() - post.at > A_DAY) await dropPost(post.key);
  }
}

async function list() {
  at("keeps").value = chosen();
  at("keeps").addEventListener("change", () => choose(at("keeps").value));
  at("begin").addEventListener("click", () => {
    location.href = `${room.to.device}?begin=yes&blog=${asked.get("blog") ?? ""}`;
  });
  at("send-all").addEventListener("click", send);
  at("to-file").addEventListener("click", async () => tell(await toFile(room.person)));
  at("from-file").addEventListener("click", () => at("file").click());
  at("file").addEventListener("change", () => at("file").files[0] && readFile(at("file").files[0]));
  if (asked.get("away")) tell("There is no network, so that page cannot be shown. What you begin here is kept.", true);
  if (asked.get("leaving")) askBeforeLeaving();
  addEventListener("online", () => {
    tellNetwork();
    send();
  });
  addEventListener("offline", tellNetwork);
  navigator.serviceWorker?.addEventListener("message", () => {
    draw();
    tellRoom();
  });
  readyForNotices();
  openSettings(Number(asked.get("settings")), asked.get("blog"), asked.get("title"), () => {
    askForSync();
    return navigator.onLine ? send() : draw();
  });
  tellNetwork();
  await dropUntouched();
  await draw();
  tellRoom();
  if (navigator.onLine) send();
}

// Signing out takes what has not been sent with it.
async function askBeforeLeaving() {
  const isOthers = (one) => one.person && one.person !== room.person;
  const all = [...(await unsentPosts()), ...(await everyUnsentText().catch(() => []))];
  const box = at("leaving");
  box.hidden = false;
  box.textContent = "";
  if (!all.every(isOthers)) box.append("What stands below has not been sent. Send it or save it to a file first; signing out removes it. ");
  if (all.some(isOthers)) box.append("Somebody else wrote on this device and has not sent it; signing out removes that too, so let them sign in first. ");
  box.append(button("Sign out all the same", async () => {
    await dropAll();
    await signOut();
  }));
}

async function begin() {
  const blog = room.blogs[asked.get("blog")] ? asked.get("blog") : room.blog;
  const post = newPost(room.person, blog);
  await keepPost(post);
  navigator.storage?.persist?.();
  history.replaceState(null, "", `${room.to.device}?post=${post.key}`);
  return post.key;
}

if (asked.get("begin")) openSheet(await begin());
else if (asked.get("post")) openSheet(asked.get("post"));
else {
  await list();
  if (navigator.serviceWorker && navigator.onLine) keep(!(await caches.match(room.to.ready)));
}
