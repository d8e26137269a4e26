/** The control that a player wants at an address: what is caught, what is not, and what the game hears meanwhile. */
import { createInputLayer, type InputLayer, type Plan } from "reacher";
import {
  capture,
  runTapTest,
  tapTest,
  type CaptureOptions,
  type Captured,
  type CaptureProgress,
} from "reacher/rebind";
import { play } from "reacher/testing";
import { WASD } from "./plans";

const plan = {
  reacherPlan: 1,
  protected: ["Backspace"],
  slots: { main: { device: "keyboard" }, pad: { device: "pad" }, any: {} },
  actions: {
    swim: { kind: "vector", from: { main: WASD, pad: "PadLeftStick" } },
    depth: { kind: "axis", from: { pad: "PadRightTrigger" } },
    look: { kind: "turn", from: { any: { use: "PadRightStick", perSecond: 90 } } },
    kick: { kind: "switch", from: { main: "ShiftLeft", pad: "PadSouth" } },
    roll: { kind: "switch", from: { main: { taps: 2, of: "KeyR" }, any: "KeyT" } },
  },
} as unknown as Plan;

/** Two players, each with a pad. */
const seated = {
  reacherPlan: 1,
  slots: { main: { device: "keyboard" }, other: { device: "keyboard" }, pad: { device: "pad" } },
  seats: { amber: { slots: ["main", "pad"] }, teal: { slots: ["other", "pad"] } },
  actions: { kick: { kind: "switch", from: { main: "KeyK", other: "KeyO", pad: "PadSouth" } } },
} as unknown as Plan;

/** A layer with hands, a capture on it, and what the capture showed. */
function open(options: CaptureOptions, before?: (hands: ReturnType<typeof play>) => void) {
  const input = createInputLayer(plan) as InputLayer;
  const hands = play(input);
  before?.(hands);
  const shown: CaptureProgress[] = [];
  const one = capture(input, { ...options, onProgress: (progress) => shown.push(progress) });
  let ended: Captured | undefined;
  void one.done.then((captured) => (ended = captured));
  const end = async () => {
    await Promise.resolve();
    return ended;
  };
  return { input, hands, one, shown, end };
}

type Doing = (hands: ReturnType<typeof play>) => unknown;

/** Each row: an address, what the hands do, and what is caught there. */
test.each<[string, Doing, string | undefined]>([
  ["kick.main", (hands) => hands.tap("KeyV"), "KeyV"],
  ["kick.main", (hands) => hands.tap("MouseBack"), "MouseBack"],
  ["kick.main", (hands) => hands.tap("WheelUp", 0), "WheelUp"],
  ["kick.main", (hands) => hands.tap("PadEast").tap("KeyV"), "KeyV"],
  ["kick.main", (hands) => hands.press("KeyV", "KeyB").wait(9).release("KeyB", "KeyV"), "KeyV"],
  ["kick.main", (hands) => hands.press("KeyV"), undefined],
  ["kick.main", (hands) => hands.tap("Backspace").tap("F5").tap("MetaLeft"), undefined],
  ["kick.pad", (hands) => hands.tap("KeyV").tap("PadEast"), "PadEast"],
  [
    "kick.pad",
    (hands) =>
      hands.pull("PadLeftTrigger", 0.45).pull("PadLeftTrigger", 0.5).wait(9).pull("PadLeftTrigger", 0.39),
    "PadLeftTrigger",
  ],
  [
    "kick.pad",
    (hands) => hands.tilt("PadRightStick", 0, 0.59).tilt("PadRightStick", 0, 0.6).tilt("PadRightStick", 0, 0),
    "PadRightStickUp",
  ],
  ["kick.pad", (hands) => hands.tilt("PadRightStick", -0.7, 0).tilt("PadRightStick", -0.45, 0), undefined],
  [
    "swim.pad",
    (hands) => hands.tilt("PadRightStick", -0.7, 0.1).tilt("PadRightStick", 0.05, 0),
    "PadRightStick",
  ],
  ["swim.pad", (hands) => hands.tap("PadDpadUp"), "PadDpad"],
  ["swim.pad.up", (hands) => hands.tap("PadDpadUp"), "PadDpadUp"],
  ["swim.main.up", (hands) => hands.tap("KeyZ"), "KeyZ"],
  [
    "depth.pad",
    (hands) => hands.tap("PadEast").tilt("PadLeftStick", 0, -1).tilt("PadLeftStick", 0, 0),
    "PadLeftStickY",
  ],
  [
    "look.any",
    (hands) => hands.tap("KeyE").tilt("PadLeftStick", 1, 0).tilt("PadLeftStick", 0, 0),
    "PadLeftStick",
  ],
  ["roll.any", (hands) => hands.tap("PadDpadLeft"), "PadDpadLeft"],
])("%s by %s is %s", async (address, doing, control) => {
  const { hands, end } = open({ address });
  doing(hands);
  expect(await end()).toEqual(control === undefined ? undefined : { control });
});

test("what is down when it opens has to be let go, and is not caught", async () => {
  const { hands, one, end } = open({ address: "kick.main" }, (all) => all.press("KeyE", "KeyW").wait(50));
  expect(one.progress).toMatchObject({ state: "letGo", letGo: ["KeyE", "KeyW"] });
  hands.wait(20).tap("KeyV").release("KeyE").tap("KeyV");
  expect([one.progress.state, await end()]).toEqual(["letGo", undefined]);
  hands.release("KeyW");
  expect(one.progress.state).toBe("listening");
  hands.tap("KeyE");
  expect(await end()).toEqual({ control: "KeyE" });
});

test("a press that is fed and not yet stepped is from before as well", () => {
  const input = createInputLayer(plan);
  input.step(0);
  input.feed({ t: 5, control: "KeyE", value: 1 });
  expect(capture(input, { address: "kick.main" }).progress.letGo).toEqual(["KeyE"]);
});

test("a stick that drifts is no press; moved clearly from where it rests it is", async () => {
  const { hands, one, end } = open({ address: "kick.pad" }, (all) =>
    all.tilt("PadLeftStick", 0.45, 0).wait(9),
  );
  expect(one.progress.state).toBe("listening");
  hands.tilt("PadLeftStick", 0.62, 0);
  expect(one.progress.state).toBe("listening");
  hands.tilt("PadLeftStick", 0.75, 0).tilt("PadLeftStick", 0.3, 0);
  expect(await end()).toEqual({ control: "PadLeftStickRight" });
});

test.each<[string, CaptureOptions, Doing, object]>([
  ["Escape", { address: "kick.main" }, (hands) => hands.press("Escape"), { why: "cancelled" }],
  ["the pad's own", { address: "kick.main" }, (hands) => hands.press("PadCenterLeft"), { why: "cancelled" }],
  [
    "another one",
    { address: "kick.main", cancelWith: ["KeyQ"] },
    (hands) => hands.press("KeyQ"),
    { why: "cancelled" },
  ],
  ["lost focus", { address: "kick.main" }, (hands) => hands.press("KeyV").loseFocus(), { why: "lost" }],
  [
    "the time",
    { address: "kick.main", timeoutMs: 500 },
    (hands) => hands.step().wait(501).step(),
    { why: "timeout" },
  ],
])("%s ends it with nothing", async (_, options, doing, ended) => {
  const { hands, end, input, one } = open(options, (all) => all.wait(1));
  doing(hands);
  expect(await end()).toEqual({ control: null, ...ended });
  expect([input.intercepted, one.progress.state]).toEqual([false, "over"]);
});

test("its time is met exactly, and a press in the last moment may be let go later", async () => {
  const { hands, end, one } = open({ address: "kick.main", timeoutMs: 500 }, (all) => all.wait(100));
  hands.step().wait(500).step();
  expect([await end(), one.leftMs]).toEqual([undefined, 0]);
  hands.press("KeyV").wait(300).release("KeyV");
  expect(await end()).toEqual({ control: "KeyV" });
});

test("the game's actions hear nothing of it, and what was held came to rest", async () => {
  const { hands, input, end } = open({ address: "kick.main" }, (all) =>
    all.press("KeyW", "ShiftLeft").wait(50),
  );
  hands.step();
  expect([input.now["kick"], input.now["swim"]]).toMatchObject([{ on: false }, { length: 0 }]);
  hands.release("KeyW", "ShiftLeft").wait(10).press("ShiftLeft", "KeyD").wait(50);
  expect([input.now["kick"], input.now["swim"]]).toMatchObject([{ on: false }, { length: 0 }]);
  hands.release("ShiftLeft", "KeyD").wait(10);
  expect(await end()).toEqual({ control: "ShiftLeft" });
  hands.press("ShiftLeft");
  expect(input.now["kick"]).toMatchObject({ on: true, presses: 1 });
});

test("a second one ends the first, and only one is ever open", async () => {
  const { input, hands, end } = open({ address: "kick.main" });
  const second = capture(input, { address: "roll.main" });
  expect(await end()).toEqual({ control: null, why: "replaced" });
  hands.tap("KeyV");
  expect(await second.done).toEqual({ control: "KeyV" });
});

test("why a press cannot stand there is shown; accept takes fewer", () => {
  const { hands, shown } = open({
    address: "kick.main",
    accept: ({ name }) => name !== "KeyZ",
  });
  hands.tap("PadEast").tap("KeyZ").tap("Backspace").tap("Tab");
  expect(shown.flatMap(({ refused }) => (refused === undefined ? [] : [refused]))).toEqual([
    { control: "PadEast", why: "it is for the keyboard or mouse" },
    { control: "KeyZ", why: "it is not taken here" },
    { control: "Backspace", why: "Backspace is kept for something else" },
    { control: "Tab", why: "Tab belongs to the browser (focus, reload, full screen)" },
  ]);
});

test.each([
  ["kcik.main", '"kcik.main" is no address of the plan; one is swim.main'],
  ["kick.mian", '"kick.mian" is no address of the plan; one is swim.main'],
])("%s: %s", (address, message) => {
  expect(() => capture(createInputLayer(plan), { address })).toThrow(message);
});

test("another player's pad plays on, and their keys that were down are let go in the game", async () => {
  const two = {
    ...plan,
    slots: { main: {}, other: {}, pad: { device: "pad" } },
    seats: { amber: { slots: ["main", "pad"] }, teal: { slots: ["other", "pad"] } },
    actions: { kick: { kind: "switch", from: { main: "KeyE", other: "KeyP", pad: "PadSouth" } } },
  } as unknown as Plan;
  const input = createInputLayer(two) as InputLayer;
  const hands = play(input);
  input.assignPad("teal", 1);
  const teal = () => (input.seat("teal").now["kick"] as { on: boolean }).on;
  hands.press("KeyP").wait(10);
  const one = capture(input, { seat: "amber", address: "kick.pad" });
  hands.wait(10);
  expect([teal(), one.progress.letGo]).toEqual([true, ["KeyP"]]);
  hands.release("KeyP").step();
  expect(teal()).toBe(false);
  input.feed({ t: hands.t, control: "PadSouth", value: 1, pad: 1 });
  hands.wait(1).step();
  expect(teal()).toBe(true);
  input.feed({ t: hands.t, control: "PadNorth", value: 1, pad: 0 });
  input.feed({ t: hands.t, control: "PadNorth", value: 0, pad: 0 });
  expect(await one.done).toEqual({ control: "PadNorth" });
});

test("a tap test listens to the first key alone, and the game hears none of it", async () => {
  const input = createInputLayer(plan) as InputLayer;
  const hands = play(input);
  const { test: tested, done } = runTapTest(input, { range: [120, 400], pairs: 2 });
  for (const gap of [190, 260])
    hands
      .tap("KeyR", 60)
      .tap("KeyB", 10)
      .wait(gap - 70)
      .tap("KeyR", 50)
      .wait(1200);
  expect(await done).toBe(true);
  expect(tested.result).toEqual({
    pairs: [
      { gapMs: 190, heldMs: 60 },
      { gapMs: 260, heldMs: 60 },
    ],
    gapMs: 320,
    reason: "The slowest of your 2 took 260 ms; with room for a tired hand that is 320 ms.",
  });
  expect([input.intercepted, input.now["roll"]]).toMatchObject([false, { on: false, presses: 0 }]);
});

test("a tap test by hand: pairs, what is left, and what the range allows", () => {
  const of = (range: [number, number], gap: number) => {
    const test = tapTest(range, 2);
    for (const t of [0, 5000]) {
      for (const at of [t, t + gap]) {
        test.press(at);
        // A repeat of a held key is none.
        test.press(at + 1);
        test.release(at + 30);
      }
      if (t === 0) expect(test.result.reason).toBe("1 more double tap, slowly and at ease.");
    }
    return test;
  };
  expect(tapTest([100, 400]).result.reason).toBe("5 more double taps, slowly and at ease.");
  expect(of([120, 240], 200).result.gapMs).toBe(240);
  expect(of([120, 240], 200).result.reason).not.toContain("allows");
  expect(of([120, 230], 200).result).toMatchObject({
    gapMs: 230,
    reason: expect.stringContaining("allows 230 ms at most"),
  });
  expect(of([130, 400], 100).result).toMatchObject({
    gapMs: 130,
    reason: expect.stringContaining("allows no less than 130 ms"),
  });
  const test = of([120, 400], 200);
  test.restart();
  expect(test.result.pairs).toEqual([]);
  // Two presses far apart are no pair; the later one begins the next.
  for (const t of [0, 1001, 1200]) {
    test.press(t);
    test.release(t + (t === 1001 ? 40 : 20));
  }
  expect(test.result.pairs).toEqual([{ gapMs: 199, heldMs: 40 }]);
});

test("a tap test hears an analog button from the middle of its travel on, and is given up by its keys", async () => {
  const input = createInputLayer(plan) as InputLayer;
  const running = runTapTest(input, { range: [100, 400], pairs: 1 });
  const feed = (t: number, value: number) => {
    input.feed({ t, control: "PadSouth", value, pad: 0 });
    input.step(t);
  };
  for (const [t, value] of [
    [10, 0.49],
    [20, 0.5],
    [90, 0.49],
    [120, 0.5],
    [150, 0.5],
  ] as const)
    feed(t, value);
  expect(running.test.result.pairs).toEqual([{ gapMs: 100, heldMs: 70 }]);
  input.feed({ t: 200, control: "Escape", value: 0.5 });
  input.step(210);
  expect([await running.done, input.intercepted]).toEqual([false, false]);
});

test("a lost pad of another player ends no capture; the focus does", async () => {
  for (const [lost, why] of [
    ["pad", undefined],
    ["focus", "lost"],
  ] as const) {
    const input = createInputLayer(seated) as InputLayer;
    input.assignPad("amber", 0);
    input.assignPad("teal", 1);
    input.step(1);
    const one = capture(input, { address: "kick.main", seat: "amber" });
    let ended: Captured | undefined;
    void one.done.then((captured) => (ended = captured));
    if (lost === "pad") input.lose("pad", 1, 5);
    else input.lose("focus", 5);
    input.step(10);
    await Promise.resolve();
    expect(ended?.control === null ? ended.why : undefined).toBe(why);
    one.cancel();
    expect(one.leftMs).toBe(0);
  }
});

test("a lost pad holds nothing, bound or not", () => {
  const input = createInputLayer(plan) as InputLayer;
  for (const control of ["PadSouth", "PadNorth"]) input.feed({ t: 1, control, value: 1, pad: 0 });
  input.step(2);
  expect(
    input
      .held()
      .map(({ control }) => control)
      .sort(),
  ).toEqual(["PadNorth", "PadSouth"]);
  input.lose("pad", 0, 3);
  input.step(4);
  expect(input.held()).toEqual([]);
});
