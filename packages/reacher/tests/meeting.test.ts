/** Faults that sit where features meet: bindings that change while keys are held, callbacks that change what runs, events that fall together. */
import { createInputLayer, type InputLayer, type Overrides, type Plan } from "reacher";
import { capture } from "reacher/rebind";
import { ARROWS, WASD } from "./plans";

const sw = (main: unknown, more: object = {}) => ({ kind: "switch", from: { main }, ...more });
const layer = (actions: object, more: object = {}) =>
  createInputLayer({ reacherPlan: 1, ...more, actions } as unknown as Plan) as InputLayer & { now: any };
const own = (controls: Record<string, string | null>, settings = {}): Overrides => ({
  reacherOverrides: 1,
  controls,
  settings,
});

/** Keys down (+) and up (-), each with its moment. */
function feed(input: InputLayer, ...events: [number, string][]) {
  for (const [t, key] of events) input.feed({ t, control: key.slice(1), value: key.startsWith("+") ? 1 : 0 });
}

/** A layer that nobody listens to, and the same with a callback for everything and a watcher. */
const listened = (input: InputLayer) => {
  for (const { kind, name } of Object.entries(input.plan.actions).map(([name, { kind }]) => ({ name, kind })))
    if (kind === "switch")
      for (const change of ["on", "off", "pulse"] as const) input.on(name, change, () => {});
  input.watch({ event() {}, changed() {}, turned() {}, settled() {} });
  return input;
};
const WAYS = [
  ["bare", (input: InputLayer) => input],
  ["listened to", listened],
] as const;

describe.each(WAYS)("%s", (_, dress) => {
  test("a mode that a callback enters is the same one in the plan that it sets", () => {
    const actions = { hop: sw("KeyE"), row: sw("KeyT", { in: ["boat"] }) };
    const input = dress(layer(actions, { modes: { menu: {}, boat: {} } }));
    input.on("hop", "on", () => {
      input.enter("menu");
      input.setPlan({ reacherPlan: 1, modes: { boat: {}, menu: {} }, actions } as unknown as Plan);
    });
    feed(input, [10, "+KeyE"]);
    input.step(20);
    expect(input.modes).toEqual(["menu"]);
  });

  test("what a callback commands comes after all windows that end at its moment", () => {
    const waiting = (key: string) => sw({ use: key, waits: true });
    const input = dress(
      layer({
        hop: waiting("KeyE"),
        roll: sw({ taps: 2, of: "KeyE", gapMs: 200 }),
        duck: waiting("KeyR"),
        dive: sw({ taps: 2, of: "KeyR", gapMs: 200 }),
      }),
    );
    const told: string[] = [];
    input.on("hop", "on", () => input.mute("duck", "hop"));
    for (const change of ["on", "off"] as const) input.on("duck", change, (t) => told.push(`${change} ${t}`));
    feed(input, [10, "+KeyE"], [10, "+KeyR"]);
    input.step(300);
    expect(told).toEqual(["on 210", "off 210"]);
  });

  test("what needs a switch further down the plan begins in the press that begins that", () => {
    const input = dress(
      layer({
        lamp: sw("KeyK", { style: "toggle", needs: "pump" }),
        pump: sw("KeyK", { style: "toggle", needs: "air" }),
        air: sw("KeyK"),
      }),
    );
    feed(input, [10, "+KeyK"]);
    expect(input.step(20)).toMatchObject({ lamp: { on: true }, pump: { on: true } });
  });

  test("a trigger, a half axis and a whole one alone on an axis move it, in plans with seats too", () => {
    for (const [pad, control, value, moved] of [
      ["PadRightTrigger", "PadRightTrigger", 0.7, 0.698925],
      [{ plus: "PadRightTrigger" }, "PadRightTrigger", 0.7, 0.698925],
      [{ minus: "PadLeftStickLeft" }, "PadLeftStickX", -0.7, -0.690476],
      ["PadLeftStickY", "PadLeftStickY", -0.7, 0.690476],
    ] as const) {
      for (const seats of [undefined, { amber: { slots: ["pad"] } }]) {
        const input = dress(layer({ gas: { kind: "axis", from: { pad } } }, seats && { seats }));
        const press = seats === undefined ? [] : [{ t: 1, control: "PadSouth", value: 1 }];
        for (const event of [...press, { t: 10, control, value }]) input.feed(event);
        expect((input.step(20) as any).gas.value).toBeCloseTo(moved, 5);
        input.setOverrides(own({}));
        input.feed({ t: 30, control, value: 0 });
        expect((input.step(40) as any).gas).toMatchObject({ value: 0, device: null });
      }
    }
  });

  test("one event that moves an axis up and down again is a press and a release", () => {
    const input = dress(
      layer({
        kick: sw("PadLeftStickRight"),
        lamp: sw("PadLeftStickRight", { style: "toggle" }),
        tuck: sw({ short: "PadLeftStickRight" }),
        surge: sw({ series: ["PadLeftStickRight", "PadLeftStickLeft"], gapMs: 100 }),
      }),
    );
    input.step(100);
    for (const value of [1, 0, -1, 0]) input.feed({ t: 50, control: "PadLeftStickX", value });
    const { kick, lamp, tuck, surge } = input.step(120) as any;
    for (const one of [kick, tuck, surge])
      expect([one.on, one.presses, one.turnedOn, one.turnedOff]).toEqual([false, 1, true, true]);
    expect([lamp.on, lamp.presses]).toEqual([true, 1]);
  });

  test("a key's own signal is told before the direction that it gives, whatever else is in the plan", () => {
    for (const more of [{}, { haul: sw({ all: ["swim.down", "KeyQ"] }) }]) {
      const swim = { kind: "vector", from: { main: WASD } };
      const dash = sw({ series: ["KeyW", "swim.up"], gapMs: 200 });
      const input = dress(layer({ swim, dash, ...more }));
      feed(input, [10, "+KeyW"]);
      expect((input.step(20) as any).dash.on).toBe(true);
    }
  });

  test("a press that waits is let through as soon as nothing can claim it any more", () => {
    const input = dress(
      layer({
        lamp: sw({ use: "KeyE", waits: true }),
        dash: sw({ taps: 2, of: "KeyE", gapMs: 300, brokenBy: "any" }),
        kick: sw("KeyQ"),
      }),
    );
    feed(input, [10, "+KeyE"], [100, "+KeyQ"]);
    const { lamp } = input.step(200) as any;
    expect([lamp.on, lamp.onMs]).toEqual([true, 100]);
  });

  test("of one name and opposite needs, whoever may comes back, in either order of the plan", () => {
    const run = sw("ShiftLeft", { needs: "not wet", oneOf: "gait" });
    const paddle = sw("ShiftLeft", { needs: "wet", oneOf: "gait" });
    for (const actions of [
      { run, paddle },
      { paddle, run },
    ]) {
      const input = dress(layer(actions, { flags: { wet: false } }));
      feed(input, [10, "+ShiftLeft"]);
      const seen = [20, 30, 40, 50].map((t, n) => {
        const now = input.step(t) as any;
        input.setFlag("wet", n % 2 === 0);
        return [now.run.on, now.paddle.on];
      });
      expect(seen).toEqual([
        [true, false],
        [false, true],
        [true, false],
        [false, true],
      ]);
    }
  });

  test("one of several comes back with its needs, unless one that was pressed later is on", () => {
    const input = dress(
      layer(
        { kick: sw("KeyK", { needs: "hasAir", oneOf: "stance" }), tuck: sw("KeyC", { oneOf: "stance" }) },
        { flags: { hasAir: true } },
      ),
    );
    const on = (t: number) => {
      const now = input.step(t) as any;
      return [now.kick.on, now.tuck.on];
    };
    feed(input, [10, "+KeyK"]);
    expect(on(10)).toEqual([true, false]);
    input.setFlag("hasAir", false);
    feed(input, [20, "+KeyC"]);
    expect(on(20)).toEqual([false, true]);
    input.setFlag("hasAir", true);
    expect(on(30)).toEqual([false, true]);
    feed(input, [40, "-KeyC"]);
    expect(on(40)).toEqual([false, false]);
  });

  test.each(["hold", "either"])(
    "another key of %s turns it on while a mode hides the one that is held",
    (style) => {
      const modes = { dive: {}, menu: {} };
      const actions = {
        lamp: sw(["KeyL", "Space"], { in: ["dive"], style }),
        go: sw("Space", { in: ["menu"] }),
      };
      const input = dress(layer(actions, { modes }));
      const on = (t: number) => (input.step(t) as any).lamp.on;
      feed(input, [10, "+Space"]);
      expect(on(300)).toBe(true);
      input.enter("menu");
      expect(on(310)).toBe(false);
      feed(input, [320, "+KeyL"]);
      expect(on(320)).toBe(true);
      feed(input, [600, "-KeyL"]);
      expect(on(600)).toBe(false);
    },
  );

  test("what covers the same controls counts as not live for the entries it hides: carry and keeps too", () => {
    const modes = { dive: {}, menu: {} };
    const actions = {
      jump: sw("Space", { in: ["dive"], carry: true }),
      kick: sw("Space", { in: ["dive"], comesBack: false }),
      tuck: sw("Space", { in: ["dive"] }),
      lamp: sw("Space", { in: ["dive"], style: "either" }),
      go: sw("Space", { in: ["menu"] }),
    };
    const input = dress(layer(actions, { modes }));
    const on = (t: number) => {
      const now = input.step(t) as any;
      return ["jump", "kick", "tuck", "lamp"].filter((name) => now[name].on);
    };
    input.enter("menu");
    feed(input, [10, "+Space"]);
    expect(on(10)).toEqual([]);
    input.leave("menu");
    expect(on(20)).toEqual(["jump"]);
    feed(input, [30, "-Space"], [40, "+Space"]);
    expect(on(40)).toEqual(["jump", "kick", "tuck", "lamp"]);
    input.enter("menu");
    expect(on(50)).toEqual([]);
    input.leave("menu");
    expect(on(60)).toEqual(["jump", "tuck", "lamp"]);
    input.enter("menu", 65);
    feed(input, [70, "-Space"]);
    input.leave("menu", 75);
    expect(on(80)).toEqual([]);
    feed(input, [1000, "+Space"]);
    expect(on(1000)).toEqual(["jump", "kick", "tuck", "lamp"]);
  });
});

test("bindings that change within a callback change what follows, and nothing runs away", () => {
  const actions = {
    swap: sw("F1"),
    snip: sw("Space", { repeat: { everyMs: 100 } }),
    haul: sw({ long: "KeyG", afterMs: 300 }),
    tap: sw({ short: "F1" }),
  };
  const input = layer(actions);
  const pulses: number[] = [];
  input.on("snip", "pulse", (t) => pulses.push(t));
  input.on("swap", "on", () => void input.setOverrides(own({ "swap.main": "F2" })));
  feed(input, [10, "+Space"], [105, "+F1"], [105, "+KeyG"], [120, "-F1"]);
  for (let t = 0; t <= 448; t += 16) input.step(t);
  expect(pulses).toEqual([10, 110, 210, 310, 410]);
  expect([input.now.swap.on, input.now.haul.on, input.now.haul.onMs]).toEqual([false, true, 43]);
  feed(input, [500, "+F2"]);
  expect((input.step(500) as any).swap.on).toBe(true);

  const other = layer({ tap: sw({ short: "KeyE" }), snip: sw("Space", { repeat: { everyMs: 10 } }) });
  const seen: string[] = [];
  let turns = 0;
  for (const change of ["on", "off"] as const) other.on("tap", change, (t) => seen.push(`${change} ${t}`));
  for (const [name, change] of [
    ["tap", "on"],
    ["snip", "pulse"],
  ] as const)
    other.on(
      name,
      change,
      () => void other.setOverrides(turns++ % 2 === 0 ? own({ "snip.main": "KeyX" }) : null),
    );
  feed(other, [10, "+KeyE"], [20, "-KeyE"], [30, "+Space"]);
  other.step(200);
  expect(seen).toEqual(["on 20", "off 20"]);
  expect(other.now.tap.on).toBe(false);
});

test("seats opened, pads given, states restored and callbacks ended within a callback count at that moment", () => {
  const seats = { amber: { slots: ["main"] }, teal: { slots: ["spare"] } };
  const kick = { kind: "switch", from: { main: "ShiftLeft", spare: "ShiftRight" } };
  const input = layer({ kick, join: { kind: "switch", from: { main: "Enter" } } }, { seats });
  input.openSeats(["amber"]);
  input.on("join", "on", () => input.openSeats(["amber", "teal"]));
  feed(input, [10, "+ShiftRight"], [20, "+Enter"], [30, "+ShiftLeft"]);
  input.step(40);
  // Alone, amber had both keys; from 20 on the right one is teal's, who needs a new press of it.
  expect([input.now.kick.on, input.now.kick.onMs, (input.seat("teal").now as any).kick.on]).toEqual([
    true,
    10,
    false,
  ]);

  const back = layer({ undo: sw("KeyZ"), lamp: sw("KeyL", { style: "toggle" }) });
  back.step(0);
  const kept = back.snapshot();
  back.on("undo", "on", () => back.restore(kept));
  feed(back, [10, "+KeyL"], [20, "+KeyZ"], [30, "+KeyL"]);
  back.step(40);
  expect([back.now.lamp.on, back.now.undo.on]).toEqual([false, false]);
});

test("calls of callbacks follow the event at hand, all that is due then, or the windows that end there", () => {
  const input = layer(
    {
      haul: sw({ long: "KeyG", afterMs: 100 }),
      snip: sw("KeyG", { repeat: { everyMs: 100 }, needs: "free" }),
      lamp: sw("KeyL", { style: "toggle", needs: "free" }),
    },
    { flags: { free: true } },
  );
  const seen: string[] = [];
  for (const name of ["haul", "snip", "lamp"])
    for (const change of ["on", "off", "pulse"] as const)
      input.on(name, change, (t) => seen.push(`${t} ${name} ${change}`));
  input.on("haul", "on", () => input.setFlag("free", false));
  feed(input, [10, "+KeyG"], [110, "+KeyL"]);
  input.step(200);
  // The pulse at 110 is due with the long press; the flag falls after both, and before the key at 110.
  expect(seen).toEqual(["10 snip on", "10 snip pulse", "110 haul on", "110 snip pulse", "110 snip off"]);
});

test.each([1, 1000])(
  "what was fed for later does not change what a callback calls now (steps of %p ms)",
  (stepMs) => {
    const pad = { kick: sw("KeyK"), tuck: sw("KeyT"), surge: sw({ long: "PadSouth", afterMs: 40 }) };
    const input = layer(pad);
    const seen: string[] = [];
    input.on("kick", "on", () => input.mute("tuck", "reel"));
    input.on("kick", "off", () => input.lose("pad", 1));
    input.on("tuck", "on", (t) => seen.push(`tuck ${t}`));
    input.on("surge", "on", (t) => seen.push(`surge ${t}`));
    const events: [number, () => void][] = [
      [100, () => feed(input, [100, "+KeyK"])],
      [200, () => input.unmute("tuck", "reel", 200)],
      [300, () => feed(input, [300, "+KeyT"])],
      [400, () => input.feed({ t: 400, control: "PadSouth", value: 1, pad: 0 })],
      [420, () => feed(input, [420, "-KeyK"])],
      [500, () => input.feed({ t: 500, control: "PadNorth", value: 1, pad: 1 })],
      [500, () => input.feed({ t: 500, control: "PadSouth", value: 1, pad: 1 })],
    ];
    for (let t = stepMs; t <= 1000; t += stepMs) {
      while (events.length > 0 && events[0]![0] <= t) events.shift()![1]();
      input.step(t);
    }
    expect(seen).toEqual(["tuck 300", "surge 440"]);
  },
);

describe("nothing sticks when bindings change", () => {
  const swim = { kind: "vector", from: { main: WASD, spare: ARROWS } };
  const seats = { amber: { slots: ["main"] }, teal: { slots: ["spare"] } };

  test.each([
    ["another key", { "swim.main.up": "KeyZ" }],
    ["no key", { "swim.main.up": null }],
  ] as const)("a long press of a direction ends with its key: %s", (_, controls) => {
    const input = layer({ swim, surge: sw({ long: "swim.up", afterMs: 400 }) });
    feed(input, [10, "+KeyW"]);
    input.step(100);
    input.setOverrides(own(controls));
    feed(input, [300, "-KeyW"]);
    expect((input.step(1000) as any).surge).toMatchObject({ on: false, progress: 0 });
  });

  test("a long press of a direction ends when its key goes to a player who joins", () => {
    const surge = { kind: "switch", from: { main: { long: "swim.up", afterMs: 400 } } };
    const input = layer({ swim, surge }, { seats });
    input.openSeats(["amber"]);
    feed(input, [10, "+ArrowUp"]);
    input.step(100);
    input.openSeats(["amber", "teal"]);
    feed(input, [300, "-ArrowUp"]);
    expect((input.step(1000) as any).surge.on).toBe(false);
  });

  test("a window goes on for the keys that it keeps, at the length that it began with, and ends with a key that is lost", () => {
    for (const [controls, settings, second, on] of [
      [{ "swim.main.up": "KeyZ" }, {}, "+KeyZ", false],
      [{ "swim.spare.up": "KeyU" }, {}, "+KeyW", true],
      [{}, { "surge.gapMs": 120 }, "+KeyW", true],
    ] as const) {
      const player = { gapMs: [100, 400] };
      const input = layer({ swim, surge: sw({ taps: 2, of: "swim.up", gapMs: 300 }, { player }) });
      feed(input, [10, "+KeyW"], [50, "-KeyW"]);
      input.step(60);
      input.setOverrides(own(controls, settings));
      feed(input, [200, second]);
      expect((input.step(200) as any).surge.on).toBe(on);
    }
  });

  test("a loss that waits for its step is not lost with other keys", () => {
    const input = layer({ kick: sw("ShiftLeft"), lamp: sw("KeyL") });
    feed(input, [10, "+ShiftLeft"]);
    input.step(20);
    input.lose("focus", 30);
    input.setOverrides(own({ "lamp.main": "KeyK" }));
    expect((input.step(40) as any).kick.on).toBe(false);
    expect(input.held()).toEqual([]);
  });

  test.each([
    ["hold", "toggle", "+", true],
    ["hold", "either", "+", true],
    ["toggle", "hold", "+", true],
    ["toggle", "hold", "-", false],
    ["either", "hold", "-", false],
    ["toggle", "either", "-", true],
    ["either", "toggle", "-", true],
  ] as const)("%s, now a %s, its key %s: on is %s", (style, now, key, on) => {
    const input = layer({ kick: sw("ShiftLeft", { style }) });
    feed(input, [10, "+ShiftLeft"], ...(key === "-" ? [[50, "-ShiftLeft"] as [number, string]] : []));
    expect((input.step(60) as any).kick.on).toBe(true);
    input.setOverrides(own({}, { "kick.style": now }));
    expect((input.step(70) as any).kick.on).toBe(on);
    feed(input, [80, "-ShiftLeft"]);
    // What is latched now is not ended by the release of the key that it was held by.
    expect((input.step(90) as any).kick.on).toBe(on && now !== "hold");
    feed(input, [100, "+ShiftLeft"]);
    expect((input.step(110) as any).kick.on).toBe(now === "hold" || !on);
  });

  test("a toggle that is off, now a hold, is not turned on by a key that is down", () => {
    const input = layer({ kick: sw("ShiftLeft", { style: "toggle" }) });
    feed(input, [10, "+ShiftLeft"], [20, "-ShiftLeft"], [30, "+ShiftLeft"]);
    input.step(40);
    input.setOverrides(own({}, { "kick.style": "hold" }));
    expect((input.step(50) as any).kick.on).toBe(false);
  });
});

test("what is held is what devices hold, whoever has bound it since; a capture hears the next press", async () => {
  const input = layer({ kick: sw("ShiftLeft") });
  feed(input, [10, "+KeyF"]);
  input.step(20);
  input.setOverrides(own({ "kick.main": "KeyF" }));
  expect(input.held().map(({ control }) => control)).toEqual(["KeyF"]);
  feed(input, [30, "-KeyF"]);
  input.step(40);
  expect([input.held(), input.now.kick.presses]).toEqual([[], 0]);
  const caught = capture(input, { address: "kick.main" });
  feed(input, [50, "+KeyG"], [60, "-KeyG"]);
  input.step(70);
  expect(await caught.done).toMatchObject({ control: "KeyG" });

  const seated = layer(
    {
      kick: { kind: "switch", from: { pad: "PadSouth" } },
      swim: { kind: "vector", from: { pad: "PadLeftStick" } },
    },
    { seats: { amber: { slots: ["pad"] } } },
  );
  for (const [t, control, value] of [
    [10, "PadLeftStickX", 0.3],
    [20, "PadSouth", 1],
    [30, "PadSouth", 0],
    [30, "PadLeftStickX", 0],
  ] as const)
    seated.feed({ t, control, value, pad: 0 });
  seated.step(40);
  expect(seated.held()).toEqual([]);
});

test("reasons of mutes go with a snapshot, to another layer and over other reasons", () => {
  const actions = { surge: sw("KeyE"), kick: sw("KeyK") };
  const one = layer(actions);
  const other = layer(actions);
  for (const reason of ["talk", "cut"]) other.mute("kick", reason);
  one.mute("surge", "reel");
  for (const input of [one, other]) input.step(10);
  other.restore(one.snapshot());
  other.unmute("surge", "talk");
  feed(other, [20, "+KeyE"]);
  expect((other.step(20) as any).surge.on).toBe(false);
  other.unmute("surge", "reel");
  feed(other, [30, "-KeyE"], [40, "+KeyE"]);
  expect((other.step(40) as any).surge.on).toBe(true);
});

test("a layer's snapshot is all seats, a seat's is one; other slots or other keys refuse it", () => {
  const seats = { amber: { slots: ["main"] }, teal: { slots: ["spare"] } };
  const kick = { kind: "switch", style: "toggle", from: { main: "ShiftLeft", spare: "ShiftRight" } };
  const input = layer({ kick }, { seats });
  const on = () => ["amber", "teal"].map((name) => (input.seat(name).now as any).kick.on);
  input.step(0);
  const all = input.snapshot();
  const one = input.seat("teal").snapshot();
  expect(all.length).toBe(one.length * 2);
  feed(input, [10, "+ShiftLeft"], [10, "+ShiftRight"]);
  input.step(20);
  expect(on()).toEqual([true, true]);
  input.seat("teal").restore(one);
  expect(on()).toEqual([true, false]);
  input.restore(all);
  expect(on()).toEqual([false, false]);
  input.openSeats(["amber"]);
  expect(() => input.restore(all)).toThrow("the snapshot is not of this plan as it is now");
  input.openSeats(["amber", "teal"]);
  input.restore(all);
  input.setOverrides(own({ "kick.main": "KeyK" }));
  expect(() => input.restore(all)).toThrow("take a new one");
});
