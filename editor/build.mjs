// Bundles the writing surface and the trimmed style sheet, and copies what ships as it is.
import { createHash } from "node:crypto";
import { copyFileSync, readFileSync, readdirSync, unlinkSync, writeFileSync } from "node:fs";
import resolve from "@rollup/plugin-node-resolve";
import { transform } from "esbuild";
import { PurgeCSS } from "purgecss";
import { rollup } from "rollup";
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
const sources = banner([...scripts, "../mobbet/web/shell/static/uploading.js"]);

// The extensions' options for Markdown, which only the Markdown package reads; Mobbet converts Markdown in Python.
const UNUSED = ["markdownTokenName", "markdownTokenizer", "markdownOptions", "parseMarkdown", "renderMarkdown"];
const withoutMarkdown = {
  name: "without-markdown",
  transform(code, id) {
    if (!id.includes("node_modules/@tiptap/extension")) return null;
    const found = [];
    const walk = (node) => {
      if (Array.isArray(node)) node.forEach(walk);
      else if (node && typeof node === "object") {
        if (node.type === "Property" && UNUSED.includes(node.key.name)) found.push(node);
        else Object.values(node).forEach(walk);
      }
    };
    walk(this.parse(code));
    for (const { start, end } of found.reverse()) code = code.slice(0, start) + code.slice(end).replace(/^\s*,/, "");
    return { code, map: null };
  },
};

// What only makes a value, so that extensions which nothing uses are left out of their packages.
const PURE = ["Node.create", "Mark.create", "Extension.create"];

// Bundles the entries with their lazily loaded chunks, transpiles for the oldest supported browser, and minifies.
async function bundle(input, output) {
  const made = await rollup({ input, logLevel: "warn", plugins: [resolve({ browser: true }), withoutMarkdown], treeshake: { moduleSideEffects: (id) => !id.includes("node_modules"), manualPureFunctions: PURE } });
  for (const { fileName, code, isEntry } of (await made.generate({ chunkFileNames: "editor-part-[hash].js", hoistTransitiveImports: false, experimentalMinChunkSize: 1000, ...output })).output) {
    const lowered = await transform(code, { target: ["es2022", "safari16"], legalComments: "none" });
    const short = await minify(lowered.code, { module: true, ecma: 2020, compress: { passes: 3 }, mangle: true });
    writeFileSync(`${target}/${fileName}`, `${isEntry ? sources : ""}${short.code}\n`);
  }
}
await bundle({ editor: "src/core/room.js", device: "src/device/page.js", blocksheet: "src/core/blocksheet.js", shell: "src/shell/shell.js" }, { format: "es" });
await bundle({ worker: "src/device/worker.js" }, { format: "iife" }); // not every browser lets a worker import another file
await bundle({ saver: "src/saving/saver.js" }, { format: "iife" });

const style = compile("bulma.scss", { style: "compressed", loadPaths: ["node_modules"], quietDeps: true, silenceDeprecations: ["if-function"] });
// Of Bulma ship the rules for what stands on a screen, and the variables that they or a style of Mobbet's use.
const screens = ["../mobbet/web/**/*.html", "../mobbet/web/**/static/*.js", "src/**/*.js"];
const own = readdirSync("../mobbet/web", { recursive: true }).filter((name) => name.endsWith(".css") && !name.endsWith("bulma.css")).sort();
const variables = own.flatMap((name) => readFileSync(`../mobbet/web/${name}`, "utf8").match(/--bulma-[\w-]+/g) ?? []);
const [trimmed] = await new PurgeCSS().purge({ content: screens, css: [{ raw: style.css.replace(/^\uFEFF/, "") }], variables: true, safelist: { variables } });
const light = trimmed.css.replace(/@media \(prefers-color-scheme: ?dark\)\{(?:[^{}]*\{[^{}]*\})*\}/g, "").replace(/\[data-theme=dark\],\.theme-dark\{[^{}]*\}/g, ""); // dark is mobbet.css's
writeFileSync(`${target}/bulma.css`, `${banner(["bulma.scss"])}\n${light}\n`);
copyFileSync("node_modules/htmx.org/dist/htmx.min.js", `${target}/htmx.js`);
