import {
  allControls,
  createInputLayer,
  findControl,
  findingText,
  placeLabel,
  parsePlan,
  PlanError,
  type Plan,
} from "reacher";
import { checkPlan } from "reacher/check";
import { meantOf, type Value } from "../src/plan/language/fields";
import { PLAN } from "../src/plan/language/plan";
import { resolvePlan } from "reacher/internal";
import { kelpline, WASD } from "./plans";

type Change = (plan: any) => void;

/** The demo's plan with one thing changed. */
function changed(change: Change): unknown {
  const plan = structuredClone(kelpline());
  change(plan);
  return plan;
}

function texts(plan: unknown): string[] {
  return checkPlan(plan).findings.map((found) => `${found.severity} ${found.id} ${findingText(found)}`);
}

test("the demo's plan is clean", () => {
  expect(texts(kelpline()).map((text) => text.slice(0, 18))).toEqual(["hint lonely-toggle"]);
});

// Each row: what is done to a good plan, and what is said of it, word for word.
test.each<[Change, string]>([
  [
    (p) => (p.actions.kick.from.main = "LeftShift"),
    'error unknown-control actions.kick.from.main: "LeftShift" is no control; did you mean ShiftLeft?',
  ],
  [
    (p) => (p.actions.kick.stlye = "hold"),
    'error unknown-field actions.kick.stlye: "stlye" is no field here; did you mean style?',
  ],
  [
    (p) => (p.actions.kick.kind = "buton"),
    'error unknown-kind actions.kick.kind: "buton" is no kind: switch, axis, vector or turn',
  ],
  [
    (p) => delete p.actions.kick.kind,
    "error missing-field actions.kick: kind is missing: switch, axis, vector or turn",
  ],
  [(p) => delete p.actions.kick.from, "error missing-field actions.kick: from is missing"],
  ...["flags", "numbers", "modes", "slots", "seats"].map((field): [Change, string] => [
    (p) => ((p as Record<string, unknown>)[field] = []),
    `error wrong-value ${field}: a list should be an object`,
  ]),
  [(p) => (p.seats = {}), "error missing-field seats: has no seat; name one, or leave it out"],
  [
    (p) => (p.actions.kick.from.main = { taps: 2, of: "KeyC", gpaMs: 3 }),
    'error unknown-field actions.kick.from.main.gpaMs: "gpaMs" is no field here; did you mean gapMs?',
  ],
  [
    (p) => (p.actions.kick.from.main = { taps: 1, of: "KeyC" }),
    "error wrong-value actions.kick.from.main.taps: 1 should be at least 2",
  ],
  [
    (p) => (p.actions.kick.from.main = { series: ["KeyC"] }),
    "error wrong-value actions.kick.from.main.series: a list should be of 2 at least",
  ],
  [
    (p) => (p.actions.kick.from.main = { long: "KeyC", afterMs: -5 }),
    "error wrong-value actions.kick.from.main.afterMs: -5 should be at least 0",
  ],
  [
    (p) => (p.actions.kick.from.main = ["KeyC", "KyeV"]),
    'error unknown-control actions.kick.from.main.1: "KyeV" is no control; did you mean KeyV?',
  ],
  [
    (p) => (p.actions.kick.from.main = { all: ["KeyC", "KeyC"] }),
    "error same-member actions.kick.from.main: names a control twice; it cannot be held twice",
  ],
  [
    (p) => (p.actions.kick.from.main = "swmi.up"),
    'error unknown-source actions.kick.from.main: "swmi" is neither a vector nor an axis; did you mean swim?',
  ],
  [
    (p) => (p.actions.kick.from.main = "swim.upp"),
    'error unknown-source actions.kick.from.main: "upp" is no direction: up, left, down or right; did you mean up?',
  ],
  [
    (p) => (p.actions.kick.from.main = "swim.each"),
    'error unknown-source actions.kick.from.main: "each" is no direction: up, left, down or right; each is for taps alone',
  ],
  [
    (p) => (p.actions.kick.from.main = { taps: 2, of: "KeyC", brokenBy: "opposite" }),
    "error no-opposite actions.kick.from.main.brokenBy: KeyC has no opposite; that is for directions, such as swim.right",
  ],
  [
    (p) =>
      (p.actions.kick.from.main = [
        { long: "KeyV", afterMs: 300 },
        { short: "KeyV", beforeMs: 301 },
      ]),
    "error short-after-long actions.kick.from.main.1.beforeMs: 301 is more than the afterMs 300 of the long on KeyV; a press between would be both",
  ],
  [
    (p) => (p.actions.kick.needs = ["hasAri"]),
    'error unknown-word actions.kick.needs: "hasAri" is neither a flag nor an action; did you mean hasAir?',
  ],
  [
    (p) => (
      (p.actions.kick.needs = "not tuck"),
      (p.actions.tuck.needs = "lamp"),
      (p.actions.lamp.needs = "kick")
    ),
    "error needs-circle actions.kick.needs: goes in a circle: kick -> tuck -> lamp -> kick",
  ],
  [
    (p) => ((p.modes = { dive: {} }), (p.actions.kick.in = ["dvie"])),
    'error unknown-mode actions.kick.in.0: there is no mode "dvie"; did you mean dive?',
  ],
  [(p) => (p.start = ["dock"]), 'error unknown-mode start.0: there is no mode "dock"'],
  [
    (p) => (p.actions.tuck.carry = true),
    "error carry-hold actions.tuck.carry: only a hold can carry a key over; this one's style is either",
  ],
  [
    (p) => (p.actions.look = { kind: "turn", from: { main: { use: "MouseMove", perSecond: 9 } } }),
    "error turn-unit actions.look.from.main: a mouse moves by pixels: give perPixel, and no perSecond",
  ],
  [
    (p) => (p.actions.look = { kind: "turn", from: { pad: { use: "PadRightStick" } } }),
    "error turn-unit actions.look.from.pad: PadRightStick turns as long as it is held: give perSecond",
  ],
  [
    (p) => (p.actions.look = { kind: "turn", from: { pad: { use: "PadSouth", perSecond: 9 } } }),
    "error wrong-control actions.look.from.pad.use: PadSouth is neither a stick nor MouseMove nor an own amount; a turn takes these",
  ],
  [
    (p) =>
      (p.actions.swim.shape.curve = {
        points: [
          [0, 0],
          [0.6, 0.5],
          [0.5, 0.7],
          [1, 1],
        ],
      }),
    "error curve-points actions.swim.shape.curve.points.2: a travel of 0.5 does not come after 0.6; put the points in order",
  ],
  [
    (p) =>
      (p.actions.swim.shape.curve = {
        points: [
          [0, 0],
          [0.4, 0.5],
          [1, 0.3],
        ],
      }),
    "error curve-points actions.swim.shape.curve.points.2: falls from 0.5 to 0.3: more tilt would give less movement",
  ],
  [
    (p) =>
      (p.actions.swim.shape.curve = {
        power: 2,
        points: [
          [0, 0.1],
          [0.9, 1],
        ],
      }),
    "error curve-points actions.swim.shape.curve.points.0: begins at [0, 0.1]; a curve begins at [0, 0]",
  ],
  [
    (p) => (p.actions.kick.from.pad = { use: "PadLeftTrigger", threshold: { press: 0.3, release: 0.6 } }),
    "error threshold-order actions.kick.from.pad.threshold: is released below 0.6 and pressed only from 0.3; the release has to be the lower",
  ],
  [(p) => (p.flags.wet = 3), "error wrong-value flags.wet: 3 should be true or false or an object"],
  [
    (p) => (p.actions.swim.shape.deadZone = []),
    "error wrong-value actions.swim.shape.deadZone: a list should be an object",
  ],
  [
    (p) => (p.actions.kick.restMs = 600),
    'error unknown-field actions.kick.restMs: "restMs" is no field here; did you mean cooldownMs?',
  ],
  [
    (p) => (p.actions.kick.player = { tapMs: [500, 120] }),
    "error range-order actions.kick.player.tapMs: the least, 500, is above the most, 120; write [120, 500]",
  ],
  [
    (p) => (p.player = { bounceMs: [80, 0] }),
    "error range-order player.bounceMs: the least, 80, is above the most, 0; write [0, 80]",
  ],
  [
    (p) => (p.protected = ["Escape", "Escpae"]),
    'error unknown-control protected.1: "Escpae" is no control; did you mean Escape?',
  ],
  [
    (p) => (p.actions.kick.from.main = { use: "KeyK", threshold: { press: 0.3 } }),
    "error threshold-none actions.kick.from.main.threshold: KeyK is down or up, and nothing between",
  ],
  [
    (p) => (p.seats = { amber: { slots: ["man"] } }),
    'error unknown-slot seats.amber.slots.0: there is no slot "man"; did you mean main?',
  ],
  [
    (p) => (p.seats = { amber: { slots: ["main", "pad"] }, teal: { slots: ["main"] } }),
    "warning two-seats actions.kick.from.main: ShiftLeft is in a slot of amber and teal; one press moves both players",
  ],
  [
    (p) => (p.seats = { amber: { slots: ["main", "pad"] } }),
    "warning unused-slot slots.spare: no seat has this slot",
  ],
  [
    (p) => (p.actions.swim.shape.deadZone.inner = NaN),
    "error wrong-value actions.swim.shape.deadZone.inner: NaN should be a number",
  ],
  [
    (p) => (p.actions.swim.pace.base = Infinity),
    "error wrong-value actions.swim.pace.base: Infinity should be a number",
  ],
  [
    (p) => (p.actions.swim.shape.deadZone.outer = 1.5),
    "error wrong-value actions.swim.shape.deadZone.outer: 1.5 should be at most 1",
  ],
  [(p) => (p.actions.swim.settleMs = -1), "error wrong-value actions.swim.settleMs: -1 should be at least 0"],
  [
    (p) => (p.actions.swim.directions = 6),
    'error wrong-value actions.swim.directions: 6 should be "free" or 8 or 4',
  ],
  [
    (p) => (p.actions.swim.from.main.up = 3),
    "error wrong-value actions.swim.from.main.up: 3 should be a text",
  ],
  [
    (p) => (p.actions.swim.from.main = "KeyW"),
    "error wrong-control actions.swim.from.main: KeyW is one control; a vector takes a stick, or a control for each of up, left, down and right",
  ],
  [
    (p) => (p.actions.kick.from.pad = "PadLeftStick"),
    "error wrong-control actions.kick.from.pad: PadLeftStick has four directions; take one: PadLeftStickUp",
  ],
  [
    (p) => (p.actions.depth.from.pad = "PadSouth"),
    'error wrong-control actions.depth.from.pad: PadSouth is a button; an axis takes it as an end: { "plus": "PadSouth" }',
  ],
  [
    (p) => (p.actions.kick.from.pad = "PadLeftStickX"),
    "error wrong-control actions.kick.from.pad: PadLeftStickX is an axis; take one side: PadLeftStickLeft or PadLeftStickRight",
  ],
  [
    (p) => (p.actions.kick.from.pda = "PadEast"),
    "error unknown-slot actions.kick.from.pda: there is no slot pda; did you mean pad?",
  ],
  [
    (p) => (p.actions.swim.pace.rules[1].when = "tukc"),
    'error unknown-word actions.swim.pace.rules.1.when: "tukc" is neither a flag nor an action; did you mean tuck?',
  ],
  [
    (p) => (p.actions.swim.pace.rules[1].set = 3),
    "error pace-rule actions.swim.pace.rules.1: a rule has either set (a speed) or times (a factor)",
  ],
  [
    (p) => (p.flags.kick = true),
    "error same-name flags.kick: an action has the name kick too, so a rule that says kick could mean either",
  ],
  [
    (p) => (p.actions.swim.shape.deadZone = { inner: 0.6, outer: 0.5 }),
    "error dead-zone-full actions.swim.shape.deadZone: inner 0.6 and outer 0.5 leave no travel between them",
  ],
  [
    (p) => (p.actions.swim.gaits = { drift: 0.4, cruise: 0.4 }),
    "error gaits-equal actions.swim.gaits.cruise: begins at 0.4, as drift does; only one of them can be reached",
  ],
  [
    (p) => (p.actions.swim.gaits = { drift: 0.4, race: 150 }),
    'error wrong-value actions.swim.gaits.race: is 150; it is above 0 and at most 1.414214 by length; for bands of a speed say "gaitsBy": "speed"',
  ],
  [
    (p) => (p.actions.swim.from.main = { up: "KeyS", left: "KeyD", down: "KeyW", right: "KeyA" }),
    "warning end-place actions.swim.from.main.up: KeyS for up lies below KeyW for down; are the two exchanged?",
  ],
  [
    (p) => Object.assign(p.actions.swim.from.main, { left: "Numpad6", right: "Numpad4" }),
    "warning end-place actions.swim.from.main.left: Numpad6 for left lies to the right of Numpad4 for right; are the two exchanged?",
  ],
  [
    (p) =>
      (p.actions.swim.from.pad = {
        up: "PadDpadDown",
        left: "PadDpadLeft",
        down: "PadDpadUp",
        right: "PadDpadRight",
      }),
    "warning end-place actions.swim.from.pad.up: PadDpadDown under up contradicts its name; is it the one for down?",
  ],
  [
    (p) =>
      (p.actions.swim.pace.rules = [
        { when: "tuck", times: 0.5 },
        { when: "hasAir", set: 3 },
      ]),
    "warning set-after-times actions.swim.pace.rules.1.set: while hasAir and tuck are both so, this undoes the times before it; put every set first",
  ],
  [
    (p) => {
      Object.assign(p.numbers, { much: 50 });
      p.actions.swim.pace.rules = [{ when: "tuck", times: "much" }];
    },
    "warning times-percent actions.swim.pace.rules.0.times: times 50 is 50 times as fast; is it a percentage? 50 % is 0.5",
  ],
  [
    (p) => (p.actions.flash.from.pad = { series: ["PadWest", "PadSouth"] }),
    'warning fires-twice actions.flash.from.pad: its last press does snip too; let that entry wait: { "use": "PadSouth", "waits": true }',
  ],
  [
    (p) => (p.actions["kick now"] = p.actions.kick),
    'error bad-name actions: "kick now" is no name: a letter, then up to 63 letters, digits, _ or -',
  ],
  [(p) => (p.actions.not = p.actions.kick), 'error bad-name actions: "not" is reserved'],
  [
    (p) => delete p.actions.swim.from.main.down,
    "warning missing-direction actions.swim.from.main: has no down",
  ],
  [
    (p) => (p.actions.swim.from.main.down = "KeyW"),
    "warning same-direction actions.swim.from.main.down: KeyW is up already, at actions.swim.from.main.up; one press would do both",
  ],
  [
    (p) => (p.actions.kick.from.main = "KeyC"),
    "warning same-control actions.tuck.from.main: KeyC does kick too, at actions.kick.from.main; one press does both",
  ],
  [
    (p) => (p.actions.kick.from.main = "PadSouth"),
    "warning slot-device actions.kick.from.main: PadSouth is on the pad, and the slot main is for the keyboard",
  ],
  [
    (p) => (p.actions.kick.from = {}),
    "warning unbound-action actions.kick: no slot has a control for it, so it can never happen",
  ],
  [
    (p) => (p.actions.kick.from.main = "ControlLeft"),
    "warning browser-key actions.kick.from.main: ControlLeft held with KeyW is Control+W, which closes the tab, and no page can prevent it; take another key",
  ],
  [
    (p) => (p.actions.kick.from.main = "F5"),
    "warning browser-key actions.kick.from.main: F5 belongs to the browser (focus, reload, full screen); take another key",
  ],
  [
    (p) => (p.actions.swim.shape.deadZone.inner = 0.6),
    "warning dead-zone-wide actions.swim.shape.deadZone: inner 0.6 and outer 0.04 cut most of the travel of Thumb; players will find it dull",
  ],
  [
    (p) => (p.actions.swim.shape.deadZone.inner = 0.01),
    "warning dead-zone-none actions.swim.shape.deadZone.inner: 0.01 is less than the noise of a stick at rest, so it will creep; 0.12 suits most",
  ],
  [
    (p) => (p.bounceMs = 220),
    "warning tap-window actions.surge.from.main.gapMs: with bounceMs 220 the key is never up between two presses within 220 ms",
  ],
  [
    (p) => (p.actions.kick.startsOn = true),
    "warning starts-on-hold actions.kick.startsOn: a hold is on while it is held, and nothing is held at the start; make it a toggle or either",
  ],
  [
    (p) => (p.actions.kick.from.main = "Space"),
    "hint rollover actions.kick.from.main: many keyboards cannot report ArrowUp, ArrowLeft, Space held together; offer another key beside Space",
  ],
  [
    (p) => delete p.actions.kick.from.pad,
    "hint no-pad actions.kick: has a key and no pad control; PadLeftStickPress is free",
  ],
  [
    (p) => (p.actions.lamp.from = { pad: "PadNorth" }),
    "hint no-key actions.lamp: has a pad control and no key",
  ],
])("%s", (change, text) => {
  expect(texts(changed(change))).toContainEqual(text);
});

test.each([
  [null, "not null"],
  [[], "not a list"],
  ["plan", "not string"],
])("%j is no plan", (raw, text) => {
  expect(texts(raw)[0]).toContain(text);
});

test("dangerous names are refused and reach no prototype", () => {
  const raw = JSON.parse(
    '{ "reacherPlan": 1, "flags": { "constructor": true }, "actions": { "__proto__": { "kind": "switch", "from": {} } } }',
  );
  expect(texts(raw)).toEqual([
    'error bad-name flags: "constructor" is reserved',
    'error bad-name actions: "__proto__" is reserved',
  ]);
  expect(Object.prototype).not.toHaveProperty("kind");
});

test("a layer of a bad plan throws all of its errors at once", () => {
  const plan = changed((p) => {
    p.actions.kick.from.main = "LeftShift";
    p.actions.lamp.from.main = "Spcae";
  }) as Plan;
  const make = () => createInputLayer(plan);
  expect(make).toThrow(PlanError);
  expect(make).toThrow(
    /2 errors:\n {2}actions.kick.from.main: .*ShiftLeft\?\n {2}actions.lamp.from.main: .*Space\?/,
  );
});

test("without slots, those used are the slots, in order of appearance", () => {
  const plan = parsePlan({
    reacherPlan: 1,
    actions: {
      swim: { kind: "vector", from: { keys: WASD, pad: "PadDpad" } },
      kick: { kind: "switch", from: { extra: "KeyE" } },
    },
  });
  expect(resolvePlan(plan).slots.map(({ name }) => name)).toEqual(["keys", "pad", "extra"]);
});

test("the catalogue has every standard control, by family and device, with a label", () => {
  const controls = allControls();
  expect(controls).toHaveLength(new Set(controls.map(({ name }) => name)).size);
  expect(controls.filter(({ device }) => device === "keyboard").length).toBeGreaterThan(170);
  expect(findControl("PadButton17")).toMatchObject({ family: "button", device: "pad" });
  expect([findControl("PadAxis4")?.family, findControl("PadAxis100"), findControl("toString")]).toEqual([
    "axis",
    undefined,
    undefined,
  ]);
  const names = [
    "KeyW",
    "ShiftLeft",
    "Space",
    "ArrowUp",
    "F5",
    "PadSouth",
    "PadLeftStickUp",
    "MouseMain",
    "Digit7",
  ];
  expect(names.map(placeLabel)).toEqual([
    "W",
    "Left Shift",
    "Space",
    "Arrow up",
    "F5",
    "Pad south",
    "Pad left stick up",
    "Main mouse button",
    "7",
  ]);
});

test.each([
  ["W", "KeyW"],
  ["1", "Digit1"],
  ["Esc", "Escape"],
  ["Ctrl", "ControlLeft"],
  ["Shift", "ShiftLeft"],
  ["Return", "Enter"],
  ["MouseLeft", "MouseMain"],
  ["Wheel", "WheelUp"],
  ["Down", "ArrowDown"],
  ["LeftShift", "ShiftLeft"],
  ["KeyQQ", "KeyQ"],
])("%s, which is no control, is told as %s", (typed, meant) => {
  expect(texts(changed((p) => (p.actions.kick.from.main = typed)))).toContainEqual(
    `error unknown-control actions.kick.from.main: "${typed}" is no control; did you mean ${meant}?`,
  );
});

test.each([
  [
    { up: "KeyA", left: "KeyW", down: "KeyS", right: "KeyD" },
    '{"up":"KeyW","left":"KeyA","down":"KeyS","right":"KeyD"}',
  ],
  [
    { up: "KeyJ", left: "KeyI", down: "KeyL", right: "KeyK" },
    '{"up":"KeyI","left":"KeyJ","down":"KeyK","right":"KeyL"}',
  ],
])("crossed letters: %j", (main, right) => {
  const told = texts(changed((p) => (p.actions.swim.from.main = main)));
  expect(told.filter((text) => text.includes("do not lie so")).join()).toContain(right);
});

test("keys side by side, and rules that never hold together, are no fault", () => {
  const told = (change: Change) => texts(changed(change)).filter((text) => /end-place|set-after/.test(text));
  const side = { up: "KeyK", left: "KeyH", down: "KeyJ", right: "KeyL" };
  expect(told((p) => (p.actions.swim.from.main = side))).toEqual([]);
  // A key that stands twice is told of as such, and as nothing else.
  const twice = { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyA" };
  expect(told((p) => (p.actions.swim.from.main = twice))).toEqual([]);
  // These two are of one stance: never both.
  const rules = [
    { when: "tuck", times: 0.5 },
    { when: "kick", set: 3 },
  ];
  expect(told((p) => (p.actions.swim.pace.rules = rules))).toEqual([]);
});

test("all faults of a plan are told at once, whatever their kind, and none that only follows from another", () => {
  const plan = {
    reacherPlan: 1,
    flags: { wet: 3, "1x": true },
    actions: {
      swim: {
        kind: "vector",
        from: { main: { up: "KeyQQ", left: "KeyA", down: "KeyS", rigth: "KeyD" }, pad: "PadLeftStik" },
        pace: { base: "fst", rules: [{ when: "kick", set: 1 }] },
      },
      kick: { kind: "swich", from: { main: "KeyW" } },
      hop: {
        kind: "switch",
        from: { main: ["Spce", { taps: 1, of: "KeyK" }, "kick.up"] },
        needs: ["wet", "kick", "no"],
        bufferMs: -4,
        spends: "swim",
      },
      walk: { kind: "axis", ends: ["left"], from: { main: { left: "KeyA" } } },
      run: { kind: "axis", ends: ["left", "left"], from: { main: { left: "KeyA" } } },
      lamp: { from: { main: "KeyF" }, required: true },
    },
  };
  expect(checkPlan(plan).findings.map(({ id, place }) => `${id} ${place}`)).toEqual([
    "bad-name flags",
    "wrong-value flags.wet",
    "unknown-field actions.swim.from.main.rigth",
    "unknown-kind actions.kick.kind",
    "wrong-value actions.hop.from.main.1.taps",
    "wrong-value actions.hop.bufferMs",
    "wrong-value actions.walk.ends",
    "missing-field actions.lamp",
    "unknown-control actions.swim.from.main.up",
    "unknown-control actions.swim.from.pad",
    "unknown-word actions.swim.pace.base",
    "unknown-control actions.hop.from.main.0",
    "unknown-word actions.hop.needs",
    "unknown-word actions.hop.spends",
    "same-name actions.run.ends",
  ]);
});

test("all unknown fields of an object are told at once, and a plan without actions gets a hint", () => {
  const { findings } = checkPlan({ reacherPlan: 1, actions: {}, x: 1, y: 2 });
  expect(findings.map(({ place }) => place)).toEqual(["x", "y"]);
  expect(checkPlan({ reacherPlan: 1, actions: {} }).findings.map(({ id }) => id)).toEqual(["no-actions"]);
  expect(checkPlan({ reacherPlan: 1, actions: [] }).findings.map(({ place }) => place)).toEqual(["actions"]);
});

test("the default that the language tells of a number is the one that counts", () => {
  const stick = {
    kind: "vector",
    from: { pad: "PadLeftStick" },
    shape: { deadZone: {}, curve: {} },
    ease: {},
  };
  const plan = {
    reacherPlan: 1,
    flags: { wet: {} },
    actions: {
      swim: { ...stick, pace: { base: 1 }, gaits: { slow: 0.3 } },
      walk: { ...stick, kind: "axis", from: { pad: "PadLeftStickX" } },
      hop: {
        kind: "switch",
        repeat: { everyMs: 100 },
        from: { pad: { use: "PadRightTrigger", threshold: {} } },
      },
      dig: {
        kind: "switch",
        from: {
          keys: [
            { taps: 2, of: "KeyE" },
            { short: "KeyQ" },
            { long: "KeyR" },
            { all: ["KeyA", "KeyB"] },
            { series: ["KeyA", "KeyB"] },
            { flick: "swim.up" },
          ],
        },
      },
    },
  };
  const resolved = (raw: object) => resolvePlan(structuredClone(raw) as Plan);
  let count = 0;
  const look = (field: Value, value: any): void => {
    if (field.is === "either") look(meantOf(field.of, value), value);
    else if (field.is === "list") for (const one of value) look(field.of, one);
    else if (field.is === "record") for (const one of Object.values(value)) look(field.of, one);
    else if (field.is === "object" || field.is === "kinds") {
      const fields = field.is === "object" ? field.fields : field.of[value.kind]!;
      for (const [name, own] of Object.entries(fields))
        if (value[name] !== undefined) look(own, value[name]);
        // What stands below its margin depends on the gaits: the engine has that.
        else if (own.is === "number" && own.default !== undefined && name !== "gaitMargin") {
          const before = resolved(plan);
          value[name] = own.default;
          expect([name, resolved(plan)]).toEqual([name, before]);
          delete value[name];
          count++;
        }
    }
  };
  look({ is: "object", fields: PLAN }, plan);
  expect(count).toBeGreaterThan(30);
});
