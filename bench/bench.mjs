/** Budgets, each as a ratio or a count in this one run. `npm run bench`. */
import { spawnSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { gzipSync } from "node:zlib";
import { build } from "esbuild";
import { createInputLayer, readPlan } from "reacher";
import { explainLayer, parseTrace, replay } from "reacher/trace";
import { HandWritten } from "./handWritten.mjs";
import { allocated, compare, Least } from "./measure.mjs";
import {
  crowdRuns,
  handCrowd,
  handRuns,
  idleRun,
  layerRuns,
  longTrace,
  plan,
  snapshotRuns,
  switchPlan,
} from "./runs.mjs";

const rows = [];
const row = (what, got, budget, met) => rows.push({ what, got, budget, met });
const ratio = (value) => `${value.toFixed(2)} of the hand-written tick`;
const example = (path) => readFileSync(new URL(`../examples/kelpline/${path}`, import.meta.url), "utf8");

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

const kelplinePlan = JSON.parse(example("plan/kelpline.plan.json"));
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

// Times that stand for themselves are taken again and again in between, at moments far apart.
const crowd = crowdRuns(10_000);
const byHand = handCrowd(10_000);
const twenty = createInputLayer(switchPlan(20));
const copies = snapshotRuns(twenty);
const { plan: kelpline } = readPlan(kelplinePlan);
const { head, objects, lines } = longTrace(example("dives/pad-drift.trace.jsonl"), 100_000);
const times = {
  idle: new Least(() => crowd.idle(100), 100, 11),
  busy: new Least(() => crowd.busy(10), 10, 41),
  byHand: new Least(() => byHand(10), 10, 5),
  copied: new Least(() => copies.both(100_000), 100_000, 5),
  bare: new Least(() => copies.bare(100_000), 100_000, 5),
  objects: new Least(() => replay(kelpline, objects, { hz: 60 }), objects.length, 3),
  lines: new Least(() => replay(kelpline, parseTrace(head + lines).entries, { hz: 60 }), objects.length, 3),
  cold: new Least(
    () => node("packages/reacher-cli/bin/reacher.cjs", "check", "examples/kelpline/plan/kelpline.plan.json"),
    1,
    5,
  ),
  node: new Least(() => node("-e", "0"), 1, 5),
};
const measureAll = () => {
  for (const one of Object.values(times)) one.measure();
};

measureAll();
const bytes = Math.max(...["idle", "key", "stick"].map((kind) => allocated(ours[kind], 1_000_000)));
measureAll();
const seatsAllocated = Math.max(allocated(crowd.idle, 2000), allocated(crowd.busy, 50) / 1000);
measureAll();
const small = createInputLayer(switchPlan(10));
const large = createInputLayer(switchPlan(1000));
const idle = compare({ large: idleRun(large), small: idleRun(small) }, 1_000_000);
measureAll();
const core = await bundled(`export { createCheckedLayer } from "./packages/reacher/dist/engine/layer.js"`);
const game = await bundled(
  `export { createInputLayer } from "reacher"; export { attachBrowser } from "reacher/browser"`,
);
measureAll();

const { ms } = Least;
row("10,000 seats stepped, idle", `${ms(times.idle, 4)} ms`, "<= 0.05 ms", times.idle.least <= 0.05);
row(
  "10,000 seats, an event on a tenth of them",
  `${ms(times.busy, 2)} ms (hand-written: ${ms(times.byHand, 2)} ms)`,
  "<= 0.4 ms",
  times.busy.least <= 0.4,
);
row(
  "memory allocated by these, for each event",
  `${seatsAllocated.toFixed(3)} bytes`,
  "< 1 byte",
  seatsAllocated < 1,
);
row("memory allocated by a step", `${bytes.toFixed(3)} bytes`, "< 1 byte", bytes < 1);
row(
  "an idle step with 1,000 actions against 10",
  `${idle.large.ratio.toFixed(2)} of the time`,
  "<= 1.1",
  idle.large.ratio <= 1.1,
);
const copied = times.copied.least * 1e6;
row(
  `snapshot and restore, 20 actions (${twenty.snapshot().length} bytes)`,
  `${copied.toFixed(0)} ns (two bare copies of 1 byte: ${(times.bare.least * 1e6).toFixed(0)} ns)`,
  "<= 100 ns",
  copied <= 100,
);
for (const [what, { least }, budget] of [
  ["replay, events as objects", times.objects, 4],
  ["replay, from JSON Lines", times.lines, 0.8],
]) {
  const rate = 1e-3 / least;
  row(what, `${rate.toFixed(2)} million a second`, `>= ${budget} million`, rate >= budget);
}
row(
  "the core, minified and gzipped, without plan validation",
  `${(core / 1000).toFixed(2)} kB`,
  "<= 9 kB",
  core <= 9000,
);
row("all that a browser game needs", `${(game / 1000).toFixed(2)} kB`, "<= 16 kB", game <= 16_000);
row(
  "a cold reacher check",
  `${ms(times.cold, 0)} ms (Node alone: ${ms(times.node, 0)} ms)`,
  "<= 200 ms",
  times.cold.least <= 200,
);

const widths = ["what", "got", "budget"].map((key) =>
  Math.max(key.length, ...rows.map((one) => one[key].length)),
);
const line = (what, got, budget, met) =>
  console.log(`${what.padEnd(widths[0])}  ${got.padEnd(widths[1])}  ${budget.padEnd(widths[2])}  ${met}`);
line("what", "got", "budget", "");
for (const { what, got, budget, met } of rows) line(what, got, budget, met ? "met" : "MISSED");
console.log(
  "\nRatios: medians of turns taken by turns. Times: the least of medians taken at moments far apart.",
);

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

function node(...args) {
  spawnSync("node", args);
}
