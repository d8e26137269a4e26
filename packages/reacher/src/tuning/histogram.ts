import { mustBeNumber } from "../plan/arguments.js";
import { shown } from "../plan/depth.js";
import { ReacherError } from "../plan/errors.js";

/** Counts of whole ms from 0 to a limit: as much memory for a year of play as for a minute. */
export class Histogram {
  readonly counts: Uint32Array;
  total = 0;

  constructor(readonly limit: number) {
    if (!(Number.isInteger(limit) && limit >= 0 && limit <= 1e6))
      throw new ReacherError(`${shown(limit)} is no limit; give whole milliseconds, up to 1e6`);
    this.counts = new Uint32Array(limit + 1);
  }

  /** Counts a time, rounded up to whole ms, so that `upTo` never counts a time beyond the window. */
  add(ms: number): void {
    mustBeNumber(ms, "time in ms");
    const at = Math.ceil(ms);
    if (at > this.limit || at < 0) return;
    this.counts[at]!++;
    this.total++;
  }

  addAll(other: Histogram): void {
    if (!(other instanceof Histogram)) throw new ReacherError(`${shown(other)} is no histogram`);
    other.counts.forEach((count, ms) => (this.counts[ms]! += count));
    this.total += other.total;
  }

  /** How many were this long or shorter. */
  upTo(ms: number): number {
    mustBeNumber(ms, "time in ms");
    return this.between(-1, ms);
  }

  /** How many were longer than `from`, and `to` or shorter. */
  between(from: number, to: number): number {
    mustBeNumber(from, "time in ms");
    mustBeNumber(to, "time in ms");
    let sum = 0;
    for (let at = Math.max(0, Math.floor(from) + 1); at <= to && at <= this.limit; at++)
      sum += this.counts[at]!;
    return sum;
  }

  /** The time that this share of them, 0..1, did not exceed; 0 where there are none. */
  quantile(share: number): number {
    mustBeNumber(share, "share");
    let left = Math.ceil(share * this.total);
    for (let at = 0; at <= this.limit; at++) {
      left -= this.counts[at]!;
      if (left <= 0 && this.total > 0) return at;
    }
    return 0;
  }
}
