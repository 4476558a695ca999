// Keeps on this device what writing without a network needs, says how many posts wait there, and has them sent.
import { everyPost } from "../device/kept.js";
import { isUntouched } from "../device/posts.js";
import { everyUnsentText, unsentTexts } from "../saving/browserkept.js";

const CHOICE = "mobbet:device";
const LAST = "mobbet:device-kept";
const VERSION = "mobbet:device-version"; // of the scripts that are kept: with new ones, their parts are kept at once
const EVERY = 30 * 60 * 1000;

const bar = document.querySelector(".bar[data-worker]");
const sign = document.getElementById("on-device");

export const chosen = () => localStorage.getItem(CHOICE) || "";

// What anybody has on this device that was not sent.
export async function unsentPosts() {
  try {
    return (await everyPost()).filter((post) => !post.isSent && !isUntouched(post));
  } catch {
    return []; // a private window keeps nothing
  }
}

const person = () => Number(bar.dataset.person);
const waiting = async () => (await unsentPosts()).filter((post) => post.person === person());

// The installed application shows on its icon how much waits: here, and for this person on the blog.
function tellBadge(count) {
  const waits = document.querySelector("[data-waits]");
  if (!navigator.setAppBadge || !waits) return;
  const all = count + Number(waits.dataset.waits);
  (all ? navigator.setAppBadge(all) : navigator.clearAppBadge()).catch(() => {});
}

async function tellWaiting() {
  const count = (await waiting()).length;
  tellBadge(count);
  if (!sign) return;
  sign.hidden = !count;
  const part = (words, className, isHidden) => Object.assign(document.createElement("span"), { textContent: words, className, ariaHidden: isHidden });
  sign.replaceChildren(String(count), part(` post${count === 1 ? "" : "s"} on this device`, "long", null), part(" here", "short", "true"));
}

export async function keep(isNow = false) {
  const registration = await navigator.serviceWorker.ready;
  const isCurrent = localStorage.getItem(VERSION) === bar.dataset.version;
  if (!isNow && isCurrent && Date.now() - Number(localStorage.getItem(LAST)) < EVERY) return;
  localStorage.setItem(LAST, String(Date.now()));
  localStorage.setItem(VERSION, bar.dataset.version);
  const pages = [bar.dataset.device];
  if (chosen() === "posts") {
    const answer = await fetch(bar.dataset.devicePosts, { headers: { accept: "application/json" } }).then((one) => one.json());
    pages.push(bar.dataset.desk, ...answer.posts);
  }
  registration.active.postMessage({ keep: pages, dropsOthers: isNow || chosen() === "posts" });
}

export function choose(value) {
  navigator.storage?.persist?.();
  localStorage.setItem(CHOICE, value);
  return keep(true);
}

async function sendWaiting() {
  const texts = await unsentTexts(person()).catch(() => []);
  if (!texts.length && !(await waiting()).some((post) => post.isWaiting)) return;
  (await navigator.serviceWorker.ready).active.postMessage({ send: true });
}

// Whoever signs out is told of nothing here any more.
async function endNotices() {
  localStorage.removeItem("mobbet:notices");
  const registration = await navigator.serviceWorker?.getRegistration();
  await (await registration?.pushManager?.getSubscription())?.unsubscribe();
}

// Signs out, and leaves nothing of the person on the device.
export async function signOut() {
  for (const name of Object.keys(localStorage)) if (name.startsWith("mobbet:last:")) localStorage.removeItem(name);
  localStorage.removeItem(LAST);
  await endNotices().catch(() => {});
  const form = document.querySelector("[data-signs-out]");
  form.dataset.sure = "yes";
  form.submit();
}

// What has not been sent would be lost with signing out: it is asked once.
document.addEventListener("submit", async (event) => {
  const form = event.target;
  if (!form.matches("[data-signs-out]") || form.dataset.sure) return;
  event.preventDefault();
  const texts = await everyUnsentText().catch(() => []);
  if (texts.length || (await unsentPosts()).length) location.href = `${bar.dataset.device}?leaving=yes`;
  else signOut();
});

if (bar && navigator.serviceWorker) {
  navigator.serviceWorker.register(bar.dataset.worker).then(() => keep()).catch(() => {});
  navigator.serviceWorker.addEventListener("message", () => tellWaiting());
  addEventListener("online", sendWaiting);
  addEventListener("load", () => {
    tellWaiting();
    sendWaiting();
  });
}
