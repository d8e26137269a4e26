/** Named bands of a length. In: how long a movement is. Out: its gait, kept until a margin below its beginning. */
import type { CheckedMovement } from "../../plan/checked.js";
import { Rule, type RuleCells } from "../cells.js";
import type { SeatState } from "../state.js";

/** The moment at which a ramp reaches a gait is worked out, and rounded. */
const ROUNDING = 1e-9;

export class Gaits extends Rule {
  /** The gait, or -1. */
  readonly gait: number;
  readonly names: readonly string[];
  readonly from: Float64Array;
  readonly kept: Float64Array;

  constructor(cells: RuleCells, { gaits, gaitMargin, gaitsBy, ease, pace }: CheckedMovement) {
    super(cells);
    this.names = gaits.map(({ name }) => name);
    this.gait = cells.place(
      "gait",
      gaits.map(({ name }) => ({ key: name })),
    );
    this.from = Float64Array.from(gaits, ({ from }) => from);
    // What falls in a ramp has to get below the beginning of its gait before it can be seen to leave it.
    const least = ease === undefined && (gaitsBy === "length" || pace === undefined) ? 0 : 1e-6;
    this.kept = Float64Array.from(gaits, ({ from }) => {
      const unit = gaitsBy === "speed" ? from : 1;
      // Rounded, so that 0.45 less 0.04 is 0.41 and not a little more.
      return Math.round((from - Math.max(gaitMargin ?? 0.04 * unit, least * unit)) * 1e9) / 1e9;
    });
  }

  /** The length stands in this place. */
  update({ i }: SeatState, lengths: Float64Array, at: number, isRamp: boolean): void {
    const { from, kept } = this;
    const length = lengths[at]!;
    let gait = length === 0 ? -1 : i[this.gait]!;
    while (gait >= 0 && length < kept[gait]! + this.near(kept[gait]!, isRamp)) gait--;
    while (gait + 1 < from.length && length + this.near(from[gait + 1]!, isRamp) >= from[gait + 1]!) gait++;
    i[this.gait] = gait;
  }

  private near(limit: number, isRamp: boolean): number {
    return isRamp ? ROUNDING * (limit > 1 ? limit : 1) : 0;
  }

  /** Length times this is what the bands are of; 0 where no length tells that. */
  scale(_: SeatState): number {
    return 1;
  }

  /** Where the next band begins, or what the present one is kept from, in a scale; Infinity where there is none. */
  limit({ i }: SeatState, way: 1 | -1, scale: number): number {
    const gait = i[this.gait]!;
    if (!(scale > 0)) return Infinity;
    if (way === 1) return gait + 1 < this.from.length ? this.from[gait + 1]! / scale : Infinity;
    return gait >= 0 ? this.kept[gait]! / scale : Infinity;
  }

  reset({ i }: SeatState): void {
    i[this.gait] = -1;
  }
}
