/**
 * Events that wait for their step, in order of their stamps; of equal stamps, in order of arrival.
 *
 * All queues of a layer stand in one array: what is fed goes next to what was fed just before, whoever it is for. So a crowd
 * is fed without a look at any of its seats, which are seldom at hand.
 */

/** What an event is. */
export const enum Kind {
  /** A control has another value; its index is made of control and place. */
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
  /** A named number is set; its index is the number. */
  Number,
  /** A switch is set by the game; its index is the action. */
  SetSwitch,
  /** An action is driven by the game, or let go: its index is made of action, reason and whether that drives alone. */
  Drive,
  /** A press, for whoever waits for any: its index is the control, its value the pad. It changes nothing by itself. */
  Press,
  /** Another plan has no name for it. */
  Nothing,
}

/** An event's kind and index in one number, and a control's number and place in its index. */
export const enum Bits {
  Kind = 4,
  KindMask = 15,
  Place = 4,
  PlaceMask = 15,
}

/** A drive's action and reason in its index. */
export const enum DriveBits {
  Alone = 1,
  Reason = 1,
  ReasonMask = 31,
  Action = 6,
}

/** Where an event's numbers stand, from its place on: floats. */
export const enum Slot {
  T,
  Value,
  /** The value of the stick's other axis, where that moved at the same moment, or a drive's y; else it is not a number. */
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

/** Room for so many events at first; it grows, and stays as large as it was needed. */
const LEAST = 4;

/** May change: itself, by what is added and dropped. An event's place is where its numbers begin. */
export class EventQueues {
  slots = new Float64Array(0);
  private ints = new Int32Array(0);
  /** By queue: the stamp of its seat's next event or timer. It stands beside the queue's ends, with which it is looked at. */
  wakes = new Float64Array(0);
  private ends = new Int32Array(0);
  private count = 0;
  /** The first of the places that hold no event; each names the next. */
  private free = Place.None;
  /** Queues to which something was added that is earlier than what was there. */
  private readonly unsorted = new Set<number>();

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
    if (this.unsorted.size > 0 && this.unsorted.delete(queue)) this.sort(queue);
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
  /** The value of the other axis; not a number where there is none. */
  otherAt(at: number): number {
    return this.slots[at + Slot.Other]!;
  }
  /** The place of the event after this one, or below 0. */
  after(at: number): number {
    return this.ints[at * 2 + SlotInt.Next]!;
  }

  /** The stamp of the latest event that waits; `undefined` where there is none. */
  latest(queue: number): number | undefined {
    this.first(queue);
    const last = this.ends[queue * End.Size + End.Last]!;
    return last < 0 ? undefined : this.timeAt(last);
  }

  /** Adds an event whose stamp and value stand in these floats: handed over, they could be allocated. */
  add(queue: number, what: number, stamp: Float64Array): void {
    if (this.free < 0) this.makeRoom();
    const { slots, ints, ends, free: at } = this;
    const own = at * 2;
    const last = queue * End.Size + End.Last;
    const before = ends[last]!;
    this.free = ints[own + SlotInt.Next]!;
    slots[at + Slot.T] = stamp[Slot.T]!;
    slots[at + Slot.Value] = stamp[Slot.Value]!;
    slots[at + Slot.Other] = stamp[Slot.Other]!;
    ints[own + SlotInt.What] = what;
    ints[own + SlotInt.Next] = Place.None;
    ends[last] = at;
    if (before < 0) ends[last - 1] = at;
    else {
      ints[before * 2 + SlotInt.Next] = at;
      // Nearly always the newest is the latest.
      if (slots[before]! > slots[at]!) this.unsorted.add(queue);
    }
  }

  /** Adds a value to the newest event, where that is the stick's other axis at this moment; false where it is not. */
  join(queue: number, other: number, stamp: Float64Array): boolean {
    const { slots } = this;
    const at = this.ends[queue * End.Size + End.Last]!;
    if (at < 0 || slots[at + Slot.T] !== stamp[Slot.T] || this.ints[at * 2 + SlotInt.What] !== other)
      return false;
    const before = slots[at + Slot.Other]!;
    if (before === before) return false;
    slots[at + Slot.Other] = stamp[Slot.Value]!;
    return true;
  }

  /** Adds an amount to the newest event, where that is one of the same two ways and not so long before; false where it is not. */
  sum(queue: number, what: number, other: number, stamp: Float64Array, withinMs: number): boolean {
    const { slots, ints } = this;
    const at = this.ends[queue * End.Size + End.Last]!;
    if (at < 0 || !(Math.abs(stamp[Slot.T]! - slots[at + Slot.T]!) <= withinMs)) return false;
    const newest = ints[at * 2 + SlotInt.What]!;
    if (newest !== what && newest !== other) return false;
    const to = at + (newest === what ? Slot.Value : Slot.Other);
    const before = slots[to]!;
    slots[to] = (before === before ? before : 0) + stamp[Slot.Value]!;
    return true;
  }

  /** Puts a queue in order of its stamps, all at once: a million early events cost no more each than ten. */
  private sort(queue: number): void {
    const { slots, ints, ends } = this;
    const places: number[] = [];
    for (let at = ends[queue * End.Size + End.First]!; at >= 0; at = this.after(at)) places.push(at);
    places.sort((one, other) => slots[one]! - slots[other]!);
    let before = Place.None as number;
    for (let n = places.length - 1; n >= 0; n--) {
      ints[places[n]! * 2 + SlotInt.Next] = before;
      before = places[n]!;
    }
    ends[queue * End.Size + End.First] = before;
    ends[queue * End.Size + End.Last] = places[places.length - 1]!;
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

  /** Gives each event that waits another kind and index. */
  rename(queue: number, to: (what: number) => number): void {
    for (let at = this.first(queue); at >= 0; at = this.after(at))
      this.ints[at * 2 + SlotInt.What] = to(this.ints[at * 2 + SlotInt.What]!);
  }

  clear(queue: number): void {
    for (let at = this.first(queue); at >= 0;) at = this.drop(queue, at);
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
