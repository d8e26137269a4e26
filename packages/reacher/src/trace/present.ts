/**
 * What is on in a layer now, as lines of a trace that lead to it from the start. In: a running layer. Out: lines without their moment;
 * and for each toggle and latch whether it is on, since that changes without a line of its own.
 */
import { nameOf } from "../controls/numbers.js";
import { Movement } from "../engine/movement/movement.js";
import { reasonNames } from "../engine/reasons.js";
import type { Seat as EngineSeat } from "../engine/seat.js";
import { Latch, Switch } from "../engine/switches/switch.js";
import { engineBehind, heldBehind, overridesBehind } from "../layer/player.js";
import type { InputLayer, Seat } from "../layer/types.js";
import { resolvePlan } from "../plan/resolve.js";

/** A toggle, or the latch of an `either`; no line of a trace. */
export interface LatchLine {
  readonly latch: string;
  readonly value: boolean;
  readonly startsOn: boolean;
  /** The controls that press it. */
  readonly by: readonly string[];
  readonly seat?: string;
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
    ...heldBehind(seat).map(({ control, value, pad }) => ({ control, value, pad })),
  ];
}

/** What the game drives now. */
function drivesIn(engine: EngineSeat, of: object): object[] {
  const { tables, i } = engine;
  const nameOfBit = (reason: number) => reasonNames(engine, tables, 1 << reason)[0];
  return tables.actions.flatMap((action): object[] => {
    const drive = action.name;
    if (action instanceof Switch)
      return reasonNames(engine, tables, action.driver === null ? 0 : i[action.driver.reasons]!).map(
        (reason) => ({ drive, value: true, reason, ...of }),
      );
    if (!(action instanceof Movement) || action.driven === null) return [];
    return action.driven.all(engine).map(({ reason, alone, x, y }) => ({
      drive,
      value: action.kind === "axis" ? x : [x, y],
      reason: nameOfBit(reason),
      ...(alone && { alone }),
      ...of,
    }));
  });
}

/** Watches the toggles and latches of a seat. May change: what it has seen last. */
export class Latches {
  private readonly seen = new Map<string, boolean>();
  private tables: object | undefined;
  private switches: readonly Switch[] = [];

  constructor(
    private readonly engine: EngineSeat,
    private readonly of: object,
  ) {}

  /** All that are other than at the start. */
  all(): LatchLine[] {
    this.seen.clear();
    return this.news();
  }

  /** Those that are other than when it last looked. */
  news(): LatchLine[] {
    const { engine, seen } = this;
    const { tables, b } = engine;
    if (this.tables !== tables) {
      this.tables = tables;
      this.switches = (tables.ranked as readonly Switch[]).filter(({ style }) => style !== null);
    }
    let found: LatchLine[] | undefined;
    for (const one of this.switches) {
      const value = b[one.latch] === Latch.Latched;
      if (seen.get(one.name) === value || (!value && !seen.has(one.name) && !one.startsOn)) continue;
      seen.set(one.name, value);
      const signals = one.sources.flatMap((source) => source.signals);
      const by = signals.flatMap((signal) => signal.controls.map(nameOf));
      (found ??= []).push({ latch: one.name, value, startsOn: one.startsOn, by, ...this.of });
    }
    return found ?? NONE;
  }
}

const NONE: LatchLine[] = [];
