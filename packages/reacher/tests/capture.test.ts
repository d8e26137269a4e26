/** The control that a player wants at an address: what is caught, what is not, and what the game hears meanwhile. */
import { createInputLayer, type InputLayer, type Plan } from "reacher";
import {
  capture,
  runTapTest,
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
