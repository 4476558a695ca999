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
