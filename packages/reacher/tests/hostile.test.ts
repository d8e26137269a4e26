/**
 * Files from outside, broken in every way: whatever is done to the demo's own, it is read, or refused by an error that says where.
 * A large campaign by hand: `RUNS=100 npx jest --selectProjects=library -- hostile`.
 */
import * as fc from "fast-check";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import {
  applyOverrides,
  createInputLayer,
  parseOverrides,
  parsePlan,
  PlanError,
  ReacherError,
  type Plan,
} from "reacher";
import { checkPlan } from "reacher/check";
import { settingsOf, bindingRows } from "reacher/rebind";
import { explain, parseTrace, replay, TraceError } from "reacher/trace";
import { kelplineForTwo, root } from "./plans";
import { runs } from "./runs";

/** What files are made of when somebody has sat on the keyboard. */
const junk = fc.constantFrom<unknown>(
  null,
  true,
  0,
  -1,
  1.5,
  1e308,
  "",
  "KeyQQ",
  "swim.up",
  "swim.each",
  "not kick",
  "__proto__",
  "constructor",
  "each",
  [],
  {},
  ["KeyA", 5],
  [[[]]],
  { use: "KeyA" },
  { taps: 2, of: "KeyA" },
  { all: ["KeyA", "KeyB"] },
  { up: "KeyW", sideways: 3 },
  { kind: "switch", from: { main: "KeyU" } },
  { kind: "axis", ends: ["a", "a"], from: {} },
);

type Json = Record<string, unknown>;

/** One change: at a place found by these steps, something else, nothing, or the same under another name. */
const change = fc.record({
  steps: fc.array(fc.nat(), { minLength: 1, maxLength: 6 }),
  how: fc.constantFrom("replace", "remove", "add", "rename", "swap"),
  value: junk,
});
type Change = { steps: readonly number[]; how: string; value: unknown };

function broken<T>(original: T, changes: readonly Change[]): T {
  const copy = JSON.parse(JSON.stringify(original)) as T;
  for (const { steps, how, value: given } of changes) {
    const value = JSON.parse(JSON.stringify(given)) as unknown;
    let at: Json = copy as Json;
    let key = "";
    for (const step of steps) {
      const keys = Object.keys(at);
      if (keys.length === 0) break;
      key = keys[step % keys.length]!;
      const next = at[key];
      if (typeof next !== "object" || next === null || step === steps.at(-1)) break;
      at = next as Json;
    }
    if (key === "") continue;
    if (how === "replace") at[key] = value;
    else if (how === "remove") delete at[key];
    else if (how === "add") at[typeof value === "string" && value !== "__proto__" ? value : "more"] = value;
    else if (how === "rename") {
      at[key.slice(1)] = at[key];
      delete at[key];
    } else {
      const other = Object.keys(at)[0]!;
      [at[key], at[other]] = [at[other], at[key]];
    }
  }
  return JSON.parse(JSON.stringify(copy)) as T;
}

const changes = fc.array(change, { minLength: 1, maxLength: 4 });
const examples = ["platformer", "shooter", "first-person", "two-players"].map(
  (name) => JSON.parse(readFileSync(join(root, `examples/plans/${name}.plan.json`), "utf8")) as Plan,
);
const plans = [kelplineForTwo(), ...examples];

/** Runs it; an error of ours is an answer, any other is a fault. */
function answered<T>(run: () => T): T | undefined {
  try {
    return run();
  } catch (error) {
    if (!(error instanceof ReacherError)) throw error;
    expect(error.message).not.toBe("");
    return undefined;
  }
}

test("any broken plan is read, or refused with the place of each fault; what is read plays", () => {
  fc.assert(
    fc.property(fc.constantFrom(...plans), changes, (whole, list) => {
      const plan = broken(whole, list);
      const { findings } = checkPlan(plan);
      for (const { message } of findings)
        expect(message.replace(/"[^"]*"/g, "")).not.toMatch(/undefined|\[object|NaN/);
      const isWrong = findings.some(({ severity }) => severity === "error");
      const read = answered(() => parsePlan(plan));
      expect(read === undefined).toBe(isWrong);
      if (read === undefined) return;
      const input = createInputLayer(read);
      for (const control of ["KeyW", "KeyD", "Space", "PadSouth"]) input.feed({ t: 10, control, value: 1 });
      input.step(1000);
      settingsOf(read, { reacherOverrides: 1 });
      bindingRows(read, { reacherOverrides: 1 });
    }),
    runs(60),
  );
});

const OVERRIDES = {
  reacherOverrides: 1,
  plan: "kelpline",
  controls: {
    "swim.main.up": "KeyZ",
    "kick.spare": null,
    "surge.main": { taps: 2, of: "KeyT" },
    "flash.main.1": "KeyP",
    "flash.main.first": "KeyO",
    "swim.pad": "PadRightStick",
  },
  settings: {
    "kick.style": "toggle",
    "surge.gapMs": 260,
    "swim.deadZone.inner": 0.2,
    "swim.pad.gain": 2,
    "swim.invert": "y",
    bounceMs: 20,
    swapSticks: true,
    holds: "toggle",
  },
};

test("any broken overrides are applied as far as they go, told of, or refused", () => {
  const plan = kelplineForTwo();
  const input = createInputLayer(plan);
  fc.assert(
    fc.property(changes, (list) => {
      const own = broken(OVERRIDES, list) as unknown;
      const parsed = answered(() => parseOverrides(own));
      if (parsed === undefined) return;
      const result = answered(() => applyOverrides(plan, parsed));
      if (result === undefined) return;
      for (const { message, place } of result.faults)
        expect(`${place}: ${message}`).not.toMatch(/undefined|\[object/);
      // What came of it can run.
      parsePlan(result.plan);
      answered(() => input.setOverrides(parsed));
    }),
    runs(60),
  );
});

test("any broken trace is replayed and explained, or refused with its line", () => {
  const plan = parsePlan(JSON.parse(JSON.stringify(kelplineForTwo())));
  const lines = readFileSync(join(root, "examples/kelpline/dives/night-round.trace.jsonl"), "utf8")
    .trim()
    .split("\n")
    .map((line) => JSON.parse(line) as object);
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.nat(), changes), { minLength: 1, maxLength: 4 }),
      fc.constantFrom("", "}", "[", "\u0000", "\n\n", "null"),
      (list, noise) => {
        const all: unknown[] = [...lines];
        for (const [at, how] of list) all[at % all.length] = broken(all[at % all.length], how);
        const text = all.map((line) => JSON.stringify(line)).join("\n") + noise;
        let entries;
        try {
          ({ entries } = parseTrace(text));
        } catch (error) {
          expect(error).toBeInstanceOf(TraceError);
          expect((error as Error).message).toMatch(/^line \d+: /);
          return;
        }
        answered(() => replay(plan, entries));
        answered(() => explain(plan, entries, "kick"));
      },
    ),
    runs(20),
  );
  expect(() => parsePlan(null)).toThrow(PlanError);
});
