/** How large things are that ship, minified and gzipped. The figures that must not grow stand in sizes.json. */
import { gzipSync } from "node:zlib";
import { fileURLToPath } from "node:url";
import { readFileSync, writeFileSync } from "node:fs";
import { build } from "esbuild";
import { build as buildSite } from "vite";
import { reacher } from "reacher/vite";
import { builtModule } from "reacher/build";
import { CALLS } from "../packages/reacher/dist/built/calls.js";
import { FEATURES } from "../packages/reacher/dist/engine/every.js";

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
  const later = {
    "the starter with players' own keys that come later": [
      OWN_KEYS_LATER,
      ["setOverrides", "bringKeys", "plan"],
    ],
    "Kelpline's input": [KELPLINE, KELPLINE_CALLS],
  };
  for (const [name, [contents, calls]] of Object.entries(later)) {
    const [first, rest] = await partsOf(contents, calls);
    all[`${name}: first part`] = { gzipped: first };
    all[`${name}: the rest, with a screen of keys`] = { gzipped: rest };
  }
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

/** Two players, one of whom may leave; recorded. */
const KELPLINE = `import { createInputLayer } from "reacher";
import { attachBrowser, attachKeyLabels, keptPadLayouts } from "reacher/browser";
import { createKeyLabels, prompt } from "reacher/rebind";
import { attachTouch } from "reacher/touch";
import { record } from "reacher/trace";
import plan from "${root}examples/kelpline/plan/kelpline.plan.json";
const input = createInputLayer(plan);
attachBrowser(input, { layouts: keptPadLayouts() });
attachTouch(input, []);
const labels = createKeyLabels();
attachKeyLabels(labels);
console.log(prompt(input, "kick", labels.label), record(input));
document.querySelector("button").onclick = async () => {
  await input.bringKeys();
  (await import("screen")).open(input);
};`;
const SCREEN = `import { bindingRows, capture, choicesFor, editOverrides, settingsOf } from "reacher/rebind";
export function open(input) {
  const keys = editOverrides(input.plan);
  console.log(capture, choicesFor, settingsOf, bindingRows(input.plan, keys.overrides), input.setOverrides(keys.overrides));
}`;
const KELPLINE_CALLS =
  "on drive mute unmute setFlag setNumber number enter leave held watch intercept openSeats assignPad onPads setOverrides bringKeys plan own".split(
    " ",
  );

/** What a page loads at once, and what it loads when it is asked to, as the Vite plugin builds them. */
async function partsOf(contents, calls) {
  const texts = { entry: contents, screen: SCREEN };
  const entry = {
    name: "entry",
    resolveId: (id) => (Object.hasOwn(texts, id) ? `${root}examples/starter/${id}Entry.js` : undefined),
    load: (id) => texts[/\/(\w+)Entry\.js$/.exec(id)?.[1]],
  };
  const { output } = await buildSite({
    configFile: false,
    logLevel: "error",
    root: `${root}bench`,
    plugins: [reacher({ calls, types: false }), entry],
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
async function callSizes(calls = Object.keys(CALLS)) {
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

/** Pages of a plan that does nothing, by how it is played. */
const PAGE = `${BUILT_STARTER.replace('import { attachTouch } from "reacher/touch";', "")}`;
const byRules = async (features, by) =>
  (
    await sizeOf(
      PAGE,
      `import { ${["builtPlan", ...features, ...by].join(", ")} } from "reacher/internal";
export default builtPlan("{}", [${features.join(", ")}], ${by[0] ?? '"{}"'});`,
    )
  ).gzipped;
const byCode = async (kind, ...given) => {
  const opened =
    kind === "opening" ? "opening(whole)" : kind === "whole" ? kind : `${kind}(${given.join(", ")})`;
  const imported = kind === "opening" ? "whole, opening" : kind;
  const built = `import { madePlan, ${imported} } from "reacher/internal/made";
export default madePlan("{}", "{}", [["main", "{}", 0]], ${opened});`;
  return (await sizeOf(PAGE, built)).gzipped;
};

/** Features in the order in which plans mostly have them: what several need counts as the first one's. */
const BY_NEED = "losses switches movements sticks modes drives flags numbers pace gaits needs styles".split(
  " ",
);

/** What a page ships before there is a plan, by rules and by code. */
async function bareSizes() {
  const bring = '() => import("reacher/internal/keys")';
  return {
    rules: await byRules(["losses"], []),
    rebinding: await byRules(["losses"], ["rebinding"]),
    whole: await byCode("whole"),
    opening: await byCode("opening"),
    ownKeys: await byCode("ownKeys", bring),
    lean: await byCode("lean"),
    hearing: await byCode("hearing"),
    leanOwnKeys: await byCode("leanOwnKeys", bring),
    hearingOwnKeys: await byCode("hearingOwnKeys", bring),
  };
}

/** What each feature of the rules adds to those before it. */
async function featureSizes() {
  const features = {};
  const names = [...new Set([...BY_NEED, ...Object.keys(FEATURES)])];
  let before = await byRules(["losses"], []);
  for (let n = 0; n < names.length; n++) {
    const size = await byRules(names.slice(0, n + 1), []);
    features[names[n]] = size - before;
    before = size;
  }
  return features;
}

// `node bench/sizes.mjs` prints each size, and by room what it is made of before it is packed. With `--calls` it prints what each call (or those
// named after it) and each feature adds; `--write` keeps that for `reacher build`.
if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const isCalls = process.argv.includes("--calls");
  const named = process.argv.slice(2).filter((one) => !one.startsWith("--"));
  const found = !isCalls
    ? await sizes()
    : named.length > 0
      ? { calls: await callSizes(named), bare: await bareSizes() }
      : { calls: await callSizes(), bare: await bareSizes(), features: await featureSizes() };
  console.log(JSON.stringify(found, undefined, 2));
  const table = (all) =>
    `{\n${Object.entries(all)
      .map(([name, bytes]) => `  ${name}: ${bytes},`)
      .join("\n")}\n}`;
  if (isCalls && process.argv.includes("--write"))
    writeFileSync(
      `${root}packages/reacher/src/make/bytes.ts`,
      `/** About how large things are that a page loads: bytes, minified and gzipped. Made by \`node bench/sizes.mjs --calls --write\`. */
import type { Call } from "../built/calls.js";
import type { FeatureName } from "../engine/every.js";

/** What each call adds to a game that makes no other. */
export const CALL_BYTES: { readonly [call in Call]: number } = ${table(found.calls)};

/** A page of a plan that does nothing: by the rules, fixed or with rebinding, and by each kind of layer that plays made code. */
export const BARE_BYTES = ${table(found.bare)};

/** What each feature of the rules adds to those before it. */
export const FEATURE_BYTES: { readonly [name in FeatureName]: number } = ${table(found.features)};
`,
    );
}
