// Settings of a post that is on the server, chosen without a network: what is left “as it is” is not touched.
import { say } from "../core/messages.js";
import { room } from "../core/roomdata.js";
import { changePost, dropPost, keepPost, postsOf } from "./kept.js";
import { newSettings } from "./posts.js";
import { authorOf, authorsOf, fill, timesOf } from "./sheet.js";

const at = (id) => document.getElementById(`settings-${id}`);
const AS_IT_IS = ["", "as it is"];

const wordsOf = (readers) => [...at("readers").options].find(({ value }) => value === readers)?.textContent ?? readers.replace(/^group:/, "the group ");

// What was chosen, in words.
export function changesInWords({ categories, tags, readers, author, when }) {
  return [
    categories && `filed under ${categories.map(({ name }) => name).join(" and ")}`,
    tags !== undefined && (tags ? `tagged ${tags}` : "with no tags"),
    when && (when.kind === "now" ? "out as soon as it is sent" : `out on ${when.wall.replace("T", " at ")}`),
    author && `by ${author.name}`,
    readers && `for ${wordsOf(readers)} to read`,
  ].filter(Boolean).join(", ");
}

function read(blog) {
  const named = (id) => ({ id: Number(id), name: blog.categories.find(([one]) => one === Number(id))?.[1] ?? "" });
  const chosen = [...new Set([at("category").value, at("category-2").value])].filter(Boolean).map(named);
  const [kind, wall = ""] = at("when").value.split(" ");
  const time = kind === "time" ? at("wall").value : wall;
  return {
    ...(at("category").value ? { categories: chosen } : {}),
    ...(at("no-tags").checked ? { tags: "" } : at("tags").value.trim() ? { tags: at("tags").value } : {}),
    ...(at("author").value ? { author: authorOf(at("author")) } : {}),
    ...(at("readers").value ? { readers: at("readers").value } : {}),
    ...(kind && (kind === "now" || time) ? { when: { kind, wall: time } } : {}),
  };
}

function show(changes, blog) {
  const categories = blog.categories.map(([id, name]) => [String(id), name]);
  const when = changes.when ?? { kind: "", wall: "" };
  fill(at("category"), [AS_IT_IS, ...categories], String(changes.categories?.[0]?.id ?? ""));
  fill(at("category-2"), [["", "nothing else"], ...categories], String(changes.categories?.[1]?.id ?? ""));
  fill(at("when"), [AS_IT_IS, ...timesOf(blog, when).slice(1)], when.kind === "slot" ? `slot ${when.wall}` : when.kind);
  fill(at("author"), [["", "whoever it is by"], ...authorsOf(blog, changes.author)], String(changes.author?.id ?? ""));
  at("by").hidden = !blog.people.length;
  at("wall").value = when.kind === "time" ? when.wall : "";
  at("tags").value = changes.tags ?? "";
  at("no-tags").checked = changes.tags === "";
  at("known-tags").replaceChildren(...blog.tags.map((name) => new Option(name, name)));
  at("readers").append(...blog.groups.map((name) => new Option(`the group ${name}`, `group:${name}`)));
  at("readers").value = changes.readers ?? "";
}

// Opens the settings of a post; `kept` is called after each change.
export async function openSettings(id, slug, title, kept) {
  const blog = room.blogs[slug];
  if (!blog || !id) return;
  const before = (await postsOf(room.person)).find((one) => one.changes && one.id === id && !one.isSent);
  const post = before ?? newSettings(room.person, slug, id, title || "Untitled");
  at("of").textContent = post.title;
  at("back").href = `${room.to.room}${id}`;
  show(post.changes, blog);
  const draw = () => {
    at("wall").hidden = at("when").value !== "time";
    at("category-2").disabled = !at("category").value;
    at("tags").disabled = at("no-tags").checked;
    const words = changesInWords(post.changes);
    say(at("told"), words ? `It will be ${words}.${navigator.onLine ? "" : " This waits for the network."}` : "Nothing is changed yet.");
  };
  draw();
  at("box").hidden = false;
  at("box").addEventListener("change", async () => {
    post.changes = read(blog);
    Object.assign(post, { at: Date.now(), isWaiting: true, problems: {} });
    draw();
    if (!Object.keys(post.changes).length) await dropPost(post.key);
    else if (!(await changePost(post.key, { changes: post.changes, at: post.at, isWaiting: true, isSent: false, problems: {} }))) await keepPost(post);
    kept();
  });
  at("category").focus();
}
