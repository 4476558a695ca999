// Videos of other hosts: their address or embed code becomes an embed, or the link that stands in its place and says why.
import { putMedia } from "./items.js";

const LINK = /^https?:\/\/\S+$/i;

const isCode = (typed) => /^<(iframe|blockquote|div|object|embed|script)\b[^]*(<\/\w+>|\/>)$/i.test(typed) && /<(iframe|script|object|embed)\b/i.test(typed);

const linked = (href, words) => ({ type: "text", text: words, marks: [{ type: "link", attrs: { href } }] });

// The paragraph that holds this very link and nothing else: {from, to}, or null.
function alone(editor, href) {
  let found = null;
  editor.state.doc.descendants((node, position) => {
    if (found || !node.isTextblock) return !found;
    const marks = node.childCount === 1 ? node.firstChild.marks : [];
    if (marks.some((mark) => mark.type.name === "link" && mark.attrs.href === href)) found = { from: position, to: position + node.nodeSize };
    return false;
  });
  return found;
}

export class Embeds {
  constructor(editor, room, tell, offer) {
    Object.assign(this, { editor, room, tell, offer });
  }

  // Whether what is pasted is embed code, or an address on a line of its own; `seamAt` finds the place of a block.
  take(transfer, { $from, empty }, seamAt) {
    const typed = transfer?.getData("text/plain").trim() || "";
    if ($from.parent.type.name === "codeBlock") return false;
    if (isCode(typed)) this.code(typed, seamAt($from.pos));
    else if (empty && $from.parent.type.name === "paragraph" && !$from.parent.content.size && LINK.test(typed)) this.address(typed);
    else return false;
    return true;
  }

  async ask(typed) {
    const response = await fetch(this.room.to.embed, { method: "POST", body: new URLSearchParams({ typed }), headers: { accept: "application/json" } });
    const answer = await response.json();
    return response.ok ? answer : { problem: answer.message };
  }

  // Code is put in as what it stands for; as text where that is nothing, so that it is not lost.
  async code(typed, place) {
    this.tell("Asking the host…");
    try {
      const found = await this.ask(typed);
      if (found.problem) this.keep(typed, place, found.problem);
      else this.put(found, typed, place);
    } catch {
      this.keep(typed, place, "The network is away, so the code stands as text; paste it again when it is back.");
    }
  }

  keep(typed, place, why) {
    this.editor.commands.insertContentAt(place, { type: "paragraph", content: [{ type: "text", text: typed.replace(/\s+/g, " ") }] });
    this.tell(why, true);
  }

  // The embed that was found, or its link, at a seam.
  put(found, typed, place) {
    if (found.attrs.address) {
      putMedia(this.editor, place, [{ type: "embed", attrs: found.attrs }]);
      this.tell("");
      return;
    }
    this.editor.commands.insertContentAt(place, { type: "paragraph", content: [linked(found.href, found.words)] });
    this.say(found, typed, found.href);
  }

  // An address is a link at once; it becomes the embed once its host has told of it.
  async address(typed) {
    this.editor.commands.insertContent(linked(typed, typed));
    try {
      const found = await this.ask(typed);
      if (found.attrs?.address) this.replace(typed, found.attrs);
      else if (found.is_video) this.say(found, typed, typed);
    } catch {
      // without a network it stays a link
    }
  }

  replace(href, attrs) {
    const place = alone(this.editor, href);
    if (!place) return;
    this.editor.chain().insertContentAt(place, { type: "embed", attrs }).run();
    this.tell("");
  }

  // Says why it is a link; whoever may allow the host is offered to.
  say(found, typed, href) {
    const allow = async () => {
      const response = await fetch(this.room.to.allow, { method: "POST", body: new URLSearchParams({ host: found.host }) });
      if (!response.ok) throw new Error("not allowed");
      const again = await this.ask(typed);
      if (again.attrs?.address) this.replace(href, again.attrs);
      else this.tell(again.problem || again.message || "", true);
    };
    this.offer(found.message, found.host && `Allow ${found.host}`, allow);
  }
}
