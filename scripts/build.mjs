/** Builds everything: the library (tsc), the command (tsc for types, esbuild for one quick-starting file), the workbench (Vite). */
import { execFileSync } from "node:child_process";
import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { build } from "esbuild";
import { copyDocuments } from "./documents.mjs";
import { licenses } from "./licenses.mjs";
import { run } from "./run.mjs";

process.chdir(fileURLToPath(new URL("..", import.meta.url)));

await import("./field-docs.mjs");
run("node_modules/.bin/tsc", ["-b"]);
/** What the maker of code reads. What is left there of a source that has another name now would be a second rule. */
const READ = ["engine", "controls", "plan"];
for (const folder of READ)
  for (const file of readdirSync(`packages/reacher/dist/${folder}`, { recursive: true })) {
    const source = `packages/reacher/src/${folder}/${file.replace(/\.(js|d\.ts)(\.map)?$/, ".ts")}`;
    if (!existsSync(source))
      rmSync(`packages/reacher/dist/${folder}/${file}`, { recursive: true, force: true });
  }
const { version } = JSON.parse(readFileSync("packages/reacher-cli/package.json", "utf8"));
rmSync("packages/reacher-cli/dist/bundle", { recursive: true, force: true });
const bundle = "packages/reacher-cli/dist/bundle";
const common = {
  bundle: true,
  // A minified CommonJS file starts faster.
  minify: true,
  format: "cjs",
  platform: "node",
  target: "node20",
  mainFields: ["module", "main"],
  logLevel: "warning",
  // Code from the compile cache cannot import, so it requires.
  supported: { "dynamic-import": false },
};
const command = await build({
  ...common,
  metafile: true,
  entryPoints: ["packages/reacher-cli/dist/main.js"],
  outfile: `${bundle}/main.cjs`,
  define: {
    "process.env.REACHER_VERSION": JSON.stringify(version),
    "import.meta.url": "__ownUrl",
  },
  banner: { js: 'const __ownUrl = require("node:url").pathToFileURL(__filename).href;' },
  // Native modules, and those that locate files beside them, are not bundled.
  external: ["@resvg/resvg-js", "write-file-atomic"],
  plugins: [
    {
      name: "charts-apart",
      setup: (made) =>
        made.onResolve({ filter: /\/chartLibrary\.js$/ }, () => ({ path: "./charts.cjs", external: true })),
    },
    {
      name: "maker-apart",
      setup: (made) =>
        made.onResolve({ filter: /^reacher\/build$/ }, () => ({ path: "./make.cjs", external: true })),
    },
  ],
});
const charts = await build({
  ...common,
  metafile: true,
  entryPoints: ["packages/reacher-cli/dist/drawing/chartLibrary.js"],
  outfile: `${bundle}/charts.cjs`,
});
// The workbench's drawing of a timeline, for `reacher draw`.
const timeline = await build({
  ...common,
  metafile: true,
  jsx: "automatic",
  loader: { ".css": "text" },
  define: { "process.env.NODE_ENV": '"production"' },
  entryPoints: ["packages/reacher-workbench/src/timelineSvg.tsx"],
  outfile: "packages/reacher-cli/dist/drawn/timeline.cjs",
});
/** A module of the library with what it needs of other packages in it; the library's own rooms stay apart. */
const bundled = (entry, outfile, rooms, instead = (path) => path) =>
  build({
    metafile: true,
    bundle: true,
    format: "esm",
    platform: "node",
    target: "node20",
    mainFields: ["module", "main"],
    logLevel: "warning",
    entryPoints: [`packages/reacher/dist/${entry}`],
    outfile: `packages/reacher/dist/${outfile}`,
    plugins: [
      {
        name: "own-modules-apart",
        setup: (made) =>
          made.onResolve({ filter: new RegExp(`^\\.\\./(${rooms.join("|")})/`) }, ({ path }) => ({
            path: instead(path),
            external: true,
          })),
      },
    ],
  });
// A JSON parser with positions, bundled into the Vite plugin so that it is not a dependency of games.
const plugin = await bundled("vite/plugin.js", "vite/bundle.js", ["plan", "built", "make"], (path) =>
  path.replace("make/module.js", "make/bundle.js"),
);
const watching = await bundled("vite/watchPlan.js", "vite/watch.js", ["plan"]);
// The maker of code, with a parser of JavaScript in it. Beside it stay the engine's modules, which it reads and runs.
const maker = await bundled("make/module.js", "make/bundle.js", [
  "plan",
  "built",
  "engine",
  "controls",
  "made",
]);
// The command has them all in one file; names stay, since the maker finds the source of a rule by its class.
const ownMaker = await build({
  ...common,
  minify: false,
  keepNames: true,
  metafile: true,
  write: false,
  entryPoints: ["packages/reacher/dist/make/module.js"],
  outfile: `${bundle}/make.cjs`,
  define: { "import.meta.url": "__ownUrl" },
  banner: { js: 'const __ownUrl = require("node:url").pathToFileURL(__filename).href;' },
});
// Nobody asks for a function's name, and to set those of all closures takes a fifth of the maker's time.
const [{ text }] = ownMaker.outputFiles;
const classesOnly = text.replace("__name = (target, value) =>", '$& value > "[" ? target :');
if (classesOnly === text)
  throw new Error("the bundler's way to keep names has changed: see scripts/build.mjs");
writeFileSync(`${bundle}/make.cjs`, classesOnly);
for (const folder of READ) {
  rmSync(`packages/reacher-cli/dist/${folder}`, { recursive: true, force: true });
  cpSync(`packages/reacher/dist/${folder}`, `packages/reacher-cli/dist/${folder}`, {
    recursive: true,
    filter: (file) => !/\.(d\.ts|map)$/.test(file),
  });
}
// One file for a page without a bundler, and its types.
const PAGE = [
  "index",
  "devices/browser",
  "touch/touch",
  "rebind/index",
  "stores/browser",
  "trace/index",
  "tuning/index",
  "panel/panel",
];
const everything = PAGE.map((entry) => `export * from "./${entry}.js";\n`).join("");
const page = await build({
  metafile: true,
  bundle: true,
  minify: true,
  sourcemap: true,
  format: "esm",
  target: "es2022",
  logLevel: "warning",
  stdin: { contents: everything, resolveDir: "packages/reacher/dist", sourcefile: "everything.js" },
  outfile: "packages/reacher/dist/reacher.browser.js",
  legalComments: "none",
  banner: { js: "/* reacher, and what it brings along: dist/vite/LICENSES.md */" },
});
writeFileSync("packages/reacher/dist/reacher.browser.d.ts", everything);
const inputsOf = (...results) => results.flatMap(({ metafile }) => Object.keys(metafile.inputs));
writeFileSync(`${bundle}/LICENSES.md`, licenses(inputsOf(command, charts, timeline, ownMaker)));
writeFileSync("packages/reacher/dist/vite/LICENSES.md", licenses(inputsOf(plugin, watching, maker, page)));
run("node", ["../../node_modules/vite/bin/vite.js", "build", "--logLevel", "warn"], {
  cwd: "packages/reacher-workbench",
});

// What the packages ship beside their code.
mkdirSync("packages/reacher-cli/dist/fonts", { recursive: true });
for (const file of ["ttf/DejaVuSans.ttf", "ttf/DejaVuSans-Bold.ttf", "LICENSE"])
  cpSync(
    `node_modules/dejavu-fonts-ttf/${file}`,
    `packages/reacher-cli/dist/fonts/${file.replace("ttf/", "")}`,
  );
for (const file of ["LICENSE", "CHANGELOG.md"])
  for (const name of ["reacher", "reacher-cli", "create-reacher"]) cpSync(file, `packages/${name}/${file}`);
// Pictures would be most of the package: those below 60 kB come along.
copyDocuments("packages/reacher/docs", 60_000);
const schema = execFileSync("node", ["packages/reacher-cli/bin/reacher.cjs", "schema"], { encoding: "utf8" });
writeFileSync("packages/reacher/dist/plan.schema.json", schema);
