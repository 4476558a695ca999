// What this device keeps until it is sent, in IndexedDB: posts that were begun without a network, and their files. Pages and the service worker share it.
const NAME = "mobbet-device";

let opening = null;

function open() {
  opening ??= new Promise((resolve, reject) => {
    const request = indexedDB.open(NAME, 1);
    request.onupgradeneeded = () => {
      request.result.createObjectStore("posts", { keyPath: "key" });
      request.result.createObjectStore("files", { keyPath: ["post", "id"] }).createIndex("post", "post");
    };
    request.onsuccess = () => resolve(request.result);
    request.onerror = () => reject(request.error);
  });
  return opening;
}

async function within(stores, mode, act) {
  const database = await open();
  return new Promise((resolve, reject) => {
    const transaction = database.transaction(stores, mode, { durability: "strict" });
    const request = act(transaction);
    transaction.oncomplete = () => resolve(request?.result);
    transaction.onerror = () => reject(transaction.error);
    transaction.onabort = () => reject(transaction.error);
  });
}

export const keepPost = (post) => within(["posts"], "readwrite", (all) => all.objectStore("posts").put(post));
export const postOf = (key) => within(["posts"], "readonly", (all) => all.objectStore("posts").get(key));
export const everyPost = () => within(["posts"], "readonly", (all) => all.objectStore("posts").getAll());
export const keepFile = (file) => within(["files"], "readwrite", (all) => all.objectStore("files").put(file));
export const filesOf = (key) => within(["files"], "readonly", (all) => all.objectStore("files").index("post").getAll(key));

// Changes some fields of a post and leaves the others, which another tab may be writing, as they are; answers with what it was, or nothing where it is gone.
export function changePost(key, fields) {
  return within(["posts"], "readwrite", (all) => {
    const store = all.objectStore("posts");
    const request = store.get(key);
    request.onsuccess = () => request.result && store.put({ ...request.result, ...fields });
    return request;
  });
}

function deleteFiles(all, key) {
  const cursor = all.objectStore("files").index("post").openKeyCursor(key);
  cursor.onsuccess = () => {
    if (!cursor.result) return;
    all.objectStore("files").delete(cursor.result.primaryKey);
    cursor.result.continue();
  };
}

export const dropFiles = (key) => within(["files"], "readwrite", (all) => deleteFiles(all, key));

// A post with its files.
export function dropPost(key) {
  return within(["posts", "files"], "readwrite", (all) => {
    all.objectStore("posts").delete(key);
    deleteFiles(all, key);
  });
}

export function dropAll() {
  return within(["posts", "files"], "readwrite", (all) => {
    all.objectStore("posts").clear();
    all.objectStore("files").clear();
  });
}

// The part of the browser's room that is used, from 0 to 1; 0 where the browser does not say.
export async function partUsed() {
  const { usage = 0, quota = 0 } = (await navigator.storage?.estimate?.()) ?? {};
  return quota ? usage / quota : 0;
}

export const NEARLY_FULL = 0.8;
export const fullInWords = (part) => `The browser’s room is nearly full (${Math.round(part * 100)} %): send what waits, or save it to a file.`;

// The posts of one person, the newest first.
export async function postsOf(person) {
  return (await everyPost()).filter((post) => post.person === person).sort((one, other) => other.at - one.at);
}
