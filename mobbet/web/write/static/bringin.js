// Bringing files in: one after the other, each with its own line of progress; one that is refused does not stop the others.
const form = document.getElementById("bring-in");
const input = document.getElementById("files");
const results = document.getElementById("results");
const PICTURE = /\.(jpe?g|png|webp|avif|gif|heic|heif|svg)$/i;

function line(words) {
  const item = document.createElement("li");
  item.textContent = words;
  results.append(item);
  return item;
}

function show(item, file, answer) {
  item.replaceChildren();
  item.classList.remove("waiting");
  for (const post of answer.posts) {
    const part = document.createElement("p");
    const link = document.createElement("a");
    link.href = post.address;
    link.textContent = post.title;
    const counts = `${post.words} word${post.words === 1 ? "" : "s"}, ${post.pictures} picture${post.pictures === 1 ? "" : "s"}`;
    part.append(link, ` from ${post.file}: ${counts}. ${post.notes.join(" ")}`);
    item.append(part);
  }
  for (const refused of answer.refused) {
    const part = document.createElement("p");
    part.className = "problem";
    part.textContent = `${refused.file}: ${refused.reason}`;
    item.append(part);
  }
}

async function bring(file, pictures) {
  const item = line(`${file.name}: on its way…`);
  item.className = "waiting";
  const body = new FormData();
  body.append("file", file);
  for (const picture of pictures) body.append("beside", picture);
  try {
    const response = await fetch(form.action, { method: "POST", body, headers: { accept: "application/json" } });
    const answer = await response.json();
    if (!response.ok) throw new Error(answer.message);
    show(item, file, answer);
  } catch (error) {
    const words = error instanceof TypeError ? "the network is away; choose it again when it is back." : error.message;
    show(item, file, { posts: [], refused: [{ file: file.name, reason: words }] });
  }
}

async function bringAll(files) {
  const pictures = files.filter((file) => PICTURE.test(file.name));
  const texts = files.filter((file) => !PICTURE.test(file.name));
  if (!texts.length && pictures.length) line("Pictures alone make no post; choose the text they belong to as well.").className = "problem";
  for (const file of texts) await bring(file, pictures);
}

input.addEventListener("change", async () => {
  const files = [...input.files];
  await bringAll(files);
  input.value = "";
});
for (const name of ["dragover", "dragenter"]) {
  form.addEventListener(name, (event) => {
    event.preventDefault();
    form.classList.add("is-over");
  });
}
form.addEventListener("dragleave", () => form.classList.remove("is-over"));
form.addEventListener("drop", (event) => {
  event.preventDefault();
  form.classList.remove("is-over");
  bringAll([...event.dataTransfer.files]);
});
