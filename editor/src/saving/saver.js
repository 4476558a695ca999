// A worker that stores and sends texts: for a long text either blocks the main thread of a phone for longer than a key may take.
import { OPERATIONS } from "./operations.js";

addEventListener("message", async ({ data }) => {
  try {
    postMessage({ id: data.id, result: await OPERATIONS[data.operation](data) });
  } catch {
    postMessage({ id: data.id, failed: true });
  }
});
