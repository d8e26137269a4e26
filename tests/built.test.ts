/** Plans built ahead: what a game gets that ships neither the reading of plans nor a schema library. */
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { allMappings, fromMap } from "@jridgewell/gen-mapping";
import { buildSync } from "esbuild";
import * as fc from "fast-check";
import { createInputLayer, type InputLayer, type Overrides, type Plan } from "reacher";
import { builtModule } from "reacher/build";
import { FEATURES } from "../packages/reacher/src/engine/every";
import { CALLS, type Call } from "../packages/reacher/src/built/calls";
import { neededFeatures } from "../packages/reacher/src/built/needed";
import { readPlan } from "../packages/reacher/src/plan/read";
import { readPlan as readBuilt } from "../packages/reacher/src/plan/readBuilt";
import { AXES, KEYS, plans } from "../packages/reacher/tests/randomPlans";
import { runCommand } from "./support/command";
import { root } from "./support/compiler";
import { builtPlanOf, bundledLibrary, type Library } from "./support/made";
import { runs } from "../packages/reacher/tests/runs";

const folder = mkdtempSync(join(tmpdir(), "reacher-built-"));
let library: Library;
beforeAll(() => void (library = bundledLibrary()));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** The layer of a built module. */
function builtLayer(plan: Plan, rebinding: boolean, calls?: readonly string[]): InputLayer {
  const built = builtPlanOf(library, plan, { rebinding, ...(calls && { calls }) });
  return library.createInputLayer(built.plan);
}

const events = fc.array(
  fc.record({
    wait: fc.integer({ min: 0, max: 120 }),
    control: fc.constantFrom(...KEYS, ...AXES, "KeyZ"),
    value: fc.integer({ min: -4, max: 4 }).map((n) => n / 4),
  }),
  { minLength: 1, maxLength: 60 },
);
const settings = fc.subarray([
  ["bounceMs", 20],
  ["swapSticks", true],
  ["holds", "toggle"],
  ["kick.style", "toggle"],
  ["tuck.style", "either"],
  ["surge.style", "hold"],
  ["grab.style", "nothing"],
] as [string, unknown][]);
const controls = fc.subarray([
  ["swim.main.up", "KeyZ"],
  ["swim.spare", null],
  ["kick.main", "KeyZ"],
  ["tuck.main.0", { use: "KeyZ", waits: 3 }],
  ["surge.main", null],
  ["grab.main.1", "KeyUnknown"],
] as [string, unknown][]);

/** What a layer does with these changes and events, step by step. */
function course(
  input: InputLayer,
  changes: object,
  hands: { wait: number; control: string; value: number }[],
) {
  const faults = input.setOverrides({ reacherOverrides: 1, ...changes } as Overrides);
  let t = 0;
  const steps = hands.map(({ wait, control, value }) => {
    input.feed({ t: (t += wait), control, value });
    input.step(t);
    return JSON.stringify(input.now);
  });
  return { faults: faults.map(({ place, what }) => `${place} ${what}`), steps, state: [...input.snapshot()] };
}

/** An object with its fields in the other order; a list stays as it is. */
const turnedRound = (_: string, value: unknown): unknown =>
  typeof value === "object" && value !== null && !Array.isArray(value)
    ? Object.fromEntries(Object.entries(value).reverse())
    : value;

test("a built plan plays as the plan does, with any player's changes", () => {
  fc.assert(
    fc.property(plans, controls, settings, events, (plan, keys, choices, hands) => {
      const changes = { controls: Object.fromEntries(keys), settings: Object.fromEntries(choices) };
      const written = JSON.parse(JSON.stringify(plan)) as Plan;
      const played = course(createInputLayer(written), changes, hands);
      expect(course(builtLayer(written, true), changes, hands)).toEqual(played);
      // Whatever the order of its fields and the calls that the game does without.
      const few = builtLayer(written, true, ["setOverrides", "snapshot"]);
      expect(course(few, changes, hands)).toEqual(played);
      const turned = JSON.parse(JSON.stringify(plan), turnedRound) as Plan;
      expect(course(builtLayer(turned, true), changes, hands)).toEqual(
        course(createInputLayer(turned), changes, hands),
      );
      // With the rules themselves; code made for a plan is held against them elsewhere.
      const fixed = builtLayer(written, false, Object.keys(CALLS));
      const free = createInputLayer(written);
      for (const input of [fixed, free]) input.step(0);
      let t = 0;
      for (const { wait, control, value } of hands) {
        t += wait;
        for (const input of [fixed, free]) {
          input.feed({ t, control, value });
          input.step(t);
        }
        expect(fixed.now).toEqual(free.now);
      }
      expect(fixed.snapshot()).toEqual(free.snapshot());
    }),
    runs(40),
  );
}, 600_000);

test("what a player may have put into a plan is refused as the whole reader refuses it", () => {
  const text = fc.constantFrom("KeyZ", "PadLeftStick", "MouseMove", "swim.up", "x");
  const value = fc.oneof(
    text,
    fc.constantFrom(0, 1, 2, 9.5, 61_000, -1, NaN, true, null, [], {}, ["KeyA"], ["KeyA", "KeyB"], "both"),
    fc.record({ inner: fc.constantFrom(0.2, 2) }),
    fc.record({ press: fc.constantFrom(0.5, 0) }),
  );
  const names =
    "use waits threshold taps of gapMs eachMs brokenBy short long afterMs all spreadMs series flick shape minus up perPixel";
  const entry = fc.oneof(
    value,
    fc.dictionary(fc.constantFrom(...names.split(" "), "odd", "__proto__"), value, { maxKeys: 3 }),
  );
  const given = fc.oneof(entry, fc.array(entry, { maxLength: 2 }));
  const action = fc.oneof(
    fc.record({
      kind: fc.constantFrom("switch", "axis", "vector", "turn"),
      from: fc.record({ main: given }),
    }),
    fc.record({
      kind: fc.constant("switch"),
      from: fc.constant({ main: "KeyA" }),
      tapMs: value,
      repeat: fc.record({ everyMs: value }),
    }),
    fc.record({
      kind: fc.constant("vector"),
      from: fc.constant({ main: "PadLeftStick" }),
      shape: fc.record({ gain: value, deadZone: value, invert: value }, { requiredKeys: [] }),
    }),
  );
  fc.assert(
    fc.property(action, fc.constantFrom(0, 20, 5000, NaN), (odd, bounceMs) => {
      const swim = {
        kind: "vector",
        from: { main: { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyD" } },
      };
      const plan = { reacherPlan: 1, bounceMs, actions: { swim, odd } };
      const [whole, lean] = [readPlan(plan, true), readBuilt(plan, true)];
      expect([lean.ok, lean.ok && lean.plan]).toEqual([whole.ok, whole.ok && whole.plan]);
    }),
    runs(1000),
  );
});

test("a game ships only what its plan uses, and says what it lacks", () => {
  const hop = { kind: "switch", from: { main: "Space" }, player: { style: ["hold"] } };
  const plan = { reacherPlan: 1, actions: { hop } } as unknown as Plan;
  const BASE = ["modes", "losses", "drives", "switches"];
  expect(neededFeatures(plan, false)).toEqual(BASE);
  // A module imports its features by their names.
  expect(Object.keys(FEATURES).filter((name) => !(name in library))).toEqual([]);
  expect(neededFeatures(plan, true)).toEqual([...BASE, "bounce"]);
  const input = builtLayer(plan, true);
  const taps = { taps: 2, of: "Space" };
  expect(input.setOverrides({ reacherOverrides: 1, controls: { "hop.main": taps } } as never)).toEqual([
    { place: "controls.hop.main", message: "this game was built without taps", what: "rejected" },
  ]);
  expect(() => builtLayer(plan, false).setOverrides({ reacherOverrides: 1 })).toThrow(
    "this game was built without rebinding",
  );
  expect(() => library.parsePlan({ reacherPlan: 1, actions: { hop } })).toThrow("this game reads no plans");
  // Without the condition the same module runs: it is only larger.
  const whole = bundledLibrary([]);
  expect(Object.keys(whole.parsePlan({ reacherPlan: 1, actions: { hop } }))).toEqual([
    "reacherPlan",
    "actions",
  ]);
});

test("what the game never calls stays at home, and says so where it is called after all", () => {
  const hop = { kind: "switch", from: { main: "Space" }, player: { style: ["hold"] } };
  const plan = { reacherPlan: 1, actions: { hop } } as unknown as Plan;
  const needs = (more: object, calls: readonly Call[]) =>
    neededFeatures({ ...plan, ...more } as Plan, false, calls).filter((name) => /drives|modes/.test(name));
  expect([needs({}, []), needs({}, ["drive"]), needs({}, ["mute"])]).toEqual([[], ["drives"], ["modes"]]);
  // What is live is decided by modes, and by who plays.
  expect(needs({ modes: { dive: {} } }, [])).toEqual(["modes"]);
  expect(needs({ seats: { amber: { slots: ["main"] } } }, [])).toEqual(["modes"]);
  const input = builtLayer(plan, false, []);
  expect(() => input.drive("hop", true, "scene")).toThrow(
    "this game was built without drive; build it with --calls",
  );
  expect(() => input.mute("hop", "scene")).toThrow("this game was built without mute");
  // Every member of a layer is always there, or is known as one that may be left out.
  const types = readFileSync(join(root, "packages/reacher/src/layer/types.ts"), "utf8");
  const members = (types.match(/^export interface (?:InputLayer|Seat)<[^]*?^}/gm) ?? []).flatMap((block) =>
    [...block.matchAll(/^ {2}(?:readonly )?(\w+)[<(:]/gm)].map(([, name]) => name!),
  );
  expect(members.length).toBeGreaterThan(35);
  expect(members.filter((name) => !(name in input) && !(name in CALLS))).toEqual([]);
  // Every call that may be left out says so.
  const whole = createInputLayer(plan);
  for (const call of Object.keys(CALLS) as Call[]) {
    const read = () => (typeof whole[call] === "function" ? (input[call] as () => unknown)() : input[call]);
    if (call !== "plan" && call !== "own")
      expect(read).toThrow(`this game was built without ${call}; build it`);
  }
  expect(() => input.plan.actions).toThrow("this game was built without plan; build it");
  input.feed({ t: 5, control: "Space", value: 1 });
  expect((input.step(10) as unknown as { hop: { on: boolean } }).hop.on).toBe(true);
  expect(() => input.live("hop")).toThrow("this game was built without live");
  expect(() => builtModule(plan, { file: "a", calls: ["drve"] })).toThrow(
    '"drve" is no call that can be left out; these can: drive, mute, unmute, mutes, setFlag',
  );
});

/** What the command prints when it builds. */
function built(...args: string[]): string {
  const { status, stdout, stderr } = runCommand(["build", ...args], { CI: "true" });
  if (status !== 0) throw new Error(stderr);
  return stdout;
}

test("the command writes the module, and refuses a plan that cannot run", () => {
  const plan = join(root, "examples/kelpline/plan/kelpline.plan.json");
  const file = join(folder, "plan.ts");
  expect(built(plan, "-o", file)).toBe(`${file}: 19 actions, checked ahead\n`);
  expect(built(plan, "--fixed-keys")).toContain("builtPlan<KelplinePlan>(");
  const alone = join(root, "examples/plans/platformer.plan.json");
  const shares = (calls: string) => {
    const told = built(alone, "--explain", "--json", "--calls", calls);
    const { code, brings, gzipped } = JSON.parse(told);
    const of = (kind: string) =>
      code
        .filter((one: any) => one.kind === kind)
        .map((one: any) => one.of)
        .sort();
    return [of("call"), of("action").length, brings, gzipped > 8000 && gzipped < 20_000];
  };
  expect(shares("none")).toEqual([[], 7, [], true]);
  expect(shares("drive,take")).toEqual([["drive", "take"], 7, ["driveCalls", "takeCalls"], true]);
  expect(built(plan, "--explain")).toContain("(players' own keys need them; with bringKeys they come later)");
  // What brings the whole layer is seen at a glance.
  expect(built(alone, "--explain", "--calls", "held,openSeats,take")).toMatch(
    /\nopenSeats +1\d\.\d kB\nheld +3\.\d kB\ntake +0\.\d kB\n/,
  );
  // A plan with seats has it anyway.
  expect(built(plan, "--explain", "--calls", "held,openSeats,take")).toMatch(
    /about\nopenSeats +0\.\d kB\n\n/,
  );
  expect(() => built(plan, "--explain", "-o", file)).toThrow("writes nothing");
  expect(() => built(plan, "--calls", "drive,mutex")).toThrow('"mutex" is no call that can be left out');
  expect(() => built(join(root, "examples/workbench/rough.trace.jsonl"))).toThrow("this is a trace, no plan");
});

test("a source map leads each line of made code to the rule that it was made of; bundlers pass it on", () => {
  const file = join(folder, "mapped.js");
  const args = [
    join(root, "examples/plans/platformer.plan.json"),
    "-o",
    file,
    "--calls",
    "on,drive",
    "--map",
  ];
  built(...args);
  built(...args, "--check");
  const lines = readFileSync(file, "utf8").split("\n");
  expect(lines.at(-2)).toBe("//# sourceMappingURL=mapped.js.map");
  const map = JSON.parse(readFileSync(`${file}.map`, "utf8"));
  const found = allMappings(fromMap(map));
  const told = found.map(({ generated, source, original }) => {
    const [, call] = /\bs\.(\w+)\(/.exec(lines[generated.line - 1]!) ?? [];
    const rule: string = map.sourcesContent[map.sources.indexOf(source)].split("\n")[original!.line - 1];
    return call === undefined || rule.includes(call);
  });
  expect(told).not.toContain(false);
  expect(told.length).toBeGreaterThan(500);
  const { outputFiles } = buildSync({
    entryPoints: [file],
    bundle: true,
    minify: true,
    sourcemap: "external",
    external: ["reacher/*"],
    format: "esm",
    outdir: folder,
    write: false,
  });
  expect(JSON.parse(outputFiles[0]!.text).sources.join()).toContain("reacher/engine/switches/switch.js");
});
