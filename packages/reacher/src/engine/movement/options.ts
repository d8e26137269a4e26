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
      appliesTo: ({ sticks }) => sticks.some(({ pointer }) => pointer === undefined),
      make: (compiler, movement: Movement, { sticks, kind }) =>
        addSticks(
          compiler,
          movement,
          sticks.filter(({ pointer }) => pointer === undefined),
          kind,
          (stick) => movement.addStick(stick),
        ),
    },
  ],
};

export const ease: Feature = {
  movementOptions: [
    {
      name: "ease",
      appliesTo: ({ ease }) => ease !== undefined,
      make: ({ timers }, movement: Movement, { ease }, number) =>
        void (movement.ease = new Ease(movement.cells, movement, ease!, timers, number)),
    },
  ],
};

export const pace: Feature = {
  movementOptions: [
    {
      name: "pace",
      appliesTo: ({ pace }) => pace !== undefined,
      make: (compiler, movement: Movement, { pace }) =>
        void (movement.pace = makePace(compiler, movement, pace!)),
    },
  ],
};

export const gaits: Feature = {
  movementOptions: [
    {
      name: "gaits",
      appliesTo: ({ gaits, gaitsBy }) => gaits.length > 0 && gaitsBy === "length",
      make: (_, movement: Movement, action) => void (movement.gaits = new Gaits(movement.cells, action)),
    },
  ],
};

export const speedGaits: Feature = {
  movementOptions: [
    {
      name: "speedGaits",
      appliesTo: ({ gaits, gaitsBy }) => gaits.length > 0 && gaitsBy === "speed",
      make: ({ timers }, movement: Movement, action, number) =>
        void (movement.gaits = movement.speeds =
          new SpeedGaits(movement.cells, action, movement, timers, number)),
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
