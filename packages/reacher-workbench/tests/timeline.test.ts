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
import { differencesOf, differenceText, type Difference } from "../src/timeline/difference";
import { LongTimeline, type Answer, type Order } from "../src/timeline/longTimeline";
import { received, reusing, sent } from "../src/timeline/reuse";
import type { Timeline } from "../src/timeline/lanes";
import { isOnAt, movingAt, timelineOf } from "../src/timeline/timeline";
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

test("lanes, whole: what devices did, and what came of it", () => {
  const plan: Plan = {
    reacherPlan: 1,
    flags: { grounded: false },
    actions: {
      swim: {
        kind: "vector",
        from: { main: { left: "KeyA", right: "KeyD" }, pad: "PadLeftStick" },
        shape: { deadZone: { inner: 0, outer: 0 } },
        pace: { base: 2, rules: [{ when: "hop", set: 4 }] },
      },
      hop: {
        kind: "switch",
        from: { main: "Space", spare: { short: "KeyE", beforeMs: 80 } },
        bufferMs: 100,
        cooldownMs: 50,
        needs: "grounded",
      },
      haul: { kind: "switch", from: { main: { long: "KeyG", afterMs: 60 } }, repeat: { everyMs: 40 } },
    },
  };
  const key = (t: number, control: string, value: number, pad = 0) => ({ t, control, value, pad });
  const entries: TraceEntry[] = [
    key(100, "KeyD", 1),
    key(150, "Space", 1),
    { t: 170, flag: "grounded", value: true },
    key(200, "KeyD", 0),
    key(300, "PadLeftStickX", 0.5, 1),
    key(320, "PadLeftStickX", 0.7, 1),
    key(350, "KeyA", 1),
    key(360, "KeyG", 1),
    { t: 400, lost: "pad", pad: 1 },
    key(430, "KeyE", 1),
    key(440, "KeyE", 0),
    { t: 500, lost: "focus" },
    key(540, "KeyE", 1),
    key(550, "Space", 1),
    { t: 600, end: true },
  ];
  const progress: number[] = [];
  const { controls, actions, to } = timelineOf(plan, entries, (share) => progress.push(share));
  expect(to).toBe(600);
  expect(progress).toEqual(entries.map((_, n) => n / entries.length));
  const spans = (bars: readonly { from: number; to: number; endedBy?: string }[]) =>
    bars.map(({ from, to, endedBy }) => `${from}-${to}${endedBy === undefined ? "" : ` ${endedBy}`}`);
  const points = (line: readonly { at: number; value: number }[]) =>
    line.map(({ at, value }) => `${at}:${value}`);
  expect(
    controls.map(({ key, bars, line }) => `${key} ${spans(bars).join(" ")} | ${points(line).join(" ")}`),
  ).toEqual([
    "KeyD 0 100-200 | 100:1 200:0 500:0",
    "Space 0 150-500 550-600 | 150:1 500:0 550:1",
    "PadLeftStickX 1 300-400 | 300:0.5 320:0.7 400:0 500:0",
    "KeyA 0 350-500 | 350:1 500:0",
    "KeyG 0 360-500 | 360:1 500:0",
    "KeyE 0 430-440 540-600 | 430:1 440:0 500:0 540:1",
  ]);
  const [swim, hop, haul] = actions;
  const open = (windows: readonly { from: number; to: number; kind: string; place: string }[]) =>
    windows.map(({ from, to, kind, place }) => `${from}-${to} ${kind} ${place}`);
  expect(spans(swim!.bars)).toEqual(["100-200", "300-500"]);
  expect(swim!.moving.map(({ at, x, y, pace }) => `${at} ${x},${y} ${pace}`)).toEqual([
    "100 1,0 2",
    "183.333333 1,0 4",
    "200 0,0 4",
    "300 0.5,0 4",
    "333.333333 0.7,0 4",
    "350 -1,0 4",
    "500 0,0 2",
    "550 0,0 4",
  ]);
  expect(spans(hop!.bars)).toEqual(["170-500 lost", "550-600"]);
  expect(open(hop!.windows)).toEqual([
    "170-220 cooldown actions.hop.cooldownMs",
    "550-600 cooldown actions.hop.cooldownMs",
    "150-250 kept actions.hop.bufferMs",
    "430-440 short actions.hop.from.spare.beforeMs",
    "430-530 kept actions.hop.bufferMs",
    "540-600 short actions.hop.from.spare.beforeMs",
    "540-640 kept actions.hop.bufferMs",
    "550-650 kept actions.hop.bufferMs",
  ]);
  expect(spans(haul!.bars)).toEqual(["420-500 lost"]);
  expect(haul!.marks.map(({ at, kind }) => `${at} ${kind}`)).toEqual(["420 pulse", "460 pulse", "500 pulse"]);
  expect(open(haul!.windows)).toEqual(["360-420 long actions.haul.from.main.afterMs"]);
  expect([99, 100, 199, 200].map((t) => isOnAt(swim!.bars, t))).toEqual([false, true, true, false]);
  expect([50, 100, 199, 350].map((t) => movingAt(swim!, t)?.x)).toEqual([undefined, 1, 1, -1]);
  // Nothing that a slider leaves as it was is made again.
  const was = timelineOf(plan, entries);
  const now = timelineOf({ ...plan }, entries, undefined, was);
  expect(now.actions[0]!.moving).toBe(was.actions[0]!.moving);
  const slower = { ...plan.actions["swim"]!, pace: { base: 1, rules: [{ when: "hop", set: 4 }] } } as never;
  const other = timelineOf({ ...plan, actions: { ...plan.actions, swim: slower } }, entries, undefined, was);
  expect(other.actions[0]!.moving.map(({ pace }) => pace)).toEqual([1, 4, 4, 4, 4, 4, 1, 4]);
  const gaits = { ...plan.actions["swim"]!, gaits: { race: 0.6 } } as never;
  const named = timelineOf({ ...plan, actions: { ...plan.actions, swim: gaits } }, entries, undefined, was);
  expect(named.actions[0]!.moving.map(({ gait }) => gait)).toEqual([
    "race",
    "race",
    null,
    null,
    "race",
    "race",
    null,
    null,
  ]);
});

test("a difference that cannot be felt is none; taps in steering are told from others", () => {
  const lane = (kind: string, more: object) => ({
    key: "solo kick",
    seat: "solo",
    action: "kick",
    kind,
    bars: [],
    marks: [],
    moving: [],
    reasons: [],
    windows: [],
    ...more,
  });
  const pressed = (ms: number) => [
    {
      bars: [
        { from: 0, to: ms },
        { from: 300, to: 350 },
      ],
      line: [],
    },
  ];
  const differ = (kind: string, was: object, now: object, controls: unknown = []) => {
    const timeline = (more: object) =>
      ({ to: 1000, controls, skipped: [], actions: [lane(kind, more)] }) as unknown as Timeline;
    return differenceText(differencesOf(timeline(was), timeline(now)), false);
  };
  const none = "No difference in what is shown";
  const bar = (to: number) => ({ bars: [{ from: 0, to }] });
  expect(differ("switch", bar(100), bar(101))).toBe("kick 1 ms longer");
  expect(differ("switch", bar(100), bar(100.9))).toBe(none);
  const move = (at: number) => ({ moving: [{ at, x: 1, y: 0, pace: 1, gait: null }] });
  expect(differ("vector", move(1000), move(990))).toBe("kick goes 0.01 further");
  expect(differ("vector", move(1000), move(991))).toBe(none);
  expect(differ("turn", move(1000), move(900))).toBe(none);
  const marks = (kind: string) => ({ marks: [{ at: 5, kind }] });
  expect(differ("switch", {}, marks("pulse"))).toBe("1 more pulse of kick");
  expect(differ("switch", {}, marks("grant"))).toBe(none);
  const taps = { windows: [{ kind: "taps", from: 300 }], bars: [{ from: 300, to: 300 }] };
  expect(differ("switch", {}, taps, pressed(200))).toBe("1 more kick");
  expect(differ("switch", {}, taps, pressed(201))).toBe("1 more kick, 1 by plain movement");
});

test.each<[Partial<Difference>, string]>([
  [{ begun: 1 }, "1 more kick"],
  [{ begun: -2, onMs: -500 }, "2 fewer kick"],
  [{ begun: 3, byPlainMovement: 1 }, "3 more kick, 1 by plain movement"],
  [{ pulses: 1 }, "1 more pulse of kick"],
  [{ pulses: -2 }, "2 fewer pulses of kick"],
  [{ onMs: 1 }, "kick 1 ms longer"],
  [{ onMs: -99 }, "kick 99 ms shorter"],
  [{ onMs: 100 }, "kick 0.1 s longer"],
  [{ path: 0.01 }, "kick goes 0.01 further"],
  [{ path: -1.5 }, "kick goes 1.50 less far"],
])("a difference in words: %j: %s", (difference, text) => {
  const none = { action: "kick", seat: "amber", begun: 0, byPlainMovement: 0, pulses: 0, onMs: 0, path: 0 };
  expect(differenceText([{ ...none, ...difference }], false)).toBe(text);
  expect(differenceText([{ ...none, ...difference }], true)).toBe(text.replace("kick", "amber kick"));
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
