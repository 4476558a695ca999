// Shows what a search finds while one types. Without this script the form asks for the page.
const form = document.getElementById("search");
const field = document.getElementById("q");
const PAUSE = 220;
let waiting = 0;
let asking = null;

async function show() {
  const words = field.value.trim();
  const address = new URL(form.action);
  for (const [name, value] of new FormData(form)) if (value) address.searchParams.set(name, value);
  asking?.abort();
  asking = new AbortController();
  try {
    const answer = await fetch(address, { signal: asking.signal });
    if (!answer.ok) return;
    const page = new DOMParser().parseFromString(await answer.text(), "text/html");
    const found = page.getElementById("found");
    if (words !== field.value.trim() || !found) return;
    document.getElementById("found").replaceWith(document.adoptNode(found));
    history.replaceState(null, "", address);
    document.title = page.title;
  } catch (error) {
    if (error.name !== "AbortError") return; // the form still works
  }
}

field.addEventListener("input", () => {
  clearTimeout(waiting);
  if (field.value.trim().length > 1) waiting = setTimeout(show, PAUSE);
});
