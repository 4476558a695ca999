// Says from time to time that this writing room is open, and who else has the post open.
import { tabName } from "../saving/tab.js";

const others = document.getElementById("others");
const EVERY = 25_000;

async function tell() {
  if (!navigator.onLine || document.visibilityState !== "visible") return;
  try {
    const answer = await fetch(others.dataset.at, { method: "POST", body: new URLSearchParams({ tab: tabName() }) });
    if (!answer.ok) return;
    const { others: names, is_mine: isMine } = await answer.json();
    const said = names.length ? `${names.join(" and ")} ${names.length > 1 ? "have" : "has"} this post open too` : "";
    others.textContent = [said, isMine ? "You have it open in another tab" : ""].filter(Boolean).join(". ");
  } catch {
    // the network is away; the room tells that itself
  }
}

setInterval(tell, EVERY);
addEventListener("pagehide", () => navigator.sendBeacon(others.dataset.at, new URLSearchParams({ leaves: "yes", tab: tabName() })));
tell();
