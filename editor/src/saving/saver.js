// A worker that keeps and sends texts: with a long text either would hold up the next letter on a phone.
import { ACTS } from "./acts.js";

addEventListener("message", async ({ data }) => {
  try {
    postMessage({ id: data.id, result: await ACTS[data.act](data) });
  } catch {
    postMessage({ id: data.id, hasFailed: true });
  }
});
