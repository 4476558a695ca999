// Bundles the writing surface and the trimmed style sheet, and copies what ships as it is.
import { createHash } from "node:crypto";
import { copyFileSync, readFileSync, readdirSync, unlinkSync, writeFileSync } from "node:fs";
import { build } from "esbuild";
import { PurgeCSS } from "purgecss";
import { compile } from "sass";
import { minify } from "terser";

const target = "../mobbet/web/shell/static";

const scripts = readdirSync("src", { recursive: true }).map((name) => `src/${name.replaceAll("\\", "/")}`).filter((name) => name.endsWith(".js"));
const shared = ["build.mjs", "package.json", "package-lock.json"];

// tests/test_bundle.py computes this in the same way: the name and bytes of every source, in order.
function banner(sources) {
  const hash = createHash("sha256");
  for (const name of [...sources, ...shared].sort()) hash.update(`${name}\n`).update(readFileSync(name));
  return `/* sources ${hash.digest("hex")} */`;
}

for (const name of readdirSync(target)) if (/^editor-.*\.js$/.test(name)) unlinkSync(`${target}/${name}`);
await build({
  entryPoints: { editor: "src/core/room.js", device: "src/device/page.js", blocksheet: "src/core/blocksheet.js", shell: "src/shell/shell.js" },
  bundle: true,
  minify: true,
  format: "esm",
  splitting: true,
  chunkNames: "editor-[name]-[hash]",
  target: ["es2022", "safari16"],
  legalComments: "none",
  banner: { js: banner([...scripts, "../mobbet/web/shell/static/uploading.js"]) },
  outdir: target,
});
// The service worker is one file: not every browser lets one import another.
await build({ entryPoints: { worker: "src/device/worker.js" }, bundle: true, minify: true, format: "iife", target: ["es2022", "safari16"], legalComments: "none", banner: { js: banner([...scripts, "../mobbet/web/shell/static/uploading.js"]) }, outdir: target });
// A second minifier takes a thirtieth more off what the first one leaves.
for (const name of readdirSync(target).filter((one) => /^(editor|shell|blocksheet|device|worker).*\.js$/.test(one))) {
  const made = readFileSync(`${target}/${name}`, "utf8");
  const { code } = await minify(made, { module: true, ecma: 2020, compress: { passes: 3 }, mangle: true });
  writeFileSync(`${target}/${name}`, `${made.match(/^\/\* sources [^*]*\*\//)?.[0] ?? ""}${code}\n`);
}
const style = compile("bulma.scss", { style: "compressed", loadPaths: ["node_modules"], quietDeps: true, silenceDeprecations: ["if-function"] });
// Of Bulma ship the rules for what stands on a screen, and the variables that they or a style of Mobbet's use.
const screens = ["../mobbet/web/**/*.html", "../mobbet/web/**/static/*.js", "src/**/*.js"];
const own = readdirSync("../mobbet/web", { recursive: true }).filter((name) => name.endsWith(".css") && !name.endsWith("bulma.css")).sort();
const variables = own.flatMap((name) => readFileSync(`../mobbet/web/${name}`, "utf8").match(/--bulma-[\w-]+/g) ?? []);
const [trimmed] = await new PurgeCSS().purge({ content: screens, css: [{ raw: style.css.replace(/^\uFEFF/, "") }], variables: true, safelist: { variables } });
const light = trimmed.css.replace(/@media \(prefers-color-scheme: ?dark\)\{(?:[^{}]*\{[^{}]*\})*\}/g, "").replace(/\[data-theme=dark\],\.theme-dark\{[^{}]*\}/g, ""); // dark is mobbet.css's
writeFileSync(`${target}/bulma.css`, `${banner(["bulma.scss"])}\n${light}\n`);
copyFileSync("node_modules/htmx.org/dist/htmx.min.js", `${target}/htmx.js`);
