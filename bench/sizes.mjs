/** How large things are that ship, minified and gzipped. The figures that must not grow stand in sizes.json. */
import { gzipSync } from "node:zlib";
import { fileURLToPath } from "node:url";
import { build } from "esbuild";

const root = fileURLToPath(new URL("..", import.meta.url));

const STARTER = "a starter, with the browser layer";
const ENTRIES = {
  "the whole language with its compiler, without plan reading": `
    export { createCheckedLayer } from "./packages/reacher/dist/layer/layer.js";
    export { EVERY } from "./packages/reacher/dist/engine/every.js";`,
  [STARTER]: `import "./examples/starter/main.ts";`,
  "a game with players' own keys": `
    export { createInputLayer, parsePlan } from "reacher";
    export { attachBrowser, attachKeyLabels, keptPadLayouts } from "reacher/browser";
    export { bindingRows, capture, choicesFor, createKeyLabels, editOverrides, prompt, settingsOf } from "reacher/rebind";
    export { record } from "reacher/trace";`,
};

/** Bytes of each, and of its files by folder. */
export async function sizes() {
  const all = {};
  for (const [name, contents] of Object.entries(ENTRIES)) all[name] = await sizeOf(contents);
  const starter = await sizeOf(ENTRIES[STARTER]);
  const shown = await sizeOf(`${ENTRIES[STARTER]} export { showPanel } from "reacher/panel";`);
  all["what the panel adds to a starter"] = { gzipped: shown.gzipped - starter.gzipped };
  return all;
}

async function sizeOf(contents) {
  // What a page loads only when it is asked to is no part of it.
  const later = {
    name: "later",
    setup: (made) =>
      made.onResolve({ filter: /./ }, ({ kind, path }) =>
        kind === "dynamic-import" ? { path, external: true } : undefined,
      ),
  };
  const { outputFiles, metafile } = await build({
    stdin: { contents, resolveDir: root, loader: "ts" },
    absWorkingDir: root,
    bundle: true,
    minify: true,
    format: "esm",
    target: "es2022",
    write: false,
    metafile: true,
    plugins: [later],
  });
  const { inputs } = Object.values(metafile.outputs)[0];
  const rooms = {};
  for (const [file, { bytesInOutput }] of Object.entries(inputs)) {
    const room = /reacher\/dist\/(\w+(?:\/(?=\w+\/)\w+)?)/.exec(file)?.[1] ?? "other";
    rooms[room] = (rooms[room] ?? 0) + bytesInOutput;
  }
  return { gzipped: gzipSync(outputFiles[0].contents, { level: 9 }).length, rooms };
}

// `node bench/sizes.mjs` tells each size, and by room what it is made of before it is packed.
if (process.argv[1] === fileURLToPath(import.meta.url))
  console.log(JSON.stringify(await sizes(), undefined, 2));
