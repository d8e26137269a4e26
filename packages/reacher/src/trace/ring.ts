/**
 * The last events that a recorder has seen, in bounded memory. In: events and commands as they are handled. Out: these in order, and what was on at any
 * moment among them. May change: its ring, and the state from before it begins.
 */
import type { Controls } from "../controls/ownControls.js";
import { Before } from "./before.js";
import type { Recorded } from "./order.js";
import { controlLine, type LatchLine } from "./present.js";

/** Events of one step may come in any order, seat by seat; a step lasts no longer than this, in ms. */
const OUT_OF_ORDER_MS = 2000;

/** The last events, and the state that the ones before them led to. */
export class Ring {
  private readonly t: Float64Array;
  private readonly seat: Int32Array;
  private readonly line: Int32Array;
  private readonly value: Float64Array;
  /** What switches were after an event, where that changed. */
  private readonly latches: (readonly LatchLine[] | undefined)[] = [];
  /** Interned lines, a control's without its value, since a key is pressed again and again. */
  private readonly lines: string[] = [];
  private readonly numbers = new Map<string, number>();
  private head = 0;
  private size = 0;
  private dropped = false;
  private begun = false;
  readonly before: Before;
  begin = 0;
  /** How many events there have been. */
  count = 0;

  constructor(
    private readonly most: number,
    readonly controls: () => Controls,
  ) {
    this.before = new Before(controls);
    this.t = new Float64Array(most);
    this.seat = new Int32Array(most);
    this.line = new Int32Array(most);
    this.value = new Float64Array(most);
  }

  /** A line as JSON, or a control and its pad, which have a value. */
  add(seat: number, t: number, line: string, value: number): void {
    const { most } = this;
    // Events are not always reported in order: seats are stepped one after the other.
    // Commands before the first step have no time; they hold from the beginning.
    if (!this.dropped && t > -Infinity && (!this.begun || t < this.begin)) {
      this.begin = t;
      this.begun = true;
    }
    if (this.size === most) this.drop();
    const at = (this.head + this.size++) % most;
    this.count++;
    this.t[at] = t;
    this.seat[at] = seat;
    this.line[at] = this.numberOf(line);
    this.value[at] = value;
    this.latches[at] = undefined;
  }

  /** Notes what changed with the last event: it is no line of its own. */
  addLatches(lines: readonly LatchLine[]): void {
    if (lines.length === 0) return;
    if (this.size === 0) {
      for (const line of lines) this.before.apply(line);
      return;
    }
    const at = (this.head + this.size - 1) % this.most;
    this.latches[at] = [...(this.latches[at] ?? []), ...lines];
  }

  /** From here on the recording is a new one, with these lines as its initial state. */
  beginWith(t: number, lines: readonly object[]): void {
    this.size = 0;
    this.before.clear();
    for (const line of lines) this.before.apply(line);
    if (lines.length === 0 && !this.begun) return;
    this.begin = t;
    this.begun = this.dropped = true;
  }

  /** What came after this moment has not happened: of one seat, or of all. */
  cut(t: number, seat: number | undefined): void {
    const { most } = this;
    const placeOf = (n: number) => (this.head + n) % most;
    // Seats are stepped one after the other, so that their events are not quite in order of time.
    let from = this.size;
    while (from > 0 && this.t[placeOf(from - 1)]! > t - OUT_OF_ORDER_MS) from--;
    let to = from;
    for (let n = from; n < this.size; n++) {
      const at = placeOf(n);
      const isUndone = this.t[at]! > t && (seat === undefined || this.seat[at] === seat);
      if (isUndone) continue;
      const kept = placeOf(to++);
      this.t[kept] = this.t[at]!;
      this.seat[kept] = this.seat[at]!;
      this.line[kept] = this.line[at]!;
      this.value[kept] = this.value[at]!;
      this.latches[kept] = this.latches[at];
    }
    this.count -= this.size - to;
    this.size = to;
  }

  /** Drops the oldest. */
  private drop(): void {
    this.before.apply(lineOf(this.lines[this.line[this.head]!]!, this.value[this.head]!));
    for (const line of this.latches[this.head] ?? []) this.before.apply(line);
    this.begin = this.t[this.head]!;
    this.dropped = true;
    this.head = (this.head + 1) % this.most;
    this.size--;
  }

  private numberOf(line: string): number {
    let number = this.numbers.get(line);
    if (number === undefined) this.numbers.set(line, (number = this.lines.push(line) - 1));
    return number;
  }

  /** How many events there had been before the first that is kept. */
  get firstCount(): number {
    return this.count - this.size;
  }

  /** What was on when there had been so many events. */
  beforeCount(count: number): Before {
    const before = new Before(this.controls, this.before);
    for (let n = 0; n < count - this.firstCount; n++) {
      const at = (this.head + n) % this.most;
      before.apply(lineOf(this.lines[this.line[at]!]!, this.value[at]!));
      for (const line of this.latches[at] ?? []) before.apply(line);
    }
    return before;
  }

  /** What switches were at this moment, as far as events before it changed them. */
  *latchesBefore(t: number): Generator<LatchLine> {
    for (let n = 0; n < this.size; n++) {
      const at = (this.head + n) % this.most;
      if (this.t[at]! < t) yield* this.latches[at] ?? [];
    }
  }

  *events(): Generator<Recorded> {
    for (let n = 0; n < this.size; n++) {
      const at = (this.head + n) % this.most;
      const what = this.lines[this.line[at]!]!;
      yield { t: this.t[at]!, seat: this.seat[at]!, what, value: this.value[at]! };
    }
  }
}

/** A line of a trace, without its time. */
export function lineOf(what: string, value: number): object {
  if (value !== value) return JSON.parse(what) as object;
  const [control, pad, after, seat] = what.split(" ");
  const line = { ...controlLine(control!, value, Number(pad)), ...(seat !== "" && { seat }) };
  return after === "" ? line : { ...line, after: true };
}
