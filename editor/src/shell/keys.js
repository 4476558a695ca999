// The sheet of keys, and the keys that press or reach what a screen marks with data-key and data-key-reach.
const dialog = document.getElementById("keys");

function open() {
  if (!dialog.firstChild) dialog.append(document.getElementById("keys-sheet").content.cloneNode(true));
  dialog.querySelector("button").onclick = () => dialog.close();
  if (dialog.open) dialog.close();
  else dialog.showModal();
}

document.getElementById("keys-open")?.addEventListener("click", open);

// Before the text hears of them: Ctrl+Enter would break a line there.
addEventListener("keydown", (event) => {
  const isCommand = (event.ctrlKey || event.metaKey) && !event.shiftKey && !event.altKey;
  const name = `${isCommand ? "Ctrl+" : event.altKey && !event.ctrlKey && !event.metaKey ? "Alt+" : ""}${isCommand && event.key === "/" ? "/" : event.code.replace(/^Key/, "")}`;
  if (!name.includes("+")) return;
  const pressed = document.querySelector(`[data-key="${CSS.escape(name)}"]`);
  const reached = document.querySelector(`[data-key-reach="${CSS.escape(name)}"]`);
  if (name === "Ctrl+/" && dialog) open();
  else if (pressed) pressed.click();
  else if (reached) (reached.matches("button:disabled") ? reached.closest("[tabindex]") : reached).focus();
  else return;
  event.preventDefault();
  event.stopPropagation();
}, true);
