// Sentences of the server on a line of the screen, with the way to sign in where one is signed out.
const SIGNED_OUT = /sign in in another tab/;

export function say(line, words) {
  line.textContent = words;
  const at = words.search(SIGNED_OUT);
  if (at < 0) return;
  const link = Object.assign(document.createElement("a"), { href: document.getElementById("main").dataset.signIn, target: "_blank", textContent: "sign in in another tab" });
  line.replaceChildren(words.slice(0, at), link, words.slice(at + link.textContent.length));
}
