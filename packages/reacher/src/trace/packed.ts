/**
 * The raw events of a tick in a few bytes, to send to another machine. In: events, and when the tick began. Out: bytes, and from these the
 * same events. Invalid bytes are refused.
 *
 * One byte for the version, then for each event: what it is and how its value is encoded (a varint of 7 bits per byte), how long after the one before
 * it came (in 1/64 ms, likewise), the pad if it is a pad's, and the value. A key takes 4 bytes.
 */
import { allControls, findControl, isRaw, type Control } from "../controls/catalogue.js";
import { controlsOf, NO_OWN, type Controls } from "../controls/ownControls.js";
import { resolvePlan } from "../plan/resolve.js";
import type { Plan } from "../plan/types.js";
import { mustBeList, mustBeNumber } from "../plan/arguments.js";
import { shown } from "../plan/depth.js";
import { ReacherError } from "../plan/errors.js";
import type { RawEvent } from "../layer/types.js";

/** The window's focus, or a pad, is lost: what it held goes to rest. */
export type PackedLoss =
  | { readonly t: number; readonly lost: "pad"; readonly pad: number }
  /** The focus, or the device of own controls. */
  | { readonly t: number; readonly lost: string };

/** An event of a tick. */
export type PackedEvent = Required<RawEvent> | PackedLoss;

/** The version of the format; to be raised when the order of names changes. */
const VERSION = 1;
/** The unit of moments, in ms: a binary fraction, so that sums are exact. */
const UNIT = 1 / 64;
/** Far longer than any tick, in units. */
const MOST_UNITS = 2 ** 24;
const MOST_PADS = 256;

/** The encodings of a value. */
const enum As {
  Zero,
  One,
  /** In 32767ths, as most pads report, in two bytes. */
  Short,
  /** An integer, as the mouse reports, in groups of 7 bits with the sign last. */
  Whole,
  Single,
  Double,
}
/** The number of encodings. */
const WAYS = 8;

/** What an event is, by its number: losses, then raw controls, then what a pad has beyond the standard layout. */
const FOCUS = 0;
const PAD = 1;
const FIRST = 2;
const EXTRA = 100;
interface Known {
  /** By number, from `FIRST` on: controls, then the devices of own ones. */
  readonly names: readonly string[];
  readonly numbers: ReadonlyMap<string, number>;
  /** From here on they are devices, whose loss it is. */
  readonly devices: number;
}
const known = new Map<Controls, Known>();

/** What events may be about: what every plan has, then what this plan names itself, in its order. */
function knownOf(plan: Plan | undefined): Known {
  const controls = plan === undefined ? NO_OWN : controlsOf(resolvePlan(plan));
  let found = known.get(controls);
  if (found === undefined) {
    const own = controls.names.filter((name) => controls.isRaw(name));
    const names = [...catalogue(), ...own, ...controls.devices.map((device) => `lost ${device}`)];
    found = {
      names,
      numbers: new Map(names.map((name, n) => [name, n + FIRST])),
      devices: names.length - controls.devices.length + FIRST,
    };
    if (known.size >= MOST_KNOWN) known.clear();
    known.set(controls, found);
  }
  return found;
}

/** Of so many plans the names are at hand; games have one. */
const MOST_KNOWN = 8;

let order: readonly string[] | undefined;
/** Made once: a server asks for every message. */
function catalogue(): readonly string[] {
  return (order ??= ordered());
}

function ordered(): readonly string[] {
  const raw = allControls().filter(isRaw);
  // What came later stands after what every machine knows: an older one still reads all the rest.
  const isLater = ({ family }: Control) => family === "pointer";
  return [
    ...raw.filter((control) => !isLater(control)).map(({ name }) => name),
    ...["PadButton", "PadAxis"].flatMap((kind) => Array.from({ length: EXTRA }, (_, n) => kind + n)),
    ...raw.filter(isLater).map(({ name }) => name),
  ];
}

/**
 * Packs the events of a tick from `from` to `to` (ms). Moments are rounded to 1/64 ms and kept within the tick, so that no event waits for the next;
 * values are kept exactly. Both sides should feed what `unpackEvents` returns, so that they have the same moments.
 * @param plan needed where it has controls of its own: the same on both sides
 * @throws ReacherError naming an event that is invalid
 */
export function packEvents(
  events: readonly (RawEvent | PackedLoss)[],
  from: number,
  to: number,
  plan?: Plan,
): Uint8Array {
  mustBeList(events, "events");
  mustBeNumber(from, "moment");
  mustBeNumber(to, "moment");
  const most = Math.ceil((to - from) / UNIT) - 1;
  if (!(most >= 1 && most < MOST_UNITS))
    throw new ReacherError(`packed events: ${from} to ${to} ms is no tick`);
  const { numbers, devices } = knownOf(plan);
  const writer = new Writer();
  writer.byte(VERSION);
  let before = 0;
  events.forEach((event, n) => {
    const fault = (what: string) => new ReacherError(`packed events: event ${n + 1}: ${what}`);
    if (typeof event !== "object" || event === null) throw fault(`${shown(event)} is no event`);
    if (!Number.isFinite(event.t)) throw fault(`${shown(event.t)} is no moment`);
    // At the tick's very beginning it would belong to the tick before.
    const at = Math.min(most, Math.max(1, before, Math.round((event.t - from) / UNIT)));
    const loss = "lost" in event ? event.lost : undefined;
    const name = loss === undefined ? (event as RawEvent).control : `lost ${loss}`;
    const what = loss === "focus" ? FOCUS : loss === "pad" ? PAD : numbers.get(name);
    if (what === undefined || (loss === undefined && what >= devices)) {
      const given = loss ?? (event as RawEvent).control;
      throw fault(
        `${shown(given)} is no ${loss === undefined ? "control that reports by itself" : "device to lose"}; own ones need the plan`,
      );
    }
    const pad = "pad" in event ? (event.pad ?? 0) : 0;
    if (!Number.isInteger(pad) || pad < 0 || pad >= MOST_PADS) throw fault(`${shown(pad)} is no pad`);
    const value = "value" in event ? event.value : 0;
    if (!Number.isFinite(value)) throw fault(`${shown(value)} is no value`);
    const as = "value" in event ? wayOf(value) : As.Zero;
    writer.number(what * WAYS + as);
    writer.number(at - before);
    if (isPads(what)) writer.byte(pad);
    writer.value(as, value);
    before = at;
  });
  return writer.done();
}

/**
 * The events of a tick that began at `from` (ms).
 * @throws ReacherError naming the byte, if they were not packed by `packEvents`, or by another version of it
 */
export function unpackEvents(bytes: Uint8Array, from: number, plan?: Plan): PackedEvent[] {
  if (!(ArrayBuffer.isView(bytes) && bytes.BYTES_PER_ELEMENT === 1))
    throw new ReacherError("packed events: these are no bytes; give a Uint8Array");
  if (!Number.isFinite(from)) throw new ReacherError(`packed events: ${shown(from)} is no moment`);
  const { names, devices } = knownOf(plan);
  const reader = new Reader(bytes);
  const version = reader.byte();
  if (version !== VERSION)
    throw reader.fault(`version ${version} is not known here; this is version ${VERSION} of the format`);
  const events: PackedEvent[] = [];
  let at = 0;
  while (!reader.isDone) {
    const head = reader.number();
    const [what, as] = [Math.floor(head / WAYS), head % WAYS];
    if (as > As.Double) throw reader.fault("a value has an unknown encoding");
    const control = names[what - FIRST];
    if (what >= FIRST && control === undefined) throw reader.fault(`control ${what} is not known`);
    const after = reader.number();
    if (after >= MOST_UNITS) throw reader.fault("a moment lies beyond any tick");
    at += after;
    const t = from + at * UNIT;
    const pad = isPads(what) ? reader.byte() : 0;
    const value = reader.value(as);
    if (what >= devices) events.push({ t, lost: control!.slice("lost ".length) });
    else if (control !== undefined) events.push({ t, control, value, pad });
    else events.push(what === PAD ? { t, lost: "pad", pad } : { t, lost: "focus" });
  }
  return events;
}

function isPads(what: number): boolean {
  return what === PAD || (what >= FIRST && findControl(catalogue()[what - FIRST] ?? "")?.device === "pad");
}

function wayOf(value: number): As {
  if (value === 0) return As.Zero;
  if (value === 1) return As.One;
  if (Math.abs(value) <= 1 && Math.round(value * 32767) / 32767 === value) return As.Short;
  if (Number.isInteger(value) && Math.abs(value) < 2 ** 20) return As.Whole;
  return Math.fround(value) === value ? As.Single : As.Double;
}

/** May change: the bytes written so far. */
class Writer {
  private readonly bytes: number[] = [];
  private readonly view = new DataView(new ArrayBuffer(8));

  byte(value: number): void {
    this.bytes.push(value);
  }

  /** A non-negative integer, 7 bits per byte, lowest first. */
  number(value: number): void {
    let rest = value;
    for (; rest > 127; rest = Math.floor(rest / 128)) this.byte((rest % 128) | 128);
    this.byte(rest);
  }

  value(as: As, value: number): void {
    const { view } = this;
    if (as === As.Whole) this.number(Math.abs(value) * 2 + (value < 0 ? 1 : 0));
    const length = lengthOf(as);
    if (as === As.Short) view.setInt16(0, Math.round(value * 32767));
    if (as === As.Single) view.setFloat32(0, value);
    if (as === As.Double) view.setFloat64(0, value);
    for (let n = 0; n < length; n++) this.byte(view.getUint8(n));
  }

  done(): Uint8Array {
    return Uint8Array.from(this.bytes);
  }
}

/** May change: its position. */
class Reader {
  private at = 0;
  private readonly view: DataView;

  constructor(private readonly bytes: Uint8Array) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  get isDone(): boolean {
    return this.at === this.bytes.length;
  }

  byte(): number {
    if (this.isDone) throw this.fault("they end in the middle of an event");
    return this.bytes[this.at++]!;
  }

  number(): number {
    let value = 0;
    for (let weight = 1; weight < 2 ** 28; weight *= 128) {
      const byte = this.byte();
      value += (byte & 127) * weight;
      if (byte < 128) return value;
    }
    throw this.fault("a number is longer than any");
  }

  value(as: As): number {
    if (as === As.Zero || as === As.One) return as;
    if (as === As.Whole) {
      const written = this.number();
      return ((written & 1) === 1 ? -1 : 1) * (written >>> 1) + 0;
    }
    const { at, view } = this;
    if (at + lengthOf(as) > this.bytes.length) throw this.fault("they end in the middle of a value");
    this.at += lengthOf(as);
    const value =
      as === As.Short
        ? view.getInt16(at) / 32767
        : as === As.Single
          ? view.getFloat32(at)
          : view.getFloat64(at);
    if (!Number.isFinite(value)) throw this.fault("a value is no number");
    return value;
  }

  fault(what: string): ReacherError {
    return new ReacherError(`packed events: byte ${this.at}: ${what}`);
  }
}

/** Bytes of a value of fixed length. */
function lengthOf(as: As): number {
  return as === As.Short ? 2 : as === As.Single ? 4 : as === As.Double ? 8 : 0;
}
