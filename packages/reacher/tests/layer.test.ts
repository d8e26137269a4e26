import { createInputLayer, definePlan, ReacherError } from "reacher";
import { play, simulatePad } from "reacher/testing";
import { kelpline, kickPlan, swimPlan } from "./plans";

test("events that cannot be used are ignored and counted; unbound controls are no fault", () => {
  const input = createInputLayer(swimPlan({}));
  const bad: [number, string, number, number?][] = [
    [1, "LeftShift", 1],
    [1, "PadLeftStick", 1],
    [NaN, "KeyW", 1],
    [Infinity, "KeyW", 1],
    [1, "KeyW", NaN],
    [1, "__proto__", 1],
    [1, "PadLeftStickX", 1, -1],
    [1, "PadLeftStickX", 1, 0.5],
  ];
  for (const [t, control, value, pad] of bad)
    input.feed({ t, control, value, ...(pad === undefined ? {} : { pad }) });
  input.feed({ t: 1, control: "KeyZ", value: 1 });
  input.feed({ t: 1, control: undefined as unknown as string, value: 1 });
  expect(input.step(5).swim.length).toBe(0);
  expect(input.counters).toEqual({ late: 0, ignored: bad.length + 1 });
});

test("a fifth pad at once is ignored; a lost one makes room", () => {
  const input = createInputLayer(swimPlan({}));
  for (let pad = 0; pad < 5; pad++)
    input.feed({ t: 1, control: "PadLeftStickX", value: 0.5 + pad / 10, pad });
  const before = input.step(2).swim.x;
  expect(input.counters.ignored).toBe(1);
  input.lose("pad", 3, 0);
  input.feed({ t: 4, control: "PadLeftStickX", value: 0.9, pad: 4 });
  expect(input.step(5).swim.x).toBeGreaterThan(before);
});

test("values beyond their range are brought into it", () => {
  const input = createInputLayer(swimPlan({}));
  input.feed({ t: 1, control: "PadLeftStickX", value: -40 });
  expect(input.step(5).swim.x).toBe(-1);
});

test("late events are handled at the last step's time; times that run backwards do no harm", () => {
  const input = createInputLayer(kickPlan({}));
  const seen: number[] = [];
  input.on("kick", "on", (t) => seen.push(t));
  input.step(100);
  input.feed({ t: 40, control: "ShiftLeft", value: 1 });
  for (const t of [NaN, Infinity, -Infinity])
    expect(() => input.step(t)).toThrow(`${t} is no time; give milliseconds`);
  input.step(50);
  expect([seen, input.now.kick.onMs, input.counters.late]).toEqual([[100], 0, 1]);
  expect(input.step(130).kick.onMs).toBe(30);
});

test("an event ahead of its time waits for its step", () => {
  const input = createInputLayer(kickPlan({}));
  input.feed({ t: 50, control: "ShiftLeft", value: 1 });
  input.feed({ t: 20, control: "ShiftRight", value: 1 });
  expect([input.step(19).kick.on, input.step(20).kick.by, input.step(60).kick.onMs]).toEqual([
    false,
    "ShiftRight",
    40,
  ]);
});

test("what a callback tells the layer happens at that moment, after the event at hand", () => {
  const plan = definePlan({
    reacherPlan: 1,
    flags: { fast: false },
    actions: {
      swim: {
        kind: "vector",
        from: { pad: "PadLeftStick" },
        pace: { base: 1, rules: [{ when: "fast", set: 3 }], easeMs: 100 },
      },
      kick: { kind: "switch", from: { main: "ShiftLeft" } },
    },
  });
  const input = createInputLayer(plan);
  let on: boolean | undefined;
  const off = input.on("kick", "on", () => {
    on = input.now.kick.on;
    input.setFlag("fast", true);
  });
  input.feed({ t: 30, control: "ShiftLeft", value: 1 });
  expect(input.step(80).swim.pace).toBe(2);
  expect(on).toBe(true);
  off();
  off();
  on = undefined;
  play(input).tap("ShiftLeft").step();
  expect(on).toBeUndefined();
});

test("a callback that throws stops the step, and the next one goes on", () => {
  const input = createInputLayer(kickPlan({}));
  const off = input.on("kick", "on", () => {
    throw new Error("the game's own fault");
  });
  input.feed({ t: 1, control: "ShiftLeft", value: 1 });
  input.feed({ t: 2, control: "ShiftLeft", value: 0 });
  expect(() => input.step(10)).toThrow("the game's own fault");
  off();
  expect(input.step(20).kick.on).toBe(false);
});

test("a step within a step is refused", () => {
  const input = createInputLayer(kickPlan({}));
  input.on("kick", "on", () => void input.step(500));
  input.feed({ t: 1, control: "ShiftLeft", value: 1 });
  expect(() => input.step(10)).toThrow("step was called from a callback of step");
});

test("names that the plan does not have are refused, with those that it has", () => {
  const input = createInputLayer(kelpline());
  expect(() => input.setFlag("hasAri", true)).toThrow(
    'the plan has no flag "hasAri"; it has hasAir, inCurrent',
  );
  expect(() => input.on("kik" as never, "on", () => {})).toThrow(
    'the plan has no switch "kik"; it has kick, tuck, surge, snip, grab, haul, flash, lamp, choose, walk, back, pause',
  );
  expect(() => input.seat("teal")).toThrow('there is no seat "teal"');
  expect(() => input.setFlag("hasAir", true, NaN)).toThrow(ReacherError);
});

test("a snapshot is refused by another plan, and goes into a kept copy", () => {
  const input = createInputLayer(kickPlan({}));
  const other = createInputLayer(kickPlan({ style: "toggle" }));
  expect(() => other.restore(input.snapshot())).toThrow("the snapshot is not of this plan");
  expect(() => input.snapshot(new Uint8Array(3))).toThrow("the kept copy has 3 bytes");
  const kept = input.snapshot();
  expect(input.snapshot(kept)).toBe(kept);
});

test("lastDevice follows what is used; a stick at rest is not", () => {
  const input = createInputLayer(kelpline());
  const use = (control: string, value: number) => {
    input.feed({ t: 1, control, value });
    input.step(2);
    return input.lastDevice;
  };
  expect([
    input.lastDevice,
    use("KeyW", 1),
    use("PadLeftStickX", 0.06),
    use("PadLeftStickX", 0.7),
    use("KeyW", 0),
  ]).toEqual([null, "keyboard", "keyboard", "pad", "pad"]);
});

test("fixedSteps gives the moments of the fixed steps since the last one, and skips a long pause", () => {
  const input = createInputLayer(kickPlan({}));
  const moments = (now: number) => {
    const list = [...input.fixedSteps(now, 50)];
    for (const t of list) input.step(t);
    return list;
  };
  expect([moments(105), moments(119), moments(161), moments(161)]).toEqual([[100], [], [120, 140, 160], []]);
  expect(moments(10_000)).toHaveLength(15);
});

test("many layers of one plan share its tables", () => {
  const plan = kickPlan({});
  const tables = [createInputLayer(plan), createInputLayer(plan)].map(
    (input) => (input as unknown as { tables: object }).tables,
  );
  expect(tables[0]).toBe(tables[1]);
});

test("scripts and simulated pads refuse names that do not exist", () => {
  const player = play(createInputLayer(kickPlan({})));
  expect(() => player.press("LeftShift")).toThrow("LeftShift is no control; did you mean ShiftLeft?");
  expect(() => player.press("PadLeftStickUp")).toThrow("is read off PadLeftStickY; move these");
  expect(() => simulatePad().press("PadNorht")).toThrow("did you mean PadNorth?");
});
