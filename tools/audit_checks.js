// Checks of a page that axe leaves out. Answers with one line for each fault.
() => {
  const found = [];
  const shown = (one) => one.checkVisibility({ opacityProperty: true, visibilityProperty: true }) && one.getClientRects().length > 0;
  const plain = (text) => text.normalize("NFKC").toLowerCase().replace(/[^\p{L}\p{N}]+/gu, " ").trim();
  const told = (one) => one.outerHTML.replace(/\s+/g, " ").slice(0, 140);
  // the words one sees must stand in the name one hears (WCAG 2.5.3)
  for (const one of document.querySelectorAll("button[aria-label], a[aria-label], summary[aria-label], input[type=submit][aria-label], [role=button][aria-label]")) {
    if (!shown(one)) continue;
    const [seen, name] = [plain(one.innerText || ""), plain(one.getAttribute("aria-label"))];
    if (seen && !name.includes(seen)) found.push(`label-in-name: “${seen}” is not in “${name}”`);
  }
  for (const field of document.querySelectorAll("input, select, textarea")) {
    const label = field.labels?.[0];
    const name = field.getAttribute("aria-label");
    if (label && name && shown(label) && !plain(name).includes(plain(label.innerText))) found.push(`label-in-name: field ${told(field)}`);
  }
  const headings = [...document.querySelectorAll("h1")].filter((one) => !one.closest("dialog:not([open]), [hidden]"));
  if (headings.length !== 1) found.push(`headings: ${headings.length} of level 1`);
  const wide = document.documentElement.scrollWidth - innerWidth;
  if (wide > 0) {
    const over = [...document.querySelectorAll("body *")].filter((one) => shown(one) && one.getBoundingClientRect().right > innerWidth + 1 && !one.closest("[data-scrolls], .scrolls")).slice(0, 2).map(told);
    found.push(`width: ${wide} pixels too wide: ${over.join(" | ")}`);
  }
  for (const one of document.querySelectorAll("button, summary, select, input:not([type=hidden]), [role=button]")) {
    if (!shown(one)) continue;
    const box = one.getBoundingClientRect();
    if (box.right < 0 || box.width <= 1 || box.height <= 1) continue;
    if ((box.width < 23.5 || box.height < 23.5) && !["checkbox", "radio", "range"].includes(one.type)) found.push(`target: ${Math.round(box.width)} × ${Math.round(box.height)}: ${told(one)}`);
  }
  // under a finger, also a link that stands alone (WCAG 2.5.8 leaves out those within a sentence)
  const alone = (one) => getComputedStyle(one).display !== "inline" || ![...one.parentNode.childNodes].some((node) => node.nodeType === Node.TEXT_NODE && node.textContent.trim().length > 1);
  for (const one of matchMedia("(pointer: coarse)").matches ? document.querySelectorAll("a[href]") : []) {
    const box = one.getBoundingClientRect();
    if (!shown(one) || box.right < 0 || box.width <= 1 || box.height <= 1 || !alone(one)) continue;
    if (box.width < 23.5 || box.height < 23.5) found.push(`target: link of ${Math.round(box.width)} × ${Math.round(box.height)}: ${told(one)}`);
  }
  const live = [...document.querySelectorAll("[role=status], [aria-live]")];
  if (live.some((one) => one.querySelector("input, select, textarea"))) found.push("live: fields stand in a live region");
  return found;
}
