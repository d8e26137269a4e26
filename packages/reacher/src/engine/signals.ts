/** Channels hold raw values; signals are the same as pressed or released. In: a control's value. Out: listeners notified, sticks marked. */
import { notifyAll } from "./notifyAll.js";
import { Rule, type RuleCells } from "./cells.js";
import { Clock } from "./clock.js";
import { listOf } from "./lists.js";
import { Bits, EventKind, EventField } from "./queue.js";
import type { SeatState } from "./state.js";

/** Is notified of presses: an end of a movement, a gesture, a plain entry. */
export interface Listener {
  press(s: SeatState, signal: Signal): void;
  release(s: SeatState, signal: Signal): void;
}

/** A filter before a channel, which may hold a value back. */
export interface Filter {
  /** True if the value in this slot of the queue is held back. */
  holdsBack(s: SeatState, padIndex: number, slot: number): boolean;
  /** The control goes to rest; what was held back is dropped. */
  rest(s: SeatState, padIndex: number): void;
  /** Whether a release is being held back. */
  isHolding?(f: Float64Array, padIndex: number): boolean;
}

/** Reads a channel's raw value directly: a stick. */
export interface StickReader {
  readonly id: number;
  update(s: SeatState): void;
}

/** The `up` of a new signal before its first recount; one carried over from other tables is 0 or 1. */
const UNKNOWN = 2;

/** One raw value, as devices report it. */
export class Channel extends Rule {
  /** The `what` of its events in the queue, for place 0. */
  readonly what: number;
  /** The cell of its value; a pad's channel has one per place. */
  readonly value: number;
  readonly signals: Signal[] = [];
  /** Sticks that read it, one per place; and movements that read its amount. */
  readonly sticks: StickReader[] = [];
  readonly movements: number[] = [];
  filter: Filter | null = null;
  /** The other axis of its stick or mouse, whose events are merged into its own. */
  other: Channel | null = null;
  /** Whether it and the other axis only move the same sticks, and nothing else reads them. */
  isStickAlone = false;
  /** Axes of one group that move at one moment are one event: all of a pad (0), or those of one own stick. */
  group = 0;
  /** Of an own control: whether a lost focus leaves it as it is. */
  keepsFocus = false;

  constructor(
    cells: RuleCells,
    readonly name: string,
    /** Its control's number, the same in all plans. */
    readonly id: number,
    /** Its index among the tables' devices. */
    readonly device: number,
    /** Digital: down or up, nothing between counts. */
    readonly isDigital: boolean,
    readonly isAxis: boolean,
    /** Its values are amounts that add up, not a state. */
    readonly isAmount: boolean,
    readonly least: number,
    readonly most: number,
    /** How many pads are combined; 1 for keyboard and mouse. */
    readonly padCount: number,
    private readonly lastDevice: number,
    /** From this value on it counts as used, for prompts. */
    private readonly usedFrom: number,
  ) {
    super(cells);
    this.what = (id << (Bits.Kind + Bits.Place)) | EventKind.Control;
    this.value = cells.float("value", 0, padCount);
  }

  /** Takes the value in this slot of the queue: passed as an argument, a fraction could be boxed on the heap. */
  move(s: SeatState, padIndex: number, slot: number): void {
    if (this.filter !== null && this.filter.holdsBack(s, padIndex, slot)) return;
    const at = this.value + padIndex;
    const value = s.slots[slot]!;
    if (s.f[at] === value) return;
    s.f[at] = value;
    if (value >= this.usedFrom || value <= -this.usedFrom) s.i[this.lastDevice] = this.device;
    this.propagate(s, padIndex);
  }

  /** Takes both axes of a stick at one moment at which nothing else moves: its sticks are updated at once. */
  moveStick(s: SeatState, padIndex: number, at: number, other: Channel): void {
    const { f, i, slots } = s;
    const { sticks, padCount } = this;
    const x = slots[at + EventField.Value]!;
    const y = slots[at + EventField.Other]!;
    const movesX = f[this.value + padIndex] !== x;
    const movesY = f[other.value + padIndex] !== y;
    if (!movesX && !movesY) return;
    f[this.value + padIndex] = x;
    f[other.value + padIndex] = y;
    const used = this.usedFrom * this.usedFrom;
    if ((movesX && x * x >= used) || (movesY && y * y >= used)) i[this.lastDevice] = this.device;
    for (let n = padIndex; n < sticks.length; n += padCount) sticks[n]!.update(s);
  }

  /** Puts a lost control to rest. */
  rest(s: SeatState, padIndex: number): void {
    if (this.filter !== null) this.filter.rest(s, padIndex);
    if (s.f[this.value + padIndex] === 0) return;
    s.f[this.value + padIndex] = 0;
    this.propagate(s, padIndex);
  }

  private propagate(s: SeatState, padIndex: number): void {
    const { signals, sticks, movements, padCount } = this;
    for (let n = 0; n < signals.length; n++) {
      const signal = signals[n]!;
      const most = padCount === 1 ? s.f[this.value]! * signal.sign : this.strongest(s, signal.sign);
      if (s.b[signal.up] === 0) {
        if (most >= signal.press) signal.rise(s);
      } else if (most < signal.release) signal.fall(s);
    }
    for (let n = padIndex; n < sticks.length; n += padCount) s.markStick(sticks[n]!.id);
    for (let n = 0; n < movements.length; n++) s.markMovement(movements[n]!);
  }

  /** Pads that drive one seat are combined: the strongest value counts. */
  strongest({ f }: SeatState, sign: number): number {
    let value = f[this.value]! * sign;
    for (let n = 1; n < this.padCount; n++) {
      const other = f[this.value + n]! * sign;
      if (other > value) value = other;
    }
    return value;
  }
}

/** A control, or a direction of a movement, raw or as it comes out, as pressed or released. */
export class Signal extends Rule {
  readonly up = this.cells.byte("up", UNKNOWN);
  /** Cells for the moment of its last press, and for whether a long press has fired on it; -1 if unused. */
  pressedAt = -1;
  wasLong = -1;
  /** Of a direction: the control that pressed it last, by number (int); and all controls that press it. */
  pressedBy = -1;
  controls: readonly number[] = [];
  /** Ends of movements that it presses. */
  readonly ends: Listener[] = listOf();
  /** Taps that a press of it interrupts: the cells of their counts (bytes), and whose presses they may claim. */
  readonly breaks: { readonly count: number; readonly claims: readonly unknown[] }[] = [];
  /** Whether waiting entries must be reviewed when it is pressed. */
  reviews = false;
  /** Counters of presses (ints), for taps that any other press interrupts. */
  readonly strokes: number[] = [];
  readonly gestures: Listener[] = listOf();
  readonly entries: Listener[] = listOf();
  /** Whether anything besides ends listens; and whether it is notified only when all signals of the event have changed. */
  isHeard = false;
  isHeardLater = false;

  constructor(
    cells: RuleCells,
    readonly id: number,
    /** Of the control, or of the direction. */
    readonly name: string,
    /** The channel of a control; `null` for a direction. */
    readonly channel: Channel | null,
    readonly sign: number,
    readonly press: number,
    readonly release: number,
    /** Whether it is what comes out of a movement: no key presses it, and it takes and claims none. */
    readonly isResult = false,
  ) {
    super(cells);
    if (isResult) this.keepMoment();
    else if (channel === null) this.pressedBy = cells.int("pressedBy", -1);
  }

  get device(): number {
    return this.channel === null ? 0 : this.channel.device;
  }

  /** From now on the moment of its last press is recorded. */
  keepMoment(): void {
    if (this.pressedAt < 0) this.pressedAt = this.cells.float("pressedAt");
  }
  keepLong(): void {
    if (this.wasLong < 0) this.wasLong = this.cells.byte("wasLong");
  }

  /** Its own listeners come before those of the directions that it presses. */
  rise(s: SeatState): void {
    const { b, f } = s;
    const { ends, breaks, strokes } = this;
    b[this.up] = 1;
    if (this.pressedAt >= 0) f[this.pressedAt] = s.clock[Clock.Now]!;
    if (this.wasLong >= 0) b[this.wasLong] = 0;
    for (let n = 0; n < breaks.length; n++) b[breaks[n]!.count] = 0;
    for (let n = 0; n < strokes.length; n++) s.i[strokes[n]!]!++;
    if (this.reviews) s.reviewWaiting();
    if (this.isHeard) this.pass(s, true);
    for (let n = 0; n < ends.length; n++) ends[n]!.press(s, this);
  }

  fall(s: SeatState): void {
    const { ends } = this;
    s.b[this.up] = 0;
    if (this.isHeard) this.pass(s, false);
    for (let n = 0; n < ends.length; n++) ends[n]!.release(s, this);
  }

  /** If something takes or claims presses, the gestures of all signals come before the entries; otherwise the order cannot be observed. */
  private pass(s: SeatState, isPress: boolean): void {
    if (this.isHeardLater) s.noteSignal(this.id, isPress ? 1 : 0);
    else {
      notifyAll(s, this, this.gestures, isPress);
      notifyAll(s, this, this.entries, isPress);
    }
  }

  /** Whether the control that pressed a direction last is no longer bound to it: then its count is void. */
  hasLostItsKey({ i }: SeatState): boolean {
    if (this.pressedBy < 0) return false;
    const by = i[this.pressedBy]!;
    return by >= 0 && this.controls.every((control) => control !== by);
  }

  /** After a change of tables: a signal that is new is up without a press. */
  recount(s: SeatState): void {
    if (s.b[this.up] !== UNKNOWN) return;
    s.b[this.up] = this.channel !== null && this.channel.strongest(s, this.sign) >= this.press ? 1 : 0;
  }
}
