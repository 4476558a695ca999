// Many comments at once: all of them, or a stretch with Shift; and by key, while one is in the list: J and K go on and back, S shows, R refuses.
const list = document.querySelector(".comment-list");
const ticks = [...document.querySelectorAll('.comment-list input[type="checkbox"][name="comment"]')];
const all = document.getElementById("choose-all");
let last = null;

for (const tick of ticks) {
  tick.addEventListener("click", (event) => {
    if (event.shiftKey && last) {
      const [from, to] = [ticks.indexOf(last), ticks.indexOf(tick)].sort((one, other) => one - other);
      for (const one of ticks.slice(from, to + 1)) one.checked = tick.checked;
    }
    last = tick;
    if (all) all.checked = ticks.every((one) => one.checked);
  });
}

if (all) all.closest("label").hidden = false;
all?.addEventListener("change", () => {
  for (const tick of ticks) tick.checked = all.checked;
});

list?.addEventListener("keydown", (event) => {
  if (event.ctrlKey || event.altKey || event.metaKey || event.target.matches("textarea, input:not([type=checkbox])")) return;
  const comments = [...list.querySelectorAll(".comment")];
  const at = comments.findIndex((one) => one.contains(event.target));
  const key = event.key.toLowerCase();
  if (key === "j" || key === "k") {
    const next = comments[at + (key === "j" ? 1 : -1)];
    next?.querySelector("input, button, summary, a")?.focus();
    next?.scrollIntoView({ block: "nearest" });
  } else if (key === "s" || key === "r") comments[at]?.querySelector(`button[name=become][value=${key === "s" ? "shown" : "refused"}]`)?.click();
  else return;
  event.preventDefault();
});
