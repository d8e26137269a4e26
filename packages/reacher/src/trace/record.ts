/**
 * Records what a layer handles, in bounded memory. In: a running layer. Out: a trace of its last seconds.
 * May change: its ring buffer of events, and the state from before the ring begins.
 */
import { resolvePlan } from "../plan/resolve.js";
import { controlsOf, type Controls } from "../controls/ownControls.js";
import { mustBeLayer, mustBeNumber, mustBeOptions, mustBeText } from "../plan/arguments.js";
import type { InputLayer } from "../layer/types.js";
import type { Kinds } from "../plan/types.js";
import type { Command } from "../layer/command.js";
import { engineBehind, overridesBehind } from "../layer/seatHandle.js";
import { Clock } from "../engine/clock.js";
import { shown } from "../plan/depth.js";
import { ReacherError } from "../plan/findings.js";
import { toBase64 } from "./base64.js";
import { Before } from "./before.js";
import { Checkpoints, type Checkpoint } from "./checkpoints.js";
import type { Report } from "./report.js";
import { inOneOrder, type Recorded } from "./order.js";
import { controlLine, Latches, presentLines, type LatchLine } from "./present.js";

/** How much a recorder keeps. */
export interface RecordOptions {
  /** The maximum number of events; the oldest are dropped first. @default 20000 */
  readonly most?: number;
}

/** What to write. */
export interface TraceTextOptions {
  /** Only the last so many ms. @default everything kept */
  readonly lastMs?: number;
  /** When the recording ends, in ms on the layer's clock. @default the layer's last step */
  readonly now?: number;
  /** A remark for the trace's first line. */
  readonly note?: string;
}

/** A recording under way, in bounded memory. */
export interface Recorder {
  /**
   * The trace as JSON Lines, its times from 0. It begins with what was held, set and switched on at that moment, so that it replays as
   * it was.
   */
  text(options?: TraceTextOptions): string;
  /**
   * The same in one file with the plan and each seat's changes: `JSON.stringify` it. It begins with the whole state of the layer, so that windows,
   * cooldowns and long presses go on as they were; `lastMs`: at the latest so many ms before the end. `about`: what the player says of it.
   */
  report(about?: string, options?: Pick<TraceTextOptions, "lastMs">): Report;
  /** Ends the recording; what was recorded stays. */
  stop(): void;
}

/** Starts recording: only controls that the plan binds, at the times at which they counted. */
export function record<K extends Kinds, F extends string>(
  input: InputLayer<K, F>,
  options: RecordOptions = {},
): Recorder {
  mustBeLayer(input);
  mustBeOptions(options);
  const { most = 20_000 } = options;
  if (!(Number.isInteger(most) && most >= 1))
    throw new ReacherError(`${shown(most)} is no count of events; give at least 1`);
  const controls = () => controlsOf(resolvePlan(input.plan));
  const ring = new Ring(most, controls);
  // A plan without seats does not name its only seat.
  const isSeated = input.plan.seats !== undefined;
  const of = (seat: string) => (isSeated ? { seat } : {});
  const add = (seat: string, t: number, line: object, after: boolean) =>
    ring.add(input.seats.indexOf(seat), t, JSON.stringify(after ? { ...line, after } : line), NaN);
  const latches = new Map(
    input.seats.map((name) => [name, new Latches(engineBehind(input.seat(name)), of(name))]),
  );
  const noteLatches = (_: number, seat: string) => ring.addLatches(latches.get(seat)!.news());
  const checkpoints = new Checkpoints(input as unknown as InputLayer);
  const clock = () => engineBehind(input.seat(input.seats[0]!)).clock[Clock.Now]!;
  /** From here on the recording begins with what is on now. */
  const beginHere = () => {
    if (clock() === -Infinity) return;
    const lines: object[] = presentLines(input as unknown as InputLayer, of);
    for (const own of latches.values()) lines.push(...own.all());
    ring.beginWith(clock(), lines);
    checkpoints.clear();
    checkpoints.take(clock(), ring.count);
  };
  beginHere();
  /** When each seat was last given a pad. */
  const given = new Map<string, number>();
  const notePad = (
    command: Extract<Command, { seatPad: string }>,
    t: number,
    seat: string,
    after: boolean,
  ) => {
    if (command.pad !== null) {
      given.set(seat, t);
      add("", t, command, after);
      // If it has been given another one meanwhile, that line takes this one away.
    } else if (!((given.get(seat) ?? Infinity) <= t && input.seat(seat).pad !== null))
      add(seat, t, command, after);
  };
  const stop = input.watch({
    event: ({ t, control, value, pad }, seat, _, after) => {
      // A seat may be fed alone.
      const of = isSeated && controls().ownOf(control) !== undefined ? seat : "";
      ring.add(input.seats.indexOf(seat), t, `${control} ${pad} ${after ? "after" : ""} ${of}`, value);
    },
    command: (command, { t, seat, after }) => {
      if ("plan" in command) beginHere();
      else if ("seatPad" in command) notePad(command, t, seat, after);
      else if ("openSeats" in command) add("", t, command, after);
      else if ("lost" in command)
        add(seat, t, command.lost === "pad" ? command : { ...command, ...of(seat) }, after);
      else if (!("take" in command)) add(seat, t, { ...command, ...of(seat) }, after);
    },
    settled: noteLatches,
    stepped: (t) => checkpoints.stepped(t, ring.count),
  });
  let stoppedAt: number | undefined;
  return {
    text: (textOptions = {}) => {
      mustBeOptions(textOptions);
      const { now, lastMs } = textOptions;
      if (now !== undefined) mustBeNumber(now, "time");
      if (lastMs !== undefined && lastMs !== Infinity) mustBeNumber(lastMs, "time");
      return writeTrace(ring, input.plan.name ?? "", {
        now: stoppedAt ?? clock(),
        ...definedOf(textOptions),
      });
    },
    report: (about, reportOptions = {}) => {
      if (about !== undefined) mustBeText(about, "about");
      mustBeOptions(reportOptions);
      const { lastMs = Infinity } = reportOptions;
      if (lastMs !== Infinity) mustBeNumber(lastMs, "time");
      const end = stoppedAt ?? clock();
      const from = checkpoints.from(end - lastMs, ring.firstCount);
      const { seats, plan } = input;
      const changed = seats.flatMap((name, n) => {
        const own = from === undefined ? overridesBehind(input.seat(name)) : from.overrides[n]!;
        return own === null ? [] : [[name, own]];
      });
      const report = {
        reacherReport: 1,
        ...(about !== undefined && { about }),
        plan,
        overrides: Object.fromEntries(changed),
        trace: reportLines(ring, from, seats, end),
      };
      // A copy: what is changed in the game later is not in it.
      return JSON.parse(JSON.stringify(report)) as Report;
    },
    stop: () => {
      stoppedAt ??= clock();
      stop();
    },
  };
}

/** Options that were left out, or given as undefined, stand at their defaults. */
function definedOf(options: TraceTextOptions): TraceTextOptions {
  return Object.fromEntries(Object.entries(options).filter(([, value]) => value !== undefined));
}

/** The last events, and the state that the ones before them led to. */
class Ring {
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
    most: number,
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
    const most = this.t.length;
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
    const at = (this.head + this.size - 1) % this.t.length;
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

  /** Drops the oldest. */
  private drop(): void {
    this.before.apply(lineOf(this.lines[this.line[this.head]!]!, this.value[this.head]!));
    for (const line of this.latches[this.head] ?? []) this.before.apply(line);
    this.begin = this.t[this.head]!;
    this.dropped = true;
    this.head = (this.head + 1) % this.t.length;
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
      const at = (this.head + n) % this.t.length;
      before.apply(lineOf(this.lines[this.line[at]!]!, this.value[at]!));
      for (const line of this.latches[at] ?? []) before.apply(line);
    }
    return before;
  }

  /** What switches were at this moment, as far as events before it changed them. */
  *latchesBefore(t: number): Generator<LatchLine> {
    for (let n = 0; n < this.size; n++) {
      const at = (this.head + n) % this.t.length;
      if (this.t[at]! < t) yield* this.latches[at] ?? [];
    }
  }

  *events(): Generator<Recorded> {
    for (let n = 0; n < this.size; n++) {
      const at = (this.head + n) % this.t.length;
      const what = this.lines[this.line[at]!]!;
      yield { t: this.t[at]!, seat: this.seat[at]!, what, value: this.value[at]! };
    }
  }
}

/** A line of a trace, without its time. */
function lineOf(what: string, value: number): object {
  if (value !== value) return JSON.parse(what) as object;
  const [control, pad, after, seat] = what.split(" ");
  const line = { ...controlLine(control!, value, Number(pad)), ...(seat !== "" && { seat }) };
  return after === "" ? line : { ...line, after: true };
}

/** The lines of a report: the state that it begins with, what was on then, and what came after it. */
function reportLines(
  ring: Ring,
  from: Checkpoint | undefined,
  seats: readonly string[],
  end: number,
): object[] {
  const count = from?.count ?? ring.firstCount;
  const t = from?.t ?? ring.begin;
  const state =
    from === undefined
      ? []
      : [{ t, state: Object.fromEntries(seats.map((name, n) => [name, toBase64(from.states[n]!)])) }];
  const events = inOneOrder([...ring.events()].slice(count - ring.firstCount));
  const last = Math.max(end, events.at(-1)?.t ?? t, t);
  return [
    ...state,
    ...(from?.pads ?? []).map((pad) => ({ t, seatPad: seats[0], pad })),
    ...ring
      .beforeCount(count)
      .lines()
      .map((line) => ({ t, ...line })),
    ...events.map((event) => ({ t: Math.max(t, event.t), ...lineOf(event.what, event.value) })),
    { t: last, end: true },
  ];
}

function writeTrace(ring: Ring, plan: string, { lastMs = Infinity, now, note }: TraceTextOptions): string {
  const events = inOneOrder([...ring.events()]);
  const end = Math.max(now ?? -Infinity, events.at(-1)?.t ?? ring.begin, ring.begin);
  const begin = Math.max(ring.begin, end - lastMs);
  const before = new Before(ring.controls, ring.before);
  const kept = events.filter((event) => {
    if (event.t >= begin || event.t === -Infinity) return true;
    before.apply(lineOf(event.what, event.value));
    return false;
  });
  for (const line of ring.latchesBefore(begin)) before.apply(line);
  const lines: object[] = [
    { reacherTrace: 1, ...(plan === "" ? {} : { plan }), ...(note === undefined ? {} : { note }) },
    ...before.lines().map((line) => ({ t: 0, ...line })),
    ...kept.map(({ t, what, value }) => ({
      t: milliseconds(Math.max(0, t - begin)),
      ...lineOf(what, value),
    })),
    { t: milliseconds(end - begin), end: true },
  ];
  return lines.map((line) => JSON.stringify(line) + "\n").join("");
}

/** To the microsecond: browsers' clocks are no finer. */
function milliseconds(t: number): number {
  return Math.round(t * 1000) / 1000;
}
