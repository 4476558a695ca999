// The site at a moment: the line above follows where one has walked to, so that another moment shows the same page.
const frame = document.getElementById("moment-frame");

frame.addEventListener("load", () => {
  let path = "/";
  try {
    path = frame.contentWindow.location.pathname.split("/site").slice(1).join("/site") || "/";
  } catch {
    return; // a link led out of the site
  }
  for (const field of document.querySelectorAll("[data-follows]")) field.value = path;
  for (const step of document.querySelectorAll("[data-step]")) {
    const address = new URL(step.href);
    address.searchParams.set("path", path);
    step.href = address;
  }
});
