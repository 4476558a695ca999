// The browser's copy of texts, in IndexedDB: one for each post and tab, until the server has acknowledged it, and
// the last acknowledged one of each post, for a page that is opened while the network is away.
const NAME = "mobbet";
const STORE = "texts";
const LAST = "mobbet:last:";
const OLDEST = 60 * 24 * 3600 * 1000;

let opening = null;

function open() {
  opening ??= new Promise((resolve, reject) => {
    const request = indexedDB.open(NAME, 1);
    request.onupgradeneeded = () => request.result.createObjectStore(STORE, { keyPath: "key" }).createIndex("post", "post");
    request.onsuccess = () => resolve(request.result);
    request.onerror = () => reject(request.error);
  });
  return opening;
}

async function withStore(mode, act) {
  const database = await open();
  return new Promise((resolve, reject) => {
    const transaction = database.transaction(STORE, mode, { durability: "strict" });
    const request = act(transaction.objectStore(STORE));
    transaction.oncomplete = () => resolve(request?.result);
    transaction.onerror = () => reject(transaction.error);
    transaction.onabort = () => reject(transaction.error);
  });
}

export function put(text) {
  return withStore("readwrite", (store) => store.put(text));
}

export const forgetAtOnce = (key) => localStorage.removeItem(LAST + key);

export function drop(key) {
  forgetAtOnce(key);
  return dropText(key).catch(() => {});
}

// Whether a text belongs to somebody; those that were kept before texts had names belong to whoever is signed in.
const isOf = (person) => (text) => !text.person || text.person === person;

// Every text that the server has not acknowledged, with or without its room open, of anybody who wrote in this browser.
export const everyUnsentText = async () => (await withStore("readonly", (store) => store.getAll())).filter((text) => !text.isSent);

export const unsentTexts = async (person) => (await everyUnsentText()).filter(isOf(person));

export const dropTexts = () => withStore("readwrite", (store) => store.clear());

export const dropText = (key) => withStore("readwrite", (store) => store.delete(key));

// Written at once, for a page that is just going away: IndexedDB may not have the time.
export function putAtOnce(text) {
  try {
    localStorage.setItem(LAST + text.key, JSON.stringify(text));
    return true;
  } catch {
    return false;
  }
}

// The texts that somebody wrote in a post, newest first.
export async function textsOf(post, person) {
  const kept = new Map();
  try {
    for (const text of await withStore("readonly", (store) => store.index("post").getAll(post))) kept.set(text.key, text);
  } catch {
    // without IndexedDB there is still what was written at once
  }
  for (let index = localStorage.length - 1; index >= 0; index -= 1) {
    const name = localStorage.key(index);
    if (!name.startsWith(LAST)) continue;
    try {
      const text = JSON.parse(localStorage.getItem(name));
      if (text.post === post && text.at >= (kept.get(text.key)?.at || 0)) kept.set(text.key, text);
    } catch {
      localStorage.removeItem(name);
    }
  }
  return [...kept.values()]
    .filter((text) => Date.now() - text.at < OLDEST && isOf(person)(text))
    .sort((one, other) => other.at - one.at)
    .map((text) => ({ ...text, ...JSON.parse(text.text) }));
}
