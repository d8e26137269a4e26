/** Triggers and half axes as analog ends of a movement. In: their raw values. Out: keys and amounts combined. */
import { Rule } from "../cells.js";
import type { Channel } from "../signals.js";
import type { SeatState } from "../state.js";
import { component, End, endsOf, HORIZONTAL, VERTICAL } from "./ends.js";
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

  /** Combines the ends into x, y and length, written to `at`. `settled`: the keys' ends, opposite ones already resolved. */
  work(s: SeatState, keys: number, settled: number, at: number): void {
    const { f } = s;
    const ends = endsOf(keys);
    this.measure(s);
    f[at] = (ends & HORIZONTAL) === HORIZONTAL ? component(settled, End.Left, End.Right) : 0;
    if ((ends & HORIZONTAL) !== HORIZONTAL) this.subtract(f, ends, End.Left, End.Right, at);
    f[at + 1] = (ends & VERTICAL) === VERTICAL ? component(settled, End.Down, End.Up) : 0;
    if ((ends & VERTICAL) !== VERTICAL) this.subtract(f, ends, End.Down, End.Up, at + 1);
  }

  /** Plus minus minus; a key counts as full amount. */
  private subtract(f: Float64Array, ends: number, minus: End, plus: End, at: number): void {
    const more = (ends & (1 << plus)) === 0 ? f[this.most + plus]! : 1;
    const less = (ends & (1 << minus)) === 0 ? f[this.most + minus]! : 1;
    f[at] = more - less;
  }

  private measure(s: SeatState): void {
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
}
