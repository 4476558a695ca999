// Following a link of the sheet: in a window of its own, so that the sheet stays.
const POST = /^post:(\d+)/;

// Where a link of the text leads from here: a post of the blog to its sheet; '' for a place in this text, which is gone to.
function addressFrom(room, href) {
  const post = POST.exec(href);
  return post ? room.to.post + post[1] : href.startsWith("#") ? "" : href;
}

export function follow(editor, room, href) {
  const address = addressFrom(room, href);
  if (address) {
    open(address, "_blank", "noopener");
    return;
  }
  let place = -1;
  editor.state.doc.descendants((node, at) => {
    if (node.type.name === "heading" && node.attrs.anchor === href.slice(1)) place = at;
    return place < 0;
  });
  if (place >= 0) editor.chain().focus(place + 1).scrollIntoView().run();
}

// Whether an event of the pointer is for a link that is to be followed.
export const isFollowed = (event) => Boolean((event.ctrlKey || event.metaKey) && event.target.closest?.("a[href]"));

// The link under a pointer that is pressed with Ctrl is followed.
export function followClick(editor, room, event) {
  if (!isFollowed(event)) return false;
  event.preventDefault();
  follow(editor, room, event.target.closest("a[href]").getAttribute("href"));
  return true;
}
