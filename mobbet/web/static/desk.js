// The desk by keyboard: arrows walk the rows, "/" goes to the search, N begins a new post.
const links = () => [...document.querySelectorAll(".posts td.t a")];

document.addEventListener("keydown", (event) => {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const find = document.getElementById("find");
  const isTyping = event.target.matches("input, textarea, select");
  if (event.key === "/" && !isTyping) {
    event.preventDefault();
    find.focus();
  } else if (event.key.toLowerCase() === "n" && !isTyping) {
    document.querySelector(".line form button").click();
  } else if ((event.key === "ArrowDown" || event.key === "ArrowUp") && (!isTyping || event.target === find)) {
    const rows = links();
    const here = rows.indexOf(document.activeElement);
    const next = event.key === "ArrowDown" ? here + 1 : here - 1;
    if (next < 0 && here === 0) find.focus();
    else if (rows[next]) rows[next].focus();
    else return;
    event.preventDefault();
  }
});

// Chosen posts can be filed at once; the line that offers it shows while there are any.
const choosing = document.getElementById("choose-posts");
const chosen = () => [...document.querySelectorAll("input[form=choose-posts]:checked")];

function tellChosen() {
  const count = chosen().length;
  choosing.hidden = count === 0;
  choosing.querySelector("p").textContent = `${count} post${count === 1 ? "" : "s"} chosen`;
}

document.addEventListener("change", (event) => {
  if (event.target.matches("input[form=choose-posts]")) tellChosen();
});
choosing.querySelector("button[type=button]").addEventListener("click", () => {
  for (const box of chosen()) box.checked = false;
  tellChosen();
});
document.addEventListener("keydown", (event) => {
  const row = event.target.closest?.(".posts tr");
  if (event.key.toLowerCase() !== "x" || !row || event.ctrlKey || event.metaKey || event.altKey || event.target.matches("input[type=search]")) return;
  row.querySelector("input[form=choose-posts]")?.click();
  event.preventDefault();
});

// A word of the sentence that was changed is shown at once; while arrows walk its choices, after a moment.
const filter = document.getElementById("filter");
let showing = 0;
document.documentElement.classList.add("js-filter");
filter.addEventListener("change", () => {
  clearTimeout(showing);
  showing = setTimeout(() => {
    const said = new URLSearchParams([...new FormData(filter)].filter(([name, value]) => value && !(name === "order" && value === "newest")));
    location.href = `${filter.action}${said.size ? `?${said}` : ""}`;
  }, 350);
});

// A look at a post beside the list: Space on its row, or the mouse resting there; Escape closes it.
const peek = document.getElementById("peek");
const RESTING = 450;
let resting = 0;
let peeking = null;

async function look(link) {
  if (!link || peek.dataset.of === link.dataset.peek) return;
  peeking?.abort();
  peeking = new AbortController();
  try {
    const answer = await fetch(link.dataset.peek, { signal: peeking.signal });
    if (!answer.ok) return;
    peek.innerHTML = await answer.text();
    peek.dataset.of = link.dataset.peek;
    peek.hidden = false;
  } catch {
    // another row was looked at, or the network is away
  }
}

function close() {
  peek.hidden = true;
  delete peek.dataset.of;
}

document.addEventListener("keydown", (event) => {
  const link = event.target.closest?.("a[data-peek]");
  if (event.key === " " && link) {
    event.preventDefault();
    if (peek.hidden || peek.dataset.of !== link.dataset.peek) look(link);
    else close();
  } else if (event.key === "Escape" && !peek.hidden) close();
});
document.addEventListener("focusin", (event) => !peek.hidden && event.target.matches("a[data-peek]") && look(event.target));
document.addEventListener("pointerover", (event) => {
  clearTimeout(resting);
  const link = event.pointerType === "mouse" && event.target.closest?.(".posts tr")?.querySelector("a[data-peek]");
  if (link) resting = setTimeout(() => look(link), RESTING);
});
