// Sending files to the library: each with its own progress, to be cancelled or tried again; one that fails stops no other.
const AT_ONCE = 2;
let running = 0;
const waiting = [];

function next() {
  while (running < AT_ONCE && waiting.length) {
    running += 1;
    waiting.shift()();
  }
}

// Why a file would be refused for its size, before anything is sent; '' when it would not.
export async function refusal(file, limits) {
  const isPicture = file.type.startsWith("image/");
  const most = isPicture ? limits.picture_megabytes : limits.file_megabytes;
  if (file.size === 0) return `“${file.name}” is empty; check the file and try again.`;
  if (file.size > most * 1e6) return `“${file.name}” has ${Math.round(file.size / 1e6).toLocaleString("en")} MB, more than ${most} MB; make it smaller and try again.`;
  if (!isPicture) return "";
  const size = await sizeOf(file);
  if (!size || size.width * size.height <= limits.megapixels * 1e6) return "";
  return `“${file.name}” has ${size.width.toLocaleString("en")} × ${size.height.toLocaleString("en")} pixels, more than ${limits.megapixels} megapixels; make it smaller and try again.`;
}

// The size of a picture in pixels, where the browser can read it.
export function sizeOf(file) {
  return new Promise((resolve) => {
    const address = URL.createObjectURL(file);
    const image = new Image();
    const end = (size) => {
      URL.revokeObjectURL(address);
      resolve(size);
    };
    image.onload = () => end({ width: image.naturalWidth, height: image.naturalHeight });
    image.onerror = () => end(null);
    image.src = address;
  });
}

const LARGEST_SIDE = 2560; // pixels
const SCALED = ["image/jpeg", "image/png", "image/webp"];

// A picture as a phone sends it: upright, and no larger than a page shows it; the file itself where it is small, or where the owner wants it so.
export async function smaller(file, { scales_pictures: isScaled }) {
  if (!SCALED.includes(file.type) || !matchMedia("(pointer: coarse)").matches || !isScaled) return file;
  try {
    const bitmap = await createImageBitmap(file, { imageOrientation: "from-image" });
    const part = LARGEST_SIDE / Math.max(bitmap.width, bitmap.height);
    if (part >= 1) return file;
    const canvas = Object.assign(document.createElement("canvas"), { width: Math.round(bitmap.width * part), height: Math.round(bitmap.height * part) });
    canvas.getContext("2d").drawImage(bitmap, 0, 0, canvas.width, canvas.height);
    const type = file.type === "image/png" ? "image/png" : "image/jpeg";
    const blob = await new Promise((resolve) => canvas.toBlob(resolve, type, 0.9));
    return blob && blob.size < file.size ? new File([blob], file.name.replace(/\.\w+$/, type === "image/png" ? ".png" : ".jpg"), { type }) : file;
  } catch {
    return file; // the browser cannot read it; the server may
  }
}

// `tell({state, part, words})`: 'waiting', 'sending' with the part sent, 'done' with the item, 'failed' with why.
export class Upload {
  constructor(file, address, limits, tell) {
    Object.assign(this, { file, address, limits, tell, isOver: false });
  }

  start() {
    this.isCancelled = false;
    this.tell({ state: "waiting" });
    waiting.push(() => this.send());
    next();
  }

  cancel() {
    this.isCancelled = true;
    this.request?.abort();
    this.tell({ state: "cancelled", words: `“${this.file.name}” was not brought in.` });
  }

  async send() {
    try {
      if (this.isCancelled) return;
      this.file = await smaller(this.file, this.limits);
      const reason = await refusal(this.file, this.limits);
      if (reason) {
        this.tell({ state: "failed", words: reason, isFinal: true });
        return;
      }
      const item = await this.post();
      if (item) this.tell({ state: "done", item });
    } catch (error) {
      if (!this.isCancelled) this.tell({ state: "failed", words: error.message });
    } finally {
      running -= 1;
      next();
    }
  }

  post() {
    return new Promise((resolve, reject) => {
      const request = new XMLHttpRequest();
      this.request = request;
      request.open("POST", this.address);
      request.setRequestHeader("accept", "application/json");
      request.upload.onprogress = (event) => event.lengthComputable && this.tell({ state: "sending", part: event.loaded / event.total });
      request.onload = () => {
        let answer = {};
        try {
          answer = JSON.parse(request.responseText);
        } catch {
          // an answer of the network's own, not of Mobbet
        }
        if (request.status === 200) resolve(answer);
        else reject(new Error(answer.message || request.responseText.slice(0, 300) || "The file could not be brought in; try again."));
      };
      request.onerror = () => reject(new Error(`“${this.file.name}” could not be sent; the network is away. Try again when it is back.`));
      request.onabort = () => resolve(null);
      const form = new FormData();
      form.append("file", this.file, this.file.name || "pasted.png");
      request.send(form);
    });
  }
}

// A line of progress for a file, with its own pixels at once.
export function uploadLine(file, address, limits, done) {
  const line = document.createElement("li");
  const picture = document.createElement(file.type.startsWith("image/") ? "img" : "span");
  picture.className = "pixels";
  if (picture.tagName === "IMG") {
    picture.alt = "";
    picture.src = URL.createObjectURL(file);
    picture.onerror = () => picture.remove();
  }
  const name = document.createElement("b");
  name.textContent = file.name || "pasted picture";
  const bar = document.createElement("progress");
  bar.max = 1;
  bar.value = 0;
  bar.setAttribute("aria-label", `Progress of ${name.textContent}`);
  const words = document.createElement("span");
  words.className = "words";
  words.setAttribute("role", "status");
  const act = document.createElement("button");
  act.type = "button";
  act.className = "plain";
  line.append(picture, name, bar, words, act);
  const upload = new Upload(file, address, limits, ({ state, part, words: told, item, isFinal }) => {
    line.dataset.state = state;
    bar.hidden = !["waiting", "sending"].includes(state);
    if (part !== undefined) bar.value = part;
    words.textContent = { waiting: "waiting", sending: part < 1 ? `${Math.round(100 * (part || 0))} %` : "being looked at", done: "kept" }[state] || told;
    words.classList.toggle("problem", state === "failed");
    act.hidden = state === "done" || Boolean(isFinal);
    act.textContent = state === "failed" || state === "cancelled" ? "Try again" : "Cancel";
    if (state === "done") done(item, line);
  });
  act.addEventListener("click", () => (act.textContent === "Cancel" ? upload.cancel() : upload.start()));
  upload.start();
  return line;
}
