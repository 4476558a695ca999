// What a sheet or menu covers cannot be reached by keyboard while it is open, so that focus is never out of sight (WCAG 2.4.11).
const REACHABLE = "a[href], button, input, select, textarea, summary, [tabindex]:not([contenteditable])";
let covered = [];

// Takes what stands below an open box, even in part, out of the order of Tab until `uncover`; but for what opened it. What is left to
// be seen of a button may be too small a target: a press on it only closes the box. Words of a sentence can still be pressed.
export function cover(box, opener) {
  uncover();
  const over = box.getBoundingClientRect();
  const found = [...document.querySelectorAll(REACHABLE)].filter((one) => {
    if (one === opener || one.tabIndex < 0 || box.contains(one) || one.contains(box)) return false;
    const place = one.getBoundingClientRect();
    return place.width && place.right > over.left && place.left < over.right && place.bottom > over.top && place.top < over.bottom;
  });
  covered = found.map((one) => [one, one.getAttribute("tabindex")]);
  for (const one of found) {
    one.tabIndex = -1;
    one.inert = one.matches("button");
  }
}

export function uncover() {
  for (const [one, before] of covered) {
    one.inert = false;
    if (before === null) one.removeAttribute("tabindex");
    else one.setAttribute("tabindex", before);
  }
  covered = [];
}
