/** Budgets, each as a ratio or a count in this one run. `npm run bench`. */
import { spawnSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { gzipSync } from "node:zlib";
import { build } from "esbuild";
import { createInputLayer, readPlan } from "reacher";
import { explainLayer, parseTrace, replay } from "reacher/trace";
import { HandWritten } from "./handWritten.mjs";
import { allocated, compare, median } from "./measure.mjs";

const WASD = { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyD" };
const ARROWS = { up: "ArrowUp", left: "ArrowLeft", down: "ArrowDown", right: "ArrowRight" };
/** What a hand presses, and how often: a key every 120 ms, so that now and then it is a double tap. */
const KEYS = ["KeyW", "KeyD", "KeyD", "KeyW", "KeyA", "ShiftLeft", "KeyS", "KeyA"];
const KEY_MS = 60;
const plan = {
  reacherPlan: 1,
  actions: {
    swim: {
      kind: "vector",
      from: { main: WASD, spare: ARROWS, pad: "PadLeftStick" },
      shape: { deadZone: { inner: 0.12, outer: 0.04 }, curve: { power: 1.6 } },
      pace: { base: 2.4, rules: [{ when: "kick", set: 4.8 }] },
    },
    kick: { kind: "switch", from: { main: "ShiftLeft" } },
    tuck: { kind: "switch", style: "toggle", from: { main: "KeyC" } },
    surge: { kind: "switch", from: { main: { taps: 2, of: "swim.each", gapMs: 220 } } },
  },
};

const rows = [];
const row = (what, got, budget, met) => rows.push({ what, got, budget, met });
const ratio = (value) => `${value.toFixed(2)} of the hand-written tick`;

const ours = layerRuns(createInputLayer(plan));
const theirs = handRuns(new HandWritten());
for (const [kind, what, budget] of [
  ["idle", "a step with nothing new, readings read", 0.25],
  ["key", "a step with one key event", 0.8],
  ["stick", "a step with a moving stick", 1.0],
]) {
  const result = compare({ ours: ours[kind], theirs: theirs[kind] }, 200_000);
  const times = `${result.ours.ns.toFixed(0)} ns to ${result.theirs.ns.toFixed(0)} ns`;
  row(what, `${ratio(result.ours.ratio)} (${times})`, `<= ${budget}`, result.ours.ratio <= budget);
}

const kelplinePlan = JSON.parse(
  readFileSync(new URL("../examples/kelpline/plan/kelpline.plan.json", import.meta.url), "utf8"),
);
const full = compare({ ours: layerRuns(createInputLayer(kelplinePlan)).key, theirs: theirs.key }, 200_000);
row(
  `the same with the whole demo's plan, ${Object.keys(kelplinePlan.actions).length} actions`,
  `${ratio(full.ours.ratio)} (${full.ours.ns.toFixed(0)} ns)`,
  "<= 0.8",
  full.ours.ratio <= 0.8,
);

const explained = createInputLayer(plan);
explainLayer(explained, () => {})();
const explainedRuns = layerRuns(explained);
const after = compare({ after: explainedRuns.key, before: layerRuns(createInputLayer(plan)).key }, 200_000);
row(
  "a key event after an explainer has ended, against one that never was explained",
  `${after.after.ratio.toFixed(2)} of the time`,
  "<= 1.1",
  after.after.ratio <= 1.1,
);

const bytes = Math.max(...["idle", "key", "stick"].map((kind) => allocated(ours[kind], 1_000_000)));
const crowd = crowdRuns(10_000);
const seatsAllocated = Math.max(allocated(crowd.idle, 2000), allocated(crowd.busy, 50) / 1000);
const idleMs = milliseconds(() => crowd.idle(100)) / 100;
const busyMs = milliseconds(() => crowd.busy(10)) / 10;
row("10,000 seats stepped, idle", `${idleMs.toFixed(4)} ms`, "<= 0.05 ms", idleMs <= 0.05);
row("10,000 seats, an event on a tenth of them", `${busyMs.toFixed(2)} ms`, "<= 0.4 ms", busyMs <= 0.4);
row(
  "memory allocated by these, for each event",
  `${seatsAllocated.toFixed(3)} bytes`,
  "< 1 byte",
  seatsAllocated < 1,
);
row("memory allocated by a step", `${bytes.toFixed(3)} bytes`, "< 1 byte", bytes < 1);

const small = createInputLayer(switchPlan(10));
const large = createInputLayer(switchPlan(1000));
const idle = compare({ large: idleRun(large), small: idleRun(small) }, 1_000_000);
row(
  "an idle step with 1,000 actions against 10",
  `${idle.large.ratio.toFixed(2)} of the time`,
  "<= 1.1",
  idle.large.ratio <= 1.1,
);

const twenty = createInputLayer(switchPlan(20));
const copies = snapshotRuns(twenty);
const copied = compare(copies, 300_000);
row(
  `snapshot and restore, 20 actions (${twenty.snapshot().length} bytes)`,
  `${copied.both.ns.toFixed(0)} ns (two bare copies of 1 byte: ${copied.bare.ns.toFixed(0)} ns)`,
  "<= 100 ns",
  copied.both.ns <= 100,
);

const trace = readFileSync(
  new URL("../examples/kelpline/dives/pad-drift.trace.jsonl", import.meta.url),
  "utf8",
);
const { plan: kelpline } = readPlan(kelplinePlan);
const { head, objects, lines } = longTrace(trace, 400_000);
const asObjects = rate(() => replay(kelpline, objects, { hz: 60 }), objects.length);
row(
  "replay, events as objects",
  `${(asObjects / 1e6).toFixed(2)} million a second`,
  ">= 4 million",
  asObjects >= 4e6,
);
const asLines = rate(() => replay(kelpline, parseTrace(head + lines).entries, { hz: 60 }), objects.length);
row(
  "replay, from JSON Lines",
  `${(asLines / 1e6).toFixed(2)} million a second`,
  ">= 0.8 million",
  asLines >= 0.8e6,
);

const core = await bundled(`export { createCheckedLayer } from "./packages/reacher/dist/engine/layer.js"`);
row(
  "the core, minified and gzipped, without plan validation",
  `${(core / 1000).toFixed(2)} kB`,
  "<= 9 kB",
  core <= 9000,
);
const game = await bundled(
  `export { createInputLayer } from "reacher"; export { attachBrowser } from "reacher/browser"`,
);
row("all that a browser game needs", `${(game / 1000).toFixed(2)} kB`, "<= 16 kB", game <= 16_000);

const cold = median(
  Array.from({ length: 7 }, () =>
    timed("packages/reacher-cli/bin/reacher.mjs", "check", "examples/kelpline/plan/kelpline.plan.json"),
  ),
);
const bare = median(Array.from({ length: 7 }, () => timed("-e", "0")));
row(
  "a cold reacher check",
  `${cold.toFixed(0)} ms (Node alone: ${bare.toFixed(0)} ms)`,
  "<= 200 ms",
  cold <= 200,
);

const widths = ["what", "got", "budget"].map((key) =>
  Math.max(key.length, ...rows.map((one) => one[key].length)),
);
const line = (what, got, budget, met) =>
  console.log(`${what.padEnd(widths[0])}  ${got.padEnd(widths[1])}  ${budget.padEnd(widths[2])}  ${met}`);
line("what", "got", "budget", "");
for (const { what, got, budget, met } of rows) line(what, got, budget, met ? "met" : "MISSED");

/** A stick that moves from side to side and never jumps: -1 .. 1. */
function sway(n) {
  const at = n % 800;
  return (at < 400 ? at : 800 - at) / 200 - 1;
}

/** The three kinds of step, with the readings that a game reads. */
function layerRuns(input) {
  const kept = new Float64Array(2);
  const read = ({ swim, kick, tuck, surge }) =>
    swim.vx + swim.vy + (kick.on ? 1 : 0) + (tuck.turnedOn ? 1 : 0) + (surge.turnedOn ? 1 : 0);
  const key = { t: 0, control: "KeyW", value: 0 };
  const x = { t: 0, control: "PadLeftStickX", value: 0 };
  const y = { t: 0, control: "PadLeftStickY", value: 0 };
  return {
    idle(turns) {
      let [t, sum] = kept;
      for (let n = 0; n < turns; n++) {
        t += 4;
        sum += read(input.step(t));
      }
      kept.set([t, sum]);
    },
    key(turns) {
      let [t, sum] = kept;
      for (let n = 0; n < turns; n++) {
        t += KEY_MS;
        key.t = t - 1;
        key.value = (n & 1) ^ 1;
        key.control = KEYS[(n >> 1) % KEYS.length];
        input.feed(key);
        sum += read(input.step(t));
      }
      kept.set([t, sum]);
    },
    stick(turns) {
      let [t, sum] = kept;
      for (let n = 0; n < turns; n++) {
        t += 4;
        x.t = y.t = t - 1;
        x.value = sway(n * 7);
        y.value = sway(n * 3);
        input.feed(x);
        input.feed(y);
        sum += read(input.step(t));
      }
      kept.set([t, sum]);
    },
  };
}

function handRuns(hand) {
  const kept = new Float64Array(2);
  const read = (state) =>
    state.vx + state.vy + (state.kick ? 1 : 0) + (state.tuckChanged ? 1 : 0) + (state.surge ? 1 : 0);
  return {
    idle(turns) {
      let [t, sum] = kept;
      for (let n = 0; n < turns; n++) {
        t += 4;
        sum += read(hand.tick(t));
      }
      kept.set([t, sum]);
    },
    key(turns) {
      let [t, sum] = kept;
      for (let n = 0; n < turns; n++) {
        t += KEY_MS;
        const code = KEYS[(n >> 1) % KEYS.length];
        if ((n & 1) === 0) hand.keydown(code);
        else hand.keyup(code);
        sum += read(hand.tick(t));
      }
      kept.set([t, sum]);
    },
    stick(turns) {
      let [t, sum] = kept;
      for (let n = 0; n < turns; n++) {
        t += 4;
        hand.stickX = sway(n * 7);
        hand.stickY = sway(n * 3);
        sum += read(hand.tick(t));
      }
      kept.set([t, sum]);
    },
  };
}

function switchPlan(size) {
  const actions = {};
  for (let n = 0; n < size; n++)
    actions[`action${n}`] = { kind: "switch", from: { main: `Key${String.fromCharCode(65 + (n % 26))}` } };
  return { reacherPlan: 1, actions };
}

function idleRun(input) {
  const kept = new Float64Array(1);
  return (turns) => {
    let [t] = kept;
    for (let n = 0; n < turns; n++) input.step((t += 4));
    kept[0] = t;
  };
}

function snapshotRuns(input) {
  input.step(1);
  const kept = input.snapshot();
  const one = new Uint8Array(1);
  const other = new Uint8Array(1);
  return {
    both(turns) {
      for (let n = 0; n < turns; n++) {
        input.snapshot(kept);
        input.restore(kept);
      }
    },
    bare(turns) {
      for (let n = 0; n < turns; n++) {
        one.set(other);
        other.set(one);
      }
    },
  };
}

/** A server's crowd: each seat with a pad of its own. */
function crowdRuns(size) {
  const seats = Object.fromEntries(Array.from({ length: size }, (_, n) => [`s${n}`, { slots: ["pad"] }]));
  const input = createInputLayer({
    reacherPlan: 1,
    seats,
    actions: {
      swim: { ...plan.actions.swim, from: { pad: "PadLeftStick" } },
      kick: { kind: "switch", from: { pad: "PadSouth" } },
    },
  });
  for (let n = 0; n < size; n++) input.assignPad(`s${n}`, n);
  const event = { t: 0, control: "PadSouth", value: 0, pad: 0 };
  const kept = new Float64Array(1);
  const runs = {
    idle(turns) {
      for (let n = 0; n < turns; n++) input.step((kept[0] += 4));
    },
    busy(turns) {
      for (let n = 0; n < turns; n++) {
        kept[0] += 4;
        event.t = kept[0] - 1;
        event.value ^= 1;
        for (event.pad = 0; event.pad < size; event.pad += 10) input.feed(event);
        input.step(kept[0]);
      }
    },
  };
  runs.busy(300);
  return runs;
}

/** Many short runs: a busy machine spoils some of them. */
function milliseconds(run) {
  return median(
    Array.from({ length: 41 }, () => {
      const begin = performance.now();
      run();
      return performance.now() - begin;
    }),
  );
}

/** The dive again and again, each time later. */
function longTrace(text, events) {
  const { entries } = parseTrace(text);
  const end = entries.at(-1).t;
  const objects = [];
  for (let turn = 0; objects.length < events; turn++) {
    for (const entry of entries) if ("control" in entry) objects.push({ ...entry, t: entry.t + turn * end });
  }
  return {
    head: '{"reacherTrace":1}\n',
    objects,
    lines: objects.map((entry) => JSON.stringify(entry)).join("\n"),
  };
}

function rate(run, events) {
  run();
  const times = Array.from({ length: 3 }, () => {
    const begin = performance.now();
    run();
    return performance.now() - begin;
  });
  return (events * 1000) / median(times);
}

async function bundled(code) {
  const { outputFiles } = await build({
    stdin: { contents: code, resolveDir: "." },
    bundle: true,
    minify: true,
    format: "esm",
    target: "es2022",
    write: false,
  });
  return gzipSync(outputFiles[0].contents, { level: 9 }).length;
}

function timed(...args) {
  const begin = performance.now();
  spawnSync("node", args);
  return performance.now() - begin;
}
