/**
 * The game drives an axis or a vector itself, for up to four reasons at once. In: values, by reason. Out: the newest reason's value, as one
 * more source beside keys and sticks; and whether devices count as well.
 */
import { Rule } from "../cells.js";
import type { SeatState } from "../state.js";

/** How many reasons may drive one action at once. */
export const MOST_DRIVES = 4;

/** A reason's number plus 1, and whether it drives alone. */
const ALONE = 64;

export class DrivenMovement extends Rule {
  /** In the order in which they began; 0 for an empty slot. */
  private readonly drives = this.cells.int("drives", 0, MOST_DRIVES);
  private readonly values = this.cells.float("driveValues", 0, MOST_DRIVES * 3);

  /** NaN for `x` lets the reason go. Clamped to a length of 1. */
  drive({ i, f }: SeatState, reason: number, alone: boolean, x: number, y: number): void {
    const { drives, values } = this;
    const count = this.count({ i });
    let n = 0;
    while (n < count && (i[drives + n]! & (ALONE - 1)) !== reason + 1) n++;
    if (x !== x) {
      if (n === count) return;
      i.copyWithin(drives + n, drives + n + 1, drives + count);
      f.copyWithin(values + n * 3, values + (n + 1) * 3, values + count * 3);
      i[drives + count - 1] = 0;
      return;
    }
    if (n === MOST_DRIVES) return;
    let length = Math.sqrt(x * x + y * y);
    i[drives + n] = (reason + 1) | (alone ? ALONE : 0);
    f[values + n * 3] = (length > 1 ? x / length : x) + 0;
    f[values + n * 3 + 1] = (length > 1 ? y / length : y) + 0;
    if (length > 1) length = 1;
    f[values + n * 3 + 2] = length;
  }

  private count({ i }: Pick<SeatState, "i">): number {
    const { drives } = this;
    let count = 0;
    while (count < MOST_DRIVES && i[drives + count] !== 0) count++;
    return count;
  }

  /** Whether anything drives it, which is rare. */
  isOn({ i }: Pick<SeatState, "i">): boolean {
    return i[this.drives] !== 0;
  }

  /** The cells of the newest reason's x, y and length (floats); only valid while something drives it. */
  newest({ i }: Pick<SeatState, "i">): number {
    return this.values + (this.count({ i }) - 1) * 3;
  }

  /** Whether any of the reasons drives it alone. */
  isAlone({ i }: SeatState): boolean {
    for (let n = 0; n < MOST_DRIVES; n++) if (i[this.drives + n]! > ALONE) return true;
    return false;
  }

  /** What drives it, in the order in which it began. */
  all({ i, f }: Pick<SeatState, "i" | "f">): { reason: number; alone: boolean; x: number; y: number }[] {
    const { drives, values } = this;
    return Array.from({ length: this.count({ i }) }, (_, n) => ({
      reason: (i[drives + n]! & (ALONE - 1)) - 1,
      alone: i[drives + n]! > ALONE,
      x: f[values + n * 3]!,
      y: f[values + n * 3 + 1]!,
    }));
  }

  /** The reasons that drive it, one bit each. */
  reasons({ i }: Pick<SeatState, "i">): number {
    let bits = 0;
    for (let n = 0; n < MOST_DRIVES && i[this.drives + n] !== 0; n++)
      bits |= 1 << ((i[this.drives + n]! & (ALONE - 1)) - 1);
    return bits;
  }

  reset({ i }: SeatState): void {
    i.fill(0, this.drives, this.drives + MOST_DRIVES);
  }
}
