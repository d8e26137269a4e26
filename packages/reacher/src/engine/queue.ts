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

/** Where an event's numbers stand, from its place on. */
export const enum Slot {
  T,
  What,
  Value,
  /** The value of the stick's other axis, where that moved at the same moment; else it is not a number. */
  Other,
  Size,
}

const EMPTY = new Float64Array(0);

/** Room for so many events at first, where it is an array of its own; it grows, and stays as large as it was needed. */
const LEAST = 4;

/** May change: itself, by what is added and dropped. An event's place is where its numbers begin. */
export class EventQueue {
  /** One array for all, so that an event is one place in memory. */
  slots: Float64Array = EMPTY;
  head = 0;
  tail = 0;
  /** Where its room ends. */
  private end = 0;

  /** It has room for `count` events at the beginning of an array of its owner's; for more it makes itself one. */
  lie(slots: Float64Array, count: number): void {
    this.slots = slots;
    this.head = this.tail = 0;
    this.end = count * Slot.Size;
  }

  isEmpty(): boolean {
    return this.head === this.tail;
  }

  timeAt(at: number): number {
    return this.slots[at + Slot.T]!;
  }
  whatAt(at: number): number {
    return this.slots[at + Slot.What]! | 0;
  }
  valueAt(at: number): number {
    return this.slots[at + Slot.Value]!;
  }
  otherAt(at: number): number {
    return this.slots[at + Slot.Other]!;
  }
  /** Takes the value of the other axis out of an event, as an event's only value. */
  turnOver(at: number): void {
    this.slots[at + Slot.Value] = this.slots[at + Slot.Other]!;
  }

  /** The places of all events that wait, the first one first. */
  *places(): Generator<number> {
    for (let at = this.head; at < this.tail; at += Slot.Size) yield at;
  }

  /** The stamp of the latest event that waits; `undefined` where there is none. */
  get latest(): number | undefined {
    return this.isEmpty() ? undefined : this.timeAt(this.tail - Slot.Size);
  }

  add(t: number, what: number, value: number): void {
    if (this.tail === this.end) this.makeRoom();
    const { slots, tail: at } = this;
    this.tail = at + Slot.Size;
    slots[at + Slot.T] = t;
    slots[at + Slot.What] = what;
    slots[at + Slot.Value] = value;
    slots[at + Slot.Other] = NaN;
    // Nearly always the newest is the latest.
    if (at > this.head && slots[at - Slot.Size]! > t) this.sortIn(at);
  }

  /** Adds a value to the newest event, where that is the stick's other axis at this moment; false where it is not. */
  join(t: number, other: number, value: number): boolean {
    const { slots, tail, head } = this;
    if (tail === head) return false;
    const at = tail - Slot.Size;
    if (slots[at + Slot.T] !== t || slots[at + Slot.What] !== other) return false;
    const before = slots[at + Slot.Other]!;
    if (before === before) return false;
    slots[at + Slot.Other] = value;
    return true;
  }

  /** Moves the newest event before all that are later. */
  private sortIn(at: number): void {
    const { slots } = this;
    const t = slots[at]!;
    let to = at;
    while (to > this.head && slots[to - Slot.Size]! > t) to -= Slot.Size;
    const event = slots.slice(at, at + Slot.Size);
    slots.copyWithin(to + Slot.Size, to, at);
    slots.set(event, to);
  }

  /** Forgets the first event and gives its place, which stays readable until the next `add`. */
  drop(): number {
    const at = this.head;
    this.head = at + Slot.Size;
    if (this.head === this.tail) this.head = this.tail = 0;
    return at;
  }

  clear(): void {
    this.head = this.tail = 0;
  }

  /** Forgets the events that wait and gives them: t, what, value, other. */
  takeAll(): readonly (readonly [number, number, number, number])[] {
    const waiting = [...this.places()].map(
      (at) => [this.timeAt(at), this.whatAt(at), this.valueAt(at), this.otherAt(at)] as const,
    );
    this.clear();
    return waiting;
  }

  private makeRoom(): void {
    const { head, tail, slots } = this;
    const count = tail - head;
    if (head > 0) slots.copyWithin(0, head, tail);
    else {
      this.slots = new Float64Array(Math.max(LEAST * Slot.Size, count * 2));
      this.slots.set(slots.subarray(head, tail));
      this.end = this.slots.length;
    }
    this.head = 0;
    this.tail = count;
  }
}
