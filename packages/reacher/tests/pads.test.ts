/** Pads that do not report the standard layout, and pads of several players, on a window that a test can drive. */
import { createInputLayer, type Plan } from "reacher";
import {
  attachBrowser,
  LAYOUT_STEPS,
  learnPad,
  PadLayouts,
  type LayoutStore,
  type PadLike,
} from "reacher/browser";

/** A pad whose order of buttons and axes nobody knows: its sticks are axes 2, 3 (upside down) and 0, 1; its triggers rest at -1. */
class OddPad implements PadLike {
  readonly mapping = "";
  connected = true;
  timestamp = 0;
  readonly axes = [0, 0, 0, 0, -1, -1];
  readonly buttons = Array.from({ length: 8 }, () => ({ value: 0, pressed: false }));

  constructor(
    readonly index: number,
    readonly id = "odd pad",
  ) {}

  press(button: number, value = 1): void {
    this.buttons[button] = { value, pressed: value > 0.5 };
  }
}

const ODD_MOVES: Record<string, (pad: OddPad, value: number) => void> = {
  PadLeftStickX: (pad, value) => (pad.axes[2] = value),
  PadLeftStickY: (pad, value) => (pad.axes[3] = -value),
  PadRightStickX: (pad, value) => (pad.axes[0] = value),
  PadRightStickY: (pad, value) => (pad.axes[1] = value),
  PadLeftTrigger: (pad, value) => (pad.axes[4] = value * 2 - 1),
  PadSouth: (pad, value) => pad.press(6, value),
  PadEast: (pad, value) => pad.press(2, value),
};

function memory(): LayoutStore & { readonly kept: Map<string, string> } {
  const kept = new Map<string, string>();
  return {
    kept,
    getItem: (key) => kept.get(key) ?? null,
    setItem: (key, value) => void kept.set(key, value),
    removeItem: (key) => void kept.delete(key),
  };
}

const plan = {
  reacherPlan: 1,
  seats: { amber: { slots: ["leftHand", "pad"] }, teal: { slots: ["rightHand", "pad"] } },
  actions: {
    swim: {
      kind: "vector",
      from: {
        leftHand: { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyD" },
        rightHand: { up: "ArrowUp", left: "ArrowLeft", down: "ArrowDown", right: "ArrowRight" },
        pad: "PadLeftStick",
      },
      shape: { deadZone: { inner: 0, outer: 0 } },
    },
    kick: { kind: "switch", from: { leftHand: "ShiftLeft", pad: ["PadSouth", "PadButton6"] } },
    sink: { kind: "switch", from: { pad: ["PadLeftTrigger", { use: "PadAxis4" }] } },
    look: { kind: "turn", from: { leftHand: { use: "MouseMove", perPixel: 1 } } },
  },
} as unknown as Plan;

/** A layer for two on a window with these pads. */
function sit(pads: PadLike[], layouts = new PadLayouts()) {
  const view = Object.assign(new EventTarget(), {
    pads,
    time: 0,
    document: Object.assign(new EventTarget(), { visibilityState: "visible" }),
    navigator: { getGamepads: (): PadLike[] => view.pads },
    performance: { now: () => view.time },
    frame: () => {},
    requestAnimationFrame: (fn: () => void) => ((view.frame = fn), 1),
    cancelAnimationFrame: () => {},
  });
  const input = createInputLayer(plan);
  attachBrowser(input, { window: view as unknown as Window, layouts });
  const step = () => {
    view.time += 10;
    view.frame();
    input.step(view.time);
    return ["amber", "teal"].map((name) => input.seat(name).now as any);
  };
  const send = (type: string, fields: object) =>
    view.dispatchEvent(Object.defineProperties(new Event(type), Object.getOwnPropertyDescriptors(fields)));
  const unplug = (pad: PadLike, told = true) => {
    view.pads = view.pads.filter((one) => one !== pad);
    if (told) send("gamepaddisconnected", { gamepad: { index: pad.index } });
  };
  return { view, input, step, unplug, send };
}

/** Follows the guided run, leaving out what the pad does not have. */
function learn(pad: OddPad) {
  const lesson = learnPad(pad);
  const asked: string[] = [];
  while (lesson.step !== undefined) {
    const { control, ask } = lesson.step;
    asked.push(ask);
    const move = ODD_MOVES[control];
    if (move === undefined) {
      lesson.skip();
      continue;
    }
    expect(lesson.look(pad)).toBe(false);
    move(pad, 1);
    expect(lesson.look(pad)).toBe(true);
    // What is still held is no answer to the next question.
    expect([lesson.look(pad), lesson.waits]).toEqual([false, true]);
    move(pad, 0);
    lesson.look(pad);
  }
  expect(asked).toEqual(LAYOUT_STEPS.map(({ ask }) => ask));
  return lesson.layout();
}

test("a pad of an unknown layout arrives by number, and at rest it is nobody's", () => {
  const pad = new OddPad(3);
  const { input, step } = sit([pad]);
  pad.axes[4] = -0.95;
  step();
  expect([input.seat("amber").pad, input.lastDevice]).toEqual([null, null]);
  pad.press(6);
  expect([step()[0].kick.on, input.seat("amber").pad, input.lastDevice]).toEqual([true, 3, "pad"]);
  pad.axes[4] = 1;
  expect(step()[0].sink.on).toBe(true);
});

test.each([0.6, 1])("a pad of an unknown layout that is first seen with a stick at %d", (pushed) => {
  const pad = new OddPad(3);
  pad.axes[4] = pushed;
  const { step } = sit([pad]);
  pad.press(6);
  for (let n = 0; n < 20; n++) {
    step();
    pad.axes[4] = 0;
  }
  pad.axes[4] = 1;
  expect(step()[0].sink.on).toBe(true);
});

test("a guided run learns a layout once; it is kept by the pad's id, and can be cleared", () => {
  const store = memory();
  const pad = new OddPad(0);
  expect(new PadLayouts(store).keep(pad.id, learn(pad))).toBe(true);
  // As after a reload: other layouts on the same store.
  const layouts = new PadLayouts(store);
  const { step } = sit([pad], layouts);
  pad.axes[2] = 0.5;
  pad.axes[3] = 0.5;
  pad.press(6);
  pad.axes[4] = 1;
  const [amber] = step();
  expect([amber.swim.x, amber.swim.y, amber.kick.on, amber.sink.on]).toEqual([0.5, 0.5, true, true]);
  layouts.forget(pad.id);
  pad.press(6, 0);
  step();
  pad.press(6);
  expect([step()[0].swim.length, step()[0].kick.on, store.kept.size]).toEqual([0, true, 0]);
});

test("a step can be gone back to, and an axis already taken is no answer", () => {
  const pad = new OddPad(0);
  const lesson = learnPad(pad);
  const move = (axis: number) => {
    pad.axes[axis] = 1;
    const learnt = lesson.look(pad);
    pad.axes[axis] = 0;
    lesson.look(pad);
    return learnt;
  };
  expect([move(2), move(2), lesson.done]).toEqual([true, false, 1]);
  lesson.back();
  expect([move(1), lesson.layout().axes]).toEqual([true, { PadLeftStickX: { axis: 1, sign: 1 } }]);
});

test.each([
  ["a text that is no JSON", "{"],
  ["a list", "[]"],
  [
    "numbers that are none",
    '{"buttons":{"PadSouth":-1,"__proto__":5},"axes":{"PadLeftStickX":{"axis":1e9,"sign":1}}}',
  ],
])("a store that holds %s is as good as an empty one", (_, text) => {
  const store = memory();
  store.setItem("reacher pad layout odd pad", text);
  const layout = new PadLayouts(store).find("odd pad");
  expect([Object.keys(layout?.buttons ?? {}), Object.keys(layout?.axes ?? {})]).toEqual([[], []]);
});

test("a store that refuses, an id of 10 kB and a device of 64 axes and more do no harm", () => {
  const refusing = { ...memory(), setItem: () => { throw new Error("full"); } }; // prettier-ignore
  const huge = new OddPad(0, "x".repeat(10_000));
  const layouts = new PadLayouts(refusing);
  expect(layouts.keep(huge.id, learn(huge))).toBe(false);
  expect(layouts.find(huge.id)).toBeDefined();
  const store = memory();
  new PadLayouts(store).keep(huge.id, { buttons: {}, axes: {} });
  expect(Math.max(...[...store.kept.keys()].map((key) => key.length))).toBeLessThan(300);

  const wide = { ...new OddPad(1), axes: Array<number>(300).fill(0), buttons: new OddPad(1).buttons };
  const { step, input } = sit([wide as PadLike]);
  step();
  wide.axes[200] = NaN;
  wide.axes[4] = 40;
  expect([step()[0].sink.on, input.counters.ignored]).toEqual([true, 0]);
});

test.each([
  ["told of", true],
  ["only gone", false],
])("a lost pad, %s, is at rest; plugged in again at another place it is its seat's own again", (_, told) => {
  const [one, other] = [new OddPad(0, "red pad"), new OddPad(1, "blue pad")];
  const { view, input, step, unplug } = sit([one, other]);
  one.press(6);
  step();
  other.press(6);
  step();
  unplug(one, told);
  const [amber, teal] = step();
  expect([amber.kick.on, teal.kick.on, input.seat("amber").padLost]).toEqual([false, true, true]);
  view.pads = [other, new OddPad(4, "red pad")];
  step();
  expect([input.seat("amber").pad, input.seat("amber").padLost]).toEqual([4, false]);
});

test("a pad's own stamp is the moment of its events, where it is fresh", () => {
  const pad = new OddPad(0);
  const { view, step } = sit([pad]);
  step();
  view.time = 100;
  pad.timestamp = 103;
  pad.press(6);
  expect(step()[0].kick.onMs).toBe(7);
  pad.timestamp = 1;
  pad.press(6, 0);
  step();
  pad.press(6);
  expect(step()[0].kick.onMs).toBe(0);
});

test("the mouse turns by the pixels that it moved", () => {
  const { view, step, send } = sit([]);
  step();
  send("mousemove", { movementX: 7, movementY: -3, timeStamp: view.time });
  send("mousemove", { movementX: 0, movementY: 0, timeStamp: view.time });
  expect(step()[0].look).toMatchObject({ dx: 7, dy: 3 });
});

test("twins that were lost together wait for a press, each seat in its turn; one alone comes back by itself", () => {
  const twins = () => [new OddPad(0, "twin"), new OddPad(1, "twin")] as const;
  const [one, other] = twins();
  const { view, input, step, unplug } = sit([one, other]);
  one.press(6);
  step();
  other.press(6);
  step();
  expect([input.seat("amber").pad, input.seat("teal").pad]).toEqual([0, 1]);
  // One alone is known by the seat that waits, at whichever place it comes back.
  unplug(other);
  view.pads = [one, new OddPad(3, "twin")];
  step();
  expect(input.seat("teal").pad).toBe(3);
  unplug(view.pads[1]!);
  unplug(one);
  step();
  const [first, second] = twins();
  view.pads = [first, second];
  step();
  expect(["amber", "teal"].map((name) => input.seat(name).padLost)).toEqual([true, true]);
  // Amber is asked first, and takes the one at the other place.
  second.press(6);
  expect(step()[0].kick.on).toBe(true);
  first.press(6);
  expect(step()[1].kick.on).toBe(true);
  expect(["amber", "teal"].map((name) => [input.seat(name).pad, input.seat(name).padLost])).toEqual([
    [1, false],
    [0, false],
  ]);
});

test("a direction pad that is one axis, triggers that say 0 until they are moved, and axes that rest at -1 are learnt", () => {
  const pad = new OddPad(0);
  // Axis 5 is the direction pad, at rest beyond its range; axis 4 a trigger that says 0 at first.
  pad.axes[4] = 0;
  pad.axes[5] = 1.2857;
  const lesson = learnPad(pad);
  const answer = (...moves: (() => void)[]) => {
    for (const move of moves) {
      move();
      lesson.look(pad);
    }
  };
  const rest = () => (pad.axes[5] = 1.2857);
  for (const { control } of LAYOUT_STEPS) {
    expect(lesson.step?.control).toBe(control);
    if (control === "PadLeftTrigger")
      answer(
        () => (pad.axes[4] = -0.9),
        () => (pad.axes[4] = 1),
        () => (pad.axes[4] = -1),
      );
    else if (control === "PadDpadUp") answer(() => (pad.axes[5] = -1), rest);
    else if (control === "PadDpadDown") answer(() => (pad.axes[5] = 1 / 7), rest);
    else if (control === "PadDpadLeft") answer(() => (pad.axes[5] = 5 / 7), rest);
    else if (control === "PadDpadRight") answer(() => (pad.axes[5] = -3 / 7), rest);
    else lesson.skip();
  }
  expect(lesson.waits).toBe(false);
  const layout = lesson.layout();
  expect(layout.buttons["PadLeftTrigger"]).toEqual({ axis: 4, sign: 1, rest: -1 });
  const layouts = new PadLayouts(memory());
  layouts.keep(pad.id, layout);
  const found = new PadLayouts();
  found.keep(pad.id, layout);
  const { step, input } = sit([pad], found);
  pad.axes[4] = 0;
  const heard: string[] = [];
  input.onPress(({ control }) => heard.push(control));
  step();
  pad.axes[4] = -1;
  step();
  expect(heard).toEqual([]);
  // Half of its way is half, and a diagonal is both of its sides.
  pad.axes[4] = 0.1;
  expect(step()[0].sink.on).toBe(true);
  pad.axes[5] = -5 / 7;
  step();
  expect(heard).toEqual(["PadLeftTrigger", "PadDpadUp", "PadDpadRight"]);
});
