// Choosing what is put into the text: files of this device, the camera, the library, an address, a collection, a host.
const WORDS = { picture: "picture", gallery: "pictures", video: "video", sound: "sound", file: "file", embed: "video" };
const ACCEPT = {
  picture: "image/*,.heic,.heif", gallery: "image/*,.heic,.heif", video: "video/mp4,video/webm,video/quicktime,.mov", sound: "audio/*,.mp3,.m4a,.ogg,.opus,.wav,.flac", file: "",
};

function element(tag, className = "", words = "") {
  const made = document.createElement(tag);
  if (className) made.className = className;
  if (words) made.textContent = words;
  return made;
}

export class Picker {
  constructor(dialog, room, acts) {
    Object.assign(this, { dialog, room, acts });
    this.tabs = [...dialog.querySelectorAll("[data-tab]")];
    this.panels = [...dialog.querySelectorAll("[data-panel]")];
    for (const tab of this.tabs) tab.addEventListener("click", () => this.show(tab.dataset.tab));
    dialog.querySelector(".close").addEventListener("click", () => dialog.close());
    dialog.addEventListener("keydown", (event) => this.walk(event));
    this.input = dialog.querySelector("#picker-files");
    this.camera = dialog.querySelector("#picker-camera");
    dialog.querySelector("#choose-files").addEventListener("click", () => this.input.click());
    dialog.querySelector("#take-picture").addEventListener("click", () => this.camera.click());
    for (const input of [this.input, this.camera]) {
      input.addEventListener("change", () => {
        const files = [...input.files];
        input.value = "";
        if (files.length) this.takeFiles(files);
      });
    }
    this.bindSearch("library", (words) => this.findItems(words));
    this.bindSearch("collection", (words) => this.findOffered(words));
    this.bindSearch("host", (words) => this.findVideos(words));
    dialog.querySelector("#address-form").addEventListener("submit", (event) => this.fromAddress(event));
    dialog.querySelector("#embed-form").addEventListener("submit", (event) => this.fromHost(event));
    this.many = dialog.querySelector("#put-many");
    this.many.addEventListener("click", () => this.take([...this.chosen.values()]));
  }

  // `more` may have `one(item)` or `many(items)`, called in the place of putting a new block.
  open(kind, place, more = {}) {
    Object.assign(this, { kind, place, more, chosen: new Map() });
    const words = WORDS[kind];
    this.dialog.querySelector("h2").textContent = `${more.title || "Insert"}: ${kind === "gallery" ? words : `a ${words}`}`;
    this.input.accept = ACCEPT[kind];
    this.input.multiple = !more.one;
    const shows = { device: true, library: true, address: kind !== "gallery", collection: ["picture", "gallery"].includes(kind), host: ["video", "sound"].includes(kind) && !more.one };
    for (const tab of this.tabs) tab.hidden = !shows[tab.dataset.tab];
    this.dialog.querySelector("#take-picture").hidden = !["picture", "gallery"].includes(kind);
    this.many.hidden = kind !== "gallery";
    this.countChosen();
    this.tell("");
    for (const field of this.dialog.querySelectorAll("input[type=search]")) field.value = "";
    this.dialog.showModal();
    this.show("device");
  }

  show(name) {
    for (const tab of this.tabs) tab.setAttribute("aria-pressed", String(tab.dataset.tab === name));
    for (const panel of this.panels) panel.hidden = panel.dataset.panel !== name;
    this.tell("");
    const panel = this.panels.find((one) => one.dataset.panel === name);
    (panel.querySelector("input:not([type=file]), textarea") || panel.querySelector("button"))?.focus();
    if (name === "library") this.findItems("");
    if (name === "collection") this.findOffered("");
    if (name === "host") this.findVideos("");
  }

  tell(words, isBad = true) {
    const line = this.dialog.querySelector(".problem");
    line.textContent = words;
    line.classList.toggle("fine", !isBad);
  }

  async takeFiles(files) {
    if (!this.more.one && !this.more.many) {
      this.dialog.close();
      this.acts.files(this.kind, files, this.place);
      return;
    }
    const items = [];
    for (const file of files) {
      this.tell(`Bringing in ${file.name}…`, false);
      const form = new FormData();
      form.append("file", file);
      const item = await this.ask(this.room.to.library, { method: "POST", body: form });
      if (!item) return;
      items.push(item);
    }
    this.take(items);
  }

  take(items) {
    const fit = items.filter((item) => (["gallery", "picture"].includes(this.kind) ? item.kind === "picture" : item.kind === this.kind));
    if (!fit.length) {
      this.tell(items.length ? `That is no ${WORDS[this.kind]}; choose another one.` : "Nothing is chosen yet.");
      return;
    }
    this.dialog.close();
    if (this.more.one) this.more.one(fit[0]);
    else if (this.more.many) this.more.many(fit);
    else this.acts.items(this.kind, fit, this.place);
  }

  // The answer as data; null, with the reason told, when there is none.
  async ask(address, options = {}) {
    try {
      const response = await fetch(address, { ...options, headers: { accept: "application/json" } });
      const answer = await response.json();
      if (response.ok) return answer;
      this.tell(answer.message);
    } catch {
      this.tell("The network is away; try again when it is back.");
    }
    return null;
  }

  bindSearch(name, find) {
    const field = this.dialog.querySelector(`[data-panel=${name}] input[type=search]`);
    let timer = null;
    field.addEventListener("input", () => {
      clearTimeout(timer);
      timer = setTimeout(() => find(field.value), 150);
    });
    field.addEventListener("keydown", (event) => event.key === "Enter" && event.preventDefault());
  }

  grid(name, tiles, none) {
    const box = this.dialog.querySelector(`[data-panel=${name}] .grid`);
    box.replaceChildren(...(tiles.length ? tiles : [element("p", "hint", none)]));
  }

  tile(words, more, picture, act) {
    const button = element("button", "tile");
    button.type = "button";
    if (picture) {
      const image = element("img");
      image.src = picture;
      image.alt = "";
      image.loading = "lazy";
      button.append(image);
    } else button.append(element("span", "none", more.split(",")[0]));
    button.append(element("b", "", words), element("span", "", more));
    button.addEventListener("click", () => act(button));
    return button;
  }

  async findItems(words) {
    const kind = { gallery: "picture", file: "file" }[this.kind] || this.kind;
    const answer = await this.ask(`${this.room.to.items}?kind=${kind}&words=${encodeURIComponent(words)}`);
    if (!answer) return;
    const tiles = answer.items.map((item) => {
      const size = item.width ? `${item.width} × ${item.height}` : item.seconds ? `${Math.round(item.seconds)} s` : item.name;
      return this.tile(item.caption || item.name, size, item.has_picture ? `${item.picture}?use=thumb` : "", (button) => this.chooseItem(item, button));
    });
    this.grid("library", tiles, words ? `Nothing in the library has “${words}”.` : "The library has none yet; bring one in from this device.");
  }

  chooseItem(item, button) {
    if (this.kind !== "gallery") {
      this.take([item]);
      return;
    }
    if (this.chosen.has(item.id)) this.chosen.delete(item.id);
    else this.chosen.set(item.id, item);
    button.setAttribute("aria-pressed", String(this.chosen.has(item.id)));
    this.countChosen();
  }

  countChosen() {
    const count = this.chosen.size;
    this.many.textContent = count ? `Insert ${count}` : "Insert them";
    this.many.disabled = !count;
  }

  async findOffered(words) {
    const answer = await this.ask(`${this.room.to.collection}?words=${encodeURIComponent(words)}`);
    if (!answer) return;
    this.dialog.querySelector("[data-panel=collection] .from").textContent = answer.name;
    const tiles = answer.offered.map((one) =>
      this.tile(one.title, `${one.credit}, ${one.licence}`, one.small, async (button) => {
        const item = await this.ask(this.room.to.collection, { method: "POST", body: new URLSearchParams({ id: one.id }) });
        if (item) this.chooseItem(item, button);
      }),
    );
    this.grid("collection", tiles, `${answer.name} has nothing with “${words}”.`);
  }

  async findVideos(words) {
    this.dialog.querySelector("[data-panel=host] input[type=search]").hidden = !this.room.has_videos;
    if (!this.room.has_videos) return;
    const answer = await this.ask(`${this.room.to.videos}?words=${encodeURIComponent(words)}`);
    if (!answer) return;
    const tiles = answer.offered.map((one) =>
      this.tile(one.title, `${one.by}, ${Math.floor(one.seconds / 60)}:${String(one.seconds % 60).padStart(2, "0")}`, "", () => this.embed(one.address)),
    );
    this.grid("host", tiles, words ? `The hosts have nothing with “${words}”.` : "");
  }

  async embed(typed) {
    const found = await this.ask(this.room.to.embed, { method: "POST", body: new URLSearchParams({ typed }) });
    if (!found) return;
    this.dialog.close();
    this.acts.embed(found, typed, this.place);
  }

  fromHost(event) {
    event.preventDefault();
    this.embed(event.target.elements.typed.value);
  }

  async fromAddress(event) {
    event.preventDefault();
    this.tell("Fetching it…", false);
    const item = await this.ask(this.room.to.address, { method: "POST", body: new URLSearchParams(new FormData(event.target)) });
    if (!item) return;
    event.target.reset();
    this.take([item]);
  }

  // Arrows walk the tiles.
  walk(event) {
    const tiles = [...this.dialog.querySelectorAll(".tile")].filter((tile) => tile.offsetParent);
    const at = tiles.indexOf(document.activeElement);
    const isSearch = document.activeElement?.type === "search";
    if (!tiles.length || (at < 0 && !(isSearch && event.key === "ArrowDown"))) return;
    const { top } = tiles[0].getBoundingClientRect();
    const across = tiles.filter((tile) => tile.getBoundingClientRect().top === top).length;
    const step = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: at < 0 ? 1 : across, ArrowUp: -across }[event.key];
    if (!step) return;
    tiles[Math.min(tiles.length - 1, Math.max(0, at + step))].focus();
    event.preventDefault();
  }
}
