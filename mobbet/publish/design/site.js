// A frame of a provider takes the place of its poster when a reader asks for it; without this script the poster is a link.
document.addEventListener("click", (event) => {
  const facade = event.target.closest("a[data-frame]");
  if (!facade || event.ctrlKey || event.metaKey || event.shiftKey) return;
  event.preventDefault();
  const [width, height] = facade.dataset.shape.split(" ");
  const frame = document.createElement("iframe");
  // A player of another host needs its own storage; one of this very site would get out of its sandbox with it.
  const isElsewhere = new URL(facade.dataset.frame, location.href).origin !== location.origin;
  frame.setAttribute("sandbox", `allow-scripts allow-presentation${isElsewhere ? " allow-same-origin" : ""}`);
  frame.referrerPolicy = "strict-origin-when-cross-origin";
  frame.allow = "fullscreen; autoplay";
  frame.title = facade.textContent;
  frame.style.aspectRatio = `${width} / ${height}`;
  frame.src = facade.dataset.frame;
  facade.replaceWith(frame);
  frame.focus();
});
