/**
 * The lines of a trace: what the devices did and what the game told, one JSON object a line.
 * In: text. Out: entries with every field checked, or an error that names the line.
 */
import { ReacherError } from "../plan/findings.js";
import { ControlLine } from "./controlLine.js";
import type { TraceEntry, TraceHead } from "./entry.js";

/** Thrown where a trace cannot be read; the message names the line. */
export class TraceError extends ReacherError {
  override name = "TraceError";
  /** The line, from 1. */
  readonly line: number;

  constructor(line: number, fault: string) {
    super(`line ${line}: ${fault}`);
    this.line = line;
  }
}

/** Reads a trace line by line, so that a long one need not be held whole. May change: the line's number and the last time. */
export class TraceReader {
  head: TraceHead | undefined;
  line = 0;
  private last = 0;
  private readonly control = new ControlLine();

  /** The entry of the next line, `undefined` for the head and for empty lines. @throws TraceError */
  read(text: string): TraceEntry | undefined {
    return this.readWithin(text, 0, text.length);
  }

  /** The same of a line that stands in a longer text. @throws TraceError */
  readWithin(whole: string, begin: number, end: number): TraceEntry | undefined {
    this.line++;
    if (this.head !== undefined) {
      const entry = this.control.read(whole, begin, end);
      // What is wrong with a time is told below.
      if (entry !== undefined && entry.t >= this.last && entry.t < Infinity) {
        this.last = entry.t;
        return entry;
      }
    }
    const text = whole.slice(begin, end);
    if (text.trim() === "") return undefined;
    const object = this.object(text);
    if (this.head === undefined) {
      this.head = this.readHead(object);
      return undefined;
    }
    const t = object["t"];
    if (typeof t !== "number" || !Number.isFinite(t) || t < 0)
      this.fail(`t is ${shown(t)}; it is a time in ms, at least 0`);
    if (t < this.last) this.fail(`t ${t} comes after ${this.last}; a trace is in order of t`);
    this.last = t;
    return this.entry(t, object);
  }

  /** To be called after the last line. @throws TraceError where there was no trace */
  finish(): TraceHead {
    return this.head ?? this.fail('the trace is empty; it begins with { "reacherTrace": 1 }');
  }

  private object(text: string): Record<string, unknown> {
    let value: unknown;
    try {
      value = JSON.parse(text);
    } catch {
      if (this.head === undefined) this.fail("not JSON; a trace has one whole object on each line");
      this.fail(`not JSON${text.trimEnd().endsWith("}") ? "" : "; is it cut short?"}`);
    }
    if (typeof value !== "object" || value === null || Array.isArray(value)) {
      this.fail(`${shown(value)} is no object; a line is like { "t": 120.5, "control": "KeyW", "value": 1 }`);
    }
    return value as Record<string, unknown>;
  }

  private readHead(object: Record<string, unknown>): TraceHead {
    if (object["reacherTrace"] === 1) return object as unknown as TraceHead;
    if ("reacherPlan" in object) this.fail("this is a plan; a trace is expected here");
    if ("reacherTrace" in object)
      this.fail(`reacherTrace ${shown(object["reacherTrace"])} is not known; this version reads 1`);
    this.fail('a trace begins with { "reacherTrace": 1 }');
  }

  private entry(t: number, o: Record<string, unknown>): TraceEntry {
    if ("control" in o) {
      return { t, control: this.text(o, "control"), value: this.number(o, "value"), pad: this.pad(o) };
    }
    const seat = o["seat"] === undefined ? {} : { seat: this.text(o, "seat") };
    if ("flag" in o) {
      const value = o["value"];
      if (typeof value !== "boolean") this.fail(`value is ${shown(value)}; a flag is true or false`);
      return { t, flag: this.text(o, "flag"), value, ...seat };
    }
    if ("enter" in o) return { t, enter: this.text(o, "enter"), ...seat };
    if ("leave" in o) return { t, leave: this.text(o, "leave"), ...seat };
    if ("mute" in o) return { t, mute: this.text(o, "mute"), reason: this.text(o, "reason"), ...seat };
    if ("unmute" in o) {
      const reason = o["reason"] === undefined ? {} : { reason: this.text(o, "reason") };
      return { t, unmute: this.text(o, "unmute"), ...reason, ...seat };
    }
    if ("lost" in o) {
      const lost = o["lost"];
      if (lost === "focus") return { t, lost };
      if (lost === "pad") return { t, lost, pad: this.pad(o) };
      this.fail(`lost is ${shown(lost)}; it is "focus" or "pad"`);
    }
    if ("seatPad" in o) return { t, seatPad: this.text(o, "seatPad"), pad: this.pad(o) };
    if ("openSeats" in o) {
      const seats = o["openSeats"];
      if (!Array.isArray(seats) || seats.length === 0 || seats.some((seat) => typeof seat !== "string"))
        this.fail(`openSeats is ${shown(seats)}; it is a list of seats, one at least`);
      return { t, openSeats: seats as string[] };
    }
    if (o["end"] === true) return { t, end: true };
    this.fail("says neither control, flag, enter, leave, mute, unmute, lost, seatPad, openSeats nor end");
  }

  private text(o: Record<string, unknown>, key: string): string {
    const value = o[key];
    return typeof value === "string" ? value : this.fail(`${key} is ${shown(value)}; it is a text`);
  }

  private number(o: Record<string, unknown>, key: string): number {
    const value = o[key];
    return typeof value === "number" && Number.isFinite(value)
      ? value
      : this.fail(`${key} is ${shown(value)}; it is a number`);
  }

  private pad(o: Record<string, unknown>): number {
    return o["pad"] === undefined ? 0 : this.number(o, "pad");
  }

  private fail(fault: string): never {
    throw new TraceError(Math.max(this.line, 1), fault);
  }
}

/** Reads a whole trace. @throws TraceError naming the line */
export function parseTrace(text: string): { head: TraceHead; entries: TraceEntry[] } {
  const reader = new TraceReader();
  const entries: TraceEntry[] = [];
  for (let begin = 0; begin <= text.length;) {
    const next = text.indexOf("\n", begin);
    const end = next < 0 ? text.length : next;
    const entry = reader.readWithin(text, begin, end);
    if (entry !== undefined) entries.push(entry);
    begin = end + 1;
  }
  return { head: reader.finish(), entries };
}

function shown(value: unknown): string {
  const text = JSON.stringify(value) ?? "missing";
  return text.length > 40 ? text.slice(0, 37) + "..." : text;
}
