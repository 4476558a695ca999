// Has texts kept and sent by the worker, in the order in which it is asked. Where the worker does not start or has died, it is done here:
// a save that arrives twice has the same key.
import { ACTS } from "./acts.js";

const UNANSWERED = 20000; // longer than a save may take

export class InWorker {
  constructor(address) {
    this.address = address;
    this.waiting = new Map();
    this.last = 0;
  }

  start() {
    this.worker = new Worker(this.address);
    this.worker.addEventListener("message", ({ data }) => this.answered(data));
    this.worker.addEventListener("error", () => this.goOnHere());
  }

  // Resolves to what the act has for an answer, and rejects where it failed.
  ask(act, more) {
    if (this.isBroken) return ACTS[act](more);
    try {
      if (!this.worker) this.start();
    } catch {
      this.goOnHere();
      return ACTS[act](more);
    }
    this.last += 1;
    const id = this.last;
    return new Promise((resolve, reject) => {
      const timer = setTimeout(() => this.goOnHere(), UNANSWERED);
      this.waiting.set(id, { act, more, resolve, reject, timer });
      this.worker.postMessage({ id, act, ...more });
    });
  }

  answered({ id, result, hasFailed }) {
    const asked = this.waiting.get(id);
    this.waiting.delete(id);
    clearTimeout(asked?.timer);
    if (hasFailed) asked?.reject(new Error("It could not be done."));
    else asked?.resolve(result);
  }

  goOnHere() {
    this.isBroken = true;
    for (const { act, more, resolve, reject, timer } of this.waiting.values()) {
      clearTimeout(timer);
      ACTS[act](more).then(resolve, reject);
    }
    this.waiting.clear();
  }
}
