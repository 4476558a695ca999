// Sends what was begun without a network, step by step. Each step has a key that follows from the post, from what the step says, and from how
// many steps of its kind were done before, so that the server does it once however often it is sent. One sending goes on at a time, in whichever tab or in the service worker.
import { dropText, put, unsentTexts } from "../saving/browserkept.js";
import { changePost, dropFiles, filesOf, postOf, postsOf } from "./kept.js";

const LOCAL = 8e15; // numbers of files that the server has not numbered yet

export const isLocal = (id) => id >= LOCAL;
export const localNumber = () => LOCAL + Math.floor(Math.random() * 1e15);

// The network or the session is away: everything stays as it is.
export class Away extends Error {}

// 53 bits of a text, by two multiplicative hashes.
function hashOf(text) {
  let [one, other] = [0xdeadbeef, 0x41c6ce57];
  for (let at = 0; at < text.length; at += 1) {
    const letter = text.charCodeAt(at);
    one = Math.imul(one ^ letter, 2654435761);
    other = Math.imul(other ^ letter, 1597334677);
  }
  return `${(one >>> 0).toString(36)}${(other >>> 0).toString(36)}`;
}

async function ask(address, options) {
  let response;
  try {
    response = await fetch(address, { method: options.method ?? "POST", headers: { accept: "application/json", ...options.headers }, body: options.body, redirect: "manual" });
  } catch {
    throw new Away("There is no network.");
  }
  if (response.type === "opaqueredirect" || response.status === 401) throw new Away("Sign in, and it is sent.");
  if (response.status >= 500 || response.status === 429) throw new Away("The server cannot answer now; it is tried again.");
  const answer = await response.json().catch(() => ({}));
  return { isFine: response.ok, status: response.status, answer };
}

const keepSent = ({ key, id, revision, items, done, unanswered, isApart }) => changePost(key, { id, revision, items, done, unanswered, isApart });

const keyOf = (post, act, turn, args) => `${post.key}:${act}:${turn}:${hashOf(JSON.stringify(args))}`;

async function step(post, to, act, args, key = keyOf(post, act, 0, args)) {
  const body = JSON.stringify({ person: post.person, key, act, post: post.id || 0, args });
  const { isFine, answer } = await ask(to.steps, { body, headers: { "content-type": "application/json" } });
  return isFine ? answer : { state: "refused", words: answer.message || "The server refused this.", facts: {} };
}

// Does a step unless the last one of its kind was the very same. What is refused is kept with the post, by act.
async function once(post, to, act, args, more = {}) {
  const said = JSON.stringify(args);
  const { turn, said: before } = post.done[act] ?? { turn: 0 };
  if (before === hashOf(said)) return;
  const result = await step(post, to, act, { ...args, ...more }, keyOf(post, act, turn, args));
  if (result.state !== "done") {
    post.problems[act] = result.words;
    if (result.state === "conflict") post.hasConflict = true; // somebody else's text came first
    return;
  }
  post.done[act] = { turn: turn + 1, said: hashOf(said) };
  if (result.facts.revision) post.revision = result.facts.revision;
  await keepSent(post);
}

// The text follows its own saves that were never answered, as the writing room's does.
async function sendText(post, to, text) {
  const after = post.unanswered;
  post.unanswered = [...after, keyOf(post, "text", post.done.text?.turn ?? 0, text)].slice(-20);
  await keepSent(post);
  await once(post, to, "text", text, { base: post.revision, after });
  if (!post.problems.text) post.unanswered = [];
  await keepSent(post);
}

async function sendFiles(post, to) {
  for (const file of await filesOf(post.key)) {
    if (post.items[file.id]) continue;
    const form = new FormData();
    form.append("file", file.blob, file.name);
    const { isFine, answer } = await ask(to.library.replace("SLUG", post.blog), { body: form });
    if (isFine) post.items[file.id] = answer.id;
    else post.problems[`file ${file.name}`] = answer.message || `“${file.name}” could not be taken.`;
    await keepSent(post);
  }
}

const numberOf = (node) => Number(/^media:(\d+)$/.exec(node.attrs?.src || "")?.[1] || 0);

// The document with the library's numbers; what the library refused is left out, and stays on the device.
function numbered(node, items) {
  const number = numberOf(node);
  const attrs = isLocal(number) ? { ...node.attrs, src: `media:${items[number]}` } : node.attrs;
  const content = node.content?.filter((child) => !isLocal(numberOf(child)) || items[numberOf(child)]).map((child) => numbered(child, items));
  return { ...node, ...(attrs ? { attrs } : {}), ...(content ? { content } : {}) };
}

function withParagraph(document) {
  return document.content?.length ? document : { ...document, content: [{ type: "paragraph" }] };
}

// A text that met another one goes on as a draft of its own.
async function putApart(post, to, text) {
  const result = await step(post, to, "apart", text);
  if (result.state !== "done") {
    post.problems.apart = result.words;
    return;
  }
  const done = { text: { turn: 1, said: hashOf(JSON.stringify(text)) } };
  Object.assign(post, { id: result.facts.post, revision: result.facts.revision, done, unanswered: [], isApart: false });
  await keepSent(post);
}

// The lines of the docket that say something; those of a post that is there already only where they were changed here.
async function sendLines(post, to, { categories, tags, readers, author, when }) {
  if (categories) await once(post, to, "categories", { categories });
  if (tags !== undefined) await once(post, to, "tags", { tags });
  if (readers) await once(post, to, "readers", { visibility: readers });
  const { kind, wall } = when ?? { kind: "draft" };
  if (author) await once(post, to, "author", author);
  if (kind === "time" || kind === "slot") await once(post, to, "time", { wall, slot: kind === "slot" });
  if (kind !== "draft" && !Object.keys(post.problems).length) await once(post, to, "place", { when });
}

async function sendPost(post, to) {
  post.problems = {};
  post.hasConflict = false;
  if (post.changes) {
    await sendLines(post, to, post.changes);
    return;
  }
  if (!post.id) {
    const begun = await step(post, to, "begin", { blog: post.blog }, `${post.key}:begin`);
    if (begun.state !== "done") {
      post.problems.begin = begun.words;
      return;
    }
    post.id = begun.facts.post;
    post.revision = begun.facts.revision;
    await keepSent(post);
  }
  await sendFiles(post, to);
  const text = { title: post.title, subtitle: post.subtitle, document: withParagraph(numbered(post.document, post.items)) };
  if (post.isApart) await putApart(post, to, text);
  await sendText(post, to, text);
  await sendLines(post, to, post);
}

const ALIVE = 15_000; // milliseconds: a text that was kept just now belongs to a room that is open, and sends it itself

// Texts of posts whose room was closed before they were sent; one that is open sends its own. One that met another text waits for its room.
async function sendTexts(to, person, isOpen) {
  for (const text of await unsentTexts(person).catch(() => [])) {
    if (text.hasConflict || Date.now() - text.at < ALIVE || (await isOpen(`${to.room}${text.post}`))) continue;
    const key = crypto.randomUUID();
    const after = [...(text.unanswered ?? []), key].slice(-20);
    await put({ ...text, unanswered: after });
    const body = JSON.stringify({ ...JSON.parse(text.text), person, base: text.base, key, after: text.unanswered ?? [] });
    const { isFine, status, answer } = await ask(`${to.room}${text.post}/text`, { method: "PUT", body, headers: { "content-type": "application/json" } });
    if (isFine) await dropText(text.key);
    else await put({ ...text, unanswered: after, hasConflict: status === 409, problem: answer.message });
  }
}

// How many things of a post wait to be sent: its beginning, each file, the text, and each line of the docket that says something.
export function thingsOf(post, files) {
  if (post.changes) return Object.keys(post.changes).length;
  const lines = [post.categories.length, post.tags, post.readers !== "everyone", post.author, post.when.kind !== "draft"].filter(Boolean).length;
  return (post.id ? 0 : 1) + files.filter((file) => !post.items[file.id]).length + (post.isSent ? 0 : 1 + lines);
}

async function sendWaiting(to, person, told, isOpen) {
  if (isOpen) await sendTexts(to, person, isOpen);
  for (const { key, isWaiting } of await postsOf(person)) {
    const post = isWaiting ? await postOf(key) : null;
    if (!post) continue;
    await sendPost(post, to);
    const now = await postOf(key);
    if (!now) continue;
    const isRefused = Object.keys(post.problems).length > 0;
    const isSame = now.at === post.at; // it may have been written on meanwhile, and is sent again then
    await changePost(key, { problems: post.problems, hasConflict: post.hasConflict, ...(isSame ? { isWaiting: false, isSent: !isRefused } : {}) });
    if (isSame && !isRefused) await dropFiles(key);
    told?.(await postOf(key));
  }
}

// Sends every post of a person that waits, and the texts of rooms that are closed where `isOpen(path)` can tell which those are. Answers with why
// it could not go on, '' where it could. Another sending that goes on is waited for.
export async function sendAll(to, person, told, isOpen) {
  try {
    await navigator.locks.request("mobbet-sending", () => sendWaiting(to, person, told, isOpen));
    return "";
  } catch (error) {
    if (error instanceof Away) return error.message;
    throw error;
  }
}
