// First run: proposes the address from the blog's name, and the time zone from the browser.
const blog = document.getElementById("blog");
const address = document.getElementById("address");
const zone = document.getElementById("zone");
let isOwn = address.value !== "";

function slug(words) {
  const bare = words.normalize("NFKD").replace(/[\u0300-\u036f'’]/g, "").toLowerCase();
  return bare.replace(/[^a-z0-9]+/g, "-").replace(/^-+|-+$/g, "").slice(0, 60);
}

blog.addEventListener("input", () => {
  if (!isOwn) address.value = slug(blog.value);
});
address.addEventListener("input", () => {
  isOwn = address.value !== "";
});
const language = document.getElementById("language");
const proposed = document.getElementById("proposed");
const tell = () => {
  proposed.textContent = [language.selectedOptions[0]?.text, `${proposed.dataset.start}${address.value || "…"}`, zone.value].filter(Boolean).join(", ");
};
for (const event of ["input", "change"]) document.addEventListener(event, tell);
if (!zone.value) {
  const here = Intl.DateTimeFormat().resolvedOptions().timeZone;
  if ([...zone.options].some((option) => option.value === here)) zone.value = here;
}
tell();
