/**
 * What is on in a layer now, as lines of a trace that lead to it from the start. In: a running layer. Out: lines without their moment;
 * and for each toggle and latch whether it is on, since that changes without a line of its own.
 */
import { controlsOf } from "../controls/ownControls.js";
import { Gesture } from "../engine/gestures/gesture.js";
import { Movement } from "../engine/movement/movement.js";
import { Live } from "../engine/tables.js";
import { reasonNames } from "../engine/reasons.js";
import type { SeatEngine } from "../engine/seat.js";
import { Latch, Switch } from "../engine/switches/switch.js";
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

/** What the game drives now. */
function drivesIn(engine: SeatEngine, of: object): object[] {
  const { tables, i } = engine;
  const nameOfBit = (reason: number) => reasonNames(engine, tables, 1 << reason)[0];
  return tables.actions.flatMap((action): object[] => {
    const drive = action.name;
    if (action instanceof Switch)
      return reasonNames(engine, tables, action.driver === null ? 0 : i[action.driver.reasons]!).map(
        (reason) => ({ drive, value: true, reason, ...of }),
      );
    if (!(action instanceof Movement) || action.driven === null) return [];
    const { driven, sums } = action;
    return driven.all(engine).map(({ reason, way, x, y }) => ({
      drive,
      value: action.kind === "axis" ? x : [x, y],
      reason: nameOfBit(reason),
      ...unusualWay(way, sums),
      ...of,
    }));
  });
}

/** Watches the switches of a seat. May change: what it has seen last. */
export class Latches {
  private readonly seen = new Map<string, boolean>();
  private tables: object | undefined;
  private switches: readonly (Switch | Movement)[] = [];

  constructor(
    private readonly engine: SeatEngine,
    private readonly of: object,
  ) {}

  /** All of them, as they are now. */
  all(): LatchLine[] {
    const { tables } = this.engine;
    this.tables = tables;
    const pointed = (tables.movements as readonly Movement[]).filter(({ pointer }) => pointer !== null);
    this.switches = [...(tables.ranked as readonly Switch[]), ...pointed];
    for (const rule of this.switches) this.seen.set(rule.name, this.isOn(rule));
    return this.switches.map((rule) => this.lineOf(rule));
  }

  /** Those that are other than when it last looked; with other keys, all. */
  news(): LatchLine[] {
    const { engine, seen, switches } = this;
    if (this.tables !== engine.tables) return this.all();
    let found: LatchLine[] | undefined;
    for (let n = 0; n < switches.length; n++) {
      const rule = switches[n]!;
      const value = this.isOn(rule);
      if (seen.get(rule.name) === value) continue;
      seen.set(rule.name, value);
      (found ??= []).push(this.lineOf(rule));
    }
    return found ?? NONE;
  }

  /** A press that a hold has not seen, or that is spent, turns nothing on: held at the start of a replay it would. */
  private isOn(rule: Switch | Movement): boolean {
    const { b } = this.engine;
    if (rule instanceof Movement) return b[rule.pointer!.counting] === 1;
    if (rule.style !== null) return b[rule.latch] === Latch.Latched;
    if (b[rule.liveAt] !== Live.Yes || rule.isHeld(this.engine)) return true;
    for (const source of rule.sources)
      if (!(source instanceof Gesture) && b[source.signals[0]!.up] === 1 && b[source.hiddenAt] !== 1)
        return false;
    return true;
  }

  private lineOf(rule: Switch | Movement): LatchLine {
    const value = this.isOn(rule);
    const line = { latch: rule.name, value, ...this.of };
    if (rule instanceof Movement) return { ...line, startsOn: false, by: [], points: true };
    if (rule.style === null) return { ...line, startsOn: true, by: [] };
    const signals = rule.sources.flatMap((source) => source.signals);
    return {
      ...line,
      startsOn: rule.startsOn,
      by: signals.flatMap(({ controls, isResult }) =>
        isResult ? [ANYTHING] : controls.map((control) => this.engine.tables.nameOf(control)),
      ),
    };
  }
}

/** In place of a control: whatever moves. */
export const ANYTHING = "";

const NONE: LatchLine[] = [];
