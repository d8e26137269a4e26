/** Events that wait for their step, in order of their stamps; of equal stamps, in order of arrival. */

/** What an event is. */
export const enum Kind {
  /** A control has another value; its index is made of channel and place. */
  Control,
  /** A flag is set; its index is the flag. */
  Flag,
  /** Devices are lost; its index is the place of a pad, or -1 for everything. */
  Lose,
  Reset,
  /** A mode is entered or left; its index is the mode. */
  Enter,
  Leave,
  /** An action is muted or no longer; its index is the action, its value the reasons, one bit each. */
  Mute,
  Unmute,
}

/** An event's kind and index in one number, and a control's channel and place in its index. */
export const enum Bits {
  Kind = 3,
  KindMask = 7,
  Place = 4,
  PlaceMask = 15,
}

export class EventQueue {
  t: Float64Array;
  value: Float64Array;
  what: Int32Array;
  head = 0;
  tail = 0;

  /** Room for so many at first; it grows, and stays as large as it was needed. */
  constructor(room: number) {
    this.t = new Float64Array(room);
    this.value = new Float64Array(room);
    this.what = new Int32Array(room);
  }

  add(t: number, what: number, value: number): void {
    if (this.tail === this.t.length) this.makeRoom();
    const at = this.tail++;
    this.t[at] = t;
    this.what[at] = what;
    this.value[at] = value;
    // Nearly always the newest is the latest.
    if (at > this.head && this.t[at - 1]! > t) this.sortIn(at);
  }

  /** Moves the newest event before all that are later. */
  private sortIn(at: number): void {
    const t = this.t[at]!;
    const what = this.what[at]!;
    const value = this.value[at]!;
    for (; at > this.head && this.t[at - 1]! > t; at--) {
      this.t[at] = this.t[at - 1]!;
      this.what[at] = this.what[at - 1]!;
      this.value[at] = this.value[at - 1]!;
    }
    this.t[at] = t;
    this.what[at] = what;
    this.value[at] = value;
  }

  /** Forgets the first event and gives its place in the arrays, which stays readable until the next `add`. */
  drop(): number {
    const at = this.head++;
    if (this.head === this.tail) this.head = this.tail = 0;
    return at;
  }

  clear(): void {
    this.head = this.tail = 0;
  }

  /** Gives the events that wait other names; those that get -1 are forgotten. */
  rename(rename: (what: number) => number): void {
    let to = this.head;
    for (let from = this.head; from < this.tail; from++) {
      const what = rename(this.what[from]!);
      if (what < 0) continue;
      this.t[to] = this.t[from]!;
      this.value[to] = this.value[from]!;
      this.what[to++] = what;
    }
    this.tail = to;
    if (this.head === this.tail) this.head = this.tail = 0;
  }

  private makeRoom(): void {
    const { head, tail } = this;
    if (head > 0) {
      this.t.copyWithin(0, head, tail);
      this.what.copyWithin(0, head, tail);
      this.value.copyWithin(0, head, tail);
      this.head = 0;
      this.tail = tail - head;
      return;
    }
    this.t = grown(this.t, new Float64Array(tail * 2));
    this.what = grown(this.what, new Int32Array(tail * 2));
    this.value = grown(this.value, new Float64Array(tail * 2));
  }
}

function grown<T extends Float64Array | Int32Array>(from: T, to: T): T {
  to.set(from);
  return to;
}
