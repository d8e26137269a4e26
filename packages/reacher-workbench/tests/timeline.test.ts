/** What the workbench works out, apart from its page. */
import { readFileSync } from "node:fs";
import { join } from "node:path";
import * as fc from "fast-check";
import type { Plan } from "reacher";
import { planNumbers } from "reacher/check";
import { parseTrace, replay, type TraceEntry } from "reacher/trace";
import { AXES, KEYS, plans } from "../../reacher/tests/randomPlans";
import { RawLog } from "../src/input/rawLog";
import { decidingNumber } from "../src/plan/deciding";
import { readText, withValue } from "../src/plan/planText";
import { differencesOf, differenceText } from "../src/timeline/difference";
import { LongTimeline, type Answer, type Order } from "../src/timeline/longTimeline";
import { received, reusing, sent } from "../src/timeline/reuse";
import { timelineOf, type Timeline } from "../src/timeline/timeline";
import { runs } from "../../reacher/tests/runs";

const examples = join(__dirname, "../../../examples");
const read = (file: string) => readFileSync(join(examples, file), "utf8");
const PAIRS = [
  ["kelpline/plan/kelpline.plan.json", "kelpline/dives/night-round.trace.jsonl"],
  ["kelpline/plan/kelpline.plan.json", "kelpline/dives/pad-drift.trace.jsonl"],
  ...["platformer", "shooter", "first-person", "two-players"].map((name) => [
    `plans/${name}.plan.json`,
    `plans/${name}.trace.jsonl`,
  ]),
] as [string, string][];

/** What a replay's rows say, in the timeline's own form. */
function rowsOf(timeline: Timeline) {
  return timeline.actions.flatMap(({ seat, action, kind, bars, marks, moving }) =>
    [
      ...(kind === "switch"
        ? bars.flatMap(({ from, to }) => [
            `${seat} ${action} on ${from}`,
            to < timeline.to ? `${seat} ${action} off ${to}` : [],
          ])
        : moving.map(({ at, x, y }) => `${seat} ${action} ${x},${y} ${at}`)),
      ...marks.map(({ at, kind: mark }) => `${seat} ${action} ${mark} ${at}`),
    ].flat(),
  );
}
function rowsOfReplay(plan: Plan, entries: readonly TraceEntry[], to: number) {
  return replay(plan, entries).flatMap((row) => {
    const who = `${row.seat} ${"action" in row ? row.action : ""}`;
    if ("on" in row) return row.on || row.at < to ? `${who} ${row.on ? "on" : "off"} ${row.at}` : [];
    if ("pulse" in row || "grant" in row) return `${who} ${"pulse" in row ? "pulse" : "grant"} ${row.at}`;
    if ("now" in row) return [];
    const [x, y] = "dx" in row ? [row.dx, row.dy] : "value" in row ? [row.value, 0] : [row.x, row.y];
    return `${who} ${x},${y} ${row.at}`;
  });
}

test("what would have been is what a replay of the changed plan gives, for any number of any example", () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...PAIRS),
      fc.nat(),
      fc.double({ min: 0, max: 1, noNaN: true }),
      ([plan, trace], nth, share) => {
        const text = read(plan);
        const numbers = planNumbers(JSON.parse(text));
        const number = numbers[nth % numbers.length]!;
        const steps = Math.round((share * (number.most - number.least)) / number.step);
        const value = Number((number.least + steps * number.step).toPrecision(12));
        const changed = readText(withValue(text, number.path, value));
        // Not every value makes a plan that can run: a gait that begins at 0, say.
        if (changed.plan === undefined) return;
        const { entries } = parseTrace(read(trace));
        // With the timeline before it at hand, as while a slider moves.
        const before = timelineOf(JSON.parse(text) as Plan, entries);
        const timeline = timelineOf(changed.plan, entries, undefined, before);
        const again = JSON.parse(withValue(text, number.path, value)) as Plan;
        expect(rowsOf(timeline).sort()).toEqual(rowsOfReplay(again, entries, timeline.to).sort());
      },
    ),
    runs(15),
  );
});

const pressed = fc
  .array(
    fc.record({
      t: fc.integer({ min: 0, max: 300 }).map((n) => n * 5),
      control: fc.constantFrom(...KEYS, ...AXES),
      value: fc.constantFrom(0, 1, 0.4, -1),
    }),
    { maxLength: 40 },
  )
  .map((list) => [
    ...list
      .sort((one, other) => one.t - other.t)
      .map(({ t, control, value }) => ({
        t,
        control,
        value: KEYS.includes(control) ? Math.abs(Math.round(value)) : value,
        pad: 0,
      })),
    { t: 2000, end: true as const },
  ]);

test("and for any number of any plan", () => {
  fc.assert(
    fc.property(
      plans,
      pressed,
      fc.nat(),
      fc.double({ min: 0, max: 1, noNaN: true }),
      (plan, entries, nth, share) => {
        const text = JSON.stringify(plan);
        const numbers = planNumbers(JSON.parse(text));
        const number = numbers[nth % numbers.length]!;
        const value =
          number.least + Math.round((share * (number.most - number.least)) / number.step) * number.step;
        const changed = withValue(text, number.path, value);
        const read = readText(changed);
        if (read.plan === undefined) return;
        const timeline = timelineOf(read.plan, entries, undefined, timelineOf(plan, entries));
        expect(rowsOf(timeline).sort()).toEqual(
          rowsOfReplay(JSON.parse(changed) as Plan, entries, timeline.to).sort(),
        );
      },
    ),
    runs(20),
  );
});

test("a number is changed where it stands, and nothing else of the text", () => {
  for (const [file] of PAIRS) {
    const text = read(file);
    for (const { path, isWritten, value, place } of planNumbers(JSON.parse(text))) {
      const changed = withValue(text, path, value + 1);
      expect(planNumbers(JSON.parse(changed)).find((one) => one.place === place)!.value).toBe(value + 1);
      if (!isWritten) continue;
      const lines = changed.split("\n");
      expect(text.split("\n").filter((line, n) => line !== lines[n])).toHaveLength(1);
    }
  }
});

test("a press that came too late names its number, and a longer window catches it", () => {
  const plan: Plan = {
    reacherPlan: 1,
    actions: {
      swim: {
        kind: "vector",
        from: { main: { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyD" } },
        pace: { base: 2 },
      },
      surge: { kind: "switch", from: { main: { taps: 2, of: "swim.each", gapMs: 200 } } },
    },
  };
  const press = (t: number, ms = 60) => [
    { t, control: "KeyD", value: 1, pad: 0 },
    { t: t + ms, control: "KeyD", value: 0, pad: 0 },
  ];
  const entries = [
    ...press(100),
    ...press(330),
    ...press(1000, 300),
    ...press(1350),
    { t: 2000, end: true as const },
  ];
  const was = timelineOf(plan, entries);
  const surge = was.actions.find(({ action }) => action === "surge")!;
  const late = surge.reasons.filter(({ rule }) => rule === "too-late");
  expect(late.map(({ at, text }) => [at, text])).toEqual([
    [330, expect.stringContaining("30 ms too late for 200")],
    [1000, expect.stringContaining("470 ms too late for 200")],
    [1350, expect.stringContaining("150 ms too late for 200")],
  ]);
  const number = decidingNumber(late[0]!, planNumbers(plan))!;
  expect(number).toMatchObject({
    place: "actions.surge.from.main.gapMs",
    value: 200,
    sane: { least: 160, most: 400 },
  });
  expect(
    was.actions.find(({ key }) => key === "solo surge")!.windows.map(({ from, to }) => [from, to]),
  ).toEqual([
    [100, 300],
    [330, 530],
    [1000, 1200],
    [1350, 1550],
  ]);
  const now = timelineOf(readText(withValue(JSON.stringify(plan), number.path, 350)).plan!, entries);
  expect(differenceText(differencesOf(was, now), false)).toBe("2 more surge, 1 by plain movement");
  expect(differenceText(differencesOf(was, was), false)).toBe("No difference in what is shown");
});

test("a stretch of the raw log begins with what was held and told before, and forgets what is long past", () => {
  const log = new RawLog();
  log.add({ t: 0, enter: "menu" });
  log.add({ t: 10, control: "KeyW", value: 1, pad: 0 });
  log.add({ t: 20, control: "KeyD", value: 1, pad: 0 });
  log.add({ t: 30, control: "KeyD", value: 0, pad: 0 });
  log.add({ t: 1000, control: "KeyA", value: 1, pad: 0 });
  // Stamped before what came first: it counts then, as the layer handles it.
  log.add({ t: 900, control: "KeyS", value: 1, pad: 0 });
  expect(log.stretch(500, 1500)).toEqual([
    { t: 0, enter: "menu" },
    { t: 0, control: "KeyW", value: 1, pad: 0 },
    { t: 500, control: "KeyA", value: 1, pad: 0 },
    { t: 500, control: "KeyS", value: 1, pad: 0, after: true },
    { t: 1000, end: true },
  ]);
  for (let t = 2000; t < 3_600_000; t += 1000)
    log.add({ t, control: "Space", value: (t / 1000) % 2, pad: 0 });
  expect(log.from).toBeGreaterThan(3_600_000 - 662_000);
  expect(log.stretch(3_599_000, 3_600_000).slice(0, 2)).toEqual([
    { t: 0, enter: "menu" },
    { t: 0, control: "KeyW", value: 1, pad: 0 },
  ]);
  log.add({ t: 3_600_000, lost: "focus" });
  expect(log.stretch(3_600_001, 3_600_002)).toEqual([
    { t: 0, enter: "menu" },
    { t: 1, end: true },
  ]);
});

test("what is wrong is placed in the text", () => {
  const text =
    '{\n  "reacherPlan": 1,\n  "actions": {\n    "kick": { "kind": "switch", "from": { "main": "LeftShift" } }\n  }\n}\n';
  const [found] = readText(text).findings;
  expect(found).toMatchObject({ severity: "error", line: 4, place: "actions.kick.from.main" });
  expect(text.slice(found!.from, found!.to)).toBe('"LeftShift"');
  expect(readText('{ "reacherPlan": 1,').findings[0]).toMatchObject({ severity: "error", line: 1 });
  expect(readText("").plan).toBeUndefined();
});

test("what the worker sends is what is other, and comes to the whole", () => {
  for (const [file, trace] of PAIRS) {
    const plan = JSON.parse(read(file)) as Plan;
    const { entries } = parseTrace(read(trace));
    const whole = timelineOf(plan, entries);
    // The same again sends nothing; another plan sends the lanes that it changed, and nothing is lost on the way.
    const again = reusing(whole, timelineOf({ ...plan }, entries));
    expect(sent(whole, again)).toMatchObject({ controls: null, actions: whole.actions.map(() => null) });
    const other = reusing(whole, timelineOf({ ...plan, bounceMs: 80 }, entries));
    const message = JSON.parse(JSON.stringify(sent(whole, other)));
    expect(JSON.parse(JSON.stringify(received(whole, message)))).toEqual(JSON.parse(JSON.stringify(other)));
  }
});

test("while a slider moves, results of older orders are told until the newest's; none after they are dropped", () => {
  const worker = { orders: [] as Order[], onmessage: (_: { data: Answer }) => {} };
  const postMessage = (order: Order) => worker.orders.push(order);
  Object.assign(globalThis, {
    Worker: function () {
      return Object.assign(worker, { postMessage });
    },
  });
  const plan = JSON.parse(read(PAIRS[0]![0])) as Plan;
  const { entries } = parseTrace(read(PAIRS[0]![1]));
  const made = timelineOf(plan, entries);
  const long = new LongTimeline();
  const told: string[] = [];
  const ask = (name: string, of = entries) =>
    long.work([plan], of, { progress: () => told.push(`${name} goes on`), done: () => told.push(name) });
  let last: Timeline | undefined;
  const answer = (n: number) => {
    worker.onmessage({ data: { number: worker.orders[n]!.number, timelines: [sent(last, made)] } });
    last = made;
  };
  ask("first");
  ask("second");
  ask("third");
  expect(worker.orders.map((order) => order.entries === entries)).toEqual([true, false, false]);
  answer(0);
  worker.onmessage({ data: { number: worker.orders[2]!.number, share: 0.5 } });
  answer(2);
  // The worker leaves out what is no longer the newest when its turn comes.
  answer(1);
  expect(told).toEqual(["first", "third goes on", "third"]);
  ask("fourth");
  long.forget();
  answer(3);
  ask("of other input", [...entries]);
  answer(3);
  expect(told).toHaveLength(3);
  answer(4);
  expect(told.at(-1)).toBe("of other input");
});
