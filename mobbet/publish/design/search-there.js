// Searches where the site stands as files, by the index that was sent along. Without this script the page leads to subjects.
const form = document.getElementById("search");
const field = document.getElementById("q");
const found = document.getElementById("found");
const root = new URL("../", form.action).pathname;
const PAUSE = 220;
const AT_ONCE = 10;
const MOST_NARROWINGS = 6;
// Letters of scripts that put no space between words stand one by one in the index.
const UNSPACED = /([\u0e00-\u0eff\u1000-\u109f\u1780-\u17ff\u3040-\u30ff\u3400-\u4dbf\u4e00-\u9fff\uf900-\ufaff\uff66-\uff9f])/g;
const BETWEEN = new RegExp(`${UNSPACED.source} +(?=${UNSPACED.source})`, "g");
const chosen = new Map();
let waiting = 0;
let asked = 0;
let index = null;

async function ready() {
  if (!index) {
    index = await import(new URL("index/pagefind.js", form.action).href);
    await index.options({ baseUrl: root });
    await index.filters(); // which counts them with every search from now on
  }
  return index;
}

function node(name, text = "", more = {}) {
  const made = Object.assign(document.createElement(name), more);
  if (text) made.textContent = text;
  return made;
}

/** The passage with its hits, of HTML in which nothing but marks counts. */
function passage(html) {
  const line = node("p", "", { className: "teaser" });
  for (const part of new DOMParser().parseFromString(html, "text/html").body.childNodes) {
    const text = part.textContent.replace(BETWEEN, "$1");
    line.append(part.nodeName === "MARK" ? node("mark", text) : text);
  }
  return line;
}

async function result(one) {
  const data = await one.data();
  const item = node("li");
  const head = node("h2");
  head.append(node("a", (data.meta.title ?? data.url).replace(BETWEEN, "$1"), { href: data.url }));
  item.append(head, passage(data.excerpt));
  return item;
}

function narrowings(filters, total) {
  const list = node("ul");
  const some = Object.entries(filters)
    .flatMap(([kind, names]) => Object.entries(names).map(([name, count]) => ({ kind, name, count })))
    .filter((one) => chosen.get(one.kind) === one.name || (one.count > 0 && one.count < total))
    .sort((one, other) => other.count - one.count)
    .slice(0, MOST_NARROWINGS);
  for (const { kind, name, count } of some) {
    const isOn = chosen.get(kind) === name;
    const button = node("button", `${kind === "tag" ? "#" : ""}${name} `, { type: "button" });
    button.setAttribute("aria-pressed", String(isOn));
    button.append(node("span", String(count), { className: "count" }));
    button.addEventListener("click", () => {
      if (isOn) chosen.delete(kind);
      else chosen.set(kind, name);
      show();
    });
    const item = node("li");
    item.append(button);
    list.append(item);
  }
  const nav = node("nav", "", { className: "narrow" });
  nav.setAttribute("aria-label", "Narrow the results");
  nav.append(list);
  return some.length ? [nav] : [];
}

async function show() {
  const words = field.value.trim();
  const mine = ++asked;
  if (!words) return found.replaceChildren();
  const told = node("p", "", { className: "total" });
  told.setAttribute("role", "status");
  let answer = null;
  try {
    const search = await ready();
    answer = await search.search(words.replace(UNSPACED, " $1 "), { filters: Object.fromEntries(chosen) });
  } catch {
    told.textContent = "The search does not answer just now; try again later, or look by subject.";
    return found.replaceChildren(told);
  }
  if (mine !== asked) return;
  const total = answer.results.length;
  told.textContent = total
    ? `${total.toLocaleString("en")} page${total === 1 ? "" : "s"}`
    : `Nothing here has “${words}”${chosen.size ? " in what you narrowed it to" : ""}. Try fewer words, or another one.`;
  const list = node("ol", "", { className: "results" });
  const more = node("button", "Show more", { type: "button" });
  let shown = 0;
  const add = async () => {
    const some = answer.results.slice(shown, shown + AT_ONCE);
    shown += some.length;
    list.append(...(await Promise.all(some.map(result))));
    more.hidden = shown >= total;
  };
  more.addEventListener("click", add);
  await add();
  if (mine !== asked) return;
  found.replaceChildren(told, ...narrowings(answer.filters, total), ...(total ? [list, more] : []));
  const address = new URL(location.href);
  address.searchParams.set("q", words);
  history.replaceState(null, "", address);
}

form.hidden = false;
field.value = new URL(location.href).searchParams.get("q") ?? "";
form.addEventListener("submit", (event) => {
  event.preventDefault();
  show();
});
field.addEventListener("input", () => {
  clearTimeout(waiting);
  waiting = setTimeout(show, PAUSE);
});
if (field.value) show();
else field.focus();
