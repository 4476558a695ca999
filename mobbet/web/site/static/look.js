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
