// Keeps the text safe: in the browser at once, on the server within two seconds of the last key.
import { debounced } from "../core/planning.js";
import { askForSync } from "./backgroundsync.js";
import { forgetAtOnce, putAtOnce } from "./browserkept.js";
import { WorkerClient } from "./workerclient.js";
import { tabName } from "./tab.js";

const QUIET = 700;
const KEPT_AFTER = 250;
const LONGEST = 1800;
const SLOW_AFTER = 400;
const KEEPALIVE_LIMIT = 60000;

export const acknowledgedKey = (post) => `${post}:acknowledged`;

export class Saving {
  // `written` gives {title, subtitle, document} as JSON; `tell(words, isBad, brief)` writes the state line, and a brief one on a phone;
  // `saved(answer)` and `met(answer)` are called after a save, and when another text came first.
  constructor(room, { written, tell, saved, met }) {
    Object.assign(this, { room, written, tell, saved, met });
    this.revision = room.revision;
    this.savedAt = Date.now() - (room.now - room.saved) * 1000;
    this.key = `${room.post}:${tabName()}`;
    this.isKept = true;
    this.unanswered = [];
    this.isDirty = false;
    this.isHalted = false;
    this.failures = 0;
    this.flight = null;
    this.worker = new WorkerClient(room.to.saver);
    this.keepSoon = debounced(() => this.keep(), KEPT_AFTER);
    this.flushSoon = debounced(() => this.flush(), QUIET, LONGEST);
    setInterval(() => this.tellAge(), 1000);
    addEventListener("online", () => this.isDirty && this.flush());
    addEventListener("pagehide", () => this.leave());
    addEventListener("beforeunload", (event) => this.mayLeave(event));
    document.addEventListener("visibilitychange", () => document.hidden && this.isDirty && !this.isLeaving && this.flush());
    addEventListener("pageshow", () => {
      this.isLeaving = false;
    });
  }

  changed() {
    if (!this.isDirty) this.tellDirty();
    this.isDirty = true;
    this.keepSoon();
    if (!this.isHalted) this.flushSoon();
  }

  tellDirty() {
    if (!this.isHalted && this.failures === 0) this.tell("Not saved yet");
  }

  // Each save has a key; those without an answer may have arrived all the same.
  newKey() {
    this.sendKey = crypto.randomUUID();
    this.unanswered = [...this.unanswered, this.sendKey].slice(-20);
  }

  // The text as the browser keeps it: as JSON, which costs the browser least to keep.
  kept(text = this.written(), more = {}) {
    return { key: this.key, post: this.room.post, person: this.room.person, base: this.revision, at: Date.now(), isSent: false, unanswered: this.unanswered, text, ...more };
  }

  async keep(text) {
    try {
      await this.worker.request("put", { text: this.kept(text) });
      this.isKept = true;
    } catch {
      this.isKept = putAtOnce(this.kept(text));
    }
  }

  // Sends what is not saved yet; resolves to true when everything written so far is on the server.
  async flush() {
    this.cancelFlush();
    if (this.flight) {
      await this.flight;
      return this.isDirty ? this.flush() : true;
    }
    if (!this.isDirty) return true;
    if (this.isHalted) return false;
    this.flight = this.send().finally(() => {
      this.flight = null;
    });
    return this.flight;
  }

  cancelFlush() {
    this.flushSoon.cancel();
    clearTimeout(this.retrying);
  }

  // What is sent: the text, which is JSON already, and what it is a save of.
  body(text) {
    return `${text.slice(0, -1)},${JSON.stringify({ person: this.room.person, base: this.revision, key: this.sendKey, after: this.unanswered }).slice(1)}`;
  }

  async send() {
    this.isDirty = false;
    this.newKey();
    const text = this.written();
    this.keep(text);
    const telling = setTimeout(() => this.isDirty || this.tell("Saving…"), SLOW_AFTER); // a quick save is not worth a word
    let sent;
    try {
      sent = await this.worker.request("send", { address: this.room.to.text, body: this.body(text) });
    } catch {
      if (this.failures === 0) askForSync();
      return this.failed("The network is away. Your text is kept in this browser and is sent when it is back.", "Kept on this phone; no network");
    } finally {
      clearTimeout(telling);
    }
    const { isFine, status, answer } = sent;
    if (isFine) return this.acknowledged(answer, text);
    if (status === 409) return this.halted(answer);
    return this.failed(answer.message || "The server could not save this. Your text is kept in this browser; it is tried again.");
  }

  acknowledged(answer, text) {
    this.revision = answer.revision;
    this.unanswered = [];
    this.failures = 0;
    this.savedAt = Date.now();
    if (this.isDirty) this.tellDirty();
    else this.forget();
    this.keepAcknowledged(this.kept(text, { key: acknowledgedKey(this.room.post), isSent: true }));
    this.saved(answer);
    this.tellAge();
    return !this.isDirty;
  }

  // The last text that the server has is kept for a page that is opened without a network: not while somebody writes on, since
  // keeping a long text takes a phone longer than a key may.
  keepAcknowledged(text) {
    clearTimeout(this.keepingAcknowledged);
    this.keepingAcknowledged = setTimeout(() => this.worker.request("put", { text }).catch(() => {}), this.isDirty ? LONGEST + QUIET : 0);
  }

  failed(words, brief = words) {
    this.isDirty = true;
    this.failures += 1;
    this.tell(words, true, brief);
    this.retrying = setTimeout(() => this.flush(), Math.min(10000, 1000 * 2 ** (this.failures - 1)));
    return false;
  }

  halted(answer) {
    this.isDirty = true;
    this.isHalted = true;
    this.keep();
    this.tell("Not saved: another text came first.", true);
    this.met(answer);
    return false;
  }

  goOnFrom(revision) {
    this.revision = revision;
    this.isHalted = false;
    this.isDirty = false;
    this.savedAt = Date.now();
    this.forget();
    this.tellAge();
  }

  forget() {
    this.keepSoon.cancel();
    forgetAtOnce(this.key);
    this.worker.request("drop", { key: this.key }).catch(() => {});
  }

  tellAge() {
    if (this.isDirty || this.flight || this.isHalted) return;
    const seconds = Math.max(0, Math.round((Date.now() - this.savedAt) / 1000));
    const count = (number, noun) => `Saved ${number} ${noun}${number === 1 ? "" : "s"} ago`;
    if (seconds < 2) this.tell("Saved");
    else if (seconds < 60) this.tell(count(seconds, "second"));
    else if (seconds < 3600) this.tell(count(Math.floor(seconds / 60), "minute"));
    else this.tell("Saved");
  }

  // The page goes away: what is not saved is kept in the browser and sent along once more.
  leave() {
    if (!this.isDirty && !this.flight) return;
    this.isLeaving = true; // what is sent from here on could not be told to the browser's copy any more
    this.cancelFlush();
    this.newKey();
    const text = this.written();
    putAtOnce(this.kept(text));
    if (this.isHalted) return;
    const body = this.body(text);
    if (body.length > KEEPALIVE_LIMIT) return;
    fetch(this.room.to.text, { method: "PUT", keepalive: true, headers: { "content-type": "application/json" }, body }).catch(() => {});
  }

  mayLeave(event) {
    if (!this.isDirty && !this.flight) return;
    if (!putAtOnce(this.kept()) && !this.isKept) event.preventDefault();
  }
}
