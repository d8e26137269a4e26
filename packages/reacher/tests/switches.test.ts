import { applyOverrides, createInputLayer, definePlan, type Plan } from "reacher";
import { explain, parseTrace, record } from "reacher/trace";
import { matchers } from "reacher/matchers";
import { play } from "reacher/testing";
import { readPlan } from "../src/plan/read";
import { kickPlan } from "./plans";
import { changes } from "./scripts";

/** Presses (+), releases (-) and waits (numbers) as a line of text. */
function run(more: object, script: string) {
  const input = createInputLayer(kickPlan(more));
  const changes: string[] = [];
  input.on("kick", "on", (t) => changes.push(`on ${t}`));
  input.on("kick", "off", (t) => changes.push(`off ${t}`));
  const player = play(input);
  for (const word of script.split(" ")) {
    if (word.startsWith("+")) player.press(word.slice(1));
    else if (word.startsWith("-")) player.release(word.slice(1));
    else if (word === "blur") player.loseFocus();
    else player.wait(Number(word));
  }
  player.step();
  return { changes: changes.join(", "), on: player.now.kick.on };
}

test.each([
  ["hold", "10 +ShiftLeft 100 -ShiftLeft", "on 10, off 110"],
  ["hold", "+ShiftLeft 10 +ShiftRight 10 -ShiftLeft 10 -ShiftRight", "on 0, off 30"],
  ["hold", "+ShiftLeft 10 +ShiftLeft 10 +ShiftLeft 10 -ShiftLeft", "on 0, off 30"],
  ["hold", "+ShiftLeft 10 blur 50 -ShiftLeft 5", "on 0, off 10"],
  ["hold", "+ShiftLeft 10 blur 50 +ShiftLeft 5", "on 0, off 10, on 60"],
  ["toggle", "+ShiftLeft 10 -ShiftLeft 10 +ShiftLeft 10 -ShiftLeft", "on 0, off 20"],
  ["toggle", "+ShiftLeft 10 +ShiftRight 10 -ShiftLeft -ShiftRight", "on 0"],
  ["toggle", "+ShiftLeft 10 +ShiftLeft 10 +ShiftLeft 10", "on 0"],
  ["toggle", "+ShiftLeft 10 blur 50 -ShiftLeft 5", "on 0"],
  ["either", "+ShiftLeft 250 -ShiftLeft 100", "on 0"],
  ["either", "+ShiftLeft 250.5 -ShiftLeft 100", "on 0, off 250.5"],
  ["either", "+ShiftLeft 50 -ShiftLeft 100 +ShiftLeft 20 -ShiftLeft", "on 0, off 150"],
  ["either", "+ShiftLeft 50 blur 100 -ShiftLeft", "on 0, off 50"],
  ["either", "+ShiftLeft 50 -ShiftLeft 100 blur 10", "on 0"],
])("%s: %s gives %s", (style, script, changes) => {
  expect(run({ style }, script).changes).toBe(changes);
});

test.each([
  ["hold", "", false],
  ["toggle", "on 0", true],
  ["either", "on 0", true],
])("a %s that startsOn", (style, changes, on) => {
  expect(run({ style, startsOn: true }, "100")).toEqual({ changes, on });
});

test("a press and a release inside one step are both seen", () => {
  const input = createInputLayer(kickPlan({}));
  for (const [t, value] of [
    [1, 1],
    [2, 0],
    [3, 1],
    [4, 0],
  ] as const)
    input.feed({ t, control: "ShiftLeft", value });
  const { kick } = input.step(16);
  expect(kick).toMatchObject({ on: false, turnedOn: true, turnedOff: true, presses: 2, by: "ShiftLeft" });
  expect(input.step(32).kick).toMatchObject({ turnedOn: false, turnedOff: false, presses: 0 });
});

test("onMs counts from the exact moment", () => {
  const input = createInputLayer(kickPlan({}));
  input.feed({ t: 3.25, control: "ShiftLeft", value: 1 });
  expect(input.step(16).kick.onMs).toBe(12.75);
});

test("an analog trigger is pressed from 0.5 and released below 0.4", () => {
  const plan = definePlan({
    reacherPlan: 1,
    actions: { haul: { kind: "switch", from: { pad: "PadRightTrigger" } } },
  });
  const player = play(createInputLayer(plan));
  const at = (value: number) => player.pull("PadRightTrigger", value).wait(5).now.haul.on;
  expect([at(0.499), at(0.5), at(0.4), at(0.399)]).toEqual([false, true, true, false]);
});

test("reset brings toggles to their start; what is held moves nothing until pressed anew", () => {
  const plan = definePlan({
    reacherPlan: 1,
    flags: { hasAir: true },
    actions: {
      swim: {
        kind: "vector",
        from: { main: { right: "KeyD", left: "KeyA" } },
        pace: { base: 1, rules: [{ when: "not hasAir", set: 9 }] },
      },
      lamp: { kind: "switch", style: "toggle", startsOn: true, from: { main: "KeyF" } },
      kick: { kind: "switch", from: { main: "ShiftLeft" } },
    },
  });
  const input = createInputLayer(plan);
  input.setFlag("hasAir", false);
  const player = play(input).press("KeyD", "ShiftLeft").tap("KeyF").wait(20);
  expect([player.now.lamp.on, player.now.kick.on, player.now.swim.pace]).toEqual([false, true, 9]);
  input.reset();
  player.wait(20);
  expect([player.now.lamp.on, player.now.kick.on, player.now.swim.pace, player.now.swim.x]).toEqual([
    true,
    false,
    1,
    1,
  ]);
  expect(player.release("ShiftLeft").wait(5).press("ShiftLeft").wait(5).now.kick.on).toBe(true);
});

/** What happens to a plan with kick on K, tuck on C, a flag and a menu, and when kick turns on and off: looked at every 5 ms. */
const rules: [string, object, string, string][] = [
  [
    "a press within the rest is ignored for good",
    { cooldownMs: 100 },
    "0 +K 10 -K 50 +K 300 .",
    "on 0, off 10",
  ],
  [
    "the rest ends at its end",
    { cooldownMs: 100 },
    "0 +K 10 -K 100 +K 110 -K 115 +K 300 -K",
    "on 0, off 10, on 115, off 300",
  ],
  [
    "needs that fail ask for no rest",
    { cooldownMs: 100, needs: "air" },
    "0 +K 20 -air 30 -K 50 +K 150 +air 200 .",
    "on 0, off 20, on 150",
  ],
  [
    "needs that let a press in ask for it",
    { cooldownMs: 100, needs: "air" },
    "0 +K 20 -air 30 -K 50 +K 60 +air 200 .",
    "on 0, off 20",
  ],
  [
    "to come back asks for no rest",
    { cooldownMs: 100, needs: "air" },
    "0 +K 20 -air 60 +air 200 -K",
    "on 0, off 20, on 60, off 200",
  ],
  [
    "a toggle does not see a key that a mode hid",
    { style: "toggle", in: ["dive"] },
    "0 >same 10 +K 20 <same 30 -K 40 .",
    "",
  ],
  [
    "nor one that a mode covered",
    { style: "toggle", in: ["dive"] },
    "0 >all 10 +K 20 <all 30 -K 40 +K",
    "on 40",
  ],
  [
    "an either is not latched in a covered mode",
    { style: "either", in: ["dive"] },
    "0 +K 20 >all 40 -K 60 <all 100 .",
    "on 0, off 20",
  ],
  [
    "nor in a hidden one",
    { style: "either", in: ["dive"] },
    "0 +K 20 >same 40 -K 60 <same 100 +K",
    "on 0, off 20, on 100",
  ],
  [
    "resume: false leaves no latch",
    { style: "either", needs: "air", resume: false },
    "0 +K 20 -air 40 +air 60 -K 80 +K",
    "on 0, off 20, on 80",
  ],
  [
    "resume: false of a hold",
    { needs: "air", resume: false },
    "0 +K 20 -air 40 +air 60 -K 80 +K",
    "on 0, off 20, on 80",
  ],
  ["who loses needs a new press", { oneOf: "stance" }, "0 +K 20 +C 40 -C 60 -K 80 +K", "on 0, off 20, on 80"],
  [
    "a toggle that loses too",
    { oneOf: "stance", style: "toggle" },
    "0 +K 5 -K 20 +C 40 -C 60 +K",
    "on 0, off 20, on 60",
  ],
  ["reset asks for a new press", {}, "0 +K 20 reset 40 -K 60 +K 80 -K", "on 0, off 20, on 60, off 80"],
  ["muted, a hold comes back", {}, "0 +K 20 mute 40 unmute 60 -K", "on 0, off 20, on 40, off 60"],
  [
    "muted, one that keeps nothing does not",
    { comesBack: false },
    "0 +K 20 mute 40 unmute 60 -K 80 +K",
    "on 0, off 20, on 80",
  ],
];

describe.each(["bare", "listened to"])("%s", (dress) => {
  test.each(rules)("%s", (_, more, script, changes) => {
    const modes = { dive: {}, same: {}, all: { covers: "all" } };
    const actions = {
      kick: { kind: "switch", from: { main: "KeyK" }, ...more },
      tuck: { kind: "switch", from: { main: "KeyC" }, ...("oneOf" in more && { oneOf: more.oneOf }) },
      go: { kind: "switch", in: ["same"], from: { main: "KeyK" } },
    };
    const input = createInputLayer({
      reacherPlan: 1,
      modes,
      flags: { air: true },
      actions,
    } as unknown as Plan);
    if (dress !== "bare") {
      for (const change of ["on", "off", "pulse"] as const) input.on("kick", change, () => {});
      input.watch({ event() {}, changed() {}, settled() {} });
    }
    const words = script.split(" ");
    const seen: string[] = [];
    let t = 0;
    const stepTo = (end: number) => {
      for (; t <= end; t += 5) {
        const { kick } = input.step(t) as any;
        if (kick.turnedOff) seen.push(`off ${t}`);
        if (kick.turnedOn) seen.push(`on ${t}`);
      }
    };
    for (let n = 0; n < words.length; n += 2) {
      const at = Number(words[n]);
      const what = words[n + 1]!;
      stepTo(at - 5);
      if (/^[+-][A-Z]/.test(what))
        input.feed({ t: at, control: `Key${what[1]}`, value: what[0] === "+" ? 1 : 0 });
      else if (what.endsWith("air")) input.setFlag("air", what[0] === "+", at);
      else if (what[0] === ">") input.enter(what.slice(1), at);
      else if (what[0] === "<") input.leave(what.slice(1), at);
      else if (what === "reset") input.reset(at);
      else if (what.endsWith("mute")) input[what as "mute"]("kick", "reel", at);
      stepTo(at);
    }
    expect(seen.join(", ")).toBe(changes);
  });

  test("presses are counted, by names the key that raised it, and a kept press does not outlive a reset", () => {
    const plan = kickPlan({ bufferMs: 200, needs: [] });
    const input = createInputLayer(plan);
    if (dress !== "bare") input.on("kick", "on", () => {});
    for (const [t, control, value] of [
      [10, "ShiftLeft", 1],
      [20, "ShiftRight", 1],
      [30, "ShiftLeft", 0],
      [40, "ShiftRight", 0],
      [50, "ShiftRight", 1],
    ] as const)
      input.feed({ t, control, value });
    expect(input.step(25).kick).toMatchObject({ presses: 1, by: "ShiftLeft", on: true });
    expect(input.step(60).kick).toMatchObject({ presses: 1, by: "ShiftRight", turnedOff: true });
    input.reset();
    input.step(70);
    expect(input.take("kick")).toBe(false);
    for (const value of [0, 1]) input.feed({ t: 80 + value, control: "ShiftRight", value });
    expect(input.step(90).kick.on).toBe(true);
    expect([input.take("kick"), input.take("kick")]).toEqual([true, false]);
  });
});

describe("needs that come back, and needs that ask for a new press", () => {
  const swim = { kind: "vector", from: { main: { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyD" } } };
  const sprint = (more: object) => ({
    swim,
    sprint: {
      kind: "switch",
      from: { main: "ShiftLeft" },
      needs: ["swim", "hasAir"],
      resume: ["swim"],
      ...more,
    },
  });
  test.each([
    // Shift before W; from W over to D; out of breath it asks for a new press.
    [{}, "+ShiftLeft 900 +KeyW 10 -KeyW 10 +KeyD 10", "sprint on 900, sprint off 910, sprint on 920"],
    [
      {},
      "+KeyW +ShiftLeft 10 _hasAir 10 ^hasAir 10 -ShiftLeft +ShiftLeft 10",
      "sprint on 0, sprint off 10, sprint on 30",
    ],
    [{}, "_hasAir +ShiftLeft 10 ^hasAir +KeyW 10", ""],
    // Not where another failed meanwhile.
    [{}, "+KeyW +ShiftLeft 10 -KeyW 5 _hasAir 5 ^hasAir 5 +KeyW 10", "sprint on 0, sprint off 10"],
    [{}, "+ShiftLeft 5 _hasAir 5 ^hasAir 5 +KeyW 10", ""],
    // A press that waits and is let go is nothing; where presses are kept, it begins within that time all the same.
    [{}, "+ShiftLeft 10 -ShiftLeft 10 +KeyW", ""],
    [
      { bufferMs: 100 },
      "+ShiftLeft 10 -ShiftLeft 90 +KeyW 5",
      "sprint on 100, sprint grant 100, sprint off 100",
    ],
    [{ bufferMs: 100 }, "+ShiftLeft 500 +KeyW 10", "sprint on 500, sprint grant 500"],
    [{ bufferMs: 100 }, "_hasAir +KeyW +ShiftLeft 90 ^hasAir 10", "sprint on 90, sprint grant 90"],
    [{ bufferMs: 100 }, "_hasAir +KeyW +ShiftLeft 110 ^hasAir 10", ""],
    // A beginning that waited asks what a beginning asks.
    [{ beginsIf: "rested" }, "+ShiftLeft 10 +KeyW 10", ""],
    [
      { cooldownMs: 100 },
      "+KeyW +ShiftLeft 10 -ShiftLeft -KeyW +ShiftLeft 40 +KeyW 90",
      "sprint on 0, sprint off 10",
    ],
    // The game's press is a press.
    [
      {},
      "*sprint 10 +KeyW 10 _hasAir 10 ^hasAir 10 #sprint *sprint",
      "sprint on 10, sprint off 20, sprint on 40",
    ],
  ])("%j: %s gives: %s", (more, script, told) => {
    expect(changes(sprint(more), script, { flags: { hasAir: true, rested: false } })).toBe(told);
  });

  test("a list is for holds, and names what it needs; a player's toggle goes without it", () => {
    const plan = (more: object) =>
      ({ reacherPlan: 1, flags: { hasAir: true }, actions: sprint(more) }) as unknown as Plan;
    const faults = (more: object) => {
      const read = readPlan(plan(more));
      return read.ok ? [] : read.findings.map(({ place, message }) => `${place}: ${message}`);
    };
    expect(faults({})).toEqual([]);
    expect(faults({ resume: "hasAir" })).toEqual([]);
    expect(faults({ style: "toggle" })).toEqual([
      "actions.sprint.resume: only a hold comes back with some of its needs; this one's style is toggle",
    ]);
    expect(faults({ resume: ["swmi"] })).toContain(
      'actions.sprint.resume.0: "swmi" is none of its needs; did you mean swim?',
    );
    const overrides = { reacherOverrides: 1, settings: { "sprint.style": "toggle" } } as const;
    expect(applyOverrides(plan({}), overrides).faults).toEqual([]);
  });
});

test.each(["hold", "either"])(
  "a press that waits for a need of %s, and is let go as it comes, is nothing",
  (style) => {
    const actions = {
      kick: { kind: "switch", from: { main: "KeyK" } },
      drift: { kind: "switch", style, needs: "not kick", from: { main: "KeyK" } },
    };
    expect(changes(actions, "+KeyK 10 -KeyK 10")).toBe("kick on 0, kick off 10");
  },
);

test.each([
  // One key of two: the later of the plan alone begins.
  ["+KeyK 10 -KeyK", "tuck on 0, tuck off 10, take false 10"],
  // Kick waits for air, and tuck was pressed after it.
  ["_air +KeyJ 10 +KeyT 10 ^air 10", "tuck on 10, take false 30"],
])("who loses to a newer one of its group has not begun: %s", (script, told) => {
  const kick = { needs: "air", spends: "breath", bufferMs: 50, resume: ["air"], cooldownMs: 500 };
  const actions = {
    kick: { kind: "switch", oneOf: "stance", from: { main: ["KeyK", "KeyJ"] }, ...kick },
    tuck: { kind: "switch", oneOf: "stance", from: { main: ["KeyK", "KeyT"] } },
    gasp: { kind: "switch", needs: "not breath", from: { main: "KeyG" } },
  };
  const flags = { air: true, breath: true };
  expect(changes(actions, `+KeyG ${script} ?kick`, { flags })).toBe(told);
});

describe("each press anew", () => {
  const hop = (more: object = {}) => ({
    hop: { kind: "switch", from: { main: "KeyJ", spare: "KeyK", third: "KeyL" }, anew: true, ...more },
  });
  test.each([
    // A hold begins anew with each, and is on while any is down.
    [{}, "+KeyJ 10 +KeyK 10 -KeyJ 10 -KeyK", "hop on 0, hop off 10, hop on 10, hop off 30"],
    [{ anew: false }, "+KeyJ 10 +KeyK 10 -KeyJ 10 -KeyK", "hop on 0, hop off 30"],
    [
      {},
      "+KeyJ 10 +KeyK 10 -KeyK 10 +KeyK 10 -KeyJ",
      "hop on 0, hop off 10, hop on 10, hop off 30, hop on 30",
    ],
    [
      { repeat: { everyMs: 30 } },
      "+KeyJ 20 +KeyK 40",
      "hop on 0, hop pulse 0, hop off 20, hop on 20, hop pulse 20, hop pulse 50",
    ],
    // A toggle flips with each.
    [{ style: "toggle" }, "+KeyJ 10 +KeyK 10 +KeyL", "hop on 0, hop off 10, hop on 20"],
    // What may not begin changes nothing, and its key holds nothing.
    [{ cooldownMs: 50 }, "+KeyJ 10 +KeyK 10 -KeyJ 10 -KeyK", "hop on 0, hop off 20"],
    [{ cooldownMs: 50 }, "+KeyJ 60 +KeyK 10 -KeyJ 10 -KeyK", "hop on 0, hop off 60, hop on 60, hop off 80"],
    [{ beginsIf: "wet" }, "^wet +KeyJ 10 _wet +KeyK 10 -KeyJ 10", "hop on 0, hop off 20"],
    [{ style: "toggle", beginsIf: "wet" }, "+KeyJ 10 ^wet +KeyK 10 _wet +KeyL 5", "hop on 10, hop off 20"],
    // Kept, it begins anew then: held, or for this moment.
    [
      { cooldownMs: 50, bufferMs: 100 },
      "+KeyJ 10 +KeyK 90 -KeyK 10 -KeyJ",
      "hop on 0, hop grant 0, hop off 50, hop on 50, hop grant 50, hop off 110",
    ],
    [
      { cooldownMs: 50, bufferMs: 100 },
      "+KeyJ 10 +KeyK 5 -KeyK 60 -KeyJ",
      "hop on 0, hop grant 0, hop off 50, hop on 50, hop grant 50, hop off 75",
    ],
    // The game's press is one; a second reason of it would be none.
    [{}, "+KeyJ 10 *hop 10 -KeyJ 10 #hop", "hop on 0, hop off 10, hop on 10, hop off 30"],
    [{}, "*hop 10 +KeyJ 10 #hop 10 -KeyJ", "hop on 0, hop off 10, hop on 10, hop off 30"],
    // Pressed in a mute it is kept, and then begins or holds nothing.
    [
      { bufferMs: 50 },
      "+KeyJ 10 !hop 10 +KeyK 20 ~hop",
      "hop on 0, hop grant 0, hop off 10, hop on 40, hop grant 40",
    ],
    [
      { bufferMs: 10 },
      "+KeyJ 10 !hop 10 +KeyK 20 ~hop 10 -KeyJ",
      "hop on 0, hop grant 0, hop off 10, hop on 40, hop off 50",
    ],
    // What a mode shows again, or a mute lets through, is no press.
    [{}, "+KeyJ +KeyK 10 !hop 10 ~hop 10", "hop on 0, hop off 0, hop on 0, hop off 10, hop on 20"],
    [{}, "+KeyJ 10 blur 10 +KeyJ", "hop on 0, hop off 10, hop on 20"],
    [
      { needs: "wet", resume: false },
      "^wet +KeyJ 10 _wet ^wet 10 +KeyK 10 -KeyK",
      "hop on 0, hop off 10, hop on 20, hop off 30",
    ],
    // Gestures are keys like others.
    [
      { from: { main: ["KeyJ", { short: "KeyK", beforeMs: 100 }] } },
      "+KeyJ 10 +KeyK 20 -KeyK 10 -KeyJ",
      "hop on 0, hop off 30, hop on 30, hop off 40",
    ],
  ])("%j: %s gives: %s", (more, script, told) => {
    expect(changes(hop(more), script, { flags: { wet: false } })).toBe(told);
  });

  test("words do not see it, by names the newest that is down, presses count each, and why tells", () => {
    const plan = {
      reacherPlan: 1,
      actions: {
        ...hop({ oneOf: "stance" }),
        glide: { kind: "switch", from: { main: "KeyG" }, needs: "hop" },
        tuck: { kind: "switch", style: "toggle", from: { main: "KeyT" }, oneOf: "stance" },
      },
    } as unknown as Plan;
    const input = createInputLayer(plan);
    const seen: string[] = [];
    for (const name of ["hop", "glide", "tuck"])
      for (const change of ["on", "off"] as const)
        input.on(name as never, change as "off", (t, by) =>
          seen.push(`${name} ${change} ${t}${change === "on" ? "" : ` ${by}`}`),
        );
    const recorder = record(input);
    const hands = play(input).press("KeyT", "KeyJ", "KeyG").wait(10).press("KeyK").wait(1);
    const { presses, by } = hands.step().now["hop" as never] as unknown as { presses: number; by: string };
    expect([by, presses]).toEqual(["KeyK", expect.any(Number)]);
    hands.release("KeyK").wait(9);
    expect((hands.step().now["hop" as never] as unknown as { by: string }).by).toBe("KeyJ");
    expect(seen).toEqual([
      "tuck on 0",
      "hop on 0",
      "tuck off 0 oneOf",
      "glide on 0",
      "hop off 10 pressed",
      "hop on 10",
    ]);
    const why = explain(plan, parseTrace(recorder.text()).entries).filter(({ action }) => action === "hop");
    expect(why.map(({ at, text }) => `${at} ${text}`)).toEqual([
      "0 KeyJ pressed",
      "10 KeyK pressed: it begins anew",
    ]);
  });

  test("it goes with no either; a player who chooses one goes without it", () => {
    const plan = (more: object) => ({ reacherPlan: 1, actions: hop(more) }) as unknown as Plan;
    const read = readPlan(plan({ style: "either" }));
    expect(read.ok ? [] : read.findings.map(({ id, place }) => [id, place])).toEqual([
      ["anew-either", "actions.hop.anew"],
    ]);
    const overrides = { reacherOverrides: 1, settings: { "hop.style": "either" } } as const;
    expect(applyOverrides(plan({}), overrides).faults).toEqual([]);
  });
});

test("matchers tell what a switch is instead", () => {
  expect.extend(matchers);
  const hands = play(createInputLayer(kickPlan({})));
  const kick = hands.now.kick;
  expect(kick).not.toBeOn();
  hands.press("ShiftLeft").wait(1);
  expect(kick).toBeOn();
  expect(kick).toHaveTurnedOn();
  hands.wait(50).release("ShiftLeft").wait(1);
  expect(kick).toHaveTurnedOff();
  expect(() => expect(kick).toBeOn()).toThrow(
    "expected the switch to be on: it is off, turned off in this step (released)",
  );
  expect(() => expect({ x: 1 }).toBeOn()).toThrow("this reading is of no switch");
});
