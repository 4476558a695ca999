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
