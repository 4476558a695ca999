// An item's page: how far the work on it is, and the player's time for captions.
const page = document.querySelector(".item-page");

async function ask() {
  const response = await fetch(page.dataset.asks, { headers: { accept: "application/json" } }).catch(() => null);
  if (!response?.ok) return;
  const item = await response.json();
  const part = page.querySelector(".working .part");
  if (part && item.progress !== null) part.textContent = Math.round(100 * item.progress);
  if (item.state === "working") setTimeout(ask, 700);
  else if (!page.querySelector("form :focus")) location.reload();
}
if (page.dataset.state === "working") setTimeout(ask, 700);

function clock(seconds) {
  return `${Math.floor(seconds / 60)}:${(seconds % 60).toFixed(1).padStart(4, "0")}`;
}
document.getElementById("stamp")?.addEventListener("click", () => {
  const field = document.getElementById("captions");
  const now = page.querySelector("video").currentTime;
  const before = field.value && !field.value.endsWith("\n") ? "\n" : "";
  field.value += `${before}${clock(now)} - ${clock(now + 3)} `;
  field.focus();
});
