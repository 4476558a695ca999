// The form for a link: an address, an e-mail address, one of the blog's posts by its words, or a heading of this post.
import { Plugin, PluginKey } from "@tiptap/pm/state";
import { Decoration, DecorationSet } from "@tiptap/pm/view";
import { addressOf } from "../core/addresses.js";

const HELD = new PluginKey("held");

// The chosen words stay marked while their link is typed elsewhere.
const holding = (form) =>
  new Plugin({
    key: HELD,
    props: {
      decorations: ({ doc, selection }) => (form.hidden || selection.empty ? null : DecorationSet.create(doc, [Decoration.inline(selection.from, selection.to, { class: "held" })])),
    },
  });

export class LinkForm {
  constructor(form, tools, editor, room) {
    Object.assign(this, { form, tools, editor, room });
    const at = (name) => form.querySelector(`[name=${name}]`);
    this.address = at("address");
    this.window = at("window");
    this.paid = at("paid");
    this.title = at("title");
    this.problem = form.querySelector(".problem");
    this.found = form.querySelector(".found");
    this.tryIt = form.querySelector("a");
    this.removal = form.querySelector("[value=remove]");
    this.address.addEventListener("input", () => this.plan());
    this.address.addEventListener("keydown", (event) => {
      if (event.key === "ArrowDown") {
        event.preventDefault();
        this.found.querySelector("button")?.focus();
      }
    });
    this.found.addEventListener("keydown", (event) => this.walk(event));
    form.addEventListener("submit", (event) => {
      event.preventDefault();
      this.use();
    });
    form.addEventListener("keydown", (event) => event.key === "Escape" && this.close());
    editor.registerPlugin(holding(form));
    this.removal.addEventListener("click", () => {
      this.form.hidden = true;
      this.tools.chain().extendMarkRange("link").unsetMark("link").run();
    });
  }

  open() {
    this.editor.view.domObserver.flush(); // a selection made a moment ago counts
    const { href, window: where, paid, title } = this.editor.getAttributes("link");
    this.href = href || "";
    this.address.value = href || "";
    this.window.value = where || "here";
    this.paid.checked = Boolean(paid);
    this.title.value = title || "";
    this.removal.hidden = !href;
    this.problem.textContent = "";
    this.form.hidden = false;
    this.editor.view.dispatch(this.editor.state.tr); // the words are drawn as held
    this.keepSeen();
    this.address.focus();
    this.address.select();
    this.look();
  }

  // The form hangs over the sheet, so that nothing moves; words that it would cover come out below it.
  keepSeen() {
    const below = this.form.getBoundingClientRect().bottom;
    const { top } = this.editor.view.coordsAtPos(this.editor.state.selection.from);
    if (top < below + 8) document.getElementById("scroll").scrollTop -= below + 8 - top;
  }

  close() {
    this.form.hidden = true;
    this.editor.view.focus();
  }

  plan() {
    this.problem.textContent = "";
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.look(), 150);
  }

  // Headings of this post and posts of the blog that hold the words; and a way to try an address.
  async look() {
    const words = this.address.value.trim();
    const href = addressOf(words);
    const isOutside = /^https?:/.test(href);
    this.tryIt.hidden = !isOutside;
    if (isOutside) this.tryIt.href = href;
    const choices = words && (isOutside || href.startsWith("mailto:")) ? [] : this.headings(words);
    if (words.length > 1 && !href) {
      const response = await fetch(`${this.room.to.links}?words=${encodeURIComponent(words)}`).catch(() => null);
      if (response?.ok) choices.push(...(await response.json()).posts.map((post) => ({ words: post.title, told: post.told, href: `post:${post.id}` })));
    }
    if (this.address.value.trim() === words) this.show(choices.slice(0, 7));
  }

  headings(words) {
    const found = [];
    const wanted = words.replace(/^#/, "").toLowerCase();
    this.editor.state.doc.descendants((node, position) => {
      if (node.type.name !== "heading") return node.isBlock && !node.isTextblock;
      if (node.textContent.trim() && node.textContent.toLowerCase().includes(wanted)) found.push({ words: node.textContent, told: "heading of this post", position });
      return false;
    });
    return found.slice(0, 4);
  }

  show(choices) {
    this.found.replaceChildren(
      ...choices.map((choice) => {
        const button = document.createElement("button");
        button.type = "button";
        const name = document.createElement("b");
        name.textContent = choice.words;
        button.append(name, ` ${choice.told}`);
        button.addEventListener("click", () => this.choose(choice));
        return button;
      }),
    );
  }

  walk(event) {
    const stops = [...this.found.querySelectorAll("button")];
    const at = stops.indexOf(document.activeElement);
    if (event.key === "ArrowDown") stops[Math.min(at + 1, stops.length - 1)]?.focus();
    else if (event.key === "ArrowUp") (at > 0 ? stops[at - 1] : this.address).focus();
    else return;
    event.preventDefault();
  }

  async choose(choice) {
    if (choice.href) return this.put(choice.href, choice.words);
    const anchor = await this.anchorOf(choice.position);
    return anchor ? this.put(`#${anchor}`, choice.words) : undefined;
  }

  // A heading that is linked to keeps its anchor from now on.
  async anchorOf(position) {
    const node = this.editor.state.doc.nodeAt(position);
    if (node.attrs.anchor) return node.attrs.anchor;
    const response = await fetch(this.room.to.anchors, {
      method: "POST",
      headers: { "content-type": "application/json", accept: "application/json" },
      body: JSON.stringify({ document: this.editor.getJSON() }),
    }).catch(() => null);
    if (!response?.ok) {
      this.problem.textContent = "The network is away; choose the heading again when it is back.";
      return "";
    }
    let index = 0;
    this.editor.state.doc.descendants((other, at) => {
      if (other.type.name === "heading" && at < position) index += 1;
      return true;
    });
    const anchor = (await response.json()).anchors[index];
    this.editor.view.dispatch(this.editor.state.tr.setNodeAttribute(position, "anchor", anchor));
    return anchor;
  }

  use() {
    const typed = this.address.value.trim();
    const href = typed === this.href && typed ? typed : addressOf(typed);
    if (!href) {
      this.problem.textContent = typed ? `“${typed}” is no address of a page; write it like https://name.example.` : "Type the address it leads to.";
      return;
    }
    this.put(href, typed);
  }

  put(href, words) {
    this.form.hidden = true;
    const attrs = { href, window: this.window.value, paid: this.paid.checked, title: this.title.value.trim() };
    const chain = this.tools.chain().extendMarkRange("link");
    if (this.editor.state.selection.empty && !this.editor.isActive("link")) {
      chain.insertContent({ type: "text", text: words, marks: [{ type: "link", attrs }] }).unsetMark("link").run();
    } else chain.setMark("link", attrs).run();
  }
}
