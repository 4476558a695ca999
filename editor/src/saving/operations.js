// The operations that the worker runs, and the page where there is no worker: store a text in IndexedDB, delete it, send it.
import { dropText, put } from "./browserkept.js";

export const SEND_TIMEOUT = 15000;

async function send({ address, body }) {
  const response = await fetch(address, {
    method: "PUT",
    headers: { "content-type": "application/json", accept: "application/json" },
    body,
    signal: AbortSignal.timeout(SEND_TIMEOUT),
  });
  return { isFine: response.ok, status: response.status, answer: await response.json().catch(() => ({})) };
}

export const OPERATIONS = { put: ({ text }) => put(text), drop: ({ key }) => dropText(key), send };
