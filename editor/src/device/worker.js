// The service worker: pages as they were last seen and what they need, a sheet for new posts without a network, and the sending of what waits.
/* global TO: the addresses, which the server puts above this script */
import { dropTexts } from "../saving/browserkept.js";
import { dropAll, keepFile, keepPost } from "./kept.js";
import { blockOf, newPost, paragraphOf } from "./posts.js";
import { localNumber, sendAll } from "./sending.js";

const CACHE = "mobbet-pages-2";
const PATIENCE = 4000; // milliseconds until a page that is kept is shown in the place of one that does not come

const isRoom = (path) => path.startsWith(TO.room) && /^\d+$/.test(path.slice(TO.room.length));
const isDesk = (path) => path.startsWith(TO.desk) && /^[^/]+$/.test(path.slice(TO.desk.length));
const isScreen = (path) => path === "/" || TO.screens.some((stem) => path.startsWith(stem)); // the site is its readers' alone
const isKept = (path) => TO.kept.some((stem) => path.startsWith(stem));
const isStyle = (path) => path.startsWith(TO.desk) && path.endsWith("/sheet.css"); // of a look, which may change
const begunFor = (path) => new RegExp(`^${TO.desk}([^/]+)/(?:posts|write)$`).exec(path)?.[1];

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(Promise.all([self.clients.claim(), dropOldCaches()])));

async function dropOldCaches() {
  for (const name of await caches.keys()) if (name.startsWith("mobbet-") && name !== CACHE) await caches.delete(name);
}

const known = async (address) => (await caches.open(CACHE)).match(address, { ignoreVary: true });

let generation = 0; // of what is kept: what was asked for before somebody signed in or out is not kept any more

// Keeps an answer, unless somebody signed in or out since it was asked for.
async function store(name, response, asked) {
  if (asked !== generation) return;
  await (await caches.open(CACHE)).put(name, response);
  if (asked !== generation) await caches.delete(CACHE);
}

async function fetched(request, name = request) {
  const asked = generation;
  const response = await fetch(request);
  if (response.ok && !response.redirected) await store(name, response.clone(), asked);
  return response;
}

const late = (milliseconds) => new Promise((resolve) => setTimeout(resolve, milliseconds));

// A page from the network, else as it was last seen, else the sheet for new posts.
async function page(request, path) {
  const isKeptPage = isRoom(path) || isDesk(path) || path === TO.device;
  const address = path === TO.device ? TO.device : request;
  const asked = isKeptPage ? fetched(request, address) : fetch(request);
  asked.catch(() => {});
  const kept = isKeptPage ? await known(address) : null;
  try {
    const first = kept ? await Promise.race([asked, late(PATIENCE)]) : await asked;
    return first ?? kept;
  } catch (error) {
    if (kept) return kept;
    const desk = path === "/" ? await lastDesk() : null;
    if (desk) return desk;
    const sheet = await known(TO.device);
    if (!sheet) throw error;
    return path === TO.device ? sheet : Response.redirect(`${TO.device}?away=${encodeURIComponent(path)}`);
  }
}

// A new post begins on the device where the network is away.
async function begin(request, slug) {
  try {
    return await fetch(request);
  } catch (error) {
    if (!(await known(TO.device))) throw error;
    return Response.redirect(`${TO.device}?blog=${slug}&begin=yes`, 303);
  }
}

// What the page of this device says of its person and their blogs.
const roomIn = async (sheet) => JSON.parse(/id="room">([^<]*)</.exec(await sheet.text())[1]);

// What another program shares becomes a post on this device.
async function share(request) {
  const sheet = await known(TO.device);
  if (!sheet) return fetch(request);
  const form = await request.formData();
  const { person, blog } = await roomIn(sheet);
  const post = newPost(person, blog, { title: String(form.get("title") ?? "").slice(0, 300), isShared: true });
  const words = ["text", "url"].map((name) => String(form.get(name) ?? "").trim()).filter(Boolean).join(" ");
  const files = form.getAll("files").filter((one) => one instanceof File && one.size).map((blob) => ({ post: post.key, id: localNumber(), name: blob.name || "shared", blob }));
  const content = [...(words ? [paragraphOf(words)] : []), ...files.map(blockOf)];
  if (content.length) post.document.content = content;
  for (const file of files) await keepFile(file);
  await keepPost(post);
  return Response.redirect(`${TO.device}?post=${post.key}`, 303);
}

// Opened without a network, the application shows the desk as it was last seen.
async function lastDesk() {
  const found = (await (await caches.open(CACHE)).keys()).map(({ url }) => new URL(url)).reverse().find(({ pathname, search }) => isDesk(pathname) && !search);
  return found ? Response.redirect(found.pathname) : null;
}

async function fromCacheFirst(request) {
  return (await known(request)) ?? fetched(request);
}

async function fromNetworkFirst(request) {
  try {
    return await fetched(request);
  } catch (error) {
    const kept = await known(request);
    if (kept) return kept;
    throw error;
  }
}

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const { pathname, origin } = new URL(request.url);
  if (origin !== self.location.origin) return;
  const slug = request.mode === "navigate" ? begunFor(pathname) : "";
  if (slug) event.respondWith(begin(request, slug));
  else if (request.method === "POST" && pathname === TO.signOut) event.respondWith(passing(request, forget));
  else if (request.method === "POST" && pathname === TO.signIn) event.respondWith(passing(request, forgetPages));
  else if (request.method === "POST" && pathname === TO.share) event.respondWith(share(request));
  else if (request.keepalive && request.method !== "GET") event.respondWith(fetch(request)); // else it is lost with the page that sends it as it goes
  else if (request.method !== "GET") return;
  else if (request.mode === "navigate" && isScreen(pathname)) event.respondWith(page(request, pathname));
  else if (isKept(pathname)) event.respondWith(fromCacheFirst(request));
  else if (isStyle(pathname)) event.respondWith(fromNetworkFirst(request));
});

function forgetPages() {
  generation += 1;
  return caches.delete(CACHE);
}

// Whoever signs out leaves nothing behind for the next person at this machine, and nobody who signs in finds anything; nor what came meanwhile.
async function passing(request, clear) {
  await clear();
  try {
    return await fetch(request);
  } finally {
    await clear();
  }
}

const forget = () => Promise.all([forgetPages(), dropAll(), dropTexts()]);

// Keeps pages with what they need, one after the other; those of posts that are no longer among them go.
async function keep(pages, dropsOthers) {
  const before = generation;
  for (const address of pages) {
    if (before !== generation) return;
    try {
      const response = await fetched(address);
      const parts = (await response.text()).match(/"(\/(?:static|pictures|desk)\/[\w./-]+)"/g) ?? [];
      for (const part of new Set(parts.map((one) => one.slice(1, -1)))) {
        if (isStyle(part)) await fromNetworkFirst(new Request(part)).catch(() => {});
        else if (isKept(part)) await fromCacheFirst(new Request(part)).catch(() => {});
      }
    } catch {
      return; // the network went; what is kept stays
    }
  }
  await store(TO.ready, new Response("yes"), before); // from here on a post can be begun without a network
  if (!dropsOthers || before !== generation) return;
  const cache = await caches.open(CACHE);
  for (const { url } of await cache.keys()) {
    const { pathname } = new URL(url);
    if (isRoom(pathname) && !pages.includes(pathname)) await cache.delete(url);
  }
}

async function send() {
  const sheet = await known(TO.device);
  if (!sheet) return; // nobody knows whose posts may be sent
  const { person } = await roomIn(sheet);
  const rooms = async () => (await self.clients.matchAll({ includeUncontrolled: true })).map(({ url }) => new URL(url).pathname);
  await sendAll(TO.sending, person, tell, async (path) => (await rooms()).includes(path));
  await tell();
}

async function tell() {
  for (const client of await self.clients.matchAll()) client.postMessage("sent");
}

// What the server tells this device of; pressed, it opens where that is settled.
self.addEventListener("push", (event) => {
  const { kind, words, address } = event.data?.json() ?? {};
  if (words) event.waitUntil(self.registration.showNotification("Mobbet", { body: words, tag: `${kind} ${address}`, data: { address }, icon: TO.icon }));
});
self.addEventListener("notificationclick", (event) => {
  event.notification.close();
  event.waitUntil(self.clients.openWindow(event.notification.data.address));
});

self.addEventListener("sync", (event) => event.tag === "mobbet-send" && event.waitUntil(send()));
self.addEventListener("message", (event) => {
  if (event.data.keep) event.waitUntil(keep(event.data.keep, event.data.dropsOthers).then(tell));
  if (event.data.send) event.waitUntil(send());
});
