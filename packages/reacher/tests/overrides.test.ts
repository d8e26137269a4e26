/** A player's changes: what they do to a plan, what of them does not fit, and what happens to what is held. */
import * as fc from "fast-check";
import {
  applyOverrides,
  createInputLayer,
  parseOverrides,
  parsePlan,
  ReacherError,
  type InputLayer,
  type Overrides,
  type Plan,
} from "reacher";
import { parseTrace } from "reacher/trace";
import { play } from "reacher/testing";
import { ARROWS, WASD } from "./plans";
import { runs } from "./runs";

const plan = {
  reacherPlan: 1,
  name: "kelpline",
  version: 2,
  protected: ["Escape"],
  player: { bounceMs: [0, 60] },
  slots: { main: {}, spare: {}, pad: {} },
  actions: {
    swim: {
      kind: "vector",
      required: true,
      player: { "deadZone.inner": [0, 0.4], gain: [0.3, 2], invert: true },
      from: { main: WASD, spare: ARROWS, pad: { use: "PadLeftStick", shape: { gain: 1 } } },
    },
    kick: {
      kind: "switch",
      required: true,
      was: ["sprint"],
      carry: true,
      from: { main: "ShiftLeft", spare: "ShiftRight" },
    },
    surge: {
      kind: "switch",
      player: { gapMs: [120, 400], style: ["hold"] },
      from: {
        main: [
          { taps: 2, of: "KeyE", gapMs: 220 },
          { use: "KeyR", waits: true },
        ],
      },
    },
    haul: {
      kind: "switch",
      player: { afterMs: [200, 900], controls: false },
      from: { main: { long: "KeyG" } },
    },
    snip: {
      kind: "switch",
      player: { everyMs: [100, 500] },
      repeat: { everyMs: 300 },
      from: { main: "KeyX" },
    },
    flash: {
      kind: "switch",
      from: {
        main: ["KeyF", { series: ["KeyI", "KeyI", "KeyK"] }],
        pad: { all: ["PadLeftBumper", "PadNorth"], spreadMs: 150 },
      },
    },
    tuck: { kind: "switch", carry: true, player: { style: ["hold", "toggle"] }, from: { main: "KeyC" } },
    look: { kind: "turn", from: { pad: { use: "PadRightStick", perSecond: 90 } } },
    pause: { kind: "switch", locked: true, from: { main: "Escape" } },
  },
} as unknown as Plan;

const overrides = (controls: object, settings: object = {}) =>
  parseOverrides({ reacherOverrides: 1, controls, settings });

/** Each row: a change, and what stands at a place of the plan after it. */
test.each<[object, string, unknown]>([
  [{ "swim.main.up": "KeyZ" }, "swim.from.main.up", "KeyZ"],
  [{ "kick.main": "KeyV" }, "kick.from.main", "KeyV"],
  [{ "sprint.main": "KeyV" }, "kick.from.main", "KeyV"],
  [{ "kick.spare": null }, "kick.from.spare", undefined],
  [{ "kick.pad": "PadSouth" }, "kick.from.pad", "PadSouth"],
  // A control replaces the control, and keeps gesture and options; an object replaces the entry whole.
  [{ "surge.main": "KeyT" }, "surge.from.main.0", { taps: 2, of: "KeyT", gapMs: 220 }],
  [{ "surge.main.1": "KeyT" }, "surge.from.main.1", { use: "KeyT", waits: true }],
  [{ "surge.main.0": { use: "KeyT" } }, "surge.from.main.0", { use: "KeyT" }],
  [{ "surge.main.2": "KeyU" }, "surge.from.main.2", "KeyU"],
  [{ "surge.main.0": null }, "surge.from.main", [{ use: "KeyR", waits: true }]],
  [{ "swim.pad": "PadRightStick" }, "swim.from.pad", { use: "PadRightStick", shape: { gain: 1 } }],
  // A chord's members, and by the address of the whole its last one.
  [{ "flash.pad.first": "PadEast" }, "flash.from.pad", { all: ["PadEast", "PadNorth"], spreadMs: 150 }],
  [{ "flash.pad": "PadEast" }, "flash.from.pad", { all: ["PadLeftBumper", "PadEast"], spreadMs: 150 }],
  [{ "flash.main.1.third": "KeyU" }, "flash.from.main.1", { series: ["KeyI", "KeyI", "KeyU"] }],
  [{ "flash.main.0": null, "flash.main.1": null }, "flash.from", { pad: expect.anything() }],
  // A key that moves from one slot to another leaves nothing bare on the way.
  [{ "kick.main": null, "kick.spare": "ShiftLeft" }, "kick.from", { spare: "ShiftLeft" }],
])("%j", (controls, place, expected) => {
  const { plan: raw, faults } = applyOverrides(plan, overrides(controls));
  expect(faults).toEqual([]);
  expect(place.split(".").reduce((value: any, key) => value?.[key], raw.actions)).toEqual(expected);
});

test.each<[object, string, unknown]>([
  [{ "kick.style": "toggle" }, "kick", { style: "toggle" }],
  [{ "surge.gapMs": 260 }, "surge.from.main.0", { gapMs: 260 }],
  [{ "haul.afterMs": 500 }, "haul.from.main", { long: "KeyG", afterMs: 500 }],
  [{ "snip.everyMs": 100 }, "snip.repeat", { everyMs: 100 }],
  [{ "swim.deadZone.inner": 0.2 }, "swim.shape", { deadZone: { inner: 0.2 } }],
  // Of the whole plan: all holds that the plan lets be toggles, and no others; what is set of one action counts more.
  [{ holds: "toggle" }, "tuck", { style: "toggle" }],
  [{ holds: "toggle" }, "kick", { carry: true }],
  // A key is carried over again.
  [{ holds: "toggle", "tuck.style": "hold" }, "tuck", { style: "hold", carry: true }],
  [{ swapSticks: true }, "swim.from.pad", { use: "PadRightStick", shape: { gain: 1 } }],
  [{ swapSticks: true }, "look.from.pad", { use: "PadLeftStick" }],
  [{ swapSticks: false }, "look.from.pad", { use: "PadRightStick" }],
  [{ "swim.gain": 2, "swim.invert": "y" }, "swim.shape", { gain: 2, invert: "y" }],
])("%j", (settings, place, expected) => {
  const { plan: raw, faults } = applyOverrides(plan, overrides({}, settings));
  expect(faults).toEqual([]);
  expect(place.split(".").reduce((value: any, key) => value?.[key], raw.actions)).toMatchObject(
    expected as object,
  );
});

/** Each row: what does not fit, and what is said of it. All the rest applies. */
test.each<[object, object, string]>([
  [
    { "kcik.main": "KeyV" },
    {},
    'rejected controls.kcik.main: the plan has no action "kcik"; did you mean kick?',
  ],
  [{ "kick.mian": "KeyV" }, {}, 'rejected controls.kick.mian: there is no slot "mian"; did you mean main?'],
  [
    { "kick.main": "LeftShift" },
    {},
    'rejected controls.kick.main: "LeftShift" is no control; did you mean ShiftLeft?',
  ],
  [{ "kick.main.up": "KeyV" }, {}, "rejected controls.kick.main.up: kick is a switch, and has no up"],
  [{ "surge.main.7": "KeyV" }, {}, "rejected controls.surge.main.7: the plan has nothing at this address"],
  [
    { "pause.main": "KeyP" },
    {},
    "rejected controls.pause.main: pause is locked: the plan lets nobody change it",
  ],
  [{ "haul.main": "KeyP" }, {}, "rejected controls.haul.main: the plan keeps the controls of haul"],
  [
    { "kick.main": null, "kick.spare": null },
    {},
    "rejected controls.kick.spare: kick is required; this would leave it bare",
  ],
  [{ "__proto__.main": "KeyP" }, {}, 'rejected controls.__proto__.main: the plan has no action "__proto__"'],
  [{}, { "surge.gapMs": 50 }, "clamped settings.surge.gapMs: 50 is not within 120 and 400; 120 is taken"],
  [{}, { "surge.gapMs": "250" }, "rejected settings.surge.gapMs: it is a number"],
  [{}, { "kick.gapMs": 250 }, "rejected settings.kick.gapMs: the plan does not let it be changed"],
  [{}, { "surge.style": "toggle" }, "rejected settings.surge.style: it is one of hold"],
  [{}, { "swim.style": "toggle" }, "rejected settings.swim.style: swim is no switch, and has no style"],
  [{}, { "swim.invert": "up" }, "rejected settings.swim.invert: it is one of none, x, y, both"],
  [{}, { bounceMs: 61 }, "clamped settings.bounceMs: 61 is not within 0 and 60; 60 is taken"],
  [{}, { bounceMs: "20" }, "rejected settings.bounceMs: it is a number"],
  [{}, { holds: "either" }, "rejected settings.holds: it is one of hold, toggle"],
  [{}, { swapSticks: 1 }, "rejected settings.swapSticks: it is true or false"],
  [{}, { boucneMs: 9 }, "rejected settings.boucneMs: there is no setting boucneMs; did you mean bounceMs?"],
  [
    { "snip.main": "Escape" },
    {},
    "rejected controls.snip.main: Escape is protected: the plan lets nobody use it for anything else",
  ],
  [
    { "flash.pad.third": "KeyV" },
    {},
    "rejected controls.flash.pad.third: the plan has nothing at this address",
  ],
  [{}, { "swim.valueOf": 1 }, "rejected settings.swim.valueOf: there is no setting valueOf"],
])("%j %j", (controls, settings, text) => {
  const { plan: raw, faults } = applyOverrides(
    plan,
    overrides({ ...controls, "swim.main.up": "KeyZ" }, settings),
  );
  expect(faults.map(({ what, place, message }) => `${what} ${place}: ${message}`)).toEqual([text]);
  expect((raw.actions["swim"] as any).from.main.up).toBe("KeyZ");
  expect(Object.prototype).not.toHaveProperty("main");
});

test("in whatever order the changes stand, the same comes of them", () => {
  const changes = fc.shuffledSubarray(
    [
      ["swim.main.up", "KeyZ"],
      ["swim.main.left", "KeyQ"],
      ["swim.spare", null],
      ["kick.main", null],
      ["kick.spare", "ShiftLeft"],
      ["surge.main.1", null],
      ["surge.main.0", "KeyT"],
      ["nobody.main", "KeyT"],
      ["snip.pad", "PadSouth"],
    ] as const,
    { minLength: 1 },
  );
  fc.assert(
    fc.property(changes, (list) => {
      const apply = (some: typeof list) => {
        const { plan: raw, faults } = applyOverrides(plan, overrides(Object.fromEntries(some)));
        return [raw, faults.map(({ place }) => place).sort()];
      };
      expect(apply(list)).toEqual(apply([...list].sort(([one], [other]) => (one < other ? -1 : 1))));
    }),
    runs(100),
  );
});

test("overrides of another plan change nothing; what is no overrides at all is refused", () => {
  const other = parseOverrides({ reacherOverrides: 1, plan: "reefline", controls: { "kick.main": "KeyV" } });
  const { plan: raw, faults } = applyOverrides(plan, other);
  expect([raw, faults.length]).toEqual([plan, 1]);
  for (const [bad, text] of [
    [null, "overrides are an object"],
    [{ reacherPlan: 1 }, "reacherOverrides is missing; this is a plan"],
    [{ reacherOverrides: 9 }, "reacherOverrides: 9 is not known"],
    [{ reacherOverrides: 1, controls: [] }, "controls: it is an object"],
  ] as const)
    expect(() => parseOverrides(bad)).toThrow(text);
});

test("applied while playing: what is on stays on, what is held stays held, and a new key waits for a new press", () => {
  const input = createInputLayer(plan);
  const hands = play(input).press("KeyD", "KeyZ", "ShiftLeft").wait(50);
  const seen: string[] = [];
  for (const change of ["on", "off"] as const)
    input.on("kick" as never, change, (t) => seen.push(`${change} ${t}`));
  expect(input.setOverrides(overrides({ "swim.main.up": "KeyZ", "kick.spare": "KeyV" }))).toEqual([]);
  const now = () => hands.wait(10).now as any;
  expect([now().swim.x, now().swim.y, now().kick.on]).toEqual([1, 0, true]);
  // The key is pressed anew, and now it is up; the old one is nothing any more.
  hands.release("KeyZ").wait(10).press("KeyZ", "KeyW");
  expect(now().swim.y).toBeCloseTo(Math.SQRT1_2, 9);
  hands.release("KeyZ");
  expect(now().swim.y).toBe(0);
  // The control that held it does it no longer: it ends.
  input.setOverrides(overrides({ "kick.main": "KeyV" }));
  expect([now().kick.on, seen]).toEqual([false, [expect.stringMatching(/^off /)]]);
  input.setOverrides(null);
  expect(now().swim.y).toBe(0);
  hands.release("KeyW").press("KeyW");
  expect(now().swim.y).toBeGreaterThan(0.5);
  expect(() => input.setOverrides([] as never)).toThrow("overrides are an object");
});

test("a toggle stays on when its key changes, and each seat has its own changes", () => {
  const two = {
    ...plan,
    seats: { amber: { slots: ["main"] }, teal: { slots: ["spare"] } },
    actions: { lamp: { kind: "switch", style: "toggle", from: { main: "KeyF", spare: "KeyL" } } },
  } as unknown as Plan;
  const input = createInputLayer(two);
  const hands = play(input).tap("KeyF").wait(20);
  input.setOverrides(overrides({ "lamp.main": "KeyH", "lamp.spare": "KeyJ" }));
  const lamps = () => (
    hands.wait(5).step(),
    ["amber", "teal"].map((name) => (input.seat(name).now as any).lamp.on)
  );
  expect(lamps()).toEqual([true, false]);
  hands.tap("KeyF").tap("KeyL");
  expect(lamps()).toEqual([true, true]);
  hands.tap("KeyH").tap("KeyJ");
  expect(lamps()).toEqual([false, true]);
});

test("events that wait for their step are handled by the new keys, and those of keys that are gone are forgotten", () => {
  const input = createInputLayer(plan);
  input.step(0);
  for (const control of ["KeyW", "KeyV", "KeyX"]) input.feed({ t: 10, control, value: 1 });
  input.setOverrides(overrides({ "swim.main.up": "KeyZ", "kick.main": "KeyV" }));
  expect(input.held().map(({ control }) => control)).toEqual(["KeyW", "KeyV", "KeyX"]);
  input.feed({ t: 15, control: "KeyV", value: 0 });
  input.feed({ t: 20, control: "KeyV", value: 1 });
  input.feed({ t: 20, control: "KeyZ", value: 1 });
  const now = input.step(30) as any;
  // KeyW is nobody's any more; KeyV was down before it was bound, which is no press of it.
  expect([now.swim.y, now.kick.on, now.kick.onMs, now.snip.on, now.snip.onMs]).toEqual([
    1,
    true,
    10,
    true,
    20,
  ]);
});

test("a ramp, a long press and a pulse under way go on through a change of keys", () => {
  const under = {
    reacherPlan: 1,
    actions: {
      swim: { kind: "vector", from: { main: WASD }, ease: { riseMs: 200, fallMs: 100 } },
      haul: { kind: "switch", from: { main: { long: "KeyG", afterMs: 300 } } },
      snip: { kind: "switch", repeat: { everyMs: 100 }, from: { main: "KeyX" } },
      dash: { kind: "switch", from: { main: { taps: 2, of: "swim.right", gapMs: 200 } } },
      lamp: { kind: "switch", from: { main: "KeyF" } },
    },
  } as unknown as Plan;
  const input = createInputLayer(under);
  const seen: string[] = [];
  for (const name of ["haul", "snip", "dash"])
    for (const change of ["on", "pulse"] as const)
      input.on(name as never, change, (t) => seen.push(`${name} ${change} ${t}`));
  const hands = play(input).tap("KeyD", 40).wait(60).press("KeyG", "KeyX").wait(50);
  input.setOverrides(overrides({ "lamp.main": "KeyL" }));
  hands.press("KeyD").wait(60);
  expect((hands.now as any).swim.x).toBeCloseTo(0.3, 9);
  hands.wait(240).step();
  expect(seen).toEqual([
    "snip on 100",
    "snip pulse 100",
    "dash on 150",
    "snip pulse 200",
    "snip pulse 300",
    "haul on 400",
    "snip pulse 400",
  ]);
});

/** Each row: `bounceMs`, presses and releases of a key in ms, and when the switch turns on and off. */
test("of two long presses on one key, each goes on as it was", () => {
  const input = createInputLayer({
    reacherPlan: 1,
    actions: {
      haul: {
        kind: "switch",
        from: {
          main: [
            { long: "KeyG", afterMs: 250 },
            { long: "KeyG", afterMs: 0 },
          ],
        },
      },
    },
  });
  input.feed({ t: 10, control: "KeyG", value: 1 });
  input.step(50);
  input.setOverrides({ reacherOverrides: 1 });
  expect(input.step(200).haul.on).toBe(true);
  input.feed({ t: 210, control: "KeyG", value: 0 });
  expect(input.step(220).haul.on).toBe(false);
});

test.each<[number, readonly number[], readonly string[]]>([
  [0, [10, 50, 60, 90], ["on 10", "off 50", "on 60", "off 90"]],
  // The window includes its end; the release counts when it has passed.
  [20, [10, 50, 70, 90], ["on 10", "off 110"]],
  [20, [10, 50, 70.5, 90], ["on 10", "off 70", "on 70.5", "off 110"]],
  [20, [10, 12, 14, 16, 30], ["on 10"]],
])("releases wait %d ms for a press: %j", (bounceMs, moments, seen) => {
  for (const hz of [20, 240]) {
    const input = createInputLayer({ ...plan, bounceMs } as Plan);
    const told: string[] = [];
    for (const change of ["on", "off"] as const)
      input.on("snip" as never, change, (t) => told.push(`${change} ${t}`));
    moments.forEach((t, n) => input.feed({ t, control: "KeyX", value: 1 - (n % 2) }));
    for (let t = 0; t <= 400; t += 1000 / hz) input.step(t);
    expect(told).toEqual(seen);
  }
});

test("a button that comes back as far as a press is kept has not been released", () => {
  const input = createInputLayer({
    reacherPlan: 1,
    bounceMs: 50,
    actions: { haul: { kind: "switch", from: { pad: "PadSouth" } } },
  });
  [0.9, 0.3, 0.4].forEach((value, n) => input.feed({ t: 10 + n * 10, control: "PadSouth", value }));
  expect(input.step(200).haul).toMatchObject({ on: true, onMs: 190 });
});

test("what waits is let go at once where focus is lost, or where nothing waits any more", () => {
  for (const end of ["focus", "overrides"]) {
    const input = createInputLayer({ ...plan, bounceMs: 50 } as Plan);
    const snip = () => (input.now as any).snip.on;
    const hands = play(input).press("KeyX").wait(20).release("KeyX").wait(20);
    expect((hands.step(), snip())).toBe(true);
    if (end === "focus") hands.loseFocus();
    else input.setOverrides(overrides({}, { bounceMs: 0 }));
    expect((hands.wait(1).step(), snip())).toBe(false);
    expect((hands.press("KeyX").wait(80).step(), snip())).toBe(true);
  }
});

test("any JSON as overrides is applied with a report, or refused with an error of the library", () => {
  const addresses = fc.oneof(
    fc.constantFrom(...Object.keys(plan.actions), "__proto__", "constructor", "kick.main", "flash.pad.first"),
    fc
      .tuple(
        fc.constantFrom(...Object.keys(plan.actions), "__proto__"),
        fc.constantFrom("main", "spare", "pad", "style", "gapMs", "__proto__", "deadZone"),
        fc.constantFrom("", ".up", ".0", ".1", ".first", ".inner", ".__proto__"),
      )
      .map(([action, slot, part]) => `${action}.${slot}${part}`),
    fc.string(),
  );
  const values = fc.oneof(
    fc.jsonValue(),
    fc.constantFrom(null, "KeyZ", "PadEast", { use: "KeyZ" }, 300, "toggle"),
  );
  const part = fc.dictionary(addresses, values, { noNullPrototype: true });
  const any = fc.oneof(
    fc.jsonValue(),
    fc.record({ reacherOverrides: fc.constant(1), controls: part, settings: part }),
  );
  fc.assert(
    fc.property(any, (raw) => {
      let read;
      try {
        read = parseOverrides(JSON.parse(JSON.stringify(raw)));
      } catch (error) {
        expect(error).toBeInstanceOf(ReacherError);
        return;
      }
      const { faults, plan: own } = applyOverrides(plan, read);
      for (const { place, message } of faults)
        expect([typeof place, message]).toEqual(["string", expect.stringMatching(/./)]);
      expect(Object.keys(own.actions)).toEqual(Object.keys(plan.actions));
      expect(Object.keys(Object.prototype)).toEqual([]);
    }),
    runs(150),
  );
});

test("what is nested 20,000 deep, a chain as long, and events that are none get an error by name", () => {
  let deep: unknown = "KeyA";
  for (let n = 0; n < 20_000; n++) deep = n % 2 === 0 ? [deep] : { a: deep };
  const plan = {
    reacherPlan: 1,
    actions: { kick: { kind: "switch", from: { main: "KeyK" } } },
  } as unknown as Plan;
  const input = createInputLayer(plan);
  const refuse = (run: () => unknown) => {
    expect(run).toThrow(ReacherError);
  };
  for (const overrides of [
    { reacherOverrides: 1, controls: { "kick.main": deep } },
    { reacherOverrides: 1, settings: { "kick.style": deep } },
    { reacherOverrides: deep },
  ] as unknown as Overrides[]) {
    refuse(() => parseOverrides(overrides));
    refuse(() => input.setOverrides(overrides));
  }
  expect(() => applyOverrides(plan, { reacherOverrides: 1, controls: { "kick.main": deep } })).toThrow(
    "controls.kick.main: it is nested deeper than any entry; take it out of the file",
  );
  for (const main of [deep, { use: deep }, { all: [deep] }])
    refuse(() => parsePlan({ ...plan, actions: { kick: { kind: "switch", from: { main } } } }));
  for (const more of [{ name: deep }, { modes: deep }, { actions: deep }, { x: deep }])
    refuse(() => parsePlan({ ...plan, ...more }));
  for (const line of [
    `{"t":1,"control":${"[".repeat(20_000)}${"]".repeat(20_000)},"value":1}`,
    `${"[".repeat(20_000)}`,
  ])
    refuse(() => parseTrace(`{"reacherTrace":1}\n${line}`));
  for (const event of [null, undefined, 5, "KeyK"]) refuse(() => input.feed(event as never));
  const chain = Object.fromEntries(
    Array.from({ length: 20_000 }, (_, n) => [
      `a${n}`,
      { kind: "switch", from: { main: "KeyK" }, ...(n < 19_999 && { needs: `a${n + 1}` }) },
    ]),
  );
  const long: InputLayer = createInputLayer({ reacherPlan: 1, actions: chain } as unknown as Plan);
  long.feed({ t: 1, control: "KeyK", value: 1 });
  expect((long.step(2)["a0"] as unknown as { on: boolean }).on).toBe(true);
});
