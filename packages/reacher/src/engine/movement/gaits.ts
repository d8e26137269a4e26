/** Named bands of a movement's length. In: the length. Out: the gait, kept until a margin below its threshold. */
import { GAIT_MARGIN } from "../../plan/language/defaults.js";
import type { CheckedMovement } from "../../plan/checked.js";
import { Rule, type RuleCells } from "../cells.js";
import type { SeatState } from "../state.js";

/** The moment at which a ramp reaches a gait is computed and subject to rounding. */
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
    // A falling ramp has to get below the threshold before it leaves the gait.
    const least = ease === undefined && (gaitsBy === "length" || pace === undefined) ? 0 : 1e-6;
    this.kept = Float64Array.from(gaits, ({ from }) => {
      const unit = gaitsBy === "speed" ? from : 1;
      // Rounded, so that 0.45 - 0.04 is 0.41 and not slightly more.
      return Math.round((from - Math.max(gaitMargin ?? GAIT_MARGIN * unit, least * unit)) * 1e9) / 1e9;
    });
  }

  /** Updates the gait from the length in this cell. */
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

  /** Bands are of length times this; 0 if length alone does not determine the gait. */
  scale(_: SeatState): number {
    return 1;
  }

  /** Where the next band begins, or below which the present one ends, divided by a scale; Infinity if there is none. */
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
