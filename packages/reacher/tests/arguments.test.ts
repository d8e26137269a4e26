/** Whatever a call gets, it answers with a result or with an error of ours that says what fits; never with a foreign error, and nothing is half done. */
import { readFileSync } from "node:fs";
import { join } from "node:path";
import * as reacher from "reacher";
import * as browser from "reacher/browser";
import * as built from "reacher/internal";
import * as check from "reacher/check";
import * as rebind from "reacher/rebind";
import * as browserStore from "reacher/stores/browser";
import * as fileStore from "reacher/stores/file";
import * as testing from "reacher/testing";
import * as trace from "reacher/trace";
import * as tuning from "reacher/tuning";
import { builtModule } from "reacher/build";
import { showPanel } from "reacher/panel";

const { createInputLayer } = reacher;
const plan = {
  reacherPlan: 1,
  flags: { air: true },
  numbers: { fast: 2 },
  modes: { sea: {}, menu: {} },
  seats: { amber: { slots: ["main", "pad"] }, teal: { slots: ["other", "pad"] } },
  actions: {
    swim: {
      kind: "vector",
      from: { main: { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyD" }, pad: "PadLeftStick" },
    },
    kick: { kind: "switch", from: { main: "KeyK", other: "KeyO" } },
  },
} as unknown as reacher.Plan;

const WRONG: readonly unknown[][] = [
  [],
  [null],
  [5],
  [NaN],
  ["nonsense"],
  [true],
  [{}],
  [[]],
  [() => undefined],
  [Symbol("x")],
  [10n],
];

/** What a call says; `undefined` where it is content. */
async function fault(call: () => unknown): Promise<unknown> {
  try {
    const result = call();
    if (result instanceof Promise) await Promise.race([result, new Promise((done) => setTimeout(done, 50))]);
    return undefined;
  } catch (error) {
    // The maker of code is a file of its own, with errors of its own.
    return /^(Reacher|Plan|Trace)Error$/.test((error as Error).name) ? undefined : error;
  }
}

const shown = (args: readonly unknown[]) =>
  args
    .map((one) => (Array.isArray(one) ? "[]" : String(one)))
    .join(", ")
    .slice(0, 60);

/** The names of calls in the public interfaces and classes of a source: a class has more, which only TypeScript hides. */
const publicIn = (file: string) =>
  new Set(
    (
      readFileSync(join(__dirname, `../src/${file}.ts`), "utf8").match(
        /^export (interface|class)[^]*?^}/gm,
      ) ?? []
    )
      .flatMap((block) => [...block.matchAll(/^ {2}(\w+)[<(]/gm)].map(([, name]) => name!))
      .filter((name) => name !== "constructor"),
  );

/** Every call that does not answer as it should. */
async function faults(name: string, call: (...args: unknown[]) => unknown, before: readonly unknown[] = []) {
  const found: string[] = [];
  for (const args of WRONG) {
    const all = [...before, ...args];
    const error = await fault(() => call(...all));
    if (error !== undefined) found.push(`${name}(${shown(all)}): ${String(error).slice(0, 100)}`);
  }
  return found;
}

const methodsOf = (object: object, known: ReadonlySet<string>): string[] => {
  const names = new Set<string>();
  for (
    let at: object | null = object;
    at !== null && at !== Object.prototype;
    at = Object.getPrototypeOf(at) as object | null
  )
    for (const name of Object.getOwnPropertyNames(at)) names.add(name);
  return [...names].filter((name) => {
    const own = Object.getOwnPropertyDescriptor(object, name);
    return (
      known.has(name) &&
      own?.get === undefined &&
      typeof (object as Record<string, unknown>)[name] === "function"
    );
  });
};

const modules = {
  reacher,
  browser,
  built: { builtPlan: built.builtPlan, madePlan: built.madePlan },
  check,
  rebind,
  browserStore,
  fileStore,
  testing,
  trace,
  tuning,
  build: { builtModule },
  panel: { showPanel },
};

test.each(Object.entries(modules))("every function of %s", async (_, module) => {
  const found: string[] = [];
  for (const [name, value] of Object.entries(module) as [string, unknown][]) {
    if (typeof value !== "function" || /Error$/.test(name)) continue;
    const isClass = /^class /.test(Function.prototype.toString.call(value));
    const call = (...args: unknown[]) =>
      isClass
        ? Reflect.construct(value as never, args as [])
        : (value as (...args: unknown[]) => unknown)(...args);
    found.push(...(await faults(name, call)), ...(await faults(name, call, [plan])));
    const input = createInputLayer(plan);
    found.push(
      ...(await faults(name, call, [input])),
      ...(await faults(name, call, [plan, { reacherOverrides: 1 }])),
    );
  }
  expect(found).toEqual([]);
});

test("every place of a call that is right otherwise", async () => {
  const overrides = { reacherOverrides: 1 };
  const label = (name: string) => name;
  const layer = () => createInputLayer(plan);
  const calls: [string, (...args: never[]) => unknown, () => unknown[]][] = [
    ["capture", rebind.capture, () => [layer(), { address: "kick.main" }]],
    ["runTapTest", rebind.runTapTest, () => [layer(), { range: [100, 400] }]],
    ["tapTest", rebind.tapTest, () => [[100, 400], 5]],
    ["tapTest of a range", (one: number, other: number) => rebind.tapTest([one, other]), () => [100, 400]],
    ["prompt", rebind.prompt, () => [layer(), "kick", label]],
    ["rebind", rebind.rebind, () => [plan, overrides, "kick.main", "KeyB", "refuse"]],
    ["choicesFor", rebind.choicesFor, () => [plan, overrides, "kick.main", "KeyB"]],
    ["controlAt", rebind.controlAt, () => [plan, "kick.main"]],
    ["bindingRows", rebind.bindingRows, () => [plan, overrides, label, ["main"]]],
    ["settingsOf", rebind.settingsOf, () => [plan, overrides]],
    ["settingValue", rebind.settingValue, () => ["kick.style", "toggle"]],
    ["editOverrides", rebind.editOverrides, () => [plan, overrides]],
    ["upToDate", rebind.upToDate, () => [plan, overrides]],
    [
      "openProfiles",
      (store: unknown, profile: unknown) =>
        rebind.openProfiles({ store, plan, profile } as rebind.ProfileOptions),
      () => [rebind.memoryStore(), "amber"],
    ],
    ["startExplaining", trace.startExplaining, () => [plan, () => {}, "amber"]],
    ["explain", trace.explain, () => [plan, [{ t: 1, end: true }], "kick"]],
    ["explainLayer", trace.explainLayer, () => [layer(), () => {}, "amber"]],
    ["startReplay", trace.startReplay, () => [plan, {}, () => {}]],
    [
      "startReplay to the end",
      (...args: Parameters<typeof trace.startReplay>) => {
        const running = trace.startReplay(...args);
        running.push({ t: 1, control: "KeyK", value: 1, pad: 0 });
        running.push({ t: 90, end: true });
        running.finish();
      },
      () => [plan, {}, () => {}],
    ],
    [
      "startReplay with options",
      (hz: number, every: number, action: string, onMoved: trace.OnMoved) =>
        trace.replay(plan, [{ t: 90, end: true }], { hz, every, action, onMoved }),
      () => [60, 10, "swim", () => {}],
    ],
    ["replay", trace.replay, () => [plan, [{ t: 1, end: true }], {}]],
    ["packEvents", trace.packEvents, () => [[], 0, 16]],
    ["unpackEvents", trace.unpackEvents, () => [trace.packEvents([], 0, 16), 0]],
    ["record", trace.record, () => [layer(), { most: 5 }]],
    ["play", testing.play, () => [layer(), {}]],
    ["applyOverrides", reacher.applyOverrides, () => [plan, overrides]],
    ["builtModule", builtModule, () => [plan, {}]],
  ];
  const found: string[] = [];
  for (const [name, call, right] of calls) {
    const said = await fault(() => call(...(right() as never[])));
    if (said !== undefined) found.push(`${name} as it should be: ${String(said)}`);
    for (let place = 0; place < right().length; place++)
      for (const [wrong] of WRONG.slice(1)) {
        const args = right();
        args[place] = wrong;
        const error = await fault(() => call(...(args as never[])));
        if (error !== undefined) found.push(`${name}(${shown(args)}): ${String(error).slice(0, 100)}`);
      }
  }
  expect(found).toEqual([]);
});

test("every method of a layer, a seat and what the library makes", async () => {
  const found: string[] = [];
  const layer = () => createInputLayer(plan);
  const made: Record<string, () => object> = {
    "layer/types": layer,
    "layer/types of a seat": () => layer().seat("teal"),
    "trace/record": () => trace.record(layer()),
    "trace/replay": () => trace.startReplay(plan, {}, () => {}),
    "trace/lines": () => new trace.TraceReader(),
    "testing/script": () => testing.play(layer()),
    "testing/simulatedPad": () => testing.simulatePad(),
    "rebind/editor": () => rebind.editOverrides(plan, { reacherOverrides: 1 }),
    "rebind/capture": () => rebind.capture(layer(), { address: "kick.main" }),
    "rebind/store": () => rebind.memoryStore(),
    "rebind/keyLabels": () => rebind.createKeyLabels(),
    "rebind/tapTest": () => rebind.tapTest([100, 400]),
    "tuning/sticks": () => new tuning.StickMeter(),
    "tuning/taps": () => new tuning.TapCounter(),
    "tuning/histogram": () => new tuning.Histogram(10),
  };
  for (const [name, make] of Object.entries(made))
    for (const method of methodsOf(make(), publicIn(name.split(" ")[0]!))) {
      const object = make() as Record<string, (...args: unknown[]) => unknown>;
      const call = (...args: unknown[]) => object[method]!(...args);
      found.push(...(await faults(`${name}.${method}`, call)));
      for (const first of ["kick", "swim", "fast", "air", "amber", "menu", "pad", "focus"])
        found.push(...(await faults(`${name}.${method}`, call, [first])));
      found.push(...(await faults(`${name}.${method}`, call, ["kick", "on"])));
    }
  expect(found).toEqual([]);
}, 60_000);
