/** Counts of whole ms from 0 to a limit: as much memory for a year of play as for a minute. */
export class Histogram {
  readonly counts: Uint32Array;
  total = 0;

  constructor(readonly limit: number) {
    this.counts = new Uint32Array(limit + 1);
  }

  /** Counts a time, rounded up to whole ms, so that `upTo` never counts a time beyond the window. */
  add(ms: number): void {
    const at = Math.ceil(ms);
    if (at > this.limit) return;
    this.counts[at]!++;
    this.total++;
  }

  addAll(other: Histogram): void {
    other.counts.forEach((count, ms) => (this.counts[ms]! += count));
    this.total += other.total;
  }

  /** How many were this long or shorter. */
  upTo(ms: number): number {
    return this.between(-1, ms);
  }

  /** How many were longer than `from`, and `to` or shorter. */
  between(from: number, to: number): number {
    let sum = 0;
    for (let at = from + 1; at <= to && at <= this.limit; at++) sum += this.counts[at]!;
    return sum;
  }

  /** The time that this share of them, 0..1, did not exceed; 0 where there are none. */
  quantile(share: number): number {
    let left = Math.ceil(share * this.total);
    for (let at = 0; at <= this.limit; at++) {
      left -= this.counts[at]!;
      if (left <= 0 && this.total > 0) return at;
    }
    return 0;
  }
}
