// What is done with a text that is to be safe: kept in the browser, let go, sent.
import { dropText, put } from "./browserkept.js";

const LONGEST = 15000;

async function send({ address, body }) {
  const response = await fetch(address, {
    method: "PUT",
    headers: { "content-type": "application/json", accept: "application/json" },
    body,
    signal: AbortSignal.timeout(LONGEST),
  });
  return { isFine: response.ok, status: response.status, answer: await response.json().catch(() => ({})) };
}

export const ACTS = { put: ({ text }) => put(text), drop: ({ key }) => dropText(key), send };
