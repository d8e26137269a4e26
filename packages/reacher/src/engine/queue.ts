/**
 * Events that wait for their step, in order of their time stamps; equal stamps in order of arrival.
 *
 * All queues of a layer share one array: an event is stored next to the one fed before it, whichever seat it is for. So a crowd
 * is fed without touching any of its seats, which are seldom in the cache.
 */

/** What an event is. */
export const enum EventKind {
  /** A control has a new value; the index combines control and place. */
  Control,
  /** A flag is set; the index is the flag. */
  Flag,
  /** Devices are lost; the index is the place of a pad, or -1 for all devices. */
  Lose,
  Reset,
  /** A mode is entered or left; the index is the mode. */
  Enter,
  Leave,
  /** An action is muted or unmuted; the index is the action, the value its reasons, one bit each. */
  Mute,
  Unmute,
  /** A named number is set; the index is the number. */
  Number,
  /** A switch is set by the game; the index is the action. */
  SetSwitch,
  /** The game drives an action or lets it go; the index combines action, reason and how it meets the hands. */
  Drive,
  /** The drive of an action that follows blends; the index is the action, the value how long, in ms. */
  Blend,
  /** A spot is told; the index is the spot, value and other its x and y. */
  Spot,
  /** A press to announce to `onPress`; the index is the control, the value the pad. It changes no state. */
  Press,
  /** An event that the new plan has no use for. */
  Nothing,
}

/** An event's kind and index in one number, and a control's number and place in its index. */
export const enum Bits {
  Kind = 4,
  KindMask = 15,
  Place = 4,
  PlaceMask = 15,
}

/** A drive's action, reason and way in its index. */
export const enum DriveBits {
  WayMask = 3,
  Reason = 2,
  ReasonMask = 31,
  Action = 7,
}

/** Offsets of an event's floats from its place. */
export const enum EventField {
  T,
  Value,
  /** The value of the stick's other axis if that moved at the same moment, or a drive's y; otherwise NaN. */
  Other,
  Size = 4,
}

/** Offsets of its ints from twice its place: what it is, and the place of the next event. */
const enum EventInt {
  What = 6,
  Next,
}

/** Layout of a queue's line: a float for when its seat wakes, and ints for the places of its first and last events. */
export const enum Line {
  Wake,
  Size = 2,
}
const enum End {
  First = 2,
  Last,
  Size,
}

/** No event. A const enum, so that it is inlined. */
const enum NoEvent {
  None = -1,
}

/** Initial capacity in events; it grows, and never shrinks. */
const LEAST = 4;

/** May change: itself. An event's place is the index of its first float. */
export class EventQueues {
  slots = new Float64Array(0);
  private ints = new Int32Array(0);
  /** By queue: when its seat's next event or timer is due. It lies beside the queue's ends, which are read together with it. */
  wakes = new Float64Array(0);
  private ends = new Int32Array(0);
  private count = 0;
  /** Head of the linked list of free places. */
  private free = NoEvent.None;
  /** Queues that received an event out of order, and whether there is any. */
  private readonly unsorted = new Set<number>();
  private isUnsorted = false;

  /** Makes a queue and returns its number. */
  open(): number {
    const { wakes, count } = this;
    if (wakes.length === count * Line.Size) {
      this.wakes = new Float64Array(Math.max(1, count * 2) * Line.Size);
      this.wakes.set(wakes);
      this.ends = new Int32Array(this.wakes.buffer);
    }
    this.wakes[count * Line.Size + Line.Wake] = Infinity;
    this.ends[count * End.Size + End.First] = this.ends[count * End.Size + End.Last] = NoEvent.None;
    return this.count++;
  }

  /** The place of a queue's first event; negative if it is empty. */
  first(queue: number): number {
    if (this.isUnsorted) this.sortIfNeeded(queue);
    return this.ends[queue * End.Size + End.First]!;
  }

  private sortIfNeeded(queue: number): void {
    if (this.unsorted.delete(queue)) this.sort(queue);
    this.isUnsorted = this.unsorted.size > 0;
  }

  timeAt(at: number): number {
    return this.slots[at + EventField.T]!;
  }
  whatAt(at: number): number {
    return this.ints[at * 2 + EventInt.What]!;
  }
  valueAt(at: number): number {
    return this.slots[at + EventField.Value]!;
  }
  /** The value of the other axis; NaN if there is none. */
  otherAt(at: number): number {
    return this.slots[at + EventField.Other]!;
  }
  /** The place of the next event; negative if there is none. */
  after(at: number): number {
    return this.ints[at * 2 + EventInt.Next]!;
  }

  /** The stamp of the latest waiting event; `undefined` if there is none. */
  latest(queue: number): number | undefined {
    this.first(queue);
    const last = this.ends[queue * End.Size + End.Last]!;
    return last < 0 ? undefined : this.timeAt(last);
  }

  /** Adds an event whose stamp and value are in this array: passed as arguments, floats could be boxed on the heap. */
  add(queue: number, what: number, stamp: Float64Array): void {
    if (this.free < 0) this.makeRoom();
    const { slots, ints, ends, free: at } = this;
    const own = at * 2;
    const last = queue * End.Size + End.Last;
    const before = ends[last]!;
    this.free = ints[own + EventInt.Next]!;
    slots[at + EventField.T] = stamp[EventField.T]!;
    slots[at + EventField.Value] = stamp[EventField.Value]!;
    slots[at + EventField.Other] = stamp[EventField.Other]!;
    ints[own + EventInt.What] = what;
    ints[own + EventInt.Next] = NoEvent.None;
    ends[last] = at;
    if (before < 0) ends[last - 1] = at;
    else {
      ints[before * 2 + EventInt.Next] = at;
      // The newest is nearly always the latest.
      if (slots[before]! > slots[at]!) {
        this.unsorted.add(queue);
        this.isUnsorted = true;
      }
    }
  }

  /** The place of the event that was added last; negative if there is none. */
  last(queue: number): number {
    return this.ends[queue * End.Size + End.Last]!;
  }

  /** The place of the last event that is the plan's own; negative if there is none. */
  lastBound(queue: number, channels: readonly (object | undefined)[]): number {
    let last = NoEvent.None as number;
    for (let at = this.ends[queue * End.Size + End.First]!; at >= 0; at = this.after(at))
      if (!this.isForeign(at, channels)) last = at;
    return last;
  }

  /** Whether an event is none of the plan's: an unbound control, or a press for `onPress`. */
  isForeign(at: number, channels: readonly (object | undefined)[]): boolean {
    const what = this.whatAt(at);
    const kind = what & Bits.KindMask;
    return (
      kind === EventKind.Press ||
      (kind === EventKind.Control && channels[what >> (Bits.Kind + Bits.Place)] === undefined)
    );
  }

  /** Merges a value into an event if that is the stick's other axis at this moment; false if it is not. */
  join(at: number, other: number, stamp: Float64Array): boolean {
    const { slots } = this;
    if (
      at < 0 ||
      slots[at + EventField.T] !== stamp[EventField.T] ||
      this.ints[at * 2 + EventInt.What] !== other
    )
      return false;
    const before = slots[at + EventField.Other]!;
    if (before === before) return false;
    slots[at + EventField.Other] = stamp[EventField.Value]!;
    return true;
  }

  /** Makes the other axis of an event an event of its own, right after it. */
  part(queue: number, at: number, other: number): void {
    if (this.free < 0) this.makeRoom();
    const { slots, ints, ends, free: own } = this;
    this.free = ints[own * 2 + EventInt.Next]!;
    slots[own + EventField.T] = slots[at + EventField.T]!;
    slots[own + EventField.Value] = slots[at + EventField.Other]!;
    slots[own + EventField.Other] = slots[at + EventField.Other] = NaN;
    ints[own * 2 + EventInt.What] = other;
    ints[own * 2 + EventInt.Next] = ints[at * 2 + EventInt.Next]!;
    ints[at * 2 + EventInt.Next] = own;
    const last = queue * End.Size + End.Last;
    if (ends[last] === at) ends[last] = own;
  }

  /** Moves an event, which comes right after `before`, to the place right after `to`. */
  pull(queue: number, at: number, before: number, to: number): void {
    const { ints, ends } = this;
    const last = queue * End.Size + End.Last;
    ints[before * 2 + EventInt.Next] = ints[at * 2 + EventInt.Next]!;
    ints[at * 2 + EventInt.Next] = ints[to * 2 + EventInt.Next]!;
    ints[to * 2 + EventInt.Next] = at;
    if (ends[last] === at) ends[last] = before;
  }

  /** Adds an amount to an event if that is of the same mouse and recent enough; false if it is not. */
  sum(at: number, what: number, other: number, stamp: Float64Array, withinMs: number): boolean {
    const { slots, ints } = this;
    if (at < 0 || !(Math.abs(stamp[EventField.T]! - slots[at + EventField.T]!) <= withinMs)) return false;
    const newest = ints[at * 2 + EventInt.What]!;
    if (newest !== what && newest !== other) return false;
    const to = at + (newest === what ? EventField.Value : EventField.Other);
    const before = slots[to]!;
    slots[to] = (before === before ? before : 0) + stamp[EventField.Value]!;
    return true;
  }

  /** Sorts a queue by stamps in one pass: each of a million events out of order costs no more than each of ten. */
  private sort(queue: number): void {
    const { slots, ints, ends } = this;
    const order: number[] = [];
    for (let at = ends[queue * End.Size + End.First]!; at >= 0; at = this.after(at)) order.push(at);
    order.sort((a, b) => slots[a]! - slots[b]!);
    let before = NoEvent.None as number;
    for (let n = order.length - 1; n >= 0; n--) {
      ints[order[n]! * 2 + EventInt.Next] = before;
      before = order[n]!;
    }
    ends[queue * End.Size + End.First] = before;
    ends[queue * End.Size + End.Last] = order[order.length - 1]!;
  }

  /** Removes the first event, which is at this place and stays readable until the next `add`. Returns the place of the next. */
  drop(queue: number, at: number): number {
    const { ints, ends } = this;
    const next = ints[at * 2 + EventInt.Next]!;
    ends[queue * End.Size + End.First] = next;
    if (next < 0) ends[queue * End.Size + End.Last] = NoEvent.None;
    ints[at * 2 + EventInt.Next] = this.free;
    this.free = at;
    return next;
  }

  /** Changes the kind and index of each waiting event. */
  rename(queue: number, to: (what: number) => number): void {
    for (let at = this.first(queue); at >= 0; at = this.after(at))
      this.ints[at * 2 + EventInt.What] = to(this.ints[at * 2 + EventInt.What]!);
  }

  clear(queue: number): void {
    for (let at = this.first(queue); at >= 0;) at = this.drop(queue, at);
  }

  private makeRoom(): void {
    const { slots } = this;
    const length = Math.max(LEAST * EventField.Size, slots.length * 2);
    this.slots = new Float64Array(length);
    this.ints = new Int32Array(this.slots.buffer);
    this.slots.set(slots);
    for (let at = length - EventField.Size; at >= slots.length; at -= EventField.Size) {
      this.ints[at * 2 + EventInt.Next] = this.free;
      this.free = at;
    }
  }
}
