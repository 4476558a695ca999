// Tells a preview in another tab what is being written. Nothing is done while no preview says that it is looking.
const PAUSE = 120;
const FORGOTTEN = 9000;

export class Following {
  constructor(post, read) {
    this.read = read;
    this.heard = 0;
    this.timer = 0;
    this.channel = new BroadcastChannel(`mobbet:post:${post}`);
    this.channel.addEventListener("message", ({ data }) => {
      if (data.kind !== "hello") return;
      const isNew = performance.now() - this.heard > FORGOTTEN || !this.heard;
      this.heard = performance.now();
      if (isNew) this.changed();
    });
  }

  changed() {
    if (!this.heard || performance.now() - this.heard > FORGOTTEN || this.timer) return;
    this.timer = setTimeout(() => {
      this.timer = 0;
      this.channel.postMessage({ kind: "text", sheet: this.read() });
    }, PAUSE);
  }
}
