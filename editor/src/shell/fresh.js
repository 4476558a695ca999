// When a window comes back to the front, it asks whether its blog changed since it was loaded, and offers to show it as it is now.
const bar = document.querySelector("[data-changes]");
const line = document.querySelector("#changed-since");

async function look() {
  if (document.visibilityState !== "visible" || !line.hidden) return;
  const answer = await fetch(bar.dataset.changes).catch(() => null);
  if (answer?.ok && (await answer.json()).number !== Number(bar.dataset.number)) line.hidden = false;
}

if (bar && line) {
  document.addEventListener("visibilitychange", look);
  line.querySelector("button").addEventListener("click", () => location.reload());
}
