/** Events that wait for their step, in order of their stamps; of equal stamps, in order of arrival. */

/** What an event is, and what its `index` means. */
export const enum Kind {
  /** Channel and place, in `PlaceBits.Count` bits. */
  Control,
  /** The flag. */
  Flag,
  /** The place of a pad, or -1 for everything. */
  Lose,
  Reset,
}

export const enum PlaceBits {
  Count = 4,
  Mask = 15,
}

export class EventQueue {
  t = new Float64Array(64);
  kind = new Uint8Array(64);
  index = new Int32Array(64);
  value = new Float64Array(64);
  head = 0;
  tail = 0;

  add(t: number, kind: number, index: number, value: number): void {
    if (this.tail === this.t.length) this.makeRoom();
    let at = this.tail++;
    // Nearly always the newest is the latest, and this ends at once.
    while (at > this.head && this.t[at - 1]! > t) {
      this.t[at] = this.t[at - 1]!;
      this.kind[at] = this.kind[at - 1]!;
      this.index[at] = this.index[at - 1]!;
      this.value[at] = this.value[at - 1]!;
      at--;
    }
    this.t[at] = t;
    this.kind[at] = kind;
    this.index[at] = index;
    this.value[at] = value;
  }

  /** Forgets the first event; its place in the arrays stays readable until the next `add`. */
  drop(): number {
    const at = this.head++;
    if (this.head === this.tail) this.head = this.tail = 0;
    return at;
  }

  clear(): void {
    this.head = this.tail = 0;
  }

  private makeRoom(): void {
    const { head, tail } = this;
    if (head > 0) {
      this.t.copyWithin(0, head, tail);
      this.kind.copyWithin(0, head, tail);
      this.index.copyWithin(0, head, tail);
      this.value.copyWithin(0, head, tail);
      this.head = 0;
      this.tail = tail - head;
      return;
    }
    this.t = grown(this.t, new Float64Array(tail * 2));
    this.kind = grown(this.kind, new Uint8Array(tail * 2));
    this.index = grown(this.index, new Int32Array(tail * 2));
    this.value = grown(this.value, new Float64Array(tail * 2));
  }
}

function grown<T extends Float64Array | Uint8Array | Int32Array>(from: T, to: T): T {
  to.set(from);
  return to;
}
