// Before a comment is sent, the browser looks for a number that takes it a moment to find; without this script the comment waits to be read.
const encoder = new TextEncoder();

async function found(sign, text, bits) {
  for (let nonce = 0; ; nonce++) {
    const digest = new Uint8Array(await crypto.subtle.digest("SHA-256", encoder.encode(`${sign}.${text}.${nonce}`)));
    if (new DataView(digest.buffer).getUint32(0) >>> (32 - bits) === 0) return String(nonce);
  }
}

for (const form of document.querySelectorAll("form[data-work]")) {
  if (!crypto.subtle) break; // it is there on encrypted lines alone
  form.addEventListener("submit", async (event) => {
    if (form.nonce.value) return;
    event.preventDefault();
    const button = form.querySelector("button");
    button.disabled = true;
    const text = form.text.value.replace(/\r\n?|\n/g, "\n");
    form.nonce.value = await found(form.sign.value, text, Number(form.dataset.work));
    button.disabled = false;
    form.submit();
  });
  form.addEventListener("input", () => (form.nonce.value = ""));
}
