/** Budgets, each as a ratio, a count or a time in this one run. `npm run bench`. It ends with 1 where one is missed by more than a tenth. */
import { spawnSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { applyOverrides, createInputLayer } from "reacher";
import { parseTrace, replay, startReplay } from "reacher/trace";
import { compare, Least, race } from "./measure.mjs";
import { measurePage } from "./page.mjs";
import { crowdRuns, longTrace, snapshotRuns, switchPlan } from "./runs.mjs";
import { sizes } from "./sizes.mjs";

const rows = [];
/** `got` in the budget's own unit; `isLeast`: it is to be reached, not to be kept under. */
const row = (what, got, budget, { digits = 2, unit = "", note = "", isLeast = false } = {}) => {
  const excess = isLeast ? budget / got : got / budget;
  const isMet = budget === 0 ? got < 1 : excess <= 1;
  const bound = budget === 0 ? "0" : `${isLeast ? ">=" : "<="} ${budget}`;
  rows.push({
    what,
    got: `${got.toFixed(digits)}${unit}${note && ` (${note})`}`,
    budget: `${bound}${unit}`,
    verdict: isMet ? "met" : excess <= 1.1 && budget > 0 ? "near" : "MISSED",
  });
};
const example = (path) => readFileSync(new URL(`../examples/kelpline/${path}`, import.meta.url), "utf8");
const kelpline = JSON.parse(example("plan/kelpline.plan.json"));
const progress = (text) => process.stderr.write(`${text} ...\n`);

progress("steps");
for (const [kind, what, budget, ofMade] of [
  ["idle", "an idle step, readings read", 0.4, 0.4],
  ["key", "a step with one key event", 1.3, 0.7],
  ["stick", "a step with a moving stick", 1.7, 1.5],
]) {
  const all = await race(["ours", "made", "plain", "bits"], kind, 100_000);
  const note = `${all.ns("ours").toFixed(0)} ns, by hand ${all.ns("plain").toFixed(0)}, for speed alone ${all.ns("bits").toFixed(0)}`;
  row(what, all.ratio("ours", "plain"), budget, { unit: " of plain", note });
  row(`${what}, made for its plan`, all.ratio("made", "plain"), ofMade, {
    unit: " of plain",
    note: `${all.ns("made").toFixed(0)} ns`,
  });
}
for (const [kind, what, budget, ofMade] of [
  ["key", "the whole demo plan, a key event", 1.7, 1],
  ["stick", "the whole demo plan, a moving stick", 2.8, 2.2],
]) {
  const all = await race(["whole", "wholeMade", "plain"], kind, 100_000);
  const told = (name) => ({ unit: " of plain", note: `${all.ns(name).toFixed(0)} ns` });
  row(what, all.ratio("whole", "plain"), budget, told("whole"));
  row(`${what}, made for its plan`, all.ratio("wholeMade", "plain"), ofMade, told("wholeMade"));
}

// Times that stand for themselves are taken again and again in between, at moments far apart.
progress("crowds, snapshots, replays");
const small = crowdRuns(10_000);
const large = crowdRuns(100_000);
const whole = crowdRuns(10_000, true);
const twenty = createInputLayer(switchPlan(20));
const copies = snapshotRuns(twenty);
const { head, objects, lines } = longTrace(example("dives/pad-drift.trace.jsonl"), 100_000);
const silent = () => {
  const running = startReplay(kelpline, { rows: false }, () => {});
  for (const entry of objects) running.push(entry);
  running.finish();
};
const node = (...args) => spawnSync("node", args);
const times = {
  idle: new Least(() => small.idle(100), 100, 11),
  busy: new Least(() => small.busy(10), 10, 41),
  whole: new Least(() => whole.busy(10), 10, 41),
  crowd: new Least(() => large.busy(5), 5, 11),
  silent: new Least(silent, objects.length, 3),
  rows: new Least(() => replay(kelpline, objects), objects.length, 3),
  lines: new Least(() => replay(kelpline, parseTrace(head + lines).entries), objects.length, 3),
  check: new Least(
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
const bytes = Number(
  spawnSync(process.execPath, ["--expose-gc", "bench/allocation.mjs"], { encoding: "utf8" }).stdout,
);
measureAll();
const copied = compare({ ours: copies.ours, bare: copies.bare }, 100_000);
measureAll();
const linear = (size) => {
  const big = switchPlan(size);
  const controls = Object.fromEntries(Object.keys(big.actions).map((name) => [`${name}.main`, "F1"]));
  return new Least(() => applyOverrides({ ...big }, { reacherOverrides: 1, controls }), 1, 5);
};
const changes = [linear(200), linear(2000)];
for (const one of [...changes, ...changes]) one.measure();
progress("a page");
const page = await measurePage(process.env["CHROMIUM"]);
measureAll();

row("memory allocated by a step", bytes, 0, { digits: 3, unit: " bytes" });
row("memory allocated by a frame in a page, a pad moving", page.bytes, 100, { digits: 0, unit: " bytes" });
row("in a page, a key event from listener to reading", page.ratio, 1.6, { unit: " of plain" });
row("snapshot and restore of 20 switches", copied.ratio("ours", "bare"), 1.1, {
  unit: " of two bare copies",
  note: `${copied.ns("ours").toFixed(0)} ns`,
});
const each = (snapshotBytes(200) - snapshotBytes(100)) / 100;
row("a plain switch in a snapshot", each, 56, { digits: 0, unit: " bytes" });
row("the demo's seat in a snapshot", seatBytes(kelpline), 4500, { digits: 0, unit: " bytes" });
row("10,000 players stepped, idle", times.idle.least, 0.05, { digits: 4, unit: " ms" });
row("10,000 players, an event on a tenth of them, fed and stepped", times.busy.least, 0.4, { unit: " ms" });
row("the same with the game of the steps above", times.whole.least, 1, { unit: " ms" });
const crowds = times.crowd.least / 10_000 / (times.busy.least / 1000);
row("an event of 100,000 players against one of 10,000", crowds, 1.5, { unit: " times" });
for (const [what, { least }, budget] of [
  ["replay, without rows", times.silent, 4],
  ["replay, with rows", times.rows, 2.5],
  ["replay, from JSON Lines", times.lines, 0.9],
])
  row(what, 1e-3 / least, budget, { unit: " million events a second", isLeast: true });
row("a cold reacher check, Node taken off", times.check.least - times.node.least, 50, {
  digits: 0,
  unit: " ms",
});
row("2,000 changed keys against 200", changes[1].least / changes[0].least, 12, { digits: 1, unit: " times" });
/** What has a budget; the other sizes are only held by a test. */
const BUDGETS = {
  "the whole language with its compiler, without plan reading": 36,
  "a starter, with the browser layer": 52,
  "a game with players' own keys": 58,
  "the starter as built by default": 16,
  "the same without touch": 13,
  "Kelpline's input: first part": 34,
  "Kelpline's input: the rest, with a screen of keys": 45,
  "what the panel adds to a starter": 8,
};
for (const [what, { gzipped }] of Object.entries(await sizes()))
  if (BUDGETS[what] !== undefined) row(what, gzipped / 1000, BUDGETS[what], { digits: 1, unit: " kB" });

function seatBytes(plan) {
  const input = createInputLayer(plan);
  return input.seat(input.seats[0]).snapshot().length;
}

function snapshotBytes(size) {
  return createInputLayer(switchPlan(size)).snapshot().length;
}

const widths = ["what", "got", "budget"].map((key) => Math.max(...rows.map((one) => one[key].length)));
for (const { what, got, budget, verdict } of rows)
  console.log(`${what.padEnd(widths[0])}  ${got.padEnd(widths[1])}  ${budget.padEnd(widths[2])}  ${verdict}`);
console.log(
  "\nRatios: medians of process time, by turns. Times: the least of medians taken at moments far apart.",
);
process.exitCode = rows.some(({ verdict }) => verdict === "MISSED") ? 1 : 0;
