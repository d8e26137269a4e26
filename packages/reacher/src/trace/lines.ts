/**
 * The lines of a trace: events of devices and commands of the game, one JSON object per line.
 * In: text. Out: entries with every field checked, or an error that names the line.
 */
import { ReacherError } from "../plan/errors.js";
import { mustBeNumber, mustBeText } from "../plan/arguments.js";
import { shownShort } from "../plan/depth.js";
import { FURTHEST_SPOT, MOST_NUMBER } from "../plan/language/saneRanges.js";
import { parseOverrides, type Overrides } from "../plan/players/overrides.js";
import { faultOfHow, type DriveWay } from "../layer/driving.js";
import { didYouMean } from "../controls/nearest.js";
import { fromBase64 } from "./base64.js";
import { ControlLine } from "./controlLine.js";
import { isMoment, type TraceEntry, type TraceHead } from "./entry.js";

/** A line without its moment. */
type Said = WithoutMoment<Exclude<TraceEntry, { end: true } | { state: object }>>;
type WithoutMoment<T> = T extends unknown ? Omit<T, "t" | "after"> : never;

type FieldOf<T> = T extends unknown ? Exclude<keyof T, "t" | "after"> : never;
type Field = FieldOf<TraceEntry>;

/** What each kind of line says besides, by the field that makes it one. */
const FIELDS = {
  control: ["value", "pad", "seat"],
  flag: ["value", "linger", "seat"],
  number: ["value", "seat"],
  spot: ["value", "seat"],
  setSwitch: ["value", "seat"],
  drive: ["value", "reason", "how", "blendMs", "seat"],
  enter: ["seat"],
  leave: ["seat"],
  mute: ["reason", "seat"],
  unmute: ["reason", "seat"],
  reset: ["seat"],
  overrides: ["seat"],
  lost: ["pad", "seat"],
  seatPad: ["pad"],
  openSeats: [],
  state: [],
  end: [],
} as const satisfies { readonly [field in Field]?: readonly Field[] };
type Listed = keyof typeof FIELDS;
/** A field of a line that stands nowhere above does not compile. */
type Kind = Listed | None<Exclude<Field, Listed | (typeof FIELDS)[Listed][number]>>;
type None<T extends never> = T;
const KINDS = Object.keys(FIELDS) as Kind[];

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

/** Reads a trace line by line, so that a long one need not be in memory at once. May change: the line number and the last time. */
export class TraceReader {
  head: TraceHead | undefined;
  line = 0;
  private last = 0;
  private readonly control = new ControlLine();

  /** The entry of the next line, `undefined` for the head and for empty lines. @throws TraceError */
  read(text: string): TraceEntry | undefined {
    mustBeText(text, "line of a trace");
    return this.readWithin(text, 0, text.length);
  }

  /** The same for a line within a longer text. @throws TraceError */
  readWithin(whole: string, begin: number, end: number): TraceEntry | undefined {
    mustBeText(whole, "line of a trace");
    mustBeNumber(begin, "place in it");
    mustBeNumber(end, "place in it");
    this.line++;
    if (this.head !== undefined) {
      const entry = this.control.read(whole, begin, end);
      // A wrong time is reported below.
      if (entry !== undefined && entry.t >= this.last && isMoment(entry.t)) {
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
    if (!isMoment(t)) this.fail(`t is ${shown(t)}; it is a time in ms, at least 0`);
    if (t < this.last) this.fail(`t ${t} comes after ${this.last}; a trace is in order of t`);
    this.last = t;
    return this.entry(t, object);
  }

  /** To be called after the last line. @throws TraceError if there was no trace */
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
    this.checkFields(o);
    if (o["end"] === true) return { t, end: true };
    if (o["state"] !== undefined) return { t, state: this.state(o["state"]) };
    if (o["after"] === undefined) return { t, ...this.said(o) };
    if (o["after"] !== true) this.fail(`after is ${shown(o["after"])}; it is true, or left out`);
    return { t, ...this.said(o), after: true };
  }

  /** A field that no such line has says nothing, and was meant to. */
  private checkFields(o: Record<string, unknown>): void {
    const kind = KINDS.find((key) => Object.hasOwn(o, key));
    if (kind === undefined) return;
    const known: string[] = ["t", "after", kind, ...FIELDS[kind]];
    const field = Object.keys(o).find((key) => !known.includes(key));
    if (field === undefined) return;
    const fix =
      kind === "drive" && field === "alone" ? '; did you mean "how": "alone"?' : didYouMean(field, known);
    this.fail(`${shown(field)} is no field beside ${kind}${fix}`);
  }

  /** The content of a line, without its moment. */
  private said(o: Record<string, unknown>): Said {
    if ("control" in o)
      return {
        control: this.text(o, "control"),
        value: this.number(o, "value"),
        pad: this.pad(o),
        ...this.seat(o),
      };
    if ("lost" in o) {
      const lost = o["lost"];
      if (typeof lost !== "string")
        this.fail(`lost is ${shown(lost)}; it is "focus", "pad" or the device of own controls`);
      if (lost === "pad") return { lost, pad: this.pad(o) };
      if (o["pad"] !== undefined) this.fail(`lost is ${shown(lost)}, which has no pad`);
      return { lost, ...this.seat(o) };
    }
    if ("seatPad" in o)
      return { seatPad: this.text(o, "seatPad"), pad: o["pad"] === null ? null : this.pad(o) };
    if ("openSeats" in o) {
      const openSeats = o["openSeats"];
      if (
        !Array.isArray(openSeats) ||
        openSeats.length === 0 ||
        openSeats.some((one) => typeof one !== "string")
      )
        this.fail(`openSeats is ${shown(openSeats)}; it is a list of seats, one at least`);
      return { openSeats: openSeats as string[] };
    }
    return { ...this.told(o), ...this.seat(o) };
  }

  private seat(o: Record<string, unknown>): { seat?: string } {
    return o["seat"] === undefined ? {} : { seat: this.text(o, "seat") };
  }

  /** A command of the game. */
  private told(o: Record<string, unknown>): Said {
    if ("flag" in o) {
      const value = o["value"];
      if (typeof value !== "boolean") this.fail(`value is ${shown(value)}; a flag is true or false`);
      const { linger } = o;
      if (linger !== undefined && linger !== false)
        this.fail(`linger is ${shown(linger)}; it is false, or missing`);
      return { flag: this.text(o, "flag"), value, ...(linger === false && { linger }) };
    }
    if ("setSwitch" in o) {
      const value = o["value"];
      if (typeof value !== "boolean") this.fail(`value is ${shown(value)}; a switch is set to true or false`);
      return { setSwitch: this.text(o, "setSwitch"), value };
    }
    if ("number" in o) {
      const value = o["value"];
      if (typeof value !== "number" || !(Math.abs(value) <= MOST_NUMBER))
        this.fail(`value is ${shown(value)}; a number has a number, up to 1e9`);
      return { number: this.text(o, "number"), value };
    }
    if ("spot" in o) {
      const value = o["value"] as [number, number];
      if (!isPair(value) || value.some((one) => Math.abs(one) > FURTHEST_SPOT))
        this.fail(`value is ${shown(value)}; a spot has [x, y], up to ${FURTHEST_SPOT}`);
      return { spot: this.text(o, "spot"), value };
    }
    if ("drive" in o) return this.drive(o);
    if ("enter" in o) return { enter: this.text(o, "enter") };
    if ("leave" in o) return { leave: this.text(o, "leave") };
    if ("mute" in o) return { mute: this.text(o, "mute"), reason: this.text(o, "reason") };
    if ("unmute" in o) {
      const reason = o["reason"] === undefined ? {} : { reason: this.text(o, "reason") };
      return { unmute: this.text(o, "unmute"), ...reason };
    }
    if (o["reset"] === true) return { reset: true };
    if ("overrides" in o) return { overrides: this.overrides(o["overrides"]) };
    this.fail(`says neither ${KINDS.slice(0, -1).join(", ")} nor ${KINDS.at(-1)}`);
  }

  private drive(o: Record<string, unknown>): Said {
    const { value, how, blendMs } = o;
    if (value !== true && value !== null && !Number.isFinite(value) && !isPair(value))
      this.fail(`value is ${shown(value)}; a drive is true, a number, [x, y], or null where it lets go`);
    const fault = faultOfHow(how, blendMs);
    if (fault !== undefined) this.fail(fault);
    const driven = { drive: this.text(o, "drive"), reason: this.text(o, "reason") };
    if (value === true && (how !== undefined || blendMs !== undefined))
      this.fail(`${driven.drive} is driven as a switch, which has no how and no blendMs`);
    return {
      ...driven,
      value: value as true | number | [number, number] | null,
      ...(how !== undefined && { how: how as DriveWay }),
      ...(blendMs !== undefined && { blendMs: blendMs as number }),
    };
  }

  private state(given: unknown): Readonly<Record<string, string>> {
    const isText = (one: unknown) => typeof one === "string" && fromBase64(one) !== undefined;
    if (typeof given !== "object" || given === null || !Object.values(given).every(isText))
      this.fail(`state is ${shown(given)}; it has each seat's snapshot, as base64`);
    return given as Readonly<Record<string, string>>;
  }

  private overrides(raw: unknown): Overrides | null {
    if (raw === null) return null;
    try {
      return parseOverrides(raw);
    } catch (error) {
      if (error instanceof ReacherError) this.fail(`overrides: ${error.message}`);
      throw error;
    }
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
    if (o["pad"] === undefined) return 0;
    const pad = this.number(o, "pad");
    return Number.isInteger(pad) && pad >= 0 ? pad : this.fail(`pad is ${pad}; it is the index of a pad`);
  }

  private fail(fault: string): never {
    throw new TraceError(Math.max(this.line, 1), fault);
  }
}

/** Reads a whole trace. @throws TraceError naming the line */
export function parseTrace(text: string): { head: TraceHead; entries: TraceEntry[] } {
  mustBeText(text, "trace; it is a text of lines");
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
  return shownShort(value, 40) ?? "missing";
}

function isPair(value: unknown): boolean {
  return Array.isArray(value) && value.length === 2 && value.every(Number.isFinite);
}
