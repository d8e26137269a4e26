/** Builds everything: the library (tsc), the command (tsc for types, esbuild for one quick-starting file). */
import { readFileSync, rmSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { build } from "esbuild";
import { run } from "./run.mjs";

process.chdir(fileURLToPath(new URL("..", import.meta.url)));

await import("./field-docs.mjs");
run("node_modules/.bin/tsc", ["-b"]);
const { version } = JSON.parse(readFileSync("packages/reacher-cli/package.json", "utf8"));
rmSync("packages/reacher-cli/dist/bundle", { recursive: true, force: true });
await build({
  entryPoints: { main: "packages/reacher-cli/dist/main.js" },
  outdir: "packages/reacher-cli/dist/bundle",
  bundle: true,
  splitting: true,
  // What is shorter starts sooner.
  minify: true,
  define: { "process.env.REACHER_VERSION": JSON.stringify(version) },
  platform: "node",
  target: "node20",
  mainFields: ["module", "main"],
  // Native code, fonts, and what asks where it stands stay where they were installed.
  external: ["@resvg/resvg-js", "dejavu-fonts-ttf", "write-file-atomic"],
  format: "esm",
  // Commander is CommonJS and asks for Node's own modules by `require`.
  banner: {
    js: 'import { createRequire as __createRequire } from "node:module"; const require = __createRequire(import.meta.url);',
  },
  logLevel: "warning",
});
