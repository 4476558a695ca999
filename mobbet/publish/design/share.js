// Ways to share a post that need a script: they stand hidden in the page until this shows those that the browser can do.
const can = { copy: Boolean(navigator.clipboard), share: Boolean(navigator.share), print: Boolean(window.print) };
for (const [name, isThere] of Object.entries(can)) {
  for (const button of document.querySelectorAll(`.share [data-${name}]`)) if (isThere) button.closest("li").hidden = false;
}

document.addEventListener("click", async (event) => {
  const button = event.target.closest(".share button");
  if (!button) return;
  const { copy, share, title } = button.dataset;
  if (copy) {
    try {
      await navigator.clipboard.writeText(copy);
      button.textContent = "Copied";
    } catch {
      button.textContent = copy; // it can be marked and copied by hand
    }
  } else if (share) navigator.share({ url: share, title }).catch(() => {}); // whoever closes the sheet wants nothing
  else if ("print" in button.dataset) window.print();
});
