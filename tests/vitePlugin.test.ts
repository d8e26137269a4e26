/** The Vite plugin's own decisions, as it was built: own plans by a module's bindings, paths of either kind, old servers. */
import { execFileSync } from "node:child_process";
import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { callsNamedIn } from "../packages/reacher/src/built/calls";
import { runningIn } from "../packages/reacher/src/vite/runningIn";
import { root } from "./support/browser";

/** Runs a module beside the built plugin; it prints JSON. */
function inNode<T>(code: string): T {
  const head = `import { reacher } from "reacher/vite"; import { parseAst } from "vite"; import { fileURLToPath } from "node:url";
const context = { parse: parseAst, error: ({ message }) => { throw new Error(message); } };
const print = (what) => console.log(JSON.stringify(what));\n`;
  const options = { cwd: join(root, "packages/reacher"), encoding: "utf8" } as const;
  return JSON.parse(execFileSync("node", ["--input-type=module", "-e", head + code], options)) as T;
}

const OWN_PLANS: readonly (readonly [string, string | undefined])[] = [
  ['import { definePlan } from "reacher"; definePlan(make());', "calls definePlan"],
  ['import { definePlan as plan } from "reacher"; export const own = plan({ ...more });', "calls definePlan"],
  ['import { definePlan } from "reacher"; definePlan({ name: "a" + 1 });', "calls definePlan"],
  ['import * as keys from "reacher"; keys.parsePlan("{}");', "calls parsePlan"],
  ['import { parsePlan } from "/@fs/a/reacher/dist/index.js"; parsePlan("{}");', "calls parsePlan"],
  [
    'import { parsePlan } from "/node_modules/.vite/deps/reacher.js?v=1a2b"; parsePlan("{}");',
    "calls parsePlan",
  ],
  [
    'import keys from "./controls.json"; import { createInputLayer as make } from "reacher"; make(keys);',
    "gives createInputLayer the plan of ./controls.json",
  ],
  [
    'import { createInputLayer } from "reacher"; const own = {}; (() => createInputLayer(own))();',
    "gives createInputLayer a plan of its own",
  ],
  [
    'import { createInputLayer } from "reacher"; createInputLayer({ __proto__: {} });',
    "gives createInputLayer a plan of its own",
  ],
  [
    'import plan from "./a.plan.json"; import { createInputLayer } from "reacher"; createInputLayer(plan);',
    undefined,
  ],
  ['import "reacher"; /* definePlan( */ console.log("definePlan(");', undefined],
  ['import { definePlan } from "reacher"; if (false) definePlan(a); true || definePlan(a);', undefined],
  ['import { definePlan } from "./mine"; import "reacher"; definePlan(a);', undefined],
];

test("a plan of the game's own is refused by the module's bindings, in a build and while serving alike", () => {
  const told = inNode<string[][]>(`
const told = ${JSON.stringify(OWN_PLANS.map(([code]) => code))}.map((code) => ["serve", "build"].map((command) => {
  const plugin = reacher();
  plugin.configResolved({ command });
  try { plugin.transform.handler.call(context, code, "/game/main.js"); } catch (error) { return error.message; }
  return "";
}));
print(told);`);
  const said = (what: string | undefined) => (what === undefined ? "" : `${what}, and in a game`);
  OWN_PLANS.forEach(([, what], n) => {
    for (const message of told[n]!) expect(message.slice(0, said(what).length || 1)).toBe(said(what));
  });
});

test("the library's own modules are known with slashes of both kinds, and what was not replaced stops the build", () => {
  const [slash, backslash, foreign, fault, fine] = inNode<(string | null)[]>(`
const own = fileURLToPath(new URL("dist/", "file://" + process.cwd() + "/"));
const result = [];
for (const path of [own + "plan/resolve.js", (own + "plan/resolve.js").replaceAll("/", "\\\\"), "/game/main.js"]) {
  const plugin = reacher();
  plugin.configResolved({ command: "build" });
  result.push(await plugin.resolveId.call(context, "#reader", path) ?? null);
}
for (const replaced of [false, true]) {
  const plugin = reacher({ types: false });
  plugin.configResolved({ command: "build" });
  const loading = { ...context, addWatchFile() {}, warn() {} };
  await plugin.load.call(loading, "\\0reacher-plan:" + process.cwd() + "/../../examples/plans/shooter.plan.json.js");
  if (replaced) await plugin.resolveId.call(context, "#reader", own + "plan/resolve.js");
  plugin.transform.handler.call(context, "", own + "plan/read.js");
  try { plugin.buildEnd.call(context); result.push(null); } catch (error) { result.push(error.message); }
}
print(result);`);
  expect(slash).toMatch(/\/dist\/plan\/notBuilt\.js$/);
  expect([backslash, foreign, fine]).toEqual([slash, null, null]);
  expect(fault).toContain("the plan reader would ship all the same");
});

test("a build with source maps has one for made code, which a bundler does not leave out", () => {
  const told = inNode<string[]>(`
const result = [];
for (const sourcemap of [true, false]) {
  const plugin = reacher({ types: false, calls: [] });
  plugin.configResolved({ command: "build", build: { sourcemap } });
  const file = process.cwd() + "/../../examples/plans/shooter.plan.json";
  const resolving = { ...context, resolve: async (id) => ({ id }) };
  const id = await plugin.resolveId.call(resolving, file);
  const made = await plugin.load.call({ ...context, addWatchFile() {}, warn() {} }, id);
  result.push(id.slice(0, 13), typeof made === "string" ? "" : made.map.sourceRoot + made.map.sources[0]);
}
print(result);`);
  expect(told[0]).toBe("reacher-plan:");
  expect(told[1]).toMatch(/\/reacher\/dist\/engine\/\w.*\.js$/);
  expect(told.slice(2)).toEqual(["\0reacher-plan", ""]);
});

test("a made module is kept in Vite's own folder, by its plan and its calls; a folder that cannot be written harms nothing", () => {
  const folder = mkdtempSync(join(tmpdir(), "reacher-kept-"));
  const told = inNode<unknown[]>(`
import { readdirSync, writeFileSync } from "node:fs";
const folder = ${JSON.stringify(folder)};
const load = (calls, cacheDir) => {
  const plugin = reacher({ types: false, calls });
  plugin.configResolved({ command: "build", cacheDir });
  const id = "\\0reacher-plan:" + process.cwd() + "/../../examples/plans/two-players.plan.json.js";
  return plugin.load.call({ ...context, addWatchFile() {}, warn() {} }, id);
};
const first = await load([], folder);
const kept = folder + "/reacher/";
writeFileSync(kept + readdirSync(kept)[0], JSON.stringify({ code: "kept", map: null }));
print([
  await load([], folder),
  (await load(["on"], folder)) === "kept",
  readdirSync(kept).length,
  (await load([], "/dev/null/there")) === first,
]);`);
  expect(told).toEqual(["kept", false, 2, true]);
});

test("while serving, a plan cannot be changed in place, which would do nothing", () => {
  const [serve, build] = inNode<boolean[]>(`
const result = [];
for (const command of ["serve", "build"]) {
  const plugin = reacher({ types: false, ahead: false });
  plugin.configResolved({ command });
  const loading = { ...context, addWatchFile() {}, warn() {} };
  const code = await plugin.load.call(loading, "\\0reacher-plan:" + process.cwd() + "/../../examples/plans/shooter.plan.json.js");
  const plan = new Function(/const plan = .*/.exec(code)[0] + " return plan;")();
  result.push(Object.isFrozen(plan) && Object.isFrozen(plan.actions));
}
print(result);`);
  expect([serve, build]).toEqual([true, false]);
});

test("a server that knows only the older hook gets the changed plan as well", () => {
  const ids = inNode<string[]>(`
const plugin = reacher();
const ids = [];
const moduleGraph = { getModuleById: (id) => (ids.push(id), { id }) };
const fresh = plugin.hotUpdate.call({ environment: { moduleGraph } }, { file: "/game/a.plan.json" });
const old = plugin.handleHotUpdate({ file: "C:\\\\game\\\\a.plan.json", server: { moduleGraph } });
print([...ids, fresh.length + old.length]);`);
  expect(ids).toEqual(["\0reacher-plan:/game/a.plan.json.js", "\0reacher-plan:C:/game/a.plan.json.js", 2]);
});

test("a build brings the calls that the project's scripts name, and stops where a module from elsewhere names another", () => {
  const told = inNode<string[]>(`
import { mkdirSync, mkdtempSync, symlinkSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
const root = mkdtempSync(join(tmpdir(), "reacher-calls-"));
symlinkSync("nowhere", join(root, "lost.ts"));
for (const folder of ["src", "node_modules/a", "dist"]) mkdirSync(join(root, folder), { recursive: true });
const plan = join(root, "game.plan.json");
writeFileSync(plan, JSON.stringify({ reacherPlan: 1, actions: { hop: { kind: "switch", from: { main: "Space" } } } }));
const built = async (files, options, env) => {
  for (const [name, text] of Object.entries(files)) writeFileSync(join(root, name), text);
  const plugin = reacher({ types: false, ...options });
  plugin.configResolved({ command: "build", root, build: { outDir: "dist" }, env });
  const text = await plugin.load.call({ ...context, addWatchFile() {}, warn() {} }, "\\0reacher-plan:" + plan + ".js");
  const features = /import \\{ (.*) \\} from/.exec(text)[1];
  const faults = ["/elsewhere/kit.ts", "/game/node_modules/kit/kit.js", "/game/node_modules/other.js"].map((id) => {
    const from = id.includes("kit.js") ? 'import { createInputLayer } from "reacher"; ' : "";
    try { plugin.transform.handler.call(context, from + (env ? "if (import.meta.env.DEV) " : "") + "input.drive('hop', true, 'scene')", id); }
    catch (error) { return error.message; }
  });
  const warned = [];
  plugin.buildEnd.call({ warn: ({ message }) => warned.push(message) });
  if (warned.length > 0) return warned.join();
  return [/driveCalls/.test(features), /muteCalls/.test(features), faults[0] ?? "", faults[0] === faults[1] && faults[2] === undefined].join(" ");
};
const none = { "src/main.ts": "input.step(0)", "node_modules/a/a.js": "a.drive()", "dist/a.js": "a.mute()" };
print([await built(none), await built(none, {}, { DEV: true }), await built(none, { calls: ["mute"] }), await built({ "src/game.config.ts": "const { drive } = input" }), await built({ "src/debug.ts": 'import "reacher/panel"' })]);`);
  expect(told[0]).toMatch(
    /^false false it calls drive, which was left out.*reacher\(\{ calls: \["drive"\] \}\) true$/,
  );
  expect(told[1]).toBe(told[0]);
  expect(told.slice(2)).toEqual([
    "false true  true",
    "true false  true",
    'src/debug.ts: no part of this build, and what it calls brings the rules themselves along (setPlan); reacher({ calls: ["drive"] }) leaves that out',
  ]);
});

test("a plan that stands in a module as a constant is built ahead, and no line moves", () => {
  const [code, module, more, fault, serving] = inNode<string[]>(`
const hop = (more) => \`{ "reacherPlan": 1, actions: { hop: { kind: "switch", cooldownMs: -(-20), from: { main: ["Space", \\\`KeyX\\\`] }\${more} } } }\`;
const game = (plan) => \`import { createInputLayer, definePlan } from "reacher";
const plan = definePlan(
  \${plan}
);
export const input = createInputLayer(plan), other = createInputLayer(\${hop("")});\`;
const made = async (command, text) => {
  const plugin = reacher({ types: false, calls: [] });
  plugin.configResolved({ command });
  const result = plugin.transform.handler.call(context, text, "/game/main.js");
  if (result === undefined) return ["", "", ""];
  const ids = [...result.code.matchAll(/from "(virtual:[^"]*)"/g)].map(([, id]) => id);
  const load = async (id) => plugin.load.call({ ...context, addWatchFile() {}, warn() {} }, await plugin.resolveId.call(context, id));
  return [result.code, await load(ids[0]), await load(ids[1])];
};
const fault = await made("build", game(hop(", oops: 1"))).catch(({ message }) => message);
print([...(await made("build", game(hop("")))), fault, (await made("serve", game(hop(""))))[0]]);`);
  const lines = code!.split("\n");
  expect(lines[0]).toMatch(
    /^import reacherPlan0 from "virtual:reacher\/plan\/\/game\/main.js#0";import reacherPlan1 from .*definePlan } from "reacher";$/,
  );
  expect(lines.slice(1)).toEqual([
    "const plan = reacherPlan0",
    "",
    ";",
    "export const input = createInputLayer(plan), other = createInputLayer(reacherPlan1);",
  ]);
  for (const text of [module, more]) expect(text).toContain("madePlan(");
  expect(fault).toContain("oops");
  expect(serving).toBe("");
});

test.each([
  ['import plan from "./a.plan.json"; const input: InputLayer<typeof plan> = createInputLayer(plan);', false],
  ["const plan = definePlan({}); createInputLayer<typeof plan>(plan, 1)", false],
  ["createInputLayer(definePlan({}))", false],
  ['import plan from "./a.plan.json"; createInputLayer(plan); plan.numbers.fast', true],
  ['export { default } from "./a.plan.json"', true],
  ["export const plan = definePlan({})", true],
  ["const plan = definePlan({}); show(plan)", true],
])("a plan's text comes along only where a module may read it: %s", (code, reads) => {
  expect(callsNamedIn(code).includes("plan")).toBe(reads);
});

test.each([
  ["if (kick.on && kick.live) input.step(t)", []],
  ['input.on("kick", "on", go)', ["on"]],
  ["const { drive } = input", ["drive"]],
  ["input?.seat(name)?.setFlag?.(a, b)", ["setFlag"]],
  ["const go = input.on.bind(input)", ["on"]],
  ['input["take"]("hop")', ["take"]],
  ['import { defineSettings } from "reacher/settings"', ["setOverrides", "bringKeys"]],
  ['import { useOverrides } from "reacher/react"', ["setOverrides", "bringKeys"]],
  ['import { useReading } from "reacher/react"', []],
  ['import { record, type Report } from "reacher/trace"', ["watch", "plan", "own"]],
  ['import { record as keep, packEvents } from "reacher/trace"', ["watch", "plan", "own"]],
  ['import { record, replay } from "reacher/trace"', ["watch", "plan", "own", "setPlan"]],
  ["const {\n  step, // the loop\n  drive, /* a scene */ mute\n} = input", ["drive", "mute"]],
  ["(input.on as Listen)<Hop>('hop', {}); input\n  // taken\n  .take('hop')", ["take", "on"]],
  ["// input.drive()\nconst at = 'http://a.b'; input.mute('hop')", ["mute"]],
  ["if (import.meta.env.DEV && a) { const s = '}'; input.drive() } else input.mute()", ["mute"]],
  ["if (import.meta.env.DEV)\n  void import('a')\n    .then((a) => a.drive(a))\ninput.mute()", ["mute"]],
  ["call()\nimport.meta.env.DEV && input.drive()\ninput.mute()", ["mute"]],
  ["const dev = import.meta.env.DEV\nfunction go() { input.drive() }", ["drive"]],
  ["if (!import.meta.env.DEV) input.drive(); else input.mute()", ["drive", "mute"]],
  [
    "if (import.meta.env.DEV || a) input.drive(); b === import.meta.env.DEV && input.mute()",
    ["drive", "mute"],
  ],
  ["if (import.meta.env.DEV) { input.drive(", ["drive"]],
  ["// import.meta.env.DEV is not asked\nconst go = { go() { input.drive() } }", ["drive"]],
])("what is called is known by name: %j", (code, calls) => {
  expect(callsNamedIn(runningIn(code))).toEqual(calls);
});

test("a call that the build is told to lack throws while serving, too, and so do players' keys that it loads later", () => {
  const said = inNode<string[]>(`
import { createInputLayer } from "reacher";
import { explainLayer } from "reacher/trace";
import { readFileSync } from "node:fs";
const loading = { ...context, addWatchFile() {}, warn() {} };
const played = async (name, ...more) => {
  const plugin = reacher({ types: false, calls: ["on", "setOverrides", "bringKeys", ...more] });
  plugin.configResolved({ command: "serve" });
  const load = async (id) => plugin.load.call(loading, id);
  const reload = await load(await plugin.resolveId.call(context, "virtual:reacher/reload"));
  const { follow } = await import("data:text/javascript," + encodeURIComponent(reload));
  const file = process.cwd() + "/../../examples/plans/" + name + ".plan.json";
  const [, told] = /follow\\(plan, import.meta.hot, (.*)\\);/.exec(await load("\\0reacher-plan:" + file + ".js"));
  const plan = JSON.parse(readFileSync(file, "utf8"));
  const playOn = follow(plan, { data: {} }, ...JSON.parse("[" + told + "]"));
  return { plan, playOn, input: createInputLayer(plan) };
};
const { plan, playOn, input } = await played("two-players", "openSeats");
const alone = (await played("shooter")).input;
const tuned = (await played("platformer")).input;
const soft = { reacherOverrides: 1, settings: { "dash.gapMs": 300 } };
const stiff = { ...soft, controls: { "jump.main": "KeyJ" } };
const changes = { reacherOverrides: 1, settings: { bounceMs: 5 } };
const fault = (call) => { try { call(); return ""; } catch ({ message }) { return message; } };
print([
  fault(() => input.on("hop", "on", () => {})),
  fault(() => alone.reset()),
  fault(() => alone.seat("solo").live("x")),
  fault(() => alone.modes),
  fault(() => input.seat(input.seats[1]).drive("walk", 1, "scene")),
  fault(() => input.reset()),
  fault(() => input.openSeats(["amber"])),
  fault(() => playOn({ ...plan })),
  fault(() => input.seat(input.seats[1]).setOverrides(changes)),
  fault(() => input.setOverrides(null)),
  fault(() => input.intercept("amber", {})),
  fault(() => explainLayer(input, () => {})),
  fault(() => tuned.setOverrides(soft)),
  (await tuned.bringKeys(soft), fault(() => tuned.setOverrides(stiff))),
  (await tuned.bringKeys(stiff), fault(() => tuned.setOverrides(stiff))),
  (await input.bringKeys(), fault(() => input.setOverrides(changes))),
  fault(() => explainLayer(input, () => {})),
]);`);
  const lacks = (call: string) =>
    `this game is built without ${call}; add it to the calls in reacher({ calls })`;
  const later = expect.stringContaining("await input.bringKeys() before the first setOverrides") as string;
  const capture = expect.stringContaining("before the first capture of a key") as string;
  const reasons = expect.stringContaining("tells no reasons: await input.bringKeys() first") as string;
  expect(said).toEqual([
    "",
    lacks("reset"),
    lacks("live"),
    lacks("modes"),
    lacks("drive"),
    "",
    "",
    "",
    later,
    "",
    capture,
    reasons,
    "",
    later,
    "",
    "",
    "",
  ]);
});

test("a plan's file is followed outside of Vite: each that can run, the faults of others, comments, until it is ended", () => {
  const file = join(mkdtempSync(join(tmpdir(), "reacher-watch-")), "a.plan.jsonc");
  const said = inNode<string[]>(`
import { watchPlan } from "reacher/watch";
import { writeFileSync, rmSync } from "node:fs";
const file = ${JSON.stringify(file)};
const said = [];
const write = (key) => writeFileSync(file, "// comment\\n" + '{ "reacherPlan": 1, "actions": { "hop": { "kind": "switch", "from": { "main": "' + key + '" } } } }');
const until = async (count) => { while (said.length < count) await new Promise((done) => setTimeout(done, 5)); };
write("Space");
const end = watchPlan(file, { onPlan: (plan) => said.push(plan.actions.hop.from.main), onFault: (message) => said.push(message) });
await until(1);
write("KeyK"); await until(2);
write("LeftShift"); await until(3);
writeFileSync(file, "{"); await until(4);
write("KeyL"); await until(5);
end();
write("KeyM");
await new Promise((done) => setTimeout(done, 150));
rmSync(file);
let fault = "";
try { watchPlan(file, {}); } catch ({ message }) { fault = message; }
print([...said, fault]);`);
  expect(said).toEqual([
    "Space",
    "KeyK",
    expect.stringContaining(
      'a.plan.jsonc: actions.hop.from.main: "LeftShift" is no control; did you mean ShiftLeft?',
    ),
    expect.stringContaining("a.plan.jsonc: not JSON"),
    "KeyL",
    expect.stringContaining("onPlan(plan) takes a function"),
  ]);
});
