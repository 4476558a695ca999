// While an input method composes, its keys are its own: an Enter that confirms a conversion is no Enter of a screen.
// Safari sends that Enter after the composition, with the key code of composing.
const isComposing = (event) => event.isComposing || (event.keyCode === 229 && event.key === "Enter");

addEventListener("keydown", (event) => {
  const isSheet = event.target.closest?.(".ProseMirror"); // knows about composing itself
  if (isComposing(event) && !isSheet) event.stopImmediatePropagation();
}, { capture: true });
document.body.addEventListener("keydown", (event) => {
  if (isComposing(event)) event.stopPropagation();
});
