/** The browser's devices, on a window that a test can drive. Real keys in a real browser press the examples' pages. */
import { createInputLayer, definePlan, type InputLayer } from "reacher";
import { attachBrowser, type BrowserOptions } from "reacher/browser";
import { simulatePad, type SimulatedPad } from "reacher/testing";

const plan = definePlan({
  reacherPlan: 1,
  modes: { dive: {}, menu: { covers: "all" } },
  actions: {
    swim: {
      kind: "vector",
      in: ["dive"],
      from: { main: { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyD" }, pad: "PadLeftStick" },
      shape: { deadZone: { inner: 0, outer: 0 } },
    },
    kick: { kind: "switch", in: ["dive"], from: { main: "ShiftLeft", spare: "ShiftRight", pad: "PadSouth" } },
    snip: {
      kind: "switch",
      in: ["dive"],
      from: { main: "MouseMain", spare: "Space", pad: "PadRightTrigger" },
    },
    grab: { kind: "switch", in: ["dive"], from: { main: "MouseSecondary", spare: "MouseBack" } },
    next: { kind: "switch", in: ["dive"], from: { main: "WheelDown", spare: "WheelUp" } },
  },
});

/** As much of a window as the devices use. May change: its clock, its pads, what listens on it. */
class TestWindow extends EventTarget {
  time = 0;
  pads: (SimulatedPad | null)[] = [];
  listening = 0;
  frame: (() => void) | undefined;
  timeout: (() => void) | undefined;
  readonly document = Object.assign(new EventTarget(), {
    visibilityState: "visible",
    hasFocus: (): boolean => true,
  });
  readonly navigator = { getGamepads: () => this.pads };
  readonly performance = { now: () => this.time };

  constructor() {
    super();
    for (const target of [this, this.document]) this.countListeners(target);
  }

  requestAnimationFrame(fn: () => void): number {
    this.frame = fn;
    return 1;
  }

  setTimeout(fn: () => void): void {
    this.timeout = fn;
  }

  cancelAnimationFrame(): void {
    this.frame = undefined;
  }

  private countListeners(target: EventTarget): void {
    const { addEventListener, removeEventListener } = EventTarget.prototype;
    target.addEventListener = (...args) => {
      this.listening++;
      addEventListener.apply(target, args as never);
    };
    target.removeEventListener = (...args) => {
      this.listening--;
      removeEventListener.apply(target, args as never);
    };
  }
}

/** A layer attached to a test window, with the few things that a person does. */
function sit({ grab = true, ...options }: { grab?: boolean } & BrowserOptions = {}) {
  const view = new TestWindow();
  const input = createInputLayer(plan);
  // A game that binds no second mouse button lets the browser's menu come up.
  if (!grab) input.setOverrides({ reacherOverrides: 1, controls: { "grab.main": null } });
  const detach = attachBrowser(input, { window: view as unknown as Window, ...options });
  const send = (type: string, fields: object, target: EventTarget = view) => {
    const event = new Event(type, { cancelable: true });
    for (const [name, value] of Object.entries({ timeStamp: view.time, ...fields })) {
      Object.defineProperty(event, name, { value });
    }
    target.dispatchEvent(event);
    return event.defaultPrevented;
  };
  const key = (code: string, more: object = {}) =>
    send("keydown", { code, shiftKey: code.startsWith("Shift"), ...more });
  const up = (code: string, more: object = {}) => send("keyup", { code, ...more });
  /** Polls the pads, as a frame does, and steps the layer. */
  const step = () => {
    view.time += 10;
    view.frame?.();
    return input.step(view.time);
  };
  return { view, input, detach, send, key, up, step };
}

test("keys by their code, with the event's own stamp", () => {
  const { view, key, up, step } = sit();
  view.time = 100;
  key("KeyW");
  view.time = 104;
  key("ShiftLeft");
  expect(step()).toMatchObject({ swim: { y: 1 }, kick: { on: true, onMs: 10 } });
  up("KeyW", { shiftKey: true });
  expect(step().swim.length).toBe(0);
});

test("repeats, unknown codes, composition and text fields press nothing", () => {
  const { key, up, step } = sit();
  const field = { closest: () => null, localName: "input", type: "text" };
  key("KeyW", { repeat: true });
  key("");
  key("KeyA", { isComposing: true });
  key("KeyS", { keyCode: 229 });
  key("KeyD", { target: field });
  expect(step().swim.length).toBe(0);
  up("KeyW");
  expect(step().swim.length).toBe(0);
});

test("both Shifts, one of which is never told to be up", () => {
  const { key, up, step } = sit();
  key("ShiftLeft");
  key("ShiftRight");
  // A Shift's own release tells nothing of the other one: some systems say that none is held.
  up("ShiftRight", { shiftKey: false });
  expect(step().kick.on).toBe(true);
  // Any other event does.
  key("KeyW", { shiftKey: false });
  expect(step().kick.on).toBe(false);
});

test("a mouse event knows of a Shift that was let go elsewhere", () => {
  const { key, send, step } = sit();
  key("ShiftLeft");
  expect(step().kick.on).toBe(true);
  send("mousedown", { button: 0, shiftKey: false });
  expect(step()).toMatchObject({ kick: { on: false }, snip: { on: true } });
});

test("mouse buttons; what the page would do with the others is prevented where the plan uses them", () => {
  const { send, step } = sit();
  expect([
    send("mousedown", { button: 0 }),
    send("mousedown", { button: 2 }),
    send("mousedown", { button: 1 }),
  ]).toEqual([false, true, false]);
  expect(send("contextmenu", {})).toBe(true);
  expect(step()).toMatchObject({ snip: { on: true }, grab: { on: true, by: "MouseSecondary" } });
  send("mouseup", { button: 0 });
  expect([send("mouseup", { button: 2 }), send("mouseup", { button: 3 })]).toEqual([false, false]);
  expect(step()).toMatchObject({ snip: { on: false }, grab: { on: false } });
});

test.each([
  ["three notches at once", [300], "WheelDown", 3],
  ["a smooth wheel that sends quarters of a notch", [25, 25, 25, 25], "WheelDown", 1],
  ["a turn back begins a new notch", [75, -75, -25], "WheelUp", 1],
  ["part of a notch", [60], null, 0],
  ["a flick of a trackpad is not a dozen", Array.from({ length: 40 }, () => 30), "WheelDown", 1],
])("the wheel: %s", (_, turns, by, presses) => {
  const { send, step } = sit();
  for (const deltaY of turns) expect(send("wheel", { deltaY, deltaMode: 0 })).toBe(true);
  expect(step().next).toMatchObject({ presses, on: false, by });
});

test("the wheel counts lines too, and Control with it stays the browser's zoom", () => {
  const { send, step } = sit();
  expect(send("wheel", { deltaY: 3, deltaMode: 1 })).toBe(true);
  expect(step().next.presses).toBe(1);
  expect(send("wheel", { deltaY: 300, deltaMode: 0, ctrlKey: true })).toBe(false);
  expect(step().next.presses).toBe(0);
});

test("a click of the wheel is one in every browser; a part of one is forgotten, and sideways is the page's", () => {
  const { view, send, step } = sit();
  const turn = (fields: object) =>
    send("wheel", { deltaX: 0, deltaY: 0, deltaMode: 0, shiftKey: false, ...fields });
  // Pixels, lines, and pixels of another size: 120 a click in all of them.
  for (const [deltaY, deltaMode] of [
    [120, 0],
    [3, 1],
    [81, 0],
  ] as const) {
    for (let n = 0; n < 10; n++) expect(turn({ deltaY, deltaMode, wheelDeltaY: -120 })).toBe(true);
    expect(step().next).toMatchObject({ presses: 10, by: "WheelDown" });
  }
  turn({ deltaY: 60 });
  view.time += 251;
  turn({ deltaY: 60 });
  expect(step().next.presses).toBe(0);
  view.time += 300;
  expect(turn({ deltaX: 300 })).toBe(false);
  expect(turn({ deltaX: -120, wheelDeltaX: 120, shiftKey: true })).toBe(true);
  expect(step().next).toMatchObject({ presses: 1, by: "WheelUp" });
});

test.each<[string, (sat: ReturnType<typeof sit>) => void]>([
  ["a menu that opens", ({ send, view }) => send("contextmenu", { target: elementOf("canvas") }, view)],
  ["a native list", ({ send }) => send("mousedown", { button: 0, target: elementOf("select") })],
  ["the print dialog", ({ send }) => send("beforeprint", {})],
  ["a field to type in", ({ send }) => send("focusin", { target: elementOf("textarea") })],
])("%s takes the releases: everything at rest", (_, happen) => {
  const sat = sit({ grab: false });
  sat.key("KeyS");
  expect(sat.step().swim.y).toBe(-1);
  happen(sat);
  expect(sat.step().swim.length).toBe(0);
});

/** As much of an element as the devices look at. */
function elementOf(localName: string, more: object = {}) {
  // No area for fingers, and all but the canvas is something to work with.
  const closest = (selector: string) =>
    localName === "canvas" || selector === "[data-reacher-touch]" ? null : {};
  return { closest, matches: () => false, localName, ...more };
}

test("a menu that the game prevents is none, and loses nothing", () => {
  const { key, send, step } = sit();
  key("KeyW");
  expect(send("contextmenu", { target: elementOf("canvas") })).toBe(true);
  expect(step().swim.y).toBe(1);
});

test("the key that opened a text field does not type its repeats into it; pressed anew it does", () => {
  const { send } = sit();
  const field = { target: elementOf("textarea") };
  const down = (more: object) => send("keydown", { code: "KeyT", key: "t", ...more });
  down({});
  send("focusin", field);
  expect(down({ repeat: true, ...field })).toBe(true);
  send("keyup", { code: "KeyT", ...field });
  expect(down(field)).toBe(false);
  expect(down({ repeat: true, ...field })).toBe(false);
});

test.each([
  ["a mouse or a finger clicked it", 1, {}, true],
  ["a key worked it", 0, {}, false],
  ["it is in a dialog", 1, { dialog: true }, false],
  ["the page has given the focus to something else", 1, { moved: true }, false],
])(
  "a button keeps the focus or gives it back: %s",
  (_, detail, { dialog = false, moved = false }: any, blurs) => {
    let blurred = false;
    const button = {
      blur: () => (blurred = true),
      getRootNode: () => ({ activeElement: moved ? {} : button }),
      closest: (selector: string) => (selector.startsWith("dialog") ? (dialog ? {} : null) : button),
    };
    const { view, send } = sit();
    send("click", { detail, target: button, composedPath: () => [button] });
    view.timeout?.();
    expect(blurred).toBe(blurs);
  },
);

test("a field inside a shadow root is typed in; a plain button leaves the arrows to the game", () => {
  const { key, step } = sit();
  const field = elementOf("input", { type: "text" });
  key("KeyW", { target: elementOf("chat-box"), composedPath: () => [field, elementOf("chat-box")] });
  expect(step().swim.length).toBe(0);
  const button = elementOf("button", { matches: () => true });
  expect(key("Space", { target: button })).toBe(false);
  key("KeyD", { target: button });
  expect(step().swim.x).toBe(1);
});

test("a dead key ends with the next press or with its repeats, at the latest after three quarters of a second", () => {
  jest.useFakeTimers();
  const { key, step, view } = sit();
  const wait = (ms: number) => {
    view.time += ms;
    jest.advanceTimersByTime(ms);
  };
  key("KeyW", { key: "Dead" });
  expect(step().swim.y).toBe(1);
  key("KeyD", { key: "d" });
  expect(step().swim).toMatchObject({ x: 1, y: 0 });
  key("KeyA", { key: "Dead" });
  wait(730);
  expect(step().swim.x).toBe(-1);
  wait(20);
  expect(step().swim.x).toBe(1);
  // Held, it repeats, and is down until it no longer does.
  key("ShiftLeft", { key: "Dead" });
  for (let n = 0; n < 20; n++) {
    wait(100);
    key("ShiftLeft", { key: "Dead", repeat: true });
    expect(step().kick.on).toBe(true);
  }
  wait(150);
  expect(step().kick.on).toBe(false);
  // A second tap is one, though the first one's release never came.
  key("ShiftLeft", { key: "Dead" });
  wait(100);
  key("ShiftLeft", { key: "Dead" });
  expect(step().kick.presses).toBe(2);
  jest.useRealTimers();
});

/** What takes the releases of all that is held, as each browser does it; the page hears at most of its end. */
const TAKEN: Record<string, (seat: ReturnType<typeof sit>) => void> = {
  "the pointer's lock ends": ({ view, send }) => {
    Object.assign(view.document, { pointerLockElement: null });
    send("pointerlockchange", {}, view.document);
  },
  "full screen ends": ({ view, send }) => {
    Object.assign(view.document, { fullscreenElement: null });
    send("fullscreenchange", {}, view.document);
  },
  "a menu opens that the page cannot prevent": ({ view, send }) => {
    Object.assign(view.navigator, { userAgent: "Mozilla/5.0 Gecko/20100101" });
    send("mousedown", { button: 2, buttons: 2, shiftKey: true });
    view.timeout?.();
  },
  "a menu bar opens": ({ view, key }) => {
    Object.assign(view.navigator, { userAgent: "Mozilla/5.0 Gecko/20100101" });
    key("F10", { shiftKey: true });
  },
  "a choice of colours opens": ({ send }) =>
    send("mousedown", {
      button: 0,
      buttons: 1,
      shiftKey: true,
      target: elementOf("input", { type: "color" }),
    }),
};

test.each(Object.entries(TAKEN))("%s: all is at rest", (_, take) => {
  const seat = sit();
  seat.key("KeyW");
  seat.key("ShiftLeft");
  expect(seat.step()).toMatchObject({ swim: { y: 1 }, kick: { on: true } });
  take(seat);
  expect(seat.step()).toMatchObject({ swim: { y: 0 }, kick: { on: false }, snip: { on: false } });
});

test("Alt and Control whose release the window system kept, and what was held with them", () => {
  for (const [code, modifier] of [
    ["AltLeft", "altKey"],
    ["ControlLeft", "ctrlKey"],
  ] as const) {
    const { key, step, send } = sit();
    key(code, { [modifier]: true });
    key("KeyW", { [modifier]: true });
    expect(step().swim.y).toBe(1);
    send("mousemove", { buttons: 0, [modifier]: false });
    expect(step().swim.y).toBe(0);
  }
});

test("a button let go over a frame is up with the next move; what was pressed for the game begins no drag", () => {
  const { send, step } = sit();
  expect(send("dragstart", {})).toBe(false);
  send("mousedown", { button: 0, buttons: 1 });
  expect(send("dragstart", {})).toBe(true);
  send("mousemove", { buttons: 1 });
  expect(step().snip.on).toBe(true);
  send("mousemove", { buttons: 0 });
  expect(step().snip.on).toBe(false);
});

test("a press on what is open over the page is the page's, and Escape closes it", () => {
  const { send, step, key, view } = sit();
  send("mousedown", { button: 0, target: elementOf("p", { closest: () => ({}) }) });
  expect(step().snip.on).toBe(false);
  const escape = createInputLayer({
    reacherPlan: 1,
    actions: { menu: { kind: "switch", from: { main: "Escape" } } },
  });
  attachBrowser(escape, { window: view as unknown as Window });
  expect(key("Escape")).toBe(true);
  Object.assign(view.document, { querySelector: () => ({}) });
  expect(key("Escape")).toBe(false);
});

test("another window's events come by the clock of this one", () => {
  const { view, input, key } = sit();
  Object.assign(view.performance, { timeOrigin: performance.timeOrigin + 2300 });
  const heard: number[] = [];
  input.watch({ event: (event) => heard.push(event.t) });
  view.time = 100;
  key("KeyW");
  input.step(5000);
  expect(heard[0]).toBeCloseTo(2400, 3);
});

test("other names of one key, and none", () => {
  const { key, up, step, input } = sit();
  const heard: string[] = [];
  input.onPress(({ control }) => heard.push(control));
  key("OSLeft", { metaKey: true });
  up("OSLeft");
  key("Unidentified");
  step();
  expect(heard).toEqual(["MetaLeft"]);
});

test("a finger is the main button from the moment at which it comes down, and no second press follows", () => {
  const { send, step } = sit();
  const target = elementOf("canvas");
  const finger = { pointerType: "touch", isPrimary: true, pointerId: 7, target };
  send("pointerdown", finger);
  expect(step().snip).toMatchObject({ on: true, presses: 1 });
  send("pointerup", finger);
  send("mousedown", { button: 0, target });
  send("mouseup", { button: 0, target });
  expect(step().snip).toMatchObject({ on: false, presses: 0 });
  send("pointerdown", { ...finger, target: elementOf("button") });
  expect(step().snip.on).toBe(false);
});

test("with an area, presses count where they begin inside it", () => {
  const inside = { ...elementOf("button"), nodeType: 1 };
  const area = { contains: (one: unknown) => one === inside } as unknown as Element;
  const { send, step } = sit({ area });
  send("mousedown", { button: 0, target: { ...elementOf("canvas"), nodeType: 1 } });
  expect(step().snip.on).toBe(false);
  send("mousedown", { button: 0, target: inside });
  expect(step().snip.on).toBe(true);
});

test("where the mouse is in an area; a size of the page that changes moves it without a hand", () => {
  const aiming = definePlan({
    reacherPlan: 1,
    actions: { aim: { kind: "vector", from: { main: "MousePoint", pad: "PadRightStick" } } },
  });
  const box = { left: 100, top: 50, width: 400, height: 200 };
  const area = { contains: () => true, getBoundingClientRect: () => box } as unknown as Element;
  const { input, send, step } = sit({ area });
  send("mousemove", { clientX: 350, clientY: 150, movementX: 1, movementY: 0 });
  expect(input.counters.ignored).toBe(0);
  input.setPlan(aiming);
  const shown = () => {
    step();
    const { aim } = input.now as never as { aim: { x: number; y: number; length: number } };
    return [aim.x, aim.y, aim.length].map((value) => Math.round(value * 1000) / 1000 + 0);
  };
  expect(shown()).toEqual([0, 0, 0]);
  send("mousemove", { clientX: 300, clientY: 50, movementX: 1, movementY: 0 });
  expect(shown()).toEqual([0, 1, 1]);
  send("mousemove", { clientX: 310, clientY: 150, movementX: 1, movementY: 0 });
  // 10 of 100 pixels, where 25 count in full.
  expect(shown()).toEqual([0.4, 0, 0.4]);
  Object.assign(box, { width: 440 });
  send("resize", {});
  expect(shown()).toEqual([-0.4, 0, 0.4]);
});

test("one layer is attached once, and outside a page it says so", () => {
  const { view, input, detach } = sit();
  const again = () => attachBrowser(input, { window: view as unknown as Window });
  expect(again).toThrow("this layer is attached to a window already, and would hear everything twice");
  detach();
  again()();
  expect(() => attachBrowser(createInputLayer(plan))).toThrow("attachBrowser was called outside a page");
});

test("a page that may not read pads is told so once, and plays on", () => {
  const told: string[] = [];
  let asked = 0;
  const { key, step } = sit({
    pads: () => {
      asked++;
      throw new Error("denied by policy");
    },
    onFault: (message) => told.push(message),
  });
  key("KeyW");
  for (let n = 0; n < 5; n++) expect(step().swim.y).toBe(1);
  expect([asked, told]).toEqual([
    1,
    ["this page may not read pads (denied by policy); keyboard and mouse go on"],
  ]);
});

test("a page without focus hears no pad, unless it asks; what is held when focus comes back waits for rest", () => {
  const pad = simulatePad(0);
  for (const padsInBackground of [false, true]) {
    const { view, step } = sit({ padsInBackground });
    view.pads = [pad, undefined as never];
    pad.tilt("PadLeftStick", 0.8, 0);
    expect(step().swim.x).toBeCloseTo(0.8);
    view.document.hasFocus = () => false;
    step();
    pad.tilt("PadLeftStick", 0.6, 0);
    expect(step().swim.x).toBeCloseTo(padsInBackground ? 0.6 : 0.8);
    view.document.hasFocus = () => true;
    pad.rest();
    step();
  }
});

test("keys that come show that the window has the focus, whatever the page says after a frame of it is gone", () => {
  const pad = simulatePad(0);
  const { view, step, key, up, send } = sit();
  view.pads = [pad];
  send("blur", {});
  view.document.hasFocus = () => false;
  pad.tilt("PadLeftStick", 0.8, 0);
  expect(step().swim.x).toBe(0);
  pad.rest();
  key("KeyW");
  up("KeyW");
  step();
  pad.tilt("PadLeftStick", 0.8, 0);
  expect(step().swim.x).toBeCloseTo(0.8);
});

test("a standard pad that says -1 on all axes has not been moved yet", () => {
  const pad = simulatePad(0);
  const { view, step } = sit();
  view.pads = [{ ...pad, axes: [-1, -1, -1, -1] } as never];
  expect(step().swim.length).toBe(0);
  view.pads = [pad];
  step();
  pad.tilt("PadLeftStick", -1, 0);
  expect(step().swim.x).toBeCloseTo(-1);
});

test("after a lost focus a tilted stick counts again once it was at rest", () => {
  const pad = simulatePad(0);
  const { view, send, step } = sit();
  view.pads = [pad];
  pad.tilt("PadLeftStick", 0.9, 0);
  expect(step().swim.x).toBeCloseTo(0.9);
  // The window tells of it, and then the page, while it is gone, hears nothing.
  send("blur", {});
  view.document.hasFocus = () => false;
  expect(step().swim.x).toBe(0);
  view.document.hasFocus = () => true;
  for (let n = 0; n < 3; n++) expect(step().swim.x).toBe(0);
  pad.tilt("PadLeftStick", 0.1, 0);
  step();
  pad.tilt("PadLeftStick", 0.9, 0);
  expect(step().swim.x).toBeCloseTo(0.9);
});

test("keys that are not live are left to the page", () => {
  const { input, key, step } = sit();
  step();
  expect(key("Space")).toBe(true);
  input.enter("menu");
  step();
  expect([key("KeyW"), key("ArrowUp")]).toEqual([false, false]);
});

test.each([
  ["blur", (sat: ReturnType<typeof sit>) => sat.send("blur", {})],
  ["pagehide", (sat: ReturnType<typeof sit>) => sat.send("pagehide", {})],
  [
    "visibilitychange",
    (sat: ReturnType<typeof sit>) => {
      sat.view.document.visibilityState = "hidden";
      sat.send("visibilitychange", {}, sat.view.document);
    },
  ],
])("%s puts all to rest, and what is held counts when pressed anew", (_, lose) => {
  const sat = sit();
  const pad = simulatePad(0);
  sat.view.pads = [pad];
  pad.press("PadSouth");
  sat.key("KeyW");
  expect(sat.step()).toMatchObject({ swim: { y: 1 }, kick: { on: true } });
  lose(sat);
  expect(sat.step()).toMatchObject({ swim: { length: 0 }, kick: { on: false } });
  pad.release("PadSouth");
  sat.step();
  pad.press("PadSouth");
  sat.key("KeyW");
  expect(sat.step()).toMatchObject({ swim: { y: 1 }, kick: { on: true } });
});

describe("pads", () => {
  function withPads(...pads: SimulatedPad[]) {
    const sat = sit();
    sat.view.pads = pads;
    return sat;
  }

  test("sticks, buttons and triggers of a standard pad; the first press of a new pad is seen", () => {
    const pad = simulatePad(0);
    const { step } = withPads(pad);
    pad.tilt("PadLeftStick", 0.5, -0.5);
    pad.press("PadSouth");
    pad.pull("PadRightTrigger", 0.7);
    const { swim, kick, snip } = step();
    expect([swim.x, swim.y]).toEqual([expect.closeTo(0.5, 9), expect.closeTo(-0.5, 9)]);
    expect([kick.on, snip.on]).toEqual([true, true]);
    pad.rest();
    expect(step()).toMatchObject({ swim: { length: 0 }, kick: { on: false }, snip: { on: false } });
  });

  test("several pads drive a plan without seats together; a lost one is at rest, and can come back", () => {
    const [one, other] = [simulatePad(0), simulatePad(2)];
    const { view, send, step } = withPads(one, other);
    one.tilt("PadLeftStick", 0.3, 0);
    other.tilt("PadLeftStick", -0.9, 0);
    expect(step().swim.x).toBe(-0.9);
    view.pads = [one];
    send("gamepaddisconnected", { gamepad: { index: 2 } });
    expect(step().swim.x).toBe(0.3);
    view.pads = [one, other];
    expect(step().swim.x).toBe(-0.9);
  });

  test("places that are empty, pads that are gone and layouts that are not standard are left out", () => {
    const gone = simulatePad(1);
    gone.connected = false;
    const odd = { ...simulatePad(2), mapping: "" };
    for (const pad of [gone, odd]) pad.press("PadSouth");
    const { view, step } = sit();
    view.pads = [null, gone, odd as SimulatedPad];
    expect(step().kick.on).toBe(false);
  });
});

test("detach leaves nothing behind", () => {
  const { view, input, detach, key, step } = sit();
  key("KeyW");
  expect(step().swim.y).toBe(1);
  expect(view.listening).toBeGreaterThan(8);
  detach();
  detach();
  expect([view.listening, view.frame, step().swim.length]).toEqual([0, undefined, 0]);
  key("KeyD");
  expect((input as InputLayer).step(1e6)["swim"]).toMatchObject({ length: 0 });
});
