// Lets a writing room be opened again while the network is away: pages as they were last seen, and what they need.
const CACHE = "mobbet-rooms-1";
// TO, the addresses, is put above by the server
const isRoom = (path) => path.startsWith(TO.room) && /^\d+$/.test(path.slice(TO.room.length));
const isKept = (path) => TO.kept.some((stem) => path.startsWith(stem));

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

async function fromNetworkFirst(request) {
  const cache = await caches.open(CACHE);
  try {
    const response = await fetch(request);
    if (response.ok && !response.redirected) await cache.put(request, response.clone());
    return response;
  } catch (error) {
    const kept = await cache.match(request, { ignoreVary: true });
    if (kept) return kept;
    throw error;
  }
}

async function fromCacheFirst(request) {
  const cache = await caches.open(CACHE);
  const kept = await cache.match(request, { ignoreVary: true });
  if (kept) return kept;
  const response = await fetch(request);
  if (response.ok) await cache.put(request, response.clone());
  return response;
}

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const { pathname, origin } = new URL(request.url);
  if (origin !== self.location.origin) return;
  // whoever signs out leaves nothing behind for the next person at this machine
  if (request.method === "POST" && pathname === TO.signOut) event.waitUntil(caches.delete(CACHE));
  if (request.method !== "GET") return;
  if (request.mode === "navigate" && isRoom(pathname)) event.respondWith(fromNetworkFirst(request));
  else if (isKept(pathname)) event.respondWith(fromCacheFirst(request));
});
