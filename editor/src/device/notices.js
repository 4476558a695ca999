// What this device is told of while nobody looks at Mobbet (W3C Push API). Nothing, until somebody chooses it.
import { room } from "../core/roomdata.js";

const CHOSEN = "mobbet:notices";
const base64 = (buffer) => btoa(String.fromCharCode(...new Uint8Array(buffer))).replaceAll("+", "-").replaceAll("/", "_").replace(/=+$/, "");

const box = document.getElementById("notices");
const told = document.getElementById("notices-told");
const fields = [...box.querySelectorAll("input")];

async function choose() {
  const kinds = fields.filter((field) => field.checked).map((field) => field.value);
  told.classList.remove("problem");
  try {
    if (kinds.length && (await Notification.requestPermission()) !== "granted") throw new Error("The browser does not allow notifications here; allow them in its settings, and choose again.");
    const { pushManager } = await navigator.serviceWorker.ready;
    const device = (await pushManager.getSubscription()) ?? (await pushManager.subscribe({ userVisibleOnly: true, applicationServerKey: room.pushKey }));
    const body = JSON.stringify({ endpoint: device.endpoint, public_key: base64(device.getKey("p256dh")), secret: base64(device.getKey("auth")), kinds });
    const response = await fetch(room.to.notices, { method: "POST", headers: { accept: "application/json", "content-type": "application/json" }, body });
    const answer = await response.json();
    if (!response.ok) throw new Error(answer.message);
    if (!kinds.length) await device.unsubscribe();
    localStorage.setItem(CHOSEN, kinds.join(" "));
    told.textContent = kinds.length ? "This device is told of it." : "This device is told of nothing.";
  } catch (error) {
    told.textContent = error.name === "AbortError" || error instanceof TypeError ? "The browser’s push service cannot be reached; try again when there is a network." : error.message;
    told.classList.add("problem");
    tick();
  }
}

function tick() {
  const chosen = (localStorage.getItem(CHOSEN) ?? "").split(" ");
  for (const field of fields) field.checked = chosen.includes(field.value);
}

export function readyForNotices() {
  if (!("PushManager" in window) || !("Notification" in window)) return;
  box.hidden = false;
  tick();
  for (const field of fields) field.addEventListener("change", choose);
}
