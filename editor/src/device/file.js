// Exports what has not been sent as one file, and imports such a file.
import { put, unsentTexts } from "../saving/browserkept.js";
import { filesOf, keepFile, keepPost, postsOf } from "./kept.js";

const MARK = "posts of a device";

const bytesOf = (data) => Uint8Array.from(atob(data.slice(data.indexOf(",") + 1)), (letter) => letter.charCodeAt(0));

const dataOf = (blob) => new Promise((resolve, reject) => {
  const reader = new FileReader();
  reader.onload = () => resolve(reader.result);
  reader.onerror = () => reject(reader.error);
  reader.readAsDataURL(blob);
});

// “2 posts and 1 changed text are”.
function inWords(posts, texts) {
  const count = (number, noun) => (number ? [`${number} ${noun}${number === 1 ? "" : "s"}`] : []);
  const words = [...count(posts, "post"), ...count(texts, "changed text")].join(" and ") || "Nothing";
  return `${words} ${posts + texts > 1 ? "are" : "is"}`;
}

// Saves what a person has not sent to a file that can be read back here or on another device; answers with what it holds, in words.
export async function toFile(person) {
  const posts = (await postsOf(person)).filter((post) => !post.isSent);
  const texts = await unsentTexts(person);
  const files = [];
  for (const post of posts) for (const { blob, ...file } of await filesOf(post.key)) files.push({ ...file, type: blob.type, data: await dataOf(blob) });
  const blob = new Blob([JSON.stringify({ mobbet: MARK, version: 1, posts, texts, files }, null, 1)], { type: "application/json" });
  Object.assign(document.createElement("a"), { href: URL.createObjectURL(blob), download: "mobbet-device.json" }).click();
  return `${inWords(posts.length, texts.length)} in the file.`;
}

// Keeps what such a file holds as a person's; answers with it in words. Throws where it is no such file.
export async function fromFile(file, person) {
  const { mobbet, posts, texts = [], files } = JSON.parse(await file.text());
  if (mobbet !== MARK) throw new Error();
  for (const post of posts) await keepPost({ ...post, person });
  for (const { data, type, ...one } of files) await keepFile({ ...one, blob: new Blob([bytesOf(data)], { type }) });
  for (const one of texts) await put({ ...one, person });
  return `${inWords(posts.length, texts.length)} read from the file.`;
}
