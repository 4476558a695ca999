// Bundles the writing surface and the trimmed style sheet, and copies what ships as it is.
import { createHash } from "node:crypto";
import { copyFileSync, readFileSync, readdirSync, writeFileSync } from "node:fs";
import { build } from "esbuild";
import { compile } from "sass";

const target = "../mobbet/web/shell/static";

const scripts = readdirSync("src", { recursive: true }).map((name) => `src/${name.replaceAll("\\", "/")}`).filter((name) => name.endsWith(".js"));
const shared = ["build.mjs", "package.json", "package-lock.json"];

// tests/test_bundle.py computes this in the same way: the name and bytes of every source, in order.
function banner(sources) {
  const hash = createHash("sha256");
  for (const name of [...sources, ...shared].sort()) hash.update(`${name}\n`).update(readFileSync(name));
  return `/* sources ${hash.digest("hex")} */`;
}

await build({
  entryPoints: ["src/core/room.js"],
  bundle: true,
  minify: true,
  format: "iife",
  target: ["es2022", "safari16"],
  legalComments: "none",
  banner: { js: banner([...scripts, "../mobbet/web/shell/static/uploading.js", "../mobbet/web/shell/static/covering.js"]) },
  outfile: `${target}/editor.js`,
});
const style = compile("bulma.scss", { style: "compressed", loadPaths: ["node_modules"], quietDeps: true, silenceDeprecations: ["if-function"] });
writeFileSync(`${target}/bulma.css`, `${banner(["bulma.scss"])}\n${style.css.replace(/^\uFEFF/, "")}\n`);
copyFileSync("node_modules/htmx.org/dist/htmx.min.js", `${target}/htmx.js`);
