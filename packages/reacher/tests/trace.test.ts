import * as fc from "fast-check";
import { createInputLayer, type InputLayer, type Plan } from "reacher";
import { play } from "reacher/testing";
import {
  packEvents,
  parseTrace,
  record,
  replay,
  startReplay,
  TraceError,
  TraceReader,
  unpackEvents,
  type ReplayRow,
} from "reacher/trace";
import { dive, kelpline, WASD } from "./plans";
import { runs } from "./runs";

const HEAD = '{"reacherTrace":1}\n';

test("rows of a replay: exact moments for switches, steps for movement, differences from rest at 0", () => {
  const { entries } = parseTrace(
    HEAD +
      [
        '{"t":101.5,"control":"KeyW","value":1}',
        '{"t":101.5,"control":"KeyD","value":1}',
        '{"t":120.25,"control":"ShiftLeft","value":1}',
        '{"t":140,"control":"ShiftLeft","value":0}',
        '{"t":150,"control":"KeyQ","value":1}',
        '{"t":160,"lost":"focus"}',
        '{"t":170,"end":true}',
      ].join("\n"),
  );
  const rows = replay(kelpline(), entries, { hz: 100 });
  expect(rows).toEqual([
    { at: 0, seat: "solo", action: "lamp", on: true },
    {
      at: 110,
      seat: "solo",
      action: "swim",
      x: 0.707107,
      y: 0.707107,
      gait: "race",
      facing: [0.707107, 0.707107],
    },
    { at: 120.25, seat: "solo", action: "kick", on: true },
    // The pace is eased: a row a step, as long as it changes.
    { at: 130, seat: "solo", action: "swim", x: 0.707107, y: 0.707107, pace: 2.53 },
    { at: 140, seat: "solo", action: "kick", on: false },
    { at: 140, seat: "solo", action: "swim", x: 0.707107, y: 0.707107, pace: 2.663333 },
    { at: 150, seat: "solo", action: "swim", x: 0.707107, y: 0.707107, pace: 2.648704 },
    { at: 150, seat: "solo", action: "depth", value: -1, facing: -1 },
    { at: 160, seat: "solo", action: "swim", x: 0, y: 0, gait: null, pace: 2.634074 },
    { at: 160, seat: "solo", action: "depth", value: 0 },
    { at: 170, seat: "solo", action: "swim", x: 0, y: 0, pace: 2.619444 },
  ]);
});

test("what is turned is told whole: in whole readings and in rows, also where the game stepped between", () => {
  const plan = {
    reacherPlan: 1,
    actions: { look: { kind: "turn", from: { main: { use: "MouseMove", perPixel: 1 } } } },
  } as unknown as Plan;
  const move = (t: number) => `{"t":${t},"control":"MouseMoveX","value":2}\n`;
  const { entries } = parseTrace(
    `${HEAD}${move(10)}${move(40)}{"t":45,"overrides":{"reacherOverrides":1}}\n${move(60)}${move(130)}{"t":200,"end":true}\n`,
  );
  const turned = replay(plan, entries, { every: 100 }).map((row) => "now" in row && row.now["look"]);
  expect(turned).toMatchObject([{ dx: 0 }, { dx: 6 }, { dx: 2 }]);
  const sum = replay(plan, entries).reduce((all, row) => all + ("dx" in row ? row.dx : 0), 0);
  expect(sum).toBe(8);
});

test("the whole reading at regular moments, numbers to six decimals", () => {
  const { entries } = parseTrace(
    HEAD +
      '{"t":60,"control":"KeyW","value":1}\n{"t":60,"control":"ShiftLeft","value":1}\n{"t":300,"end":true}\n',
  );
  const rows = replay(kelpline(), entries, { every: 100, hz: 60 });
  expect(rows.map(({ at }) => at)).toEqual([0, 100, 200, 300]);
  const { now } = rows[1] as Extract<ReplayRow, { now: unknown }>;
  expect(now).toMatchObject({
    swim: {
      x: 0,
      y: 1,
      length: 1,
      angle: 1.570796,
      facing: [0, 1],
      gait: "race",
      pace: 2.933333,
      vx: 0,
      vy: 2.933333,
    },
    kick: { on: true, onMs: 40, progress: 0 },
    depth: { value: 0 },
  });
});

test.each(["night-round", "pad-drift"])(
  "the dive %s changes its switches at the same moments at any rate",
  (name) => {
    const { entries } = parseTrace(dive(name));
    const switches = (hz: number) => replay(kelpline(), entries, { hz }).filter((row) => "on" in row);
    expect(switches(20)).toEqual(switches(1000));
    expect(switches(60).length).toBeGreaterThan(3);
  },
);

test.each([
  ["", "line 1: the trace is empty"],
  ["\n\n", "line 3: the trace is empty"],
  ['{"t":1}', 'line 1: a trace begins with { "reacherTrace": 1 }'],
  ['{"reacherTrace":2}', "line 1: reacherTrace 2 is not known; this version reads 1"],
  ['{"reacherPlan":1}', "line 1: this is a plan; a trace is expected here"],
  [HEAD + '{"t":5,"contr', "line 2: not JSON; is it cut short?"],
  [HEAD + "[1]", "line 2: [1] is no object"],
  [HEAD + "7", "line 2: 7 is no object"],
  [HEAD + '{"t":-1,"control":"KeyW","value":1}', "line 2: t is -1; it is a time in ms, at least 0"],
  [HEAD + '{"control":"KeyW","value":1}', "line 2: t is missing"],
  [HEAD + '{"t":9,"end":true}\n{"t":8,"end":true}', "line 3: t 8 comes after 9; a trace is in order of t"],
  [HEAD + '{"t":9,"control":"KeyW","value":"1"}', 'line 2: value is "1"; it is a number'],
  [HEAD + '{"t":9,"flag":"hasAir","value":1}', "line 2: value is 1; a flag is true or false"],
  [HEAD + '{"t":9,"flag":"hasAir","value":true,"linger":1}', "line 2: linger is 1; it is false, or missing"],
  [HEAD + '{"t":9,"setSwitch":"kick","value":1}', "line 2: value is 1; a switch is set to true or false"],
  [HEAD + '{"t":9,"number":"fast","value":"2"}', 'line 2: value is "2"; a number has a number, up to 1e9'],
  [HEAD + '{"t":9,"number":"fast","value":1000000001}', "a number has a number, up to 1e9"],
  [HEAD + '{"t":9,"overrides":{"reacherOverrides":2}}', "line 2: overrides: "],
  [HEAD + '{"t":9,"drive":"swim","value":[1],"reason":"x"}', "line 2: value is [1]; a drive is true"],
  [HEAD + '{"t":9,"openSeats":[]}', "line 2: openSeats is []; it is a list of seats"],
  [HEAD + '{"t":9,"lost":7}', 'line 2: lost is 7; it is "focus", "pad" or the device of own controls'],
  [HEAD + '{"t":9,"what":1}', "line 2: says neither control, flag"],
])("%j is refused", (text, message) => {
  expect(() => parseTrace(text)).toThrow(TraceError);
  expect(() => parseTrace(text)).toThrow(message);
});

/** What one line after the head comes to, or what is wrong with it. */
function readLine(line: string): unknown {
  const reader = new TraceReader();
  reader.read('{"reacherTrace":1}');
  try {
    return reader.read(line);
  } catch (error) {
    return (error as Error).message;
  }
}

test("a control's line is read as any JSON is, however its numbers and spaces are written", () => {
  const digits = fc.constantFrom(
    "0",
    "-0",
    "7",
    "120.5",
    "0.1",
    "-0.25",
    "33.333333333333336",
    "007",
    "1.",
    ".5",
  );
  const odd = fc.constantFrom("1e3", "1e-7", "1E2", "+1", "1e999", "-1e999", "-", "", "null", '"1"', "NaN");
  const number = fc.oneof(digits, odd, fc.double({ noNaN: true, noDefaultInfinity: true }).map(String));
  const name = fc.constantFrom(
    "KeyW",
    "PadLeftStickX",
    "PadButton17",
    "__proto__",
    "Key\\u0057",
    "Ta ste",
    "",
  );
  const gap = fc.constantFrom("", " ", "  ", "\t");
  const pad = fc.option(fc.oneof(fc.constantFrom("0", "3", "12", "01"), number));
  fc.assert(
    fc.property(number, name, number, pad, gap, gap, (t, control, value, pad, before, after) => {
      const fields = [`"t":${before}${t}`, `"control":${after}"${control}"`, `"value":${value}${before}`];
      if (pad !== null) fields.push(`"pad":${after}${pad}`);
      // One more field, and the line is read as JSON whatever else it is.
      const whole = (all: readonly string[]) => `{${before}${all.join(`,${after}`)}${after}}${before}`;
      const spelt = fields.map((field) => field.replace('"t"', '"\\u0074"'));
      expect(readLine(whole(fields))).toStrictEqual(readLine(whole(spelt)));
    }),
    runs(300),
  );
});

test("what is recorded replays to the same changes", () => {
  const input = createInputLayer(kelpline());
  const recorder = record(input);
  const live: string[] = [];
  input.watch({ changed: (t, action) => live.push(`${t} ${action}`) });
  const player = play(input, { hz: 144 }).wait(5).press("KeyW").wait(31.5).press("ShiftLeft").wait(100);
  player.step();
  input.setFlag("hasAir", false);
  player.tap("KeyC", 80).tilt("PadLeftStick", 0.4, -1).wait(50).loseFocus().wait(90).step();
  const { entries } = parseTrace(recorder.text());
  const again = createInputLayer(kelpline());
  const replayed: string[] = [];
  again.watch({ changed: (t, action) => replayed.push(`${t + 5} ${action}`) });
  const [first, ...rest] = live;
  again.step(0);
  for (const entry of entries) {
    if ("control" in entry) again.feed(entry);
    else if ("flag" in entry) again.setFlag(entry.flag, entry.value, entry.t);
    else if ("lost" in entry) again.lose("focus", entry.t);
  }
  again.step(1000);
  // The lamp starts on at the start, which a recording does not begin before.
  expect(first).toBe("0 lamp");
  expect(replayed.slice(1)).toEqual(rest);
});

test("a recorder keeps so many events, and begins with what was held then", () => {
  const input = createInputLayer(kelpline());
  const recorder = record(input, { most: 4 });
  play(input)
    .press("KeyW")
    .wait(10)
    .press("ShiftLeft")
    .wait(10)
    .tap("KeyC")
    .wait(10)
    .tap("KeyF")
    .wait(10)
    .tap("KeyC")
    .wait(10)
    .step();
  const { entries } = parseTrace(recorder.text());
  const held = entries
    .filter((entry) => entry.t === 0 && "control" in entry)
    .map((entry) => (entry as { control: string }).control);
  expect(held).toEqual(expect.arrayContaining(["KeyW", "ShiftLeft"]));
  expect(entries.length).toBeLessThan(10);
  const lines = recorder.text({ lastMs: 60, note: "a note" }).split("\n");
  expect(JSON.parse(lines[0]!)).toEqual({ reacherTrace: 1, plan: "kelpline", note: "a note" });
  expect(JSON.parse(lines.at(-2)!)).toEqual({ t: 60, end: true });
});

test("modes and mutes are recorded, and what is so when the ring begins comes first", () => {
  const tell = (most: number) => {
    const input = createInputLayer(kelpline());
    const recorder = record(input, { most });
    const player = play(input).step();
    input.enter("menu", 10);
    input.mute("surge", "reel it in", 20);
    input.unmute("surge", "reel it in", 30);
    input.mute("snip", "scene", 40);
    input.unmute("snip", undefined, 50);
    input.leave("menu", 60);
    player.wait(100).press("KeyX").wait(20).step();
    return recorder
      .text()
      .trim()
      .split("\n")
      .slice(1)
      .map((line) => JSON.parse(line));
  };
  expect(tell(100)).toEqual([
    { t: 0, enter: "menu" },
    { t: 10, mute: "surge", reason: "reel it in" },
    { t: 20, unmute: "surge", reason: "reel it in" },
    { t: 30, mute: "snip", reason: "scene" },
    { t: 40, unmute: "snip" },
    { t: 50, leave: "menu" },
    { t: 90, control: "KeyX", value: 1 },
    // It ends at the layer's last step.
    { t: 110, end: true },
  ]);
  const short = tell(2);
  expect(short).toContainEqual({ t: 0, enter: "menu" });
  expect(short.at(-2)).toMatchObject({ control: "KeyX" });
});

test("a recording of the last moments begins with what was on, driven and tilted, and ends as it was played", () => {
  const plan = {
    reacherPlan: 1,
    modes: { play: {}, menu: { covers: "all" } },
    numbers: { fast: 2 },
    flags: { air: true },
    actions: {
      walk: {
        kind: "vector",
        from: { main: WASD, pad: "PadLeftStick" },
        in: ["play"],
        shape: { deadZone: { inner: 0, outer: 0 } },
        pace: { base: 1, rules: [{ when: "run", times: "fast" }] },
      },
      run: { kind: "switch", style: "toggle", from: { main: "ShiftLeft" }, in: ["play"] },
      lamp: { kind: "switch", style: "toggle", startsOn: true, from: { main: "KeyL" }, needs: "air" },
      aim: { kind: "switch", style: "either", tapMs: 30, from: { main: "KeyE" } },
      grab: { kind: "switch", from: { main: { long: "KeyH", afterMs: 400 } } },
    },
  } as unknown as Plan;
  const doing = fc.array(
    fc.tuple(
      fc.integer({ min: 1, max: 50 }),
      fc.oneof(
        fc.constantFrom("ShiftLeft", "KeyL", "KeyE", "KeyW", "KeyD", "KeyA"),
        fc.constantFrom("drive", "let go", "tilt", "rest", "menu", "play", "number", "plan", "set"),
        fc.constantFrom("mute", "unmute", "flag", "lose focus", "lose pad", "reset", "own keys"),
      ),
    ),
    { maxLength: 40 },
  );
  fc.assert(
    fc.property(doing, fc.integer({ min: 50, max: 800 }), fc.boolean(), (list, lastMs, startsLate) => {
      const input: InputLayer = createInputLayer(plan);
      let recorder = record(input, { most: 30 });
      const down = new Set<string>();
      let t = 0;
      input.step(0);
      list.forEach(([wait, what], n) => {
        t += wait;
        const x = [0.6, 0.8, 1][n % 3]!;
        if (what === "drive") input.drive("walk" as never, [0, x] as never, n % 2 ? "current" : "wind", t);
        else if (what === "let go") input.drive("walk" as never, null, "current", t);
        else if (what === "tilt") input.feed({ t, control: "PadLeftStickX", value: x });
        else if (what === "rest") input.feed({ t, control: "PadLeftStickX", value: 0 });
        else if (what === "menu") input.enter("menu", t);
        else if (what === "play") input.leave("menu", t);
        else if (what === "number") input.setNumber("fast", 3 + (n % 2), t);
        else if (what === "set") input.setSwitch("run" as never, n % 2 === 0, t);
        else if (what === "plan") input.setPlan({ ...plan });
        else if (what === "mute") input.mute("walk", n % 2 ? "reel" : "shop", t);
        else if (what === "unmute") input.unmute("walk", n % 3 ? "reel" : undefined, t);
        else if (what === "flag") input.setFlag("air", n % 2 === 0, t);
        else if (what === "lose focus") input.lose("focus", t);
        else if (what === "lose pad") input.lose("pad", 0, t);
        else if (what === "reset") input.reset(t);
        else if (what === "own keys")
          input.setOverrides({
            reacherOverrides: 1,
            controls: n % 2 ? { "walk.main.up": "KeyE", "aim.main": "KeyX" } : {},
          });
        // Whether a key held at the start is still a tap hangs on when it was pressed, which its line does not tell.
        else if (what === "KeyE") for (const value of [1, 0]) input.feed({ t, control: what, value });
        else if (down.delete(what)) input.feed({ t, control: what, value: 0 });
        else {
          down.add(what);
          input.feed({ t, control: what, value: 1 });
        }
        input.step(t);
        if (startsLate && n === 20) recorder = record(input);
      });
      for (const key of down) input.feed({ t: t + 100, control: key, value: 0 });
      input.step(t + 200);
      const { entries } = parseTrace(recorder.text({ lastMs }));
      const running = startReplay(plan, { rows: false }, () => {});
      for (const entry of entries) running.push(entry);
      running.finish();
      const told = (layer: InputLayer) =>
        JSON.stringify(
          [
            layer.now,
            layer.modes,
            [...(layer.mutes["walk"] ?? [])].sort(),
            layer.flags,
            layer.number("fast"),
          ],
          (field, value: unknown) => (field === "onMs" || field === "facing" ? undefined : value),
        );
      if (!startsLate || list.length <= 20) expect(told(running.layer)).toBe(told(input));
    }),
    runs(200),
  );
});

test("late moves of a stick that came together are one event again in a replay", () => {
  const plan: Plan = {
    reacherPlan: 1,
    actions: {
      swim: { kind: "vector", from: { pad: "PadLeftStick" } },
      kick: { kind: "switch", from: { pad: { flick: "swim.up", withinMs: 0 } } },
      grab: { kind: "switch", from: { pad: { flick: "PadLeftStickLeft", withinMs: 0 } } },
    },
  };
  const input = createInputLayer(plan);
  const recorder = record(input);
  const seen: string[] = [];
  for (const name of ["kick", "grab"] as const) input.on(name, "on", (t) => seen.push(`${t} ${name}`));
  input.feed({ t: 0, control: "PadLeftStickX", value: 0 });
  input.step(0);
  input.step(50);
  for (const control of ["PadLeftStickX", "PadLeftStickX", "PadLeftStickY"])
    input.feed({ t: 30, control, value: -1 });
  input.step(60);
  expect(seen).toEqual(["50 kick", "50 grab"]);
  const rows = replay(plan, parseTrace(recorder.text()).entries);
  expect(rows.flatMap((row) => ("on" in row ? [`${row.at} ${row.action}`] : []))).toEqual(seen);
});

test("a recording ends at the layer's last step: what came after the last event is in it", () => {
  const plan = {
    reacherPlan: 1,
    actions: { grab: { kind: "switch", from: { main: { long: "KeyH", afterMs: 400 } } } },
  } as const;
  const input = createInputLayer(plan);
  const recorder = record(input);
  input.step(0);
  input.feed({ t: 845, control: "KeyH", value: 1 });
  input.step(1300);
  const rows = replay(plan, parseTrace(recorder.text()).entries);
  expect(rows).toEqual([{ at: 400, seat: "solo", action: "grab", on: true }]);
});

test("a trace may name what this plan does not have: it is skipped, and counted", () => {
  const { entries } = parseTrace(
    HEAD +
      [
        '{"t":1,"flag":"warm","value":true}',
        '{"t":2,"enter":"dock"}',
        '{"t":3,"leave":"dock"}',
        '{"t":4,"mute":"sing","reason":"x"}',
        '{"t":5,"unmute":"sing"}',
        '{"t":6,"seatPad":"amber","pad":1}',
      ].join("\n"),
  );
  const running = startReplay(kelpline(), {}, () => {});
  for (const entry of entries) running.push(entry);
  running.finish();
  expect(Object.fromEntries(running.skipped)).toEqual({
    "flag warm": 1,
    "mode dock": 2,
    "action sing": 2,
    "seat amber": 1,
  });
});

const packable = fc.oneof(
  fc.record({
    after: fc.double({ min: 0, max: 17, noNaN: true }),
    control: fc.constantFrom("KeyW", "Space", "F24", "MouseMain", "WheelUp"),
    value: fc.constantFrom(0, 1),
  }),
  fc.record({
    after: fc.double({ min: 0, max: 17, noNaN: true }),
    control: fc.constantFrom("PadLeftStickX", "PadRightTrigger", "PadButton17", "PadAxis99"),
    value: fc.oneof(
      fc.integer({ min: -32767, max: 32767 }).map((n) => n / 32767),
      fc.double({ min: -1, max: 1, noNaN: true }),
    ),
    pad: fc.nat({ max: 255 }),
  }),
  fc.record({
    after: fc.double({ min: 0, max: 17, noNaN: true }),
    control: fc.constant("MouseMoveX"),
    value: fc.oneof(fc.integer({ min: -5000, max: 5000 }), fc.constantFrom(0.25, 1e9, -1 / 3)),
  }),
  fc.record({ after: fc.double({ min: 0, max: 17, noNaN: true }), lost: fc.constantFrom("focus", "pad") }),
);

test("a tick's events go into a few bytes and come out as they were, within the tick and in order", () => {
  fc.assert(
    fc.property(fc.array(packable, { maxLength: 12 }), fc.nat({ max: 1e6 }), (some, tick) => {
      const [from, to] = [(tick * 1000) / 60, ((tick + 1) * 1000) / 60];
      const events = some
        .map(({ after, ...rest }) => ({ t: from + after, ...("lost" in rest && { pad: 3 }), ...rest }))
        .sort((one, other) => one.t - other.t) as Parameters<typeof packEvents>[0];
      const bytes = packEvents(events, from, to);
      const out = unpackEvents(bytes, from);
      const without = (event: object) => {
        const { t: _, pad: __, ...rest } = event as { t: number; pad?: number; value?: number };
        return rest.value === 0 ? { ...rest, value: 0 } : rest;
      };
      expect(out.map(without)).toEqual(events.map(without));
      let before = from;
      out.forEach((event, n) => {
        expect(event.t > from && event.t <= to && event.t >= before).toBe(true);
        expect(Math.abs(event.t - Math.min(events[n]!.t, to))).toBeLessThan(1 / 32);
        if ("pad" in event) expect(event.pad).toBe((events[n] as { pad?: number }).pad ?? 0);
        before = event.t;
      });
      // What goes over the line twice is the same.
      expect(packEvents(out, from, to)).toEqual(bytes);
    }),
    runs(100),
  );
  expect(packEvents([{ t: 4, control: "KeyW", value: 1 }], 0, 16)).toHaveLength(5);
});

test("bytes that nobody packed are refused, and never more than they are", () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 40 }), (bytes) => {
      try {
        const events = unpackEvents(bytes, 0);
        expect(events.length).toBeLessThan(bytes.length);
        expect(events.every((event) => "lost" in event || Number.isFinite(event.value))).toBe(true);
      } catch (error) {
        expect((error as Error).message).toMatch(/^packed events: byte \d+: /);
      }
    }),
    runs(1000),
  );
  for (const [event, fault] of [
    [
      { t: 1, control: "PadLeftStick", value: 0 },
      'event 1: "PadLeftStick" is no control that reports by itself',
    ],
    [{ t: 1, control: "__proto__", value: 0 }, "is no control"],
    [{ t: NaN, control: "KeyW", value: 1 }, "event 1: NaN is no moment"],
    [{ t: 1, control: "KeyW", value: Infinity }, "event 1: Infinity is no value"],
    [{ t: 1, control: "PadSouth", value: 1, pad: 300 }, "event 1: 300 is no pad"],
  ] as const)
    expect(() => packEvents([event], 0, 16)).toThrow(fault);
  expect(() => packEvents([], 16, 16)).toThrow("16 to 16 ms is no tick");
  expect(() => packEvents([null as never], 0, 16)).toThrow("event 1: null is no event");
  for (const none of [undefined, [1], new ArrayBuffer(2), "\x01"])
    expect(() => unpackEvents(none as never, 0)).toThrow("these are no bytes");
  expect(() => unpackEvents(Uint8Array.from([1]), NaN)).toThrow("NaN is no moment");
  expect(() => unpackEvents(Uint8Array.from([2]), 0)).toThrow("version 2 is not known");
  // Another order of names is another version of the format.
  const last = unpackEvents(packEvents([{ t: 1, control: "PadDpadRight", value: 1 }], 0, 16), 0)[0];
  expect(last).toEqual({ t: 1, control: "PadDpadRight", value: 1, pad: 0 });
  expect([...packEvents([{ t: 1, control: "PadDpadRight", value: 1 }], 0, 16)]).toEqual([1, 137, 13, 64, 0]);
});
