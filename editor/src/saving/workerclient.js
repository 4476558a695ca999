// Sends operations to the worker, which runs them in order. Falls back to the page where the worker does not start or does not answer;
// repeating a save is safe, since it has the same key.
import { OPERATIONS, SEND_TIMEOUT } from "./operations.js";

const ANSWER_TIMEOUT = SEND_TIMEOUT + 5000;

export class WorkerClient {
  constructor(address) {
    this.address = address;
    this.waiting = new Map();
    this.last = 0;
  }

  start() {
    this.worker = new Worker(this.address);
    this.worker.addEventListener("message", ({ data }) => this.answered(data));
    this.worker.addEventListener("error", () => this.fallBack());
  }

  // Resolves to the result of the operation, and rejects where it failed.
  request(operation, more) {
    if (this.isBroken) return OPERATIONS[operation](more);
    try {
      if (!this.worker) this.start();
    } catch {
      this.fallBack();
      return OPERATIONS[operation](more);
    }
    this.last += 1;
    const id = this.last;
    return new Promise((resolve, reject) => {
      const timer = setTimeout(() => this.fallBack(), ANSWER_TIMEOUT);
      this.waiting.set(id, { operation, more, resolve, reject, timer });
      this.worker.postMessage({ id, operation, ...more });
    });
  }

  answered({ id, result, failed }) {
    const request = this.waiting.get(id);
    this.waiting.delete(id);
    clearTimeout(request?.timer);
    if (failed) request?.reject(new Error("It could not be done."));
    else request?.resolve(result);
  }

  fallBack() {
    this.isBroken = true;
    this.worker?.terminate(); // a late answer of it would repeat what the page has done since
    for (const { operation, more, resolve, reject, timer } of this.waiting.values()) {
      clearTimeout(timer);
      OPERATIONS[operation](more).then(resolve, reject);
    }
    this.waiting.clear();
  }
}
