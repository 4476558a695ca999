// The look: the picked colour goes into its field, and letters twice as large into the frames.
for (const picker of document.querySelectorAll("[data-picks]")) {
  const field = picker.closest("form").querySelector("input[name=value]");
  picker.addEventListener("input", () => (field.value = picker.value));
  field.addEventListener("input", () => /^#[0-9a-f]{6}$/i.test(field.value) && (picker.value = field.value));
}

if (document.querySelector(".sees-large")) {
  for (const frame of document.querySelectorAll(".look-frames iframe")) {
    const enlarge = () => frame.contentDocument?.documentElement?.style.setProperty("font-size", "200%");
    frame.addEventListener("load", enlarge);
    if (frame.contentDocument?.readyState === "complete") enlarge();
  }
}

// On a phone the frames stand in a sheet, which “See it” brings up and takes away.
const sees = document.querySelector(".see-it");
const view = document.getElementById("look-view");
function show(isUp) {
  view.classList.toggle("is-up", isUp);
  sees.setAttribute("aria-expanded", String(isUp));
  sees.textContent = isUp ? "Back to the choices" : "See it";
  if (isUp) view.focus();
}
sees?.addEventListener("click", () => show(!view.classList.contains("is-up")));
document.addEventListener("keydown", (event) => {
  if (event.key !== "Escape" || !view.classList.contains("is-up") || document.querySelector("details.setting[open]")) return;
  show(false);
  sees.focus();
});
