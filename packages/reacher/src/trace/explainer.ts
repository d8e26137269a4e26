/** Compares a seat's cells before and after each event, and asks the switches that it reached. May change: its copy of the cells. */

import { type Change } from "../engine/explaining.js";
import type { SeatEngine } from "../engine/seat.js";
import type { Signal } from "../engine/signals.js";
import { type Switch } from "../engine/switches/switch.js";
import { type Tables } from "../engine/tables.js";
import type { Reason } from "./reason.js";
import { reasonOf, signalsOf, type Cause } from "./switchReasons.js";

/** Shared, since nothing rises in most events. */
const NOTHING_ROSE: readonly Signal[] = [];

export class Explainer {
  private f: Float64Array;
  private i: Int32Array;
  private b: Uint8Array;
  private cause: Cause | undefined;
  private changeCount = 0;
  /** For the tables that the seat has now. */
  private listeners: Listeners | undefined;

  constructor(
    private readonly seat: SeatEngine,
    private readonly emit: (reason: Reason) => void,
  ) {
    const copy = seat.b.slice().buffer;
    this.f = new Float64Array(copy);
    this.i = new Int32Array(copy);
    this.b = new Uint8Array(copy);
  }

  /** Whether no event is being handled. */
  get isIdle(): boolean {
    return this.cause === undefined;
  }

  before(cause: Cause): void {
    // The two axes of a stick are one event: the state before the first of them counts.
    if (!this.isIdle) return;
    this.cause = cause;
    this.changeCount = this.seat.changeCount;
    const { b } = this.seat;
    if (this.b.length !== b.length) {
      // With other slots or keys the cells are laid out differently.
      const copy = b.slice().buffer;
      this.f = new Float64Array(copy);
      this.i = new Int32Array(copy);
      this.b = new Uint8Array(copy);
    }
    this.b.set(b);
  }

  after(at: number): void {
    const { cause, seat } = this;
    this.cause = undefined;
    if (cause === undefined) return;
    const { tables } = seat;
    const due = cause.timer === undefined ? undefined : tables.timers.all[cause.timer];
    const { f, i, b } = this;
    const risen = this.reach();
    const asksAll = due !== undefined || cause.drive !== undefined || tables.plan.bounceMs > 0;
    // Nearly always a stick that only moves.
    if (!asksAll && risen === undefined && this.changeCount === seat.changeCount) return;
    const change: Change = { before: { f, i, b }, after: seat, tables, due, risen: risen ?? NOTHING_ROSE };
    const { switches, reported, onAt, touched } = this.listeners!;
    for (let n = 0; n < switches.length; n++) {
      const rule = switches[n]!;
      const isTold = b[reported[n]!] !== seat.b[reported[n]!] || f[onAt[n]!] !== seat.f[onAt[n]!];
      if (!asksAll && !isTold && touched[rule.number] === 0) continue;
      const said = reasonOf(rule, change, cause);
      // Written out, since a long trace makes many of these and a spread takes ten times as long.
      if (said !== undefined)
        this.emit({ at, action: rule.name, outcome: said.outcome, rule: said.rule, text: said.text });
    }
  }

  /** Marks the switches that the changed signals can reach: only these have a reason to give. Returns the signals that rose; `undefined` if none has changed. */
  private reach(): readonly Signal[] | undefined {
    const { b, seat } = this;
    const { tables } = seat;
    if (this.listeners?.tables !== tables) this.listeners = listenersOf(tables);
    const { of, up, touched } = this.listeners;
    const is = seat.b;
    touched.fill(0);
    let risen: Signal[] | undefined;
    for (let n = 0; n < up.length; n++) {
      const at = up[n]!;
      if (b[at] === is[at]) continue;
      risen ??= [];
      if (is[at] === 1) risen.push(tables.signals[n]!);
      for (const { number } of of[n]!) touched[number] = 1;
    }
    return risen;
  }
}

/** The cells that are compared after each event, for a seat's tables. */
interface Listeners {
  readonly tables: Tables;
  /** For each signal: the cell that says whether it is up (byte), and the switches that it can reach. */
  readonly up: Int32Array;
  readonly of: readonly (readonly Switch[])[];
  /** For each switch: the cells of what it reports (byte), and of when it came on (float). */
  readonly switches: readonly Switch[];
  readonly reported: Int32Array;
  readonly onAt: Int32Array;
  /** By a switch's number: whether the current event can reach it. */
  readonly touched: Uint8Array;
}

function listenersOf(tables: Tables): Listeners {
  const { signals, actions } = tables;
  const switches = tables.switches as readonly Switch[];
  return {
    tables,
    up: Int32Array.from(signals, ({ up }) => up),
    of: reachedBy(switches, signals),
    switches,
    reported: Int32Array.from(switches, ({ reported }) => reported),
    onAt: Int32Array.from(switches, ({ onAt }) => onAt),
    touched: new Uint8Array(actions.length),
  };
}

/** The switches that each signal can reach: by itself, or as another key of a direction. */
function reachedBy(switches: readonly Switch[], signals: readonly Signal[]): Switch[][] {
  const place = new Map(signals.map((signal, n) => [signal, n]));
  const all = signals.map((): Switch[] => []);
  for (const rule of switches)
    for (const own of signalsOf(rule)) {
      all[place.get(own)!]!.push(rule);
      if (own.channel !== null) continue;
      signals.forEach(({ channel }, n) => {
        if (channel !== null && own.controls.includes(channel.id)) all[n]!.push(rule);
      });
    }
  return all;
}
