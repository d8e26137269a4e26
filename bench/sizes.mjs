/** How large things are that ship, minified and gzipped. The figures that must not grow stand in sizes.json. */
import { gzipSync } from "node:zlib";
import { fileURLToPath } from "node:url";
import { readFileSync, writeFileSync } from "node:fs";
import { build } from "esbuild";
import { build as buildSite } from "vite";
import { reacher } from "reacher/vite";
import { builtModule } from "reacher/build";
import { CALLS } from "../packages/reacher/dist/built/calls.js";

const root = fileURLToPath(new URL("..", import.meta.url));

const STARTER = "a starter, with the browser layer";
const OWN_KEYS = "a game with players' own keys";
const ENTRIES = {
  "the whole language with its compiler, without plan reading": `
    export { createCheckedLayer } from "./packages/reacher/dist/layer/layer.js";
    export { EVERY } from "./packages/reacher/dist/engine/every.js";`,
  [STARTER]: `import "./examples/starter/main.ts";`,
  [OWN_KEYS]: `
    export { createInputLayer, parsePlan } from "reacher";
    export { attachBrowser, attachKeyLabels, keptPadLayouts } from "reacher/browser";
    export { bindingRows, capture, choicesFor, createKeyLabels, editOverrides, prompt, settingsOf } from "reacher/rebind";
    export { record } from "reacher/trace";`,
};

/** Bytes of each, and of its files by folder. */
export async function sizes() {
  const all = {};
  for (const [name, contents] of Object.entries(ENTRIES)) all[name] = await sizeOf(contents);
  Object.assign(all, await builtSizes());
  const [first, later] = await partsOf(OWN_KEYS_LATER);
  all["the starter with players' own keys that come later: first part"] = { gzipped: first };
  all["the same: the rest, with a screen of keys"] = { gzipped: later };
  const starter = await sizeOf(ENTRIES[STARTER]);
  const shown = await sizeOf(`${ENTRIES[STARTER]} export { showPanel } from "reacher/panel";`);
  all["what the panel adds to a starter"] = { gzipped: shown.gzipped - starter.gzipped };
  const ownKeys = await sizeOf(ENTRIES[OWN_KEYS]);
  const withScreen = await sizeOf(`${ENTRIES[OWN_KEYS]} export { defineSettings } from "reacher/settings";`);
  all["what the settings screen adds to players' own keys, with Lit"] = {
    gzipped: withScreen.gzipped - ownKeys.gzipped,
  };
  return all;
}

/** What games ship whose plan was checked ahead. */
async function builtSizes() {
  const kelpline = JSON.parse(readFileSync(`${root}examples/kelpline/plan/kelpline.plan.json`, "utf8"));
  return {
    "the starter as built by default": await sizeOf(
      `${BUILT_STARTER} attachTouch(input, []);`,
      builtModule(STARTER_PLAN, { file: "starter", types: false, calls: [] }),
    ),
    "the same without touch": await sizeOf(
      BUILT_STARTER,
      builtModule(STARTER_PLAN, { file: "starter", types: false, calls: [] }),
    ),
    "the same with all calls, and fixed keys": await sizeOf(
      BUILT_STARTER,
      builtModule(STARTER_PLAN, { file: "starter", types: false, rebinding: false }),
    ),
    "the same, recorded": await sizeOf(
      `${BUILT_STARTER} import { record } from "reacher/trace"; record(input);`,
      builtModule(STARTER_PLAN, { file: "starter", types: false, calls: ["watch"] }),
    ),
    "Kelpline built ahead, with players' own keys": await sizeOf(
      `export { default as plan } from "built";${ENTRIES[OWN_KEYS].replace("createInputLayer, parsePlan", "createInputLayer")}`,
      builtModule(kelpline, { file: "kelpline", types: false }),
    ),
  };
}

const BUILT_STARTER = `import plan from "built";
import { createInputLayer } from "reacher";
import { attachBrowser } from "reacher/browser";
import { attachTouch } from "reacher/touch";
const input = createInputLayer(plan);
attachBrowser(input);`;

/** The starter's own plan, out of its page. */
const STARTER_PLAN = new Function(
  `return ${/definePlan\((\{[\s\S]*?\n\})\);/.exec(readFileSync(`${root}examples/starter/main.ts`, "utf8"))[1]};`,
)();

const OWN_KEYS_LATER = `import { createInputLayer, definePlan } from "reacher";
import { attachBrowser } from "reacher/browser";
const input = createInputLayer(definePlan(${JSON.stringify(STARTER_PLAN)}));
attachBrowser(input);
document.querySelector("button").onclick = async () => {
  await input.bringKeys();
  const { bindingRows, editOverrides } = await import("reacher/rebind");
  const keys = editOverrides(input.plan);
  console.log(bindingRows(input.plan, keys.overrides), input.setOverrides(keys.overrides));
};`;

/** What a page loads at once, and what it loads when it is asked to, as the Vite plugin builds them. */
async function partsOf(contents) {
  const entry = {
    name: "entry",
    resolveId: (id) => (id === "entry" ? `${root}examples/starter/ownKeysEntry.js` : undefined),
    load: (id) => (id.endsWith("/ownKeysEntry.js") ? contents : undefined),
  };
  const { output } = await buildSite({
    configFile: false,
    logLevel: "error",
    root: `${root}bench`,
    plugins: [reacher({ calls: ["setOverrides", "bringKeys", "plan"] }), entry],
    build: { write: false, target: "es2022", rollupOptions: { input: "entry" } },
  });
  const byName = new Map(output.map((chunk) => [chunk.fileName, chunk]));
  const first = new Set();
  const add = (name) => {
    if (first.has(name)) return;
    first.add(name);
    byName.get(name).imports.forEach(add);
  };
  add(output.find(({ isEntry }) => isEntry).fileName);
  const size = (isFirst) =>
    output
      .filter(({ fileName }) => first.has(fileName) === isFirst)
      .reduce((sum, { code }) => sum + gzipSync(code, { level: 9 }).length, 0);
  return [size(true), size(false)];
}

/** `built`: the module of a plan that was checked ahead, which the rest imports by this name. */
async function sizeOf(contents, built) {
  // What a page loads only when it is asked to is no part of it.
  const later = {
    name: "later",
    setup: (made) => {
      made.onResolve({ filter: /./ }, ({ kind, path }) =>
        kind === "dynamic-import" ? { path, external: true } : undefined,
      );
      made.onResolve({ filter: /^built$/ }, () => ({ path: "built", namespace: "built" }));
      made.onLoad({ filter: /./, namespace: "built" }, () => ({ contents: built, resolveDir: root }));
    },
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
    conditions: built === undefined ? [] : ["reacher-built"],
  });
  const { inputs } = Object.values(metafile.outputs)[0];
  const rooms = {};
  for (const [file, { bytesInOutput }] of Object.entries(inputs)) {
    const room = /reacher\/dist\/(\w+(?:\/(?=\w+\/)\w+)?)/.exec(file)?.[1] ?? "other";
    rooms[room] = (rooms[room] ?? 0) + bytesInOutput;
  }
  return { gzipped: gzipSync(outputFiles[0].contents, { level: 9 }).length, rooms };
}

/** About what a call adds to a game that makes no other, by call. */
export async function callSizes(calls = Object.keys(CALLS)) {
  const plan = JSON.parse(readFileSync(`${root}examples/plans/platformer.plan.json`, "utf8"));
  const sized = async (calls) => {
    const built = builtModule(plan, { file: "platformer", types: false, calls });
    return (await sizeOf(BUILT_STARTER, built)).gzipped;
  };
  const none = await sized([]);
  const adds = {};
  for (const call of calls) adds[call] = (await sized([call])) - none;
  return adds;
}

// `node bench/sizes.mjs` prints each size, and by room what it is made of before it is packed. With `--calls` it prints what each call adds (or those
// named after it); `--write` keeps that for `reacher build --explain`.
if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const isCalls = process.argv.includes("--calls");
  const named = process.argv.slice(2).filter((one) => !one.startsWith("--"));
  const found = isCalls ? await callSizes(named.length > 0 ? named : undefined) : await sizes();
  console.log(JSON.stringify(found, undefined, 2));
  if (isCalls && process.argv.includes("--write")) {
    const lines = Object.entries(found).map(([call, bytes]) => `  ${call}: ${bytes},`);
    writeFileSync(
      `${root}packages/reacher/src/make/callBytes.ts`,
      `/** About how many bytes, minified and gzipped, each call adds to a game that makes no other. Made by \`node bench/sizes.mjs --calls --write\`. */
import type { Call } from "../built/calls.js";

export const CALL_BYTES: { readonly [call in Call]: number } = {
${lines.join("\n")}
};
`,
    );
  }
}
