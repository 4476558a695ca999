// A worklist by keyboard: digits choose, Enter files, S skips; the footprint of what is chosen shows before.
const form = document.getElementById("worklist");
const more = document.getElementById("more");
let waiting = 0;

function tryIt() {
  const fields = Object.fromEntries([...new Set(new FormData(form).keys())].map((name) => [name, new FormData(form).getAll(name)]));
  const isChosen = (fields.category ?? fields.tag ?? []).length || more.value.trim();
  const box = document.getElementById("tried");
  if (!isChosen) box.replaceChildren();
  else htmx.ajax("POST", form.action, { target: box, swap: "innerHTML", values: { ...fields, act: "try" } });
}

form?.addEventListener("input", () => {
  clearTimeout(waiting);
  waiting = setTimeout(tryIt, 250);
});

document.addEventListener("keydown", (event) => {
  if (!form?.contains(event.target) || event.ctrlKey || event.metaKey || event.altKey) return; // keys of one letter act where the focus is alone (WCAG 2.1.4)
  const isTyping = event.target === more;
  if (/^[1-9]$/.test(event.key) && !isTyping) {
    const box = form.querySelector(`[data-key="${event.key}"]`);
    if (!box) return;
    box.click();
    event.preventDefault();
  } else if (event.key.toLowerCase() === "s" && !isTyping) {
    location.assign(form.dataset.next);
  } else if (event.key === "Enter" && !event.target.matches("a, button, summary")) {
    event.preventDefault();
    form.requestSubmit(document.getElementById("file-it"));
  } else if (event.key === "Escape" && isTyping) {
    more.blur();
  }
});
