// Sends a file to the library while it shows its own pixels and its progress at its place on the sheet.
import { Upload } from "../../../mobbet/web/shell/static/uploading.js";
import { ARRIVING } from "./arriving.js";

let count = 0;

function element(tag, className, words = "") {
  const made = document.createElement(tag);
  made.className = className;
  made.textContent = words;
  return made;
}

// Sends a file while its own pixels stand at the place; `put(item, place)` is called when it is kept. Those that wait
// beside it (`group`, in the order they were chosen) stay before and after what was put.
export function arrive(editor, room, file, place, put, over = () => {}, group = []) {
  count += 1;
  const id = `arriving-${count}`;
  const number = count;
  const dom = element("div", "arriving");
  dom.contentEditable = "false";
  if (file.type.startsWith("image/")) {
    const image = element("img", "");
    image.alt = "";
    image.src = URL.createObjectURL(file);
    image.addEventListener("error", () => image.remove());
    dom.append(image);
  }
  const line = element("p", "arriving-line");
  const words = element("span", "", file.name || "pasted picture");
  words.setAttribute("role", "status");
  const bar = element("progress", "");
  bar.max = 1;
  bar.value = 0;
  bar.setAttribute("aria-label", `Progress of ${file.name || "the pasted picture"}`);
  const act = element("button", "plain", "Cancel");
  act.type = "button";
  const leave = element("button", "plain", "Leave it");
  leave.type = "button";
  line.append(words, bar, act, leave);
  dom.append(line);
  const view = () => editor.view;
  const self = { id, dom, number, isOver: false };
  group.push(self);
  const end = () => {
    const found = ARRIVING.getState(view().state).find(null, null, (spec) => spec.id === id);
    const at = found.length ? found[0].from : view().state.doc.content.size;
    view().dispatch(view().state.tr.setMeta(ARRIVING, { remove: id }));
    self.isOver = true;
    return at;
  };
  const upload = new Upload(file, room.to.library, room.limits, ({ state, part, words: told, item, isFinal }) => {
    const isGoing = state === "waiting" || state === "sending";
    bar.hidden = !isGoing;
    if (part !== undefined) bar.value = part;
    words.textContent = isGoing ? file.name || "pasted picture" : told || "";
    words.classList.toggle("problem", state === "failed");
    act.hidden = Boolean(isFinal);
    act.textContent = isGoing ? "Cancel" : "Try again";
    leave.hidden = isGoing;
    if (state === "done") {
      room.items[item.id] = item;
      if (file.type.startsWith("image/")) room.pixels[item.id] = URL.createObjectURL(file);
      const at = end();
      const before = view().state.doc.content.size;
      put(item, at);
      const size = view().state.doc.content.size - before;
      const move = group.filter((one) => !one.isOver).map((one) => ({ ...one, place: one.number < number ? at : at + size }));
      if (move.length) view().dispatch(view().state.tr.setMeta(ARRIVING, { move }));
      over();
    } else if (state === "cancelled") {
      end();
      over();
    }
  });
  act.addEventListener("click", () => (act.textContent === "Cancel" ? upload.cancel() : upload.start()));
  leave.addEventListener("click", () => {
    end();
    over();
  });
  view().dispatch(view().state.tr.setMeta(ARRIVING, { add: { place: Math.min(place, view().state.doc.content.size), dom, id } }));
  dom.scrollIntoView({ block: "nearest" });
  upload.start();
}
