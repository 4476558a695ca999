// Opens a sealed page in the reader's own browser: PBKDF2 makes the key of the password, AES-GCM the page of the ciphertext.
const form = document.getElementById("sealed");
const bytes = (hex) => Uint8Array.from(hex.match(/../g), (pair) => parseInt(pair, 16));

function tell(words) {
  const line = document.getElementById("refused");
  line.textContent = words;
  line.hidden = false;
}

// A keyboard may compose letters in its own way; older pages were sealed with the password as it was typed.
async function unseal(password) {
  const forms = [password.normalize("NFKC"), password].map((form) => form.split(/\s+/).filter(Boolean).join(" "));
  return forms[0] === forms[1] ? unsealWith(forms[0]) : unsealWith(forms[0]).catch(() => unsealWith(forms[1]));
}

async function unsealWith(password) {
  const typed = new TextEncoder().encode(password);
  const base = await crypto.subtle.importKey("raw", typed, "PBKDF2", false, ["deriveKey"]);
  const rounds = { name: "PBKDF2", hash: "SHA-256", salt: bytes(form.dataset.salt), iterations: Number(form.dataset.rounds) };
  const key = await crypto.subtle.deriveKey(rounds, base, { name: "AES-GCM", length: 256 }, false, ["decrypt"]);
  const sealed = Uint8Array.from(atob(form.dataset.body), (letter) => letter.charCodeAt(0));
  const opened = await crypto.subtle.decrypt({ name: "AES-GCM", iv: sealed.slice(0, 12) }, key, sealed.slice(12));
  return new TextDecoder().decode(opened);
}

form.addEventListener("submit", async (event) => {
  event.preventDefault();
  if (!globalThis.crypto?.subtle) return tell("This browser opens sealed posts only on a secure (https) address.");
  try {
    const page = new DOMParser().parseFromString(await unseal(document.getElementById("password").value), "text/html");
    document.title = page.title;
    document.querySelector("main").replaceWith(document.adoptNode(page.querySelector("main")));
    document.querySelector("h1").setAttribute("tabindex", "-1");
    document.querySelector("h1").focus();
  } catch {
    tell("This is not the password of this post; check it and try again.");
  }
});
