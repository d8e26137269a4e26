/**
 * What is on in a layer now, as lines of a trace that lead to it from the start. In: a running layer. Out: lines without their moment;
 * and for each toggle and latch whether it is on, since that changes without a line of its own.
 */
import { controlsOf } from "../controls/ownControls.js";
import { reasonNames } from "../engine/reasons.js";
import { drivesAt, recordableOf, type Latching, type Recordable } from "../engine/recordable.js";
import type { SeatEngine } from "../engine/seat.js";
import type { Tables } from "../engine/tables.js";
import { notMade } from "../layer/calls/seatPart.js";
import { unusualWay } from "../layer/driving.js";
import { engineBehind, heldBehind, overridesBehind } from "../layer/seatHandle.js";
import type { InputLayer, Seat } from "../layer/types.js";
import { isOnPad } from "../layer/unbound.js";
import { POINTER } from "../plan/pointer.js";
import { resolvePlan } from "../plan/resolve.js";

/** Whether a toggle or a latch is on; or, of a hold, whether its keys count that are held. It is no line of a trace. */
export interface LatchLine {
  readonly latch: string;
  readonly value: boolean;
  /** What it is at the start, before anything is pressed. */
  readonly startsOn: boolean;
  /** The controls that would change it, held at the start; what comes out of a movement may always. */
  readonly by: readonly string[];
  /** It is a movement, and its value whether the pointer counts. */
  readonly points?: true;
  readonly seat?: string;
}

/** A control's line: a pad's names the pad. */
export function controlLine(control: string, value: number, pad: number): object {
  return isOnPad(control) ? { control, value, pad } : { control, value };
}

/** The lines of all seats. */
export function presentLines(input: InputLayer, of: (seat: string) => object): object[] {
  const { open, seats, plan } = input;
  const isSeated = plan.seats !== undefined;
  const playing = open.length < seats.length ? [{ openSeats: open }] : [];
  return [...playing, ...seats.flatMap((name) => linesOf(input.seat(name), isSeated, of(name)))];
}

function linesOf(seat: Seat, isSeated: boolean, of: object): object[] {
  const engine = engineBehind(seat);
  if (engine.b[engine.tables.started] === 0) return [];
  const plan = resolvePlan(seat.own);
  const overrides = overridesBehind(seat);
  const { flags, modes, mutes } = seat;
  return [
    ...(isSeated && seat.pad !== null ? [{ seatPad: seat.name, pad: seat.pad }] : []),
    ...(overrides === null ? [] : [{ overrides, ...of }]),
    ...plan.flags
      .filter(({ name, start }) => flags[name] !== start)
      .map(({ name }) => ({ flag: name, value: flags[name]!, ...of })),
    ...spotsOf(engine, of),
    ...plan.numbers
      .map(({ name, value }) => ({ number: name, value: seat.number(name), ...of, planned: value }))
      .filter(({ value, planned }) => value !== planned)
      .map(({ planned: _, ...line }) => line),
    ...(modes.join(" ") === plan.start.join(" ")
      ? []
      : [...plan.start.map((leave) => ({ leave, ...of })), ...modes.map((enter) => ({ enter, ...of }))]),
    ...Object.entries(mutes).flatMap(([mute, reasons = []]) =>
      reasons.map((reason) => ({ mute, reason, ...of })),
    ),
    ...drivesIn(engine, of),
    ...heldBehind(seat).map(({ control, value, pad }) => ({
      ...controlLine(control, value, pad),
      ...(controlsOf(plan).ownOf(control) !== undefined && of),
    })),
  ];
}

/** Where spots and the pointer are. */
function spotsOf({ tables, f }: SeatEngine, of: object): object[] {
  const at = (name: string) => f[tables.find(name)?.value ?? -1] ?? 0;
  const spots = [...tables.spots].map(([spot, { x, y }]) => ({ spot, value: [f[x], f[y]], ...of }));
  const point = tables.plan.spots.length > 0 ? [at("MousePointX"), at("MousePointY")] : [0, 0];
  return point.some((value) => value !== 0) ? [...spots, { spot: POINTER, value: point, ...of }] : spots;
}

/** What recordings ask of rules; of made code, what a build wrote of it. @throws ReacherError if that was left out */
export function recordableIn(tables: Tables): Recordable {
  const { recordable } = tables as { readonly recordable?: Recordable | null };
  if (recordable === null) throw notMade("watch");
  return recordable ?? recordableOf(tables);
}

/** What the game drives now. */
function drivesIn(engine: SeatEngine, of: object): object[] {
  const { tables, i } = engine;
  const { driven } = recordableIn(tables);
  return tables.plan.actions.flatMap((action, n): object[] => {
    const drive = action.name;
    const at = driven[n]!;
    if (at === null) return [];
    if (at.length === 1)
      return reasonNames(engine, tables, i[at[0]]!).map((reason) => ({ drive, value: true, reason, ...of }));
    const sums = "combine" in action && action.combine === "sum";
    return drivesAt(engine, ...at).map(({ reason, way, x, y }) => ({
      drive,
      value: action.kind === "axis" ? x : [x, y],
      reason: reasonNames(engine, tables, 1 << reason)[0],
      ...unusualWay(way, sums),
      ...of,
    }));
  });
}

/** Watches what is latched in a seat. May change: what it has seen last. */
export class Latches {
  private readonly seen = new Map<string, boolean>();
  private tables: object | undefined;
  private plan: object | undefined;
  private latches: readonly Latching[] = [];

  constructor(
    private readonly engine: SeatEngine,
    private readonly of: object,
  ) {}

  /** All of them, as they are now. */
  all(): LatchLine[] {
    const { engine } = this;
    this.tables = engine.tables;
    this.plan = engine.tables.plan;
    this.latches = recordableIn(engine.tables).latches;
    for (const latch of this.latches) this.seen.set(latch.name, latch.isOn(engine));
    return this.latches.map((latch) => this.lineOf(latch));
  }

  /** Those that are other than when it last looked; with other keys, all. */
  news(): LatchLine[] {
    const { engine, seen, latches } = this;
    // Made code keeps its tables when a player sets something.
    if (this.tables !== engine.tables || this.plan !== engine.tables.plan) return this.all();
    let found: LatchLine[] | undefined;
    for (let n = 0; n < latches.length; n++) {
      const latch = latches[n]!;
      const value = latch.isOn(engine);
      if (seen.get(latch.name) === value) continue;
      seen.set(latch.name, value);
      (found ??= []).push(this.lineOf(latch));
    }
    return found ?? NONE;
  }

  private lineOf(latch: Latching): LatchLine {
    const { name, kind, startsOn, by } = latch;
    const line = { latch: name, value: latch.isOn(this.engine), ...this.of, startsOn, by };
    return kind === "pointer" ? { ...line, points: true } : line;
  }
}

const NONE: LatchLine[] = [];
