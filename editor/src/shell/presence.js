// Says from time to time that this writing room is open and where one writes, and who else has the post open, and where.
import { tabName } from "../saving/tab.js";

const others = document.getElementById("others");
const lines = document.querySelectorAll(".others"); // of the base line, and of a phone's top line
const EVERY = 25_000;
const EVERY_TOGETHER = 8_000;

let where = () => ({});
let shown = () => {};
let next = 0;

// `read` answers with {block, heading} of where one writes; `show` is given [{name, block, heading}] of the others.
export function follow(read, show) {
  where = read;
  shown = show;
}

async function tell() {
  clearTimeout(next);
  next = setTimeout(tell, EVERY);
  if (!navigator.onLine || document.visibilityState !== "visible") return;
  try {
    const answer = await fetch(others.dataset.at, { method: "POST", body: new URLSearchParams({ tab: tabName(), ...where() }) });
    if (!answer.ok) return;
    const { others: names, where: rooms, is_mine: isMine } = await answer.json();
    const said = names.length ? `${names.join(" and ")} ${names.length > 1 ? "have" : "has"} this post open too` : "";
    const words = [said, isMine ? "You have it open in another tab" : ""].filter(Boolean).join(". ");
    for (const line of lines) if (line.textContent !== words) line.textContent = words;
    shown(rooms);
    if (names.length) {
      clearTimeout(next);
      next = setTimeout(tell, EVERY_TOGETHER);
    }
  } catch {
    // the network is away; the room tells that itself
  }
}

addEventListener("pagehide", () => navigator.sendBeacon(others.dataset.at, new URLSearchParams({ leaves: "yes", tab: tabName() })));
tell();
