/** One change of a player's keys at a time: who else has the key, what the player chooses, and the way back. */
import { applyOverrides, type Overrides, type Plan } from "reacher";
import { controlAt, rebind, resetTo, type Choice } from "reacher/rebind";
import { ARROWS, WASD } from "./plans";

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
  // A second key for the same thing is none; neither is a gesture beside a press.
  ["snip.main", "KeyB", undefined, [], { "snip.main": "KeyB" }],
  ["roll.main", "KeyX", undefined, [], { "roll.main": "KeyX" }],
  ["snip.main", "KeyR", undefined, [], { "snip.main": "KeyR" }],
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
