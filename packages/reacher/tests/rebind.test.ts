/** One change of a player's keys at a time: who else has the key, what the player chooses, and the way back. */
import { applyOverrides, createInputLayer, type Overrides, type Plan } from "reacher";
import { checkPlan } from "reacher/check";
import { bindingRows, choicesFor, controlAt, rebind, resetTo, settingsOf, type Choice } from "reacher/rebind";
import { assert, property, constantFrom, record, subarray, array, integer } from "fast-check";
import { ARROWS, kelplineForTwo, WASD } from "./plans";
import { runs } from "./runs";

const plan = {
  reacherPlan: 1,
  modes: { dive: {}, menu: { covers: "all" } },
  slots: { main: {}, spare: {}, pad: {} },
  actions: {
    swim: {
      kind: "vector",
      in: ["dive"],
      required: true,
      from: { main: WASD, spare: ARROWS, pad: "PadLeftStick" },
    },
    kick: { kind: "switch", in: ["dive"], from: { main: "ShiftLeft", pad: "PadSouth" } },
    snip: { kind: "switch", in: ["dive"], from: { main: "KeyX", spare: "KeyB" } },
    choose: { kind: "switch", in: ["menu"], from: { main: "KeyX" } },
    roll: { kind: "switch", in: ["dive"], from: { main: { taps: 2, of: "KeyR" } } },
    pause: { kind: "switch", locked: true, from: { main: "Escape" } },
  },
} as unknown as Plan;

const NONE: Overrides = { reacherOverrides: 1 };

/** Each row: what is asked, what is chosen, who clashes, and the controls of the overrides after it. */
test.each<[string, string | null, Choice | undefined, string[], object | undefined]>([
  ["kick.main", "KeyV", undefined, [], { "kick.main": "KeyV" }],
  // In a menu nobody snips: the same key may choose there.
  ["kick.main", "KeyX", undefined, ["snip.main"], undefined],
  ["kick.main", "KeyX", "refuse", ["snip.main"], undefined],
  ["kick.main", "KeyX", "swap", ["snip.main"], { "kick.main": "KeyX", "snip.main": "ShiftLeft" }],
  ["kick.main", "KeyX", "take", ["snip.main"], { "kick.main": "KeyX", "snip.main": null }],
  ["kick.main", "KeyX", "both", ["snip.main"], { "kick.main": "KeyX" }],
  ["swim.main.up", "KeyA", "swap", ["swim.main.left"], { "swim.main.up": "KeyA", "swim.main.left": "KeyW" }],
  // A second key for the same thing is none; a press that fires at once beside a double tap is one.
  ["snip.main", "KeyB", undefined, [], { "snip.main": "KeyB" }],
  ["roll.main", "KeyX", undefined, ["snip.main"], undefined],
  ["snip.main", "KeyR", undefined, ["roll.main"], undefined],
  // The stick's own sides are the stick.
  ["kick.pad", "PadLeftStickUp", undefined, ["swim.pad"], undefined],
  ["snip.spare", null, undefined, [], { "snip.spare": null }],
])("%s becomes %s, by choice %s", (address, control, choice, clashing, controls) => {
  const result = rebind(plan, NONE, address, control, choice);
  expect(result.clashes.map((clash) => clash.address)).toEqual(clashing);
  expect([result.changed, result.overrides.controls]).toEqual([controls !== undefined, controls]);
  if (result.changed) expect(controlAt(applyOverrides(plan, result.overrides).plan, address)).toBe(control);
});

test.each([
  ["pause.main", "KeyP", "pause is locked: the plan lets nobody change it"],
  ["kick.main", "LeftShift", '"LeftShift" is no control; did you mean ShiftLeft?'],
  ["kcik.main", "KeyP", 'the plan has no action "kcik"; did you mean kick?'],
  ["swim.pad", "PadRightStick", undefined],
])("%s, %s: %s", (address, control, message) => {
  const result = rebind(plan, NONE, address, control, "take");
  expect([result.changed, result.fault?.message]).toEqual([message === undefined, message]);
});

test("a required action is never left bare, not even by a choice made elsewhere", () => {
  const bare = {
    ...plan,
    actions: {
      kick: { kind: "switch", required: true, from: { main: "KeyE" } },
      snip: { kind: "switch", from: { main: "KeyX" } },
    },
  } as unknown as Plan;
  const result = rebind(bare, NONE, "snip.main", "KeyE", "take");
  expect([result.changed, result.fault?.message]).toEqual([
    false,
    "kick is required; this would leave it bare",
  ]);
  expect(rebind(bare, NONE, "snip.main", "KeyE", "swap").overrides.controls).toEqual({
    "snip.main": "KeyE",
    "kick.main": "KeyX",
  });
});

test("what is as in the plan again is no override, and resets go by address, action, slot and all", () => {
  const there = rebind(plan, NONE, "kick.main", "KeyX", "swap").overrides;
  expect(rebind(plan, there, "kick.main", "ShiftLeft", "swap").overrides.controls).toEqual({});
  const many: Overrides = {
    reacherOverrides: 1,
    controls: { "kick.main": "KeyV", "kick.pad": "PadEast", "swim.main.up": "KeyZ" },
    settings: { "kick.style": "toggle" },
  };
  const left = (what: string) => {
    const { controls, settings } = resetTo(many, what);
    return [...Object.keys(controls!), ...Object.keys(settings!)];
  };
  expect(left("kick.main")).toEqual(["kick.pad", "swim.main.up", "kick.style"]);
  expect(left("kick")).toEqual(["swim.main.up"]);
  expect(left("*.main")).toEqual(["kick.pad", "kick.style"]);
  expect(left("*")).toEqual([]);
});

test("a key of another player is told as such; each player's pad is their own", () => {
  const two = {
    reacherPlan: 1,
    seats: { amber: { slots: ["leftHand", "pad"] }, teal: { slots: ["rightHand", "pad2"] } },
    actions: {
      kick: {
        kind: "switch",
        from: { leftHand: "KeyE", rightHand: "Enter", pad: "PadSouth", pad2: "PadEast" },
      },
      snip: {
        kind: "switch",
        from: { leftHand: "KeyX", rightHand: "Slash", pad: "PadWest", pad2: "PadNorth" },
      },
    },
  } as unknown as Plan;
  expect(rebind(two, NONE, "kick.leftHand", "Slash").clashes).toEqual([
    { action: "snip", address: "snip.rightHand", control: "Slash", otherSeat: true },
  ]);
  expect(rebind(two, NONE, "kick.pad", "PadNorth").clashes).toEqual([]);
  expect(rebind(two, NONE, "kick.pad", "PadWest").clashes).toHaveLength(1);
});

/** Two actions in every situation that they can be in to each other; `one` gets the control of `other`. */
const situations: Record<
  string,
  { modes?: object; one: object; other: object; clashes: boolean; extra?: object }
> = {
  "the same mode": { modes: { dive: {} }, one: { in: ["dive"] }, other: { in: ["dive"] }, clashes: true },
  "always live beside a mode": { modes: { dive: {} }, one: {}, other: { in: ["dive"] }, clashes: true },
  "a mode that covers all": {
    modes: { dive: {}, menu: { covers: "all" } },
    one: { in: ["dive"] },
    other: { in: ["menu"] },
    clashes: false,
  },
  "a mode that covers the same": {
    modes: { dive: {}, wheel: { covers: "same" } },
    one: { in: ["dive"] },
    other: { in: ["wheel"] },
    clashes: false,
  },
  "a mode that covers nothing": {
    modes: { dive: {}, chat: { covers: "none" } },
    one: { in: ["dive"] },
    other: { in: ["chat"] },
    clashes: true,
  },
  "two modes of which one is shared": {
    modes: { dive: {}, walk: {}, menu: {} },
    one: { in: ["dive", "menu"] },
    other: { in: ["walk", "menu"] },
    clashes: true,
  },
  "a chord beside a press": { one: {}, other: { from: { main: { all: ["KeyX", "KeyQ"] } } }, clashes: false },
  "a double tap beside a press": {
    one: {},
    other: { from: { main: { taps: 2, of: "KeyX" } } },
    clashes: true,
  },
  "a double tap beside a press that waits for it": {
    one: { from: { main: { use: "KeyE", waits: true } } },
    other: { from: { main: { taps: 2, of: "KeyX" } } },
    clashes: false,
  },
  "short and long on one key": {
    one: { from: { main: { short: "KeyE" } } },
    other: { from: { main: { long: "KeyX" } } },
    clashes: false,
  },
  "two double taps": {
    one: { from: { main: { taps: 2, of: "KeyE" } } },
    other: { from: { main: { taps: 2, of: "KeyX" } } },
    clashes: true,
  },
  "a press that waits beside a press": {
    one: { from: { main: { use: "KeyE", waits: true } } },
    other: {},
    clashes: true,
  },
  "a direction and a switch": {
    one: {},
    other: { kind: "vector", from: { main: { up: "KeyX", left: "KeyA", down: "KeyS", right: "KeyD" } } },
    clashes: true,
  },
  "two players at one keyboard": {
    one: {},
    other: { from: { spare: "KeyX" } },
    extra: { seats: { amber: { slots: ["main"] }, teal: { slots: ["spare"] } } },
    clashes: true,
  },
};

test.each(Object.entries(situations))("%s", (_, { modes, one, other, clashes, extra }) => {
  const made = {
    reacherPlan: 1,
    slots: { main: {}, spare: {} },
    ...(modes === undefined ? {} : { modes }),
    ...extra,
    actions: {
      one: { kind: "switch", from: { main: "KeyE" }, ...one },
      other: { kind: "switch", from: { main: "KeyX" }, ...other },
    },
  } as unknown as Plan;
  const { plan: base } = applyOverrides(made, NONE);
  const slot = extra === undefined ? "main" : "spare";
  const at = controlAt(base, `other.${slot}.up`) === null ? `other.${slot}` : `other.${slot}.up`;
  const holds = (choice: Choice) => {
    const { changed, overrides } = rebind(made, NONE, "one.main", "KeyX", choice);
    const { plan: own, faults } = applyOverrides(made, overrides);
    expect(faults).toEqual([]);
    return [changed, controlAt(own, "one.main"), controlAt(own, at)];
  };
  const kept = controlAt(base, at);
  expect(rebind(made, NONE, "one.main", "KeyX").clashes.map(({ address }) => address)).toEqual(
    clashes ? [at] : [],
  );
  expect([holds("refuse"), holds("swap"), holds("take"), holds("both")]).toEqual(
    clashes
      ? [
          [false, "KeyE", "KeyX"],
          [true, "KeyX", "KeyE"],
          [true, "KeyX", null],
          [true, "KeyX", "KeyX"],
        ]
      : [0, 1, 2, 3].map(() => [true, "KeyX", kept]),
  );
  expect(choicesFor(made, NONE, "one.main", "KeyX")).toEqual(["swap", "take", "both"]);
});

test("one press does two things at most, and one where the plan says so; browser keys are nobody's", () => {
  const crowd = {
    reacherPlan: 1,
    actions: {
      one: { kind: "switch", from: { main: "KeyE" } },
      two: { kind: "switch", from: { main: "KeyX" } },
      three: { kind: "switch", player: { both: false }, from: { main: "KeyT" } },
    },
  } as unknown as Plan;
  const both = rebind(crowd, NONE, "one.main", "KeyX", "both").overrides;
  expect(rebind(crowd, both, "three.main", "KeyX", "both").fault?.message).toBe(
    "the plan lets three share its control with nothing",
  );
  const open = {
    ...crowd,
    actions: { ...crowd.actions, three: { kind: "switch", from: { main: "KeyT" } } },
  } as Plan;
  expect(rebind(open, both, "three.main", "KeyX", "both").fault?.message).toBe(
    "one and two have it already, and one press does two things at most",
  );
  expect(choicesFor(open, both, "three.main", "KeyX")).toEqual(["swap", "take"]);
  expect(rebind(crowd, NONE, "one.main", "Tab").fault?.message).toBe(
    "Tab belongs to the browser (focus, reload, full screen); take another key",
  );
});

test("the table of a settings screen has every place, in words, with changes and clashes where they are", () => {
  const rows = bindingRows(kelplineForTwo(), {
    reacherOverrides: 1,
    controls: { "kick.main": "KeyC", "flash.main.1.third": "KeyU" },
  });
  const cell = (address: string) =>
    rows.flatMap(({ slots }) => slots.flatMap(({ cells }) => cells)).filter((one) => one.address === address);
  expect(cell("kick.main")).toMatchObject([
    { control: "KeyC", text: "C", changed: true, bindable: true, clashes: [{ address: "tuck.main" }] },
  ]);
  expect(cell("tuck.main")).toMatchObject([{ changed: false, clashes: [{ address: "kick.main" }] }]);
  expect(cell("surge.main")).toMatchObject([{ control: null, text: "double tap D", bindable: false }]);
  expect(cell("flash.main.second")).toMatchObject([{ control: "KeyG", joint: "+" }]);
  expect(cell("flash.main.1.first")).toMatchObject([{ text: "I, I, U", joint: "or" }]);
  expect(cell("flash.main.1.third")).toMatchObject([{ control: "KeyU", joint: "then", changed: true }]);
  expect(cell("aim.spare.up")).toMatchObject([{ control: null, text: "", bindable: true }]);
  expect(cell("sweep.main")).toMatchObject([{ text: "Mouse", bindable: false }]);
  expect(rows.filter(({ locked }) => locked).map(({ action }) => action)).toEqual([
    "choose",
    "go",
    "walk",
    "back",
  ]);
  const addresses = rows.flatMap(({ slots }) =>
    slots.flatMap(({ cells }) => cells.map(({ address }) => address)),
  );
  expect(new Set(addresses).size).toBe(addresses.length);
});

test("the settings are those that the plan lets be changed, with their ranges and what they are", () => {
  const list = settingsOf(kelplineForTwo(), {
    reacherOverrides: 1,
    settings: { bounceMs: 30, swapSticks: true, holds: "toggle", "surge.gapMs": 300, "swim.invert": "y" },
  });
  expect(list.map(({ address, value, plan: was }) => `${address} ${value} ${was}`)).toEqual([
    "bounceMs 30 0",
    "holds toggle hold",
    "swapSticks on off",
    "swim.pad.deadZone.inner 0.12 0.12",
    "swim.touch.deadZone.inner 0.12 0.12",
    "swim.pad.gain 1 1",
    "swim.touch.gain 1 1",
    "swim.pad.invert none none",
    "swim.touch.invert none none",
    "kick.style toggle hold",
    "tuck.style either either",
    "tuck.tapMs 250 250",
    "surge.gapMs 300 220",
    "snip.style toggle hold",
    "snip.everyMs 300 300",
    "haul.afterMs 600 600",
    "lamp.style toggle toggle",
  ]);
});

test("mouse and stick feel apart: what a player sets for a slot alone, in words, and in what comes of it", () => {
  const look = {
    kind: "turn",
    from: {
      main: { use: "MouseMove", perPixel: 0.1, shape: { gain: 2 } },
      pad: { use: "PadRightStick", perSecond: 100, shape: { deadZone: { inner: 0.3 } } },
    },
    shape: { invert: "y" },
    player: {
      gain: [0.5, 4],
      invert: true,
      "deadZone.inner": [0, 0.5],
      perPixel: [0.01, 1],
      perSecond: [50, 400],
    },
  };
  const given = {
    reacherPlan: 1,
    slots: { main: { label: "Mouse" }, pad: { label: "Pad" }, keys: {} },
    actions: { look, kick: { kind: "switch", from: { main: "KeyE" } } },
  } as unknown as Plan;
  const told = (settings: Overrides["settings"]) => {
    const overrides: Overrides = { reacherOverrides: 1, settings: settings! };
    const { faults } = applyOverrides(given, overrides);
    const input = createInputLayer(given);
    input.setOverrides(overrides);
    const turned = () => {
      const { dx, dy } = input.now["look"] as unknown as { dx: number; dy: number };
      return [dx, dy].map((value) => Math.round(value * 1e6) / 1e6 + 0);
    };
    input.step(0);
    input.feed({ t: 10, control: "MouseMoveX", value: 10 });
    input.feed({ t: 10, control: "MouseMoveY", value: -10 });
    input.step(10);
    const mouse = turned();
    input.feed({ t: 20, control: "PadRightStickX", value: 1 });
    input.step(20);
    input.step(1020);
    return { mouse, stick: turned()[0], faults: faults.map(({ place, message }) => `${place}: ${message}`) };
  };
  // The plan's own: 0.1 a pixel times 2, its y turned round.
  expect(told({})).toEqual({ mouse: [2, -2], stick: 100, faults: [] });
  expect(told({ "look.gain": 3, "look.main.gain": 0.5 }).mouse).toEqual([3, -3]);
  // Of a stick it is cut at full tilt; inversions multiply as well.
  expect(told({ "look.pad.gain": 4, "look.main.invert": "both", "look.perSecond": 50 })).toEqual({
    mouse: [-2, 2],
    stick: 50,
    faults: [],
  });
  expect(told({ "look.main.perPixel": 0.3, "look.perPixel": 0.2, "look.pad.perSecond": 200 })).toMatchObject({
    mouse: [6, -6],
    stick: 200,
  });
  const zones = (settings: Record<string, number>) => {
    const own = applyOverrides(given, { reacherOverrides: 1, settings }).plan.actions[
      "look"
    ] as unknown as typeof look;
    return own.from.pad.shape.deadZone.inner;
  };
  expect([zones({}), zones({ "look.deadZone.inner": 0.2 })]).toEqual([0.3, 0.2]);
  expect(zones({ "look.pad.deadZone.inner": 0.1, "look.deadZone.inner": 0.2 })).toBe(0.1);
  expect(
    told({
      "look.mian.gain": 1,
      "look.main.style": "hold",
      "look.keys.gain": 1,
      "look.main.deadZone.inner": 0.1,
    }).faults,
  ).toEqual([
    'settings.look.mian.gain: there is no slot "mian"; did you mean main?',
    "settings.look.main.style: style is of the whole action, not of one slot; take look.style",
    "settings.look.keys.gain: the slot keys of look has no stick or mouse that takes gain",
    "settings.look.main.deadZone.inner: the slot main of look has no stick or mouse that takes deadZone.inner",
  ]);
  const list = settingsOf(given, {
    reacherOverrides: 1,
    settings: { "look.main.gain": 3, "look.pad.invert": "x" },
  });
  expect(
    list.filter(({ action }) => action === "look").map((one) => `${one.address} ${one.about} ${one.value}`),
  ).toEqual([
    "look.deadZone.inner Dead zone 0.3",
    "look.main.gain Sensitivity, Mouse 3",
    "look.pad.gain Sensitivity, Pad 1",
    "look.perPixel Mouse speed 0.1",
    "look.perSecond Turn speed 100",
    "look.main.invert Invert, Mouse none",
    "look.pad.invert Invert, Pad x",
  ]);
});

test("a plan of 2,000 actions has its table and its findings within a test's time", () => {
  const letters = [..."ABCDEFGHIJKLMNOPQRSTUVWXYZ"].map((letter) => `Key${letter}`);
  const actions = Array.from({ length: 2000 }, (_, n) => [
    `a${n}`,
    { kind: "switch", ...(n > 0 && { needs: `a${n - 1}` }), from: { main: letters[n % 26] } },
  ]);
  const plan = { reacherPlan: 1, actions: Object.fromEntries(actions) } as unknown as Plan;
  const rows = bindingRows(plan, { reacherOverrides: 1 });
  expect(rows).toHaveLength(2000);
  expect(rows[30]!.slots[0]!.cells[0]!.clashes).toHaveLength(76);
  expect(checkPlan(plan).findings.length).toBeGreaterThan(100);
});

test("a swap with several clashes gives the first what was there, and clears the others", () => {
  const keys = { one: "KeyA", two: "KeyB", three: "KeyB" };
  const actions = Object.entries(keys).map(([name, main]) => [name, { kind: "switch", from: { main } }]);
  const three = { reacherPlan: 1, actions: Object.fromEntries(actions) } as unknown as Plan;
  expect(rebind(three, NONE, "one.main", "KeyB", "swap").overrides.controls).toEqual({
    "one.main": "KeyB",
    "two.main": "KeyA",
    "three.main": null,
  });
});

test("two stages of one trigger are two presses: no finding, no clash; at one threshold they are one", () => {
  const plan = (press: number) =>
    ({
      reacherPlan: 1,
      actions: {
        focus: { kind: "switch", from: { pad: { use: "PadRightTrigger", threshold: { press: 0.2 } } } },
        fire: { kind: "switch", from: { pad: { use: "PadRightTrigger", threshold: { press } } } },
      },
    }) as Plan;
  const bare: Overrides = { reacherOverrides: 1, controls: {} };
  const clashing = (given: Plan) => [
    checkPlan(given).findings.some(({ id }) => id === "same-control"),
    bindingRows(given, bare).some(({ slots }) =>
      slots.some(({ cells }) => cells.some(({ clashes }) => clashes.length > 0)),
    ),
  ];
  expect([plan(0.95), plan(0.2)].map(clashing)).toEqual([
    [false, false],
    [true, true],
  ]);
});

test("a key that jumps on the ground and glides in the air is no clash; whatever could begin both is one", () => {
  const condition = constantFrom(
    "ground",
    "not ground",
    "air",
    "not air",
    "one",
    "not one",
    "two",
    "not two",
  );
  const action = (self: string) =>
    record({
      kind: constantFrom("switch"),
      from: constantFrom({ main: "Space" }),
      needs: subarray(["ground", "not ground", "air"], { maxLength: 1 }),
      beginsIf: array(condition, { maxLength: 2 }).map((all) => all.filter((one) => !one.endsWith(self))),
      resume: constantFrom(false, false, false, true),
      spends: subarray(["ground", "air"], { maxLength: 1 }),
      bufferMs: constantFrom(0, 0, 0, 0, 0, 50),
      carry: constantFrom(false, false, false, false, true),
      in: constantFrom(["play"]),
      style: constantFrom("hold", "hold", "hold", "hold", "toggle"),
    });
  const third = record({
    kind: constantFrom("switch"),
    from: constantFrom({ main: "Space" }, { main: "KeyE" }),
    needs: subarray(["one", "not one", "two", "not two"], { maxLength: 1 }),
    spends: subarray(["ground"]),
  });
  const place = integer({ min: 0, max: 2 });
  const hands = array(constantFrom("Space", "Space", "KeyE", "KeyD", "ground", "air", "menu"), {
    minLength: 4,
    maxLength: 30,
  });
  const counts = [0, 0];
  assert(
    property(action("one"), action("two"), third, place, hands, (one, two, third, at, does) => {
      const ordered: [string, object][] = [
        ["one", one],
        ["two", two],
      ];
      ordered.splice(at, 0, ["third", third]);
      const walk = { kind: "axis", from: { main: { minus: "KeyA", plus: "KeyD" } } };
      const given = {
        reacherPlan: 1,
        flags: { ground: true, air: false },
        modes: { play: {}, menu: { covers: "all" } },
        start: ["play"],
        actions: { ...Object.fromEntries(ordered), walk },
      } as unknown as Plan;
      const { findings } = checkPlan(given);
      if (findings.some(({ severity }) => severity === "error")) return;
      const clashes = bindingRows(given, NONE)
        .find(({ action }) => action === "one")!
        .slots.flatMap(({ cells }) => cells.flatMap((cell) => cell.clashes));
      const isClash = clashes.some(({ action }) => action === "two");
      counts[isClash ? 1 : 0]!++;
      if (isClash) return;
      const input = createInputLayer(given);
      const began = new Set<string>();
      for (const name of ["one", "two"]) input.on(name as never, "on", () => began.add(name));
      const is: Record<string, boolean> = { ground: true };
      for (const [t, what] of does.entries()) {
        const now = (is[what] = is[what] !== true);
        if (what === "Space" && now) began.clear();
        if (what === "menu") input[now ? "enter" : "leave"](what as never, t);
        else if (what === "ground" || what === "air") input.setFlag(what as never, now, t);
        else input.feed({ t, control: what, value: Number(now) });
        input.step(t);
        expect(began.size).toBeLessThan(2);
      }
    }),
    runs(600),
  );
  expect(Math.min(...counts)).toBeGreaterThan(2);
});
