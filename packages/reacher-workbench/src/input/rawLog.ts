/**
 * What the devices and the player's clicks told the layer, apart from any plan, in bounded memory. In: entries in order of time. Out: the
 * entries of any stretch of it, with what was so when it began. May change: its list.
 */
import type { TraceEntry } from "reacher/trace";

/** Kept at most: ten minutes of two sticks that never rest. */
const MOST = 150_000;
const MOST_MS = 600_000;

export class RawLog {
  private entries: TraceEntry[] = [];
  /** What was so before the first entry that is kept, by what it is about. */
  private before = new Map<string, TraceEntry>();

  /** How many were ever added: another number means that there is something new. */
  count = 0;

  add(entry: TraceEntry): void {
    const { entries } = this;
    this.count++;
    // The wheel and a late event may come a little after what is stamped later.
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

  /** What happened from one moment to another, with times from 0; first what was held and told before. */
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

/** What an entry leaves behind it. */
function keep(before: Map<string, TraceEntry>, entry: TraceEntry): void {
  if ("lost" in entry) {
    for (const [key, one] of before)
      if ("control" in one && (entry.lost === "focus" || one.pad === entry.pad)) before.delete(key);
    return;
  }
  const key = keyOf(entry);
  if (key === undefined) return;
  // The newest comes last: the order of modes is the order in which they were entered.
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
