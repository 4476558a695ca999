// Writes to the page only what changes: the same value again makes a browser compute styles and layout again.
export function setText(element, words) {
  if (element.textContent !== words) element.textContent = words;
}

export function setHidden(element, isHidden) {
  if (element.hidden !== isHidden) element.hidden = isHidden;
}
