// What a sheet or menu covers cannot be pressed or reached while it is open, so that focus is never out of sight (WCAG 2.4.11).
const REACHABLE = "a[href], button, input, select, textarea, summary, [tabindex], [contenteditable]";
let covered = [];

// Puts everything that stands below an open box, even in part, out of reach until `uncover`; but for what opened it.
export function cover(box, opener) {
  uncover();
  const over = box.getBoundingClientRect();
  covered = [...document.querySelectorAll(REACHABLE)].filter((one) => {
    if (one === opener || one.inert || box.contains(one) || one.contains(box)) return false;
    const place = one.getBoundingClientRect();
    return place.width && place.right > over.left && place.left < over.right && place.bottom > over.top && place.top < over.bottom;
  });
  for (const one of covered) one.inert = true;
}

export function uncover() {
  for (const one of covered) one.inert = false;
  covered = [];
}
