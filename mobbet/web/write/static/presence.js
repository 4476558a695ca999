// Says from time to time that this writing room is open, and who else has the post open.
const others = document.getElementById("others");
const EVERY = 25_000;

async function tell() {
  if (!navigator.onLine || document.visibilityState !== "visible") return;
  try {
    const answer = await fetch(others.dataset.at, { method: "POST" });
    if (!answer.ok) return;
    const names = (await answer.json()).others;
    others.textContent = names.length ? `${names.join(" and ")} ${names.length > 1 ? "have" : "has"} this post open too` : "";
  } catch {
    // the network is away; the room tells that itself
  }
}

setInterval(tell, EVERY);
addEventListener("pagehide", () => navigator.sendBeacon(others.dataset.at, new URLSearchParams({ leaves: "yes" })));
tell();
