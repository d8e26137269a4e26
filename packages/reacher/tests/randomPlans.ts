/** Plans as chance makes them, with every word of the language. */
import * as fc from "fast-check";
import type { Plan } from "reacher";
import { GESTURES } from "../src/plan/gestures/index";
import type { Field, Fields } from "../src/plan/language/fields";
import { OPTION_FIELDS } from "../src/plan/language/settable";
import { readPlan } from "../src/plan/read";
import { ARROWS, WASD } from "./plans";

export const KEYS = [
  ...Object.values(WASD),
  ...Object.values(ARROWS),
  "ShiftLeft",
  "KeyC",
  "Space",
  "KeyQ",
  "KeyE",
];
export const AXES = [
  "PadLeftStickX",
  "PadLeftStickY",
  "PadRightTrigger",
  "PadLeftTrigger",
  "MouseMoveX",
  "MousePointX",
  "MousePointY",
];

/** What is fed of the plans' own controls. */
export const OWN = ["Fire", "Pedal", "ThumbX", "ThumbY", "TiltX"];

export const share = (least: number, most: number) =>
  fc.integer({ min: least * 100, max: most * 100 }).map((n) => n / 100);

/** Mostly there. */
const mostly = <T>(one: fc.Arbitrary<T>) => fc.option(one, { nil: undefined, freq: 4 });

const movement = {
  opposed: fc.constantFrom("latest", "earliest", "neutral"),
  shape: mostly(
    fc.record({
      deadZone: fc.record({
        kind: fc.constantFrom("round", "cross"),
        inner: share(0, 0.4),
        outer: share(0, 0.3),
      }),
      curve: fc.constantFrom(
        { power: 0.5 },
        { power: 1 },
        { power: 1.6 },
        {
          points: [
            [0, 0],
            [0.5, 0.2],
            [1, 1],
          ],
        },
      ),
      gain: fc.constantFrom(0.5, 1, 2),
      invert: fc.constantFrom("x", "y", "both"),
    }),
  ),
  combine: fc.constantFrom("longest", "sum"),
  lingerMs: fc.constantFrom(0, 0, 80),
};

/** Bands of the length, or of the speed. */
const banded = <T extends object>(fields: fc.Arbitrary<T>) =>
  fc
    .tuple(
      fields,
      fc.constantFrom(
        {},
        { gaits: { drift: 0.05, cruise: 0.45, race: 0.9 } },
        { gaits: { drift: 0.3, race: 1.1 }, gaitMargin: 0.2 },
        { gaits: { drift: 0.5, cruise: 2.6, race: 5 }, gaitsBy: "speed" },
        { gaits: { drift: 0.5, race: 4 }, gaitsBy: "speed", gaitMargin: 0 },
        { gaits: { drift: 0.1, race: 0.7 }, gaitsBy: "speed" },
      ),
    )
    .map(([one, gaits]) => ({
      ...Object.fromEntries(Object.entries(one).filter(([, value]) => value !== undefined)),
      ...gaits,
    }));

/** Half of the plans ramp their keys. */
const eased = <T extends object>(fields: fc.Arbitrary<T>) =>
  fc
    .tuple(
      fields,
      fc.option(
        fc.record({
          riseMs: fc.constantFrom(0, 90, 210),
          fallMs: fc.constantFrom(0, 60, 130),
          turn: fc.constantFrom("instant", "through"),
        }),
      ),
    )
    .map(([one, ease]) => (ease === null ? one : { ...one, ease }));

const SOURCES = [
  "KeyQ",
  "KeyE",
  "Space",
  "KeyC",
  "ShiftLeft",
  "PadRightTrigger",
  "Fire",
  "Pedal",
  "ThumbUp",
  "swim.up",
  "swim.left",
  "swim.right",
  "swim.upLeft",
  "swim",
];
const source = fc.constantFrom(...SOURCES);
const ms = fc.constantFrom(0, 5, 40, 100, 250);

/** Any value that a field of the language may have. */
function valueOf(field: Field): fc.Arbitrary<unknown> {
  if (field.is === "control") return source;
  if (field.is === "number")
    return field.unit === "presses"
      ? fc.constantFrom(field.least, field.least + 1)
      : ms.filter((n) => n >= field.least);
  if (field.is === "truth") return fc.boolean();
  if (field.is === "choice") return fc.constantFrom(...field.of);
  if (field.is === "list") return fc.uniqueArray(valueOf(field.of), { minLength: field.least, maxLength: 3 });
  if (field.is === "object") return objectOf(field.fields);
  if (field.is === "either") return fc.oneof(...field.of.map(valueOf));
  throw new Error(`no random value for ${field.is}; give it one`);
}

/** An object with what it must have, and any of the rest. */
function objectOf(fields: Fields): fc.Arbitrary<Record<string, unknown>> {
  const requiredKeys = Object.keys(fields).filter((name) => fields[name]!.required);
  return fc.record(
    Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, valueOf(field)])),
    {
      requiredKeys,
    },
  );
}

const CONTROLS = {
  Fire: "button",
  Pedal: { kind: "trigger", keepsFocus: true },
  Thumb: { kind: "stick", device: "touch" },
  Tilt: { kind: "amount", device: "sensor" },
};

/** An entry of any kind that the language has, and that a plan with `swim` may have. */
const entry = fc
  .oneof(
    source,
    fc.record({ taps: fc.constantFrom(2, 3), of: fc.constant("swim.each"), gapMs: ms, eachMs: ms }),
    fc.record({ flick: fc.constantFrom("swim.up", "swim.right", "PadLeftStickLeft"), withinMs: ms }),
    ...Object.values(GESTURES).map(({ fields: { threshold: _, ...fields } }) => objectOf(fields)),
  )
  .filter((one) => {
    const swim = { kind: "vector", from: { main: WASD, pad: "PadLeftStick" } };
    const actions = { swim, one: { kind: "switch", from: { main: one } } };
    return readPlan({ reacherPlan: 1, controls: CONTROLS, actions }).ok;
  });

type Word = string | { readonly is: string; readonly forMs: number };

/** What a switch may need without a circle: those before it. */
const NEEDS = {
  kick: ["hasAir", "swim", { is: "swim.up", forMs: 40 }],
  tuck: ["not kick", "hasAir", { is: "not swim", forMs: 60 }],
  surge: ["not tuck", "swim", "not swim.upRight"],
  grab: ["not hasAir", "not surge", { is: "hasAir", forMs: 90 }, "swim.left"],
};

/** Two of these name each other. */
const BEGINS = {
  kick: ["not surge", "hasAir", { is: "not kick", forMs: 50 }],
  tuck: ["not grab", "swim"],
  surge: ["hasAir", "not kick", "swim.down"],
  grab: ["not tuck", "kick", { is: "kick", forMs: 30 }],
};

function switches(name: keyof typeof NEEDS) {
  const some = <T>(value: fc.Arbitrary<T>) => fc.option(value, { nil: undefined, freq: 1 });
  // What names other things of the plan, or goes with one style alone.
  const named = {
    needs: fc.subarray<Word>(NEEDS[name], { minLength: 1 }),
    beginsIf: fc.subarray<Word>(BEGINS[name], { minLength: 1 }),
    spends: fc.constant("hasAir"),
    oneOf: fc.constant("stance"),
    // The first of its needs stands for a list of them.
    resume: fc.constantFrom(true, false, "some"),
    repeat: fc.record({ everyMs: fc.constantFrom(30, 100), apartMs: fc.constantFrom(0, 30) }),
  };
  const options = Object.entries(OPTION_FIELDS).map(([field, value]) => [
    field,
    some(Object.hasOwn(named, field) ? named[field as "needs"] : valueOf(value)),
  ]);
  return fc
    .record({
      from: fc.record({ main: fc.array(entry, { minLength: 1, maxLength: 3 }) }),
      ...(Object.fromEntries(options) as Record<string, fc.Arbitrary<unknown>>),
    })
    .map((all) => {
      const { resume, carry, ...fields } = all as unknown as {
        resume: unknown;
        carry?: boolean;
        needs?: Word[];
        style?: string;
      };
      const { needs, style = "hold" } = fields;
      const some = needs !== undefined && style === "hold" ? needs.slice(0, 1) : true;
      const more = {
        ...fields,
        resume: resume === "some" ? some : resume,
        // A toggle carries nothing over.
        carry: style === "hold" ? carry : undefined,
      };
      return {
        kind: "switch",
        ...Object.fromEntries(Object.entries(more).filter(([, value]) => value !== undefined)),
      };
    });
}

export const plans: fc.Arbitrary<Plan> = fc
  .record({
    yAxis: fc.constantFrom("up", "down"),
    hasAir: fc.boolean(),
    bounceMs: fc.constantFrom(0, 0, 15),
    swim: banded(
      eased(
        fc.record({
          kind: fc.constant("vector"),
          from: fc.constantFrom(
            { main: WASD, spare: ARROWS, pad: "PadLeftStick" },
            { main: WASD, spare: "Thumb", pad: "PadLeftStick" },
            { main: WASD, spare: { use: "MousePoint", around: "figure" }, pad: "PadLeftStick" },
            { main: WASD, spare: "Thumb", pad: { use: "MousePoint", fullFrom: 0.8, shape: { gain: 0.5 } } },
          ),
          ...movement,
          directions: fc.constantFrom("free", 8, 4),
          diagonal: fc.constantFrom("round", "square"),
          settleMs: fc.constantFrom(0, 60, 250),
          facingFrom: share(0, 1),
          pace: mostly(
            fc.record({
              base: fc.constant(2.4),
              easeMs: fc.constantFrom(0, 100, 333),
              rules: fc.constant([
                { when: ["kick", "hasAir"], set: "fast" },
                { when: "not tuck", times: 1.5 },
                { when: [{ is: "not swim.down", forMs: 70 }, "not swim.upLeft"], times: 0.5 },
              ]),
            }),
          ),
        }),
      ),
    ),
    depth: banded(
      eased(
        fc.record({
          kind: fc.constant("axis"),
          from: fc.constant({
            main: { minus: "KeyQ", plus: "KeyE" },
            pad: { minus: "PadLeftTrigger", plus: "PadRightTrigger" },
          }),
          ...movement,
          facingFrom: share(0, 1),
          pace: mostly(
            fc.record({
              base: fc.constant("deep"),
              easeMs: fc.constantFrom(0, 100),
              rules: fc.constant([{ when: "kick", times: 2 }]),
            }),
          ),
        }),
      ),
    ),
    switches: fc.tuple(switches("kick"), switches("tuck"), switches("surge"), switches("grab")),
    looksIn: fc.constantFrom("dive", undefined),
    modes: fc.constantFrom(
      undefined,
      { dive: {}, menu: { covers: "all" } },
      { dive: {}, menu: {} },
      { dive: {}, menu: { covers: "none" } },
    ),
  })
  .map(({ yAxis, hasAir, bounceMs, swim, depth, looksIn, switches: [kick, tuck, surge, grab], modes }) => {
    const situated = (action: object, name: string | undefined) =>
      modes === undefined || name === undefined ? action : { ...action, in: [name] };
    return {
      reacherPlan: 1,
      yAxis,
      bounceMs,
      flags: { hasAir: { start: hasAir, lingerMs: 35 } },
      numbers: { fast: 4.8, deep: 2 },
      spots: { figure: [0, 0] },
      controls: CONTROLS,
      ...(modes === undefined ? {} : { modes }),
      actions: {
        swim: situated(swim, "dive"),
        depth,
        kick: situated(kick, "dive"),
        tuck: situated(tuck, "menu"),
        surge,
        grab,
        look: situated(
          {
            kind: "turn",
            from: {
              main: { use: "MouseMove", perPixel: 0.1 },
              spare: { use: "Tilt", perUnit: 2 },
              pad: { use: "PadLeftStick", perSecond: 90 },
            },
          },
          looksIn,
        ),
      },
    } as unknown as Plan;
  })
  // A short press may not outlast a long one of the same control.
  .filter((plan) => readPlan(plan).ok);
