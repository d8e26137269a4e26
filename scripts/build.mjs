/** Builds everything: the library (tsc), the command (tsc for types, esbuild for one quick-starting file). */
import { rmSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { build } from "esbuild";
import { run } from "./run.mjs";

process.chdir(fileURLToPath(new URL("..", import.meta.url)));

await import("./field-docs.mjs");
run("node_modules/.bin/tsc", ["-b"]);
rmSync("packages/reacher-cli/dist/bundle", { recursive: true, force: true });
await build({
  entryPoints: { main: "packages/reacher-cli/dist/main.js" },
  outdir: "packages/reacher-cli/dist/bundle",
  bundle: true,
  splitting: true,
  minifySyntax: true,
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
