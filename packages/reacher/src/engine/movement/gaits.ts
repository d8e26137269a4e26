/** Named bands of a length. In: how long a movement is. Out: its gait, kept until a margin below its beginning. */
import type { CheckedMovement } from "../../plan/checked.js";
import { Rule, type RuleCells } from "../cells.js";
import type { SeatState } from "../state.js";

/** The moment at which a ramp reaches a gait is worked out, and rounded. */
const ROUNDING = 1e-9;

export class Gaits extends Rule {
  /** The gait, or -1. */
  readonly gait = this.cells.int("gait", -1);
  readonly names: readonly string[];
  readonly from: Float64Array;
  readonly kept: Float64Array;

  constructor(cells: RuleCells, { gaits, gaitMargin, ease }: CheckedMovement) {
    super(cells);
    this.names = gaits.map(({ name }) => name);
    this.from = Float64Array.from(gaits, ({ from }) => from);
    // A ramp that falls has to get below the beginning of its gait before it can be seen to leave it.
    const margin = ease === undefined ? gaitMargin : Math.max(gaitMargin, 1e-6);
    // Rounded, so that 0.45 less 0.04 is 0.41 and not a little more.
    this.kept = Float64Array.from(gaits, ({ from }) => Math.round((from - margin) * 1e9) / 1e9);
  }

  /** The length stands in this place. */
  update({ i }: SeatState, lengths: Float64Array, at: number, isRamp: boolean): void {
    const { from, kept } = this;
    const length = lengths[at]!;
    const near = isRamp ? ROUNDING : 0;
    let gait = length === 0 ? -1 : i[this.gait]!;
    while (gait >= 0 && length < kept[gait]! + near) gait--;
    while (gait + 1 < from.length && length + near >= from[gait + 1]!) gait++;
    i[this.gait] = gait;
  }

  reset({ i }: SeatState): void {
    i[this.gait] = -1;
  }
}
