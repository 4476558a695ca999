// Passkeys: the browser is asked for one, and its answer goes to the server.
const isThere = Boolean(window.PublicKeyCredential?.parseRequestOptionsFromJSON);

function tell(words) {
  document.querySelector("[data-passkey-problem]").textContent = words;
}

async function send(address, body, isForm = false) {
  const answer = await fetch(address, {
    method: "POST",
    headers: { accept: "application/json", ...(isForm ? {} : { "content-type": "application/json" }) },
    body: isForm ? new URLSearchParams(body) : JSON.stringify(body),
  });
  const found = await answer.json().catch(() => ({}));
  if (found.prove) location.href = `${found.prove}?${new URLSearchParams({ to: location.pathname })}`;
  if (!answer.ok) throw new Error(found.message || "It could not be done; try again.");
  return found;
}

function why(error) {
  return error.name === "NotAllowedError" ? "No passkey was used; try again, or go another way." : error.message;
}

for (const button of document.querySelectorAll("[data-passkey]")) {
  button.hidden = !isThere;
  button.addEventListener("click", async () => {
    tell("");
    const { passkey, answer, begun = "", then = "" } = button.dataset;
    try {
      const { ask, options } = await send(passkey, { begun }, true);
      const found = await navigator.credentials.get({ publicKey: PublicKeyCredential.parseRequestOptionsFromJSON(JSON.parse(options)) });
      location.href = (await send(answer, { answer: found.toJSON(), ask, begun, then })).to;
    } catch (error) {
      tell(why(error));
    }
  });
}

const form = document.querySelector("[data-new-passkey]");
if (form) {
  form.hidden = !isThere;
  form.addEventListener("submit", async (event) => {
    event.preventDefault();
    tell("");
    try {
      const { options } = await send(form.dataset.newPasskey, {}, true);
      const made = await navigator.credentials.create({ publicKey: PublicKeyCredential.parseCreationOptionsFromJSON(JSON.parse(options)) });
      const { to, codes } = await send(form.dataset.answer, { answer: made.toJSON(), label: form.elements.label.value });
      if (!codes.length) location.href = to;
      else showCodes(codes, to);
    } catch (error) {
      tell(why(error));
    }
  });
}

// Recovery codes are shown once, so the page stays until somebody goes on.
function showCodes(codes, to) {
  const box = document.querySelector("[data-passkey-codes]");
  const list = document.createElement("ul");
  list.className = "codes";
  for (const code of codes) list.append(Object.assign(document.createElement("li"), { textContent: code }));
  const words = Object.assign(document.createElement("p"), { textContent: "The passkey is kept. These are your recovery codes; each works once, and they are shown only now." });
  box.replaceChildren(words, list, Object.assign(document.createElement("a"), { className: "button is-small", href: to, textContent: "I have written them down" }));
  form.hidden = true;
}
