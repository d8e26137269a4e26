/**
 * Records what a layer handles, in bounded memory. In: a layer at work. Out: a trace of its last seconds.
 * May change: its own ring of events, and what it knows of the time before the ring begins.
 */
import type { InputLayer } from "../layer/types.js";
import type { Kinds } from "../plan/types.js";

/** How much a recorder keeps. */
export interface RecordOptions {
  /** Events kept at most; older ones are forgotten first. @default 20000 */
  readonly most?: number;
}

/** What to write. */
export interface TraceTextOptions {
  /** Only the last so many ms. @default all that is kept */
  readonly lastMs?: number;
  /** When the recording ends, in ms on the layer's clock. @default the last event */
  readonly now?: number;
  /** A remark for the trace's first line. */
  readonly note?: string;
}

export interface Recorder {
  /**
   * The trace as JSON Lines, its times from 0. It begins with what was held and which flags were set at that moment, so that
   * movement replays as it was; a toggle begins as the plan says.
   */
  text(options?: TraceTextOptions): string;
  /** Ends the recording; what was recorded stays. */
  stop(): void;
}

/** Starts recording: only controls that the plan binds, at the times at which they counted. */
export function record<K extends Kinds, F extends string>(
  input: InputLayer<K, F>,
  options: RecordOptions = {},
): Recorder {
  const ring = new Ring(options.most ?? 20_000);
  const seated = input.plan.seats !== undefined;
  // A plan without seats says nothing of the one that it has.
  const of = (seat: string) => (seated ? `@${seat}` : "");
  const first = input.seats[0]!;
  const stop = input.watch({
    event: ({ t, control, value, pad }, _, again) => {
      if (!again) ring.add(t, `${control} ${pad}`, value);
    },
    flag: (t, flag, on, seat) => ring.add(t, `flag${of(seat)} ${flag}`, on ? 1 : 0),
    mode: (t, mode, on, seat) => ring.add(t, `mode${of(seat)} ${mode}`, on ? 1 : 0),
    mute: (t, action, reason, on, seat) =>
      ring.add(t, `mute${of(seat)} ${action} ${JSON.stringify(reason ?? null)}`, on ? 1 : 0),
    lost: (t, what, pad, seat) => {
      if (what === "pad" || seat === first) ring.add(t, `lost ${what} ${pad}`, 0);
    },
    open: (t, seats) => ring.add(t, `openSeats ${seats.join(" ")}`, 1),
    pad: (t, pad, seat) => ring.add(t, `seatPad ${seat} ${pad}`, 1),
  });
  return { text: (textOptions = {}) => writeTrace(ring, input.plan.name ?? "", textOptions), stop };
}

/** The last so many events, and what the ones before them amounted to. */
class Ring {
  private readonly t: Float64Array;
  private readonly what: Int32Array;
  private readonly value: Float64Array;
  private readonly names: string[] = [];
  private readonly numbers = new Map<string, number>();
  private head = 0;
  private size = 0;
  private dropped = false;
  private begun = false;
  readonly before = new Held();
  begin = 0;

  constructor(most: number) {
    this.t = new Float64Array(most);
    this.what = new Int32Array(most);
    this.value = new Float64Array(most);
  }

  add(t: number, name: string, value: number): void {
    const most = this.t.length;
    // What comes first is not always told first: seats are carried on one after the other.
    // What the game told before the first step has no time; it was so from the beginning.
    if (!this.dropped && t > -Infinity && (!this.begun || t < this.begin)) {
      this.begin = t;
      this.begun = true;
    }
    if (this.size === most) {
      this.before.apply(this.names[this.what[this.head]!]!, this.value[this.head]!);
      this.begin = this.t[this.head]!;
      this.dropped = true;
      this.head = (this.head + 1) % most;
      this.size--;
    }
    let number = this.numbers.get(name);
    if (number === undefined) {
      number = this.names.push(name) - 1;
      this.numbers.set(name, number);
    }
    const at = (this.head + this.size++) % most;
    this.t[at] = t;
    this.what[at] = number;
    this.value[at] = value;
  }

  *events(): Generator<{ t: number; name: string; value: number }> {
    for (let n = 0; n < this.size; n++) {
      const at = (this.head + n) % this.t.length;
      yield { t: this.t[at]!, name: this.names[this.what[at]!]!, value: this.value[at]! };
    }
  }
}

/** What is held and which flags are set. */
class Held {
  readonly values = new Map<string, number>();

  constructor(from: Iterable<readonly [string, number]> = []) {
    this.values = new Map(from);
  }

  apply(name: string, value: number): void {
    const [kind, what, pad] = name.split(" ");
    if (kind !== "lost") {
      this.values.set(name, value);
      return;
    }
    for (const held of this.values.keys()) {
      if (isTold(held)) continue;
      if (what === "focus" || (held.startsWith("Pad") && held.endsWith(" " + pad))) this.values.delete(held);
    }
  }
}

function writeTrace(ring: Ring, plan: string, { lastMs = Infinity, now, note }: TraceTextOptions): string {
  // Seats are carried on one after the other.
  const events = [...ring.events()].sort((one, other) => one.t - other.t);
  const end = Math.max(now ?? 0, events.at(-1)?.t ?? ring.begin);
  const begin = Math.max(ring.begin, end - lastMs);
  const held = new Held(ring.before.values);
  const kept = events.filter((event) => {
    if (event.t >= begin) return true;
    held.apply(event.name, event.value);
    return false;
  });
  const lines: object[] = [
    { reacherTrace: 1, ...(plan === "" ? {} : { plan }), ...(note === undefined ? {} : { note }) },
  ];
  for (const [name, value] of held.values)
    if (isTold(name) || value !== 0) lines.push(lineOf(0, name, value));
  for (const { t, name, value } of kept) lines.push(lineOf(milliseconds(t - begin), name, value));
  lines.push({ t: milliseconds(end - begin), end: true });
  return lines.map((line) => JSON.stringify(line) + "\n").join("");
}

/** What the game told stays so when devices are lost. */
function isTold(name: string): boolean {
  return /^(flag|mode|mute|seatPad|openSeats)[@ ]/.test(name);
}

function lineOf(t: number, name: string, value: number): object {
  const [what, second, third, ...more] = name.split(" ");
  const [first, of] = what!.split("@");
  const seat = of === undefined ? {} : { seat: of };
  if (first === "mode") return { t, [value === 1 ? "enter" : "leave"]: second, ...seat };
  if (first === "mute") {
    const reason = JSON.parse([third, ...more].join(" ")) as string | null;
    return value === 1
      ? { t, mute: second, reason, ...seat }
      : { t, unmute: second, ...(reason === null ? {} : { reason }), ...seat };
  }
  if (first === "flag") return { t, flag: second, value: value === 1, ...seat };
  if (first === "openSeats") return { t, openSeats: [second, third, ...more].filter(Boolean) };
  if (first === "seatPad") return { t, seatPad: second, pad: Number(third) };
  if (first === "lost")
    return second === "focus" ? { t, lost: second } : { t, lost: second, pad: Number(third) };
  return first!.startsWith("Pad")
    ? { t, control: first, value, pad: Number(second) }
    : { t, control: first, value };
}

/** To the microsecond: browsers' clocks are no finer. */
function milliseconds(t: number): number {
  return Math.round(t * 1000) / 1000;
}
