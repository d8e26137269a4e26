/**
 * What the game tells a seat: flags, numbers, modes, mutes, drives, losses. In: calls. Out: commands in the seat's queue, counted at their
 * moments; wrong names and values are errors, and change nothing.
 */
import type { CheckedPlan } from "../plan/checked.js";
import { momentOf, mustBeText, mustBeTruth, type Moment } from "../plan/arguments.js";
import { shown } from "../plan/depth.js";
import { ReacherError } from "../plan/findings.js";
import { FURTHEST_SPOT, MOST_NUMBER } from "../plan/language/saneRanges.js";
import { Clock } from "../engine/clock.js";
import { MOST_DRIVES } from "../engine/movement/driven.js";
import { Bits, DriveBits, EventKind, EventField } from "../engine/queue.js";
import { knownReason, reasonBit } from "../engine/reasons.js";
import type { SeatEngine } from "../engine/seat.js";
import type { Controls } from "../controls/ownControls.js";
import { FOCUS_LOST } from "../engine/situations/losses.js";
import { FALSE_AT_ONCE } from "../engine/situations/flags.js";
import { callEach } from "./calling.js";
import type { WatchedCommand } from "./command.js";
import { countBits, drivenHow, drivenValue, type Driving } from "./driving.js";
import type { Hub, Member } from "./hub.js";
import type { DriveOptions, FlagOptions } from "./types.js";

/** The index of a pad; the focus, or a device of own controls. */
export type Lost = number | string;

export abstract class SeatCommands implements Member {
  /** The plan with this player's changes, as it was read. */
  abstract checked: CheckedPlan;
  abstract readonly engine: SeatEngine;
  abstract readonly pad: number | null;

  constructor(
    readonly name: string,
    protected readonly hub: Hub,
  ) {}

  setFlag(flag: string, on: boolean, options?: number | FlagOptions): void {
    const t = momentOf(options);
    const { linger = true } = Object(options) as FlagOptions;
    const value = on ? 1 : linger ? 0 : FALSE_AT_ONCE;
    this.command(EventKind.Flag, indexIn("flag", flag, this.checked.flags), value, t);
  }

  lose(what: string, ...rest: readonly unknown[]): void {
    const [pad, t] = lostOf(what, rest, this.hub.controls);
    if (typeof pad === "string") {
      this.loseAt(this.lossOf(pad), 0, t);
      return;
    }
    const padIndex = this.hub.freePadIndex(this, pad, t ?? this.engine.clock[Clock.Now]!);
    if (padIndex >= 0) this.loseAt(padIndex, pad, t);
  }

  reset(t?: Moment): void {
    this.command(EventKind.Reset, 0, 0, momentOf(t));
  }

  setNumber(name: string, value: number, t?: Moment): void {
    const index = indexIn("number", name, this.checked.numbers);
    if (typeof value !== "number" || !(Math.abs(value) <= MOST_NUMBER))
      throw new ReacherError(`${shown(value)} is no value for ${name}; give a number up to 1e9`);
    this.command(EventKind.Number, index, value, momentOf(t));
  }

  setSpot(name: string, x: number, y: number, t?: Moment): void {
    const index = indexIn("spot", name, this.checked.spots);
    for (const value of [x, y])
      if (typeof value !== "number" || !(Math.abs(value) <= FURTHEST_SPOT))
        throw new ReacherError(
          `${shown(value)} is no place for ${name}; give x and y in halves of the area's shorter side, from its middle`,
        );
    this.command(EventKind.Spot, index, x, momentOf(t), y);
  }

  /** What the engine calls the loss of the focus, or of a device of own controls. */
  lossOf(lost: string): number {
    return lost === "focus" ? FOCUS_LOST : -this.engine.tables.devices.indexOf(lost);
  }

  /** The pad at a place of this seat goes to rest; or, below 0, what the engine calls a loss. */
  loseAt(padIndex: number, pad: number, t: number | undefined): void {
    this.command(EventKind.Lose, padIndex, pad, t);
  }

  private command(kind: EventKind, index: number, value: number, t: number | undefined, other = NaN): void {
    const { scheduler, counters } = this.hub;
    if (t === undefined) {
      this.engine.command(kind, index, value, other);
      return;
    }
    scheduler.scratchEvent[EventField.T] = t;
    scheduler.scratchEvent[EventField.Value] = value;
    scheduler.scratchEvent[EventField.Other] = other;
    if (scheduler.addEvent(this.engine.number, (index << Bits.Kind) | kind)) counters.late++;
  }

  enter(mode: string, t?: Moment): void {
    this.command(EventKind.Enter, indexIn("mode", mode, this.checked.modes), 0, momentOf(t));
  }

  leave(mode: string, t?: Moment): void {
    this.command(EventKind.Leave, indexIn("mode", mode, this.checked.modes), 0, momentOf(t));
  }

  mute(action: string, reason: string, moment?: Moment): void {
    this.mustBeMade(EventKind.Mute, "mute");
    const id = indexIn("action", action, this.checked.actions);
    mustBeText(reason, "reason");
    const t = momentOf(moment);
    this.command(EventKind.Mute, id, reasonBit(this.engine, this.engine.tables, reason), t);
  }

  unmute(action: string, reason?: string, moment?: Moment): void {
    this.mustBeMade(EventKind.Unmute, "unmute");
    const id = indexIn("action", action, this.checked.actions);
    if (reason !== undefined) mustBeText(reason, "reason");
    const t = momentOf(moment);
    const { engine } = this;
    // By the time it is handled, a callback may have muted for a new reason.
    const bitOf = t === undefined ? knownReason : reasonBit;
    const bit = reason === undefined ? -1 : bitOf(engine, engine.tables, reason);
    if (bit !== 0) this.command(EventKind.Unmute, id, bit, t);
  }

  setSwitch(action: string, on: boolean, t?: Moment): void {
    this.switchOf(action);
    mustBeTruth(on, `the switch ${action}`);
    this.command(
      EventKind.SetSwitch,
      indexIn("action", action, this.checked.actions),
      on ? 1 : 0,
      momentOf(t),
    );
  }

  drive(action: string, given: Driving, reason: string, options?: number | DriveOptions): void {
    this.mustBeMade(EventKind.Drive, "drive");
    const actionIndex = indexIn("action", action, this.checked.actions);
    const thing = this.checked.actions[actionIndex]!;
    const value = drivenValue(thing, given);
    mustBeText(reason, "reason");
    const t = momentOf(options);
    const { way, blendMs } = drivenHow(thing, Object(options) as DriveOptions);
    const isLetGo = value === null;
    const { engine } = this;
    // By the time it is handled, it may be driven for a new reason.
    const driving = this.reasonsDriving(actionIndex);
    if (
      !isLetGo &&
      (driving & knownReason(engine, engine.tables, reason)) === 0 &&
      countBits(driving) >= MOST_DRIVES
    )
      throw new ReacherError(
        `${MOST_DRIVES} reasons drive ${action} already; let one of them go, or use its name again`,
      );
    const bitOf = isLetGo && t === undefined ? knownReason : reasonBit;
    const bit = bitOf(engine, engine.tables, reason);
    if (bit === 0) return;
    const [x, y] = value ?? [NaN, NaN];
    if (blendMs > 0) this.command(EventKind.Blend, actionIndex, blendMs, t);
    const index = (actionIndex << DriveBits.Action) | ((31 - Math.clz32(bit)) << DriveBits.Reason) | way;
    this.command(EventKind.Drive, index, x, t, y);
  }

  /** @throws ReacherError if the game was built without this call */
  private mustBeMade(kind: EventKind, call: string): void {
    if (this.engine.tables.commands[kind] === undefined)
      throw new ReacherError(
        `this game was built without ${call}; build it with --calls ${call}, or without --calls`,
      );
  }

  /** The reasons that drive an action once all waiting events are handled, one bit each. */
  private reasonsDriving(action: number): number {
    const { engine, hub } = this;
    let bits = engine.tables.actions[action]!.drivenBy?.(engine) ?? 0;
    for (const queue of [hub.scheduler.commands, hub.scheduler.events])
      for (let at = queue.first(engine.number); at >= 0; at = queue.after(at)) {
        const what = queue.whatAt(at);
        const index = what >> Bits.Kind;
        if ((what & Bits.KindMask) !== EventKind.Drive || index >> DriveBits.Action !== action) continue;
        const bit = 1 << ((index >> DriveBits.Reason) & DriveBits.ReasonMask);
        const value = queue.valueAt(at);
        bits = value === value ? bits | bit : bits & ~bit;
      }
    return bits;
  }

  take(action: string): boolean {
    const took = this.switchOf(action).take(this.engine);
    if (took) this.notifyCommand({ take: action });
    return took;
  }

  /** Tells watchers what was done at once, or at a moment that is known. */
  notifyCommand(command: WatchedCommand, t?: number): void {
    const { engine, name: seat } = this;
    const when = {
      t: t ?? engine.clock[Clock.Now]!,
      seat,
      after: t === undefined && engine.isAfter,
      done: true,
    };
    callEach(this.hub.watchers, (watcher) => watcher.command?.(command, when));
  }

  protected switchOf(action: string) {
    const { tables } = this.engine;
    const one = tables.switches.find(({ name }) => name === action);
    if (one === undefined) throw unknownName("switch", action, tables.switches);
    return one;
  }
}

/** What is lost: the index of a pad, or `undefined` for everything; and when. */
export function lostOf(
  what: unknown,
  [first, second]: readonly unknown[],
  { devices }: Controls,
): [lost: Lost, t: number | undefined] {
  if (what === "focus" || devices.includes(what as string)) return [what as string, momentOf(first)];
  if (what !== "pad") {
    const own = devices.map((device) => `, ${JSON.stringify(device)}`).join("");
    throw new ReacherError(`${shown(what)} is nothing to lose; it is "focus"${own}, or "pad" with its index`);
  }
  if (typeof first !== "number" || !Number.isInteger(first) || first < 0)
    throw new ReacherError(
      `${shown(first)} is no pad; lose("pad", pad, t) takes the index of a pad, then the time`,
    );
  return [first, momentOf(second)];
}

/** The place of a thing of the plan in its list. @throws ReacherError if the plan has none of this name */
export function indexIn(what: string, name: string, known: readonly { readonly name: string }[]): number {
  for (let n = 0; n < known.length; n++) if (known[n]!.name === name) return n;
  throw unknownName(what, name, known);
}

function unknownName(what: string, name: string, known: readonly { readonly name: string }[]): ReacherError {
  return new ReacherError(
    `the plan has no ${what} ${shown(name)}; it has ${known.map((one) => one.name).join(", ") || "none"}`,
  );
}
