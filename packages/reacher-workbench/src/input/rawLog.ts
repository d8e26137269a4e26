/**
 * A log of all input, independent of any plan, in bounded memory. In: entries in order of time. Out: the
 * entries of any range of time, preceded by the state at its beginning. May change: its list.
 */
import type { TraceEntry } from "reacher/trace";

/** The maximum length: ten minutes of two sticks that never rest. */
const MOST = 150_000;
const MOST_MS = 600_000;

export class RawLog {
  private entries: TraceEntry[] = [];
  /** The state before the first entry that is kept, by subject. */
  private before = new Map<string, TraceEntry>();

  /** How many entries were ever added, to detect new ones. */
  count = 0;

  add(entry: TraceEntry): void {
    const { entries } = this;
    this.count++;
    // Wheel and late events may arrive after events with later stamps.
    const last = entries.at(-1);
    entries.push(
      last !== undefined && entry.t < last.t ? ({ ...entry, t: last.t, after: true } as TraceEntry) : entry,
    );
    if (entries.length > MOST || entry.t - entries[0]!.t > MOST_MS + 60_000) this.forget(entry.t - MOST_MS);
  }

  private forget(until: number): void {
    let n = Math.max(0, this.entries.length - MOST);
    while (n < this.entries.length && this.entries[n]!.t < until) n++;
    for (const entry of this.entries.splice(0, n)) keep(this.before, entry);
  }

  /** The first moment that is kept, in ms on the page's clock. */
  get from(): number {
    return this.entries[0]?.t ?? 0;
  }

  /** The entries of a range of time, with times from 0; first those that restore the state before it. */
  stretch(from: number, to: number): TraceEntry[] {
    const before = new Map(this.before);
    const during: TraceEntry[] = [];
    for (const entry of this.entries) {
      if (entry.t < from) keep(before, entry);
      else if (entry.t <= to) during.push({ ...entry, t: entry.t - from });
    }
    const first = [...before.values()].map((entry) => ({ ...without(entry), t: 0 }) as TraceEntry);
    return [...first, ...during, { t: to - from, end: true }];
  }
}

/** The state that an entry leads to. */
function keep(before: Map<string, TraceEntry>, entry: TraceEntry): void {
  if ("lost" in entry) {
    for (const [key, one] of before)
      if ("control" in one && (entry.lost === "focus" || one.pad === entry.pad)) before.delete(key);
    return;
  }
  const key = keyOf(entry);
  if (key === undefined) return;
  // The newest comes last, since modes are ordered by when they were entered.
  before.delete(key);
  if (!("control" in entry && entry.value === 0)) before.set(key, entry);
}

function keyOf(entry: TraceEntry): string | undefined {
  const seat = "seat" in entry ? (entry.seat ?? "") : "";
  if ("control" in entry)
    return /^(MouseMove|Wheel)/.test(entry.control) ? undefined : `${entry.control} ${entry.pad}`;
  if ("flag" in entry) return `flag ${entry.flag} ${seat}`;
  if ("number" in entry) return `number ${entry.number} ${seat}`;
  if ("enter" in entry) return `mode ${entry.enter} ${seat}`;
  if ("leave" in entry) return `mode ${entry.leave} ${seat}`;
  if ("mute" in entry) return `mute ${entry.mute} ${entry.reason} ${seat}`;
  if ("unmute" in entry) return `mute ${entry.unmute} ${entry.reason} ${seat}`;
  if ("seatPad" in entry) return `pad ${entry.seatPad}`;
  if ("openSeats" in entry) return "seats";
  return undefined;
}

function without<T extends object>(entry: T): T {
  const { after: _, ...rest } = entry as T & { after?: true };
  return rest as T;
}
