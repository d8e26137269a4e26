/** What an axis or a vector may have besides its ends: sticks, a ramp, a pace, gaits. Each is a feature: a game ships only those that its plan uses. */
import type { CheckedPace } from "../../plan/checked.js";
import type { RuleCells } from "../cells.js";
import type { Compiler, Feature } from "../compile.js";
import { amountOf } from "../situations/numbers.js";
import { Ease } from "./ease.js";
import { Gaits } from "./gaits.js";
import { addSticks } from "./makeSticks.js";
import type { Movement } from "./movement.js";
import { Pace } from "./pace.js";
import { SpeedGaits } from "./speedGaits.js";

export const sticks: Feature = {
  movementOptions: [
    {
      name: "sticks",
      appliesTo: ({ sticks }) => sticks.length > 0,
      make: (compiler, one: Movement, { sticks, kind }) =>
        addSticks(compiler, one, sticks, kind, (stick) => one.addStick(stick)),
    },
  ],
};

export const ease: Feature = {
  movementOptions: [
    {
      name: "ease",
      appliesTo: ({ ease }) => ease !== undefined,
      make: ({ timers }, one: Movement, { ease }, number) =>
        void (one.ease = new Ease(one.cells, one, ease!, timers, number)),
    },
  ],
};

export const pace: Feature = {
  movementOptions: [
    {
      name: "pace",
      appliesTo: ({ pace }) => pace !== undefined,
      make: (compiler, one: Movement, { pace }) => void (one.pace = makePace(compiler, one, pace!)),
    },
  ],
};

export const gaits: Feature = {
  movementOptions: [
    {
      name: "gaits",
      appliesTo: ({ gaits, gaitsBy }) => gaits.length > 0 && gaitsBy === "length",
      make: (_, one: Movement, action) => void (one.gaits = new Gaits(one.cells, action)),
    },
  ],
};

export const speedGaits: Feature = {
  movementOptions: [
    {
      name: "speedGaits",
      appliesTo: ({ gaits, gaitsBy }) => gaits.length > 0 && gaitsBy === "speed",
      make: ({ timers }, one: Movement, action, number) =>
        void (one.gaits = one.speeds = new SpeedGaits(one.cells, action, one, timers, number)),
    },
  ],
};

/** The pace with this number. */
export function makePace(
  compiler: Compiler,
  one: { readonly cells: RuleCells; readonly pacedId: number },
  pace: CheckedPace,
): Pace {
  const { pacedId } = one;
  const amount = (given: number | string) => amountOf(compiler, given, pacedId);
  const { base } = pace;
  const start =
    typeof base === "number" ? base : compiler.plan.numbers.find(({ name }) => name === base)!.value;
  const own = new Pace(one.cells, amount(base), pace.easeMs, start);
  own.rules = pace.rules.map(({ when, set, times }) => ({
    conditions: compiler.conditionsOf(when, ({ paced }) => paced.includes(pacedId) || paced.push(pacedId)),
    sets: set !== undefined,
    by: amount(set ?? times!),
  }));
  return own;
}
