/**
 * Triggers and half axes as analog ends of a movement. In: their raw values. Out: an amount for each end, combined with what the keys
 * give. A ramp is for keys: an amount counts at once.
 */
import { Rule } from "../cells.js";
import type { Channel } from "../signals.js";
import type { SeatState } from "../state.js";
import { End, HORIZONTAL, VERTICAL } from "./ends.js";
import { shapeTravel, type ShapeTable } from "./shape.js";

/** One trigger or half axis. */
export interface Amount {
  readonly end: End;
  readonly channel: Channel;
  readonly sign: number;
  readonly shape: ShapeTable;
  readonly hiddenAt: number;
}

export class Amounts extends Rule {
  private readonly all: Amount[] = [];
  /** By end: its amount; and one more cell as scratch space. */
  private readonly most = this.cells.float("amounts", 0, 5);

  add(amount: Amount): void {
    this.all.push(amount);
  }

  /** Takes the present amounts. */
  measure(s: SeatState): void {
    const { f, b } = s;
    const { all, most } = this;
    const work = most + 4;
    f.fill(0, most, work);
    for (let n = 0; n < all.length; n++) {
      const { channel, sign, shape, hiddenAt, end } = all[n]!;
      if (hiddenAt >= 0 && b[hiddenAt] === 1) continue;
      f[work] = channel.strongest(s, sign);
      shapeTravel(shape, f, work);
      if (f[work]! > f[most + end]!) f[most + end] = f[work]!;
    }
    f[work] = 0;
  }

  /** Counts none of the amounts of these ends. */
  drop({ f }: SeatState, ends: number): void {
    for (let end = 0; end < 4; end++) if ((ends & (1 << end)) !== 0) f[this.most + end] = 0;
  }

  /**
   * Combines the component that keys give, in this cell, with the amounts of its two ends: plus minus minus, a key against the
   * amount of its own end. `ends`: those that keys hold; where these are opposite, they alone count.
   */
  mix({ f }: Pick<SeatState, "f">, values: Float64Array, at: number, ends: number, isAcross: boolean): void {
    const both = isAcross ? HORIZONTAL : VERTICAL;
    if ((ends & both) === both) return;
    const plus = f[this.most + (isAcross ? End.Right : End.Up)]!;
    const minus = f[this.most + (isAcross ? End.Left : End.Down)]!;
    const key = values[at]!;
    values[at] = (key > plus ? key : plus) - (-key > minus ? -key : minus);
  }

  /** The amount that a component of this sign competes with; -1 if amounts do not count beside these keys. */
  beside({ f }: Pick<SeatState, "f">, isPlus: boolean, ends: number, isAcross: boolean): number {
    const both = isAcross ? HORIZONTAL : VERTICAL;
    if ((ends & both) === both) return -1;
    const end = isAcross ? (isPlus ? End.Right : End.Left) : isPlus ? End.Up : End.Down;
    return f[this.most + end]!;
  }
}
