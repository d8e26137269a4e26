/**
 * Events that wait for their step, in order of their stamps; of equal stamps, in order of arrival.
 *
 * All queues of a layer stand in one array: what is fed goes next to what was fed just before, whoever it is for. So a crowd
 * is fed without a look at any of its seats, which are seldom at hand.
 */

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

/** Where an event's numbers stand, from its place on: floats. */
export const enum Slot {
  T,
  Value,
  /** The value of the stick's other axis, where that moved at the same moment; else it is not a number. */
  Other,
  Size = 4,
}

/** And ints, from twice its place on: what it is, and the place of the event after it. */
const enum SlotInt {
  What = 6,
  Next,
}

/** What is kept of a queue, in one place: floats, when its seat wakes; and ints, the places of its first event and its last. */
export const enum Line {
  Wake,
  Size = 2,
}
const enum End {
  First = 2,
  Last,
  Size,
}

/** The place of an event that is not there; written into the code, where a constant would be looked up. */
const enum Place {
  None = -1,
}

/** May change: itself, by what is added and dropped. An event's place is where its numbers begin. */
export class EventQueues {
  slots = new Float64Array(0);
  private ints = new Int32Array(0);
  /** By queue: the stamp of its seat's next event or deadline. It stands beside the queue's ends, with which it is looked at. */
  wakes = new Float64Array(0);
  private ends = new Int32Array(0);
  private count = 0;
  /** The first of the places that hold no event; each names the next. */
  private free = Place.None;

  /** Makes a queue, and gives its number. */
  open(): number {
    const { wakes, count } = this;
    if (wakes.length === count * Line.Size) {
      this.wakes = new Float64Array(Math.max(1, count * 2) * Line.Size);
      this.wakes.set(wakes);
      this.ends = new Int32Array(this.wakes.buffer);
    }
    this.wakes[count * Line.Size + Line.Wake] = Infinity;
    this.ends[count * End.Size + End.First] = this.ends[count * End.Size + End.Last] = Place.None;
    return this.count++;
  }

  /** The place of a queue's first event; below 0 where it has none. */
  first(queue: number): number {
    return this.ends[queue * End.Size + End.First]!;
  }

  timeAt(at: number): number {
    return this.slots[at + Slot.T]!;
  }
  whatAt(at: number): number {
    return this.ints[at * 2 + SlotInt.What]!;
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

  /** The places of all events that wait in a queue, the first one first. */
  *places(queue: number): Generator<number> {
    for (let at = this.first(queue); at >= 0; at = this.ints[at * 2 + SlotInt.Next]!) yield at;
  }

  /** The stamp of the latest event that waits; `undefined` where there is none. */
  latest(queue: number): number | undefined {
    const last = this.ends[queue * End.Size + End.Last]!;
    return last < 0 ? undefined : this.timeAt(last);
  }

  add(queue: number, t: number, what: number, value: number): void {
    if (this.free < 0) this.makeRoom();
    const { slots, ints, ends, free: at } = this;
    const own = at * 2;
    const last = queue * End.Size + End.Last;
    const before = ends[last]!;
    this.free = ints[own + SlotInt.Next]!;
    slots[at + Slot.T] = t;
    slots[at + Slot.Value] = value;
    slots[at + Slot.Other] = NaN;
    ints[own + SlotInt.What] = what;
    ints[own + SlotInt.Next] = Place.None;
    ends[last] = at;
    if (before < 0) ends[last - 1] = at;
    else {
      ints[before * 2 + SlotInt.Next] = at;
      // Nearly always the newest is the latest.
      if (slots[before]! > t) this.sortIn(queue, at, before);
    }
  }

  /** Adds a value to the newest event, where that is the stick's other axis at this moment; false where it is not. */
  join(queue: number, t: number, other: number, value: number): boolean {
    const { slots } = this;
    const at = this.ends[queue * End.Size + End.Last]!;
    if (at < 0 || slots[at + Slot.T] !== t || this.ints[at * 2 + SlotInt.What] !== other) return false;
    const before = slots[at + Slot.Other]!;
    if (before === before) return false;
    slots[at + Slot.Other] = value;
    return true;
  }

  /** Moves an event that came after the one that was the newest before all that are later. */
  private sortIn(queue: number, at: number, newest: number): void {
    const { slots, ints, ends } = this;
    const t = slots[at]!;
    let before = Place.None;
    let after = ends[queue * End.Size + End.First]!;
    while (slots[after]! <= t) {
      before = after;
      after = ints[after * 2 + SlotInt.Next]!;
    }
    ends[queue * End.Size + End.Last] = newest;
    ints[newest * 2 + SlotInt.Next] = Place.None;
    ints[at * 2 + SlotInt.Next] = after;
    if (before < 0) ends[queue * End.Size + End.First] = at;
    else ints[before * 2 + SlotInt.Next] = at;
  }

  /** Forgets the first event, which stands at this place and stays readable until the next `add`; gives the place of the next. */
  drop(queue: number, at: number): number {
    const { ints, ends } = this;
    const next = ints[at * 2 + SlotInt.Next]!;
    ends[queue * End.Size + End.First] = next;
    if (next < 0) ends[queue * End.Size + End.Last] = Place.None;
    ints[at * 2 + SlotInt.Next] = this.free;
    this.free = at;
    return next;
  }

  clear(queue: number): void {
    for (let at = this.first(queue); at >= 0;) at = this.drop(queue, at);
  }

  /** Forgets the events that wait and gives them: t, what, value, other. */
  takeAll(queue: number): readonly (readonly [number, number, number, number])[] {
    const waiting = [...this.places(queue)].map(
      (at) => [this.timeAt(at), this.whatAt(at), this.valueAt(at), this.otherAt(at)] as const,
    );
    this.clear(queue);
    return waiting;
  }

  private makeRoom(): void {
    const { slots } = this;
    const length = Math.max(LEAST * Slot.Size, slots.length * 2);
    this.slots = new Float64Array(length);
    this.ints = new Int32Array(this.slots.buffer);
    this.slots.set(slots);
    for (let at = length - Slot.Size; at >= slots.length; at -= Slot.Size) {
      this.ints[at * 2 + SlotInt.Next] = this.free;
      this.free = at;
    }
  }
}

/** Room for so many events at first; it grows, and stays as large as it was needed. */
const LEAST = 4;
