// A post that is begun on a device, and the blocks of files it keeps.
const KIND = { image: "picture", audio: "sound", video: "video" };

export const kindOf = (type) => KIND[type.split("/")[0]] ?? "file";

export function newPost(person, blog, more = {}) {
  const document = { type: "doc", content: [{ type: "paragraph" }] };
  return {
    key: crypto.randomUUID(), blog, person, at: Date.now(), title: "", subtitle: "", document, categories: [], tags: "", readers: "everyone", author: null,
    when: { kind: "draft", wall: "" }, isWaiting: false, isSent: false, id: 0, revision: 0, items: {}, done: {}, problems: {}, unanswered: [], hasConflict: false, isApart: false,
    ...more,
  };
}

// Settings of a post that is on the server, changed without a network: `changes` holds those that were chosen, in the form in which a post has them.
export const newSettings = (person, blog, id, title) => newPost(person, blog, { id, title, changes: {}, isWaiting: true });

// Whether nothing was put into a post yet.
export const isUntouched = (post) => (post.changes ? !Object.keys(post.changes).length : !post.id && !post.title && !post.subtitle && !post.tags && !post.categories.length && JSON.stringify(post.document).length < 60);

export function blockOf(file) {
  const kind = kindOf(file.blob.type);
  return { type: kind, attrs: { src: `media:${file.id}`, ...(kind === "file" ? { words: file.name } : {}) } };
}

// Words as a paragraph; what begins like an address is a link.
export function paragraphOf(words) {
  const parts = words.split(/(https?:\/\/\S+)/).filter(Boolean);
  return { type: "paragraph", content: parts.map((text) => (/^https?:/.test(text) ? { type: "text", text, marks: [{ type: "link", attrs: { href: text } }] } : { type: "text", text })) };
}
