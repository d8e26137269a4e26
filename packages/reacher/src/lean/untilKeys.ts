/**
 * The layer of a game for one player who may set own keys: until these are wanted it plays as lean as any, and then it becomes a whole layer, over the
 * same seat. In: events and calls. Out: the reading. May change: what it is.
 */
import { ReacherError } from "../plan/errors.js";
import type { OverrideFault, Overrides } from "../plan/players/overrides.js";
import type { Taken } from "../layer/layerSeats.js";
import { mustBeBare } from "../layer/fixed.js";
import { loaded, needsNothing } from "../layer/loaded.js";
import type { Lost } from "../layer/lost.js";
import type { Presses } from "../layer/presses.js";
import type { Held, RawEvent } from "../layer/types.js";
import type { SeatEngine } from "../engine/seat.js";
import type { CheckedPlan } from "../plan/checked.js";
import type { Plan } from "../plan/types.js";
import { LeanLayer } from "./leanLayer.js";

/** A lean layer that becomes a whole one. */
export interface Growing {
  readonly plan: Plan;
  readonly slots: readonly string[];
  readonly engine: SeatEngine;
  checked: CheckedPlan;
  own: Plan;
  /** What its player has changed so far, and what takes such changes, where some stay open. */
  overrides: Overrides | null;
  readonly applies?: Applies;
  readonly opens?: (overrides: Overrides) => boolean;
  /** Whether it is a whole layer by now. */
  isWhole: boolean;
  /** Loads what players' keys need. */
  readonly bring: () => Promise<Grow>;
  /** What a whole layer takes over. */
  handOver(): HandedOver;
}

export interface HandedOver extends Omit<Taken, "own"> {
  /** What is held of controls that the plan does not bind, and events of theirs that no step has handled. */
  readonly unbound: Iterable<Held>;
  readonly waiting: readonly RawEvent[];
  /** Who waits for any press. */
  readonly presses: Presses | null;
}

/** Makes a lean layer a whole one. */
export type Grow = (lean: Growing) => Promise<void>;

/** Applies settings that stay open. @throws ReacherError if these change something else: that needs the rules */
export type Applies = (lean: Growing, overrides: Overrides | null) => readonly OverrideFault[];

/** @throws ReacherError if these change what needs the rules */
export function takeChanges(lean: Growing, overrides: Overrides | null): readonly OverrideFault[] {
  if (lean.applies !== undefined) return lean.applies(lean, overrides);
  if (overrides !== null) mustBeBare(overrides);
  return [];
}

/** @throws ReacherError if what it needs does not come */
export async function becomeWhole(lean: Growing, overrides?: Overrides | null): Promise<void> {
  if (needsNothing(overrides, lean.opens)) return;
  const grow = await loaded(lean.bring);
  await grow(lean);
}

export class UntilKeys extends LeanLayer implements Growing {
  declare bring: () => Promise<Grow>;
  declare readonly applies?: Applies;
  declare readonly opens?: (overrides: Overrides) => boolean;
  overrides: Overrides | null = null;
  isWhole = false;
  /** What is held of controls that the plan does not bind: a player may bind them. */
  private readonly unbound = new Map<string, Held>();
  /** What came of them, and what was lost, since the last step: each counts at its moment, and is dropped with it. */
  private waiting: Waiting[] = [];

  setOverrides(overrides: Overrides | null): readonly OverrideFault[] {
    return takeChanges(this, overrides);
  }

  bringKeys(overrides?: Overrides | null): Promise<void> {
    return becomeWhole(this, overrides);
  }

  protected override pass({ control, pad = 0, t }: RawEvent, value: number): void {
    this.waiting.push({ t, held: { control, pad, value } });
  }

  protected override passLoss(lost: Lost, t: number): void {
    this.waiting.push({ t, lost });
  }

  override step(t: number): ReturnType<LeanLayer["step"]> {
    super.step(t);
    if (this.waiting.length > 0) this.settle(t);
    return this.now;
  }

  override notifyRestored(): void {
    this.waiting = [];
  }

  private settle(until: number): void {
    // A sort keeps the order of arrival at one moment.
    const inOrder = this.waiting.sort((a, b) => a.t - b.t);
    this.waiting = inOrder.filter(({ t }) => t > until);
    for (const { held, lost } of inOrder.slice(0, inOrder.length - this.waiting.length))
      if (held !== undefined) this.unbound.set(`${held.control} ${held.pad}`, held);
      else for (const [key, known] of this.unbound) if (this.isLost(known, lost!)) this.unbound.delete(key);
  }

  private isLost({ control, pad }: Held, lost: Lost): boolean {
    if (typeof lost === "number") return pad === lost && control.startsWith("Pad");
    const own = this.checked.controls.find(({ name }) => control.startsWith(name));
    return lost === "focus" ? own?.keepsFocus !== true : own?.device === lost;
  }

  handOver(): HandedOver {
    const { scheduler, counters, pads, engine, now, listeners, unbound } = this;
    const waiting = this.waiting.flatMap(({ t, held }) => (held === undefined ? [] : [{ t, ...held }]));
    return {
      scheduler,
      counters,
      pads,
      engine,
      now,
      listeners,
      unbound: unbound.values(),
      waiting,
      presses: null,
    };
  }
}

/** An event of an unbound control, or a loss, at a moment. */
interface Waiting {
  readonly t: number;
  readonly held?: Held;
  readonly lost?: Lost;
}

/** Of a call that a lean layer does not have yet. */
export function comesWithKeys(call: string): ReacherError {
  return new ReacherError(`${call} comes with players' keys in this game; await input.bringKeys() first`);
}
