/** What the game gets for a switch. */
import { Clock } from "../clock.js";
import { isLive } from "../live.js";
import { ActionReading } from "../reading.js";
import { Ending, StepChange, type Switch } from "./switch.js";

/** How a switch turned off. */
export type EndedBy =
  "released" | "pressed" | "lost" | "muted" | "mode" | "needs" | "oneOf" | "bindings" | "reset" | "game";

/** Whether something other than its player turned it off. */
export function isCancelled(by: EndedBy): boolean {
  return by !== "released" && by !== "pressed";
}

/** Indexed by the number in the cells. */
const ENDED_BY: { readonly [ending in Ending]: EndedBy | null } = {
  [Ending.None]: null,
  [Ending.Released]: "released",
  [Ending.Pressed]: "pressed",
  [Ending.Lost]: "lost",
  [Ending.Muted]: "muted",
  [Ending.Mode]: "mode",
  [Ending.Needs]: "needs",
  [Ending.OneOf]: "oneOf",
  [Ending.Bindings]: "bindings",
  [Ending.Reset]: "reset",
  [Ending.Game]: "game",
};

export class SwitchReading extends ActionReading {
  /** @internal */
  private get rule(): Switch {
    return this.ruleNow() as Switch;
  }

  /** Whether hands work it now: a mode of it is on and not covered, and nothing mutes it. */
  get live(): boolean {
    return isLive(this.s, this.rule);
  }

  /** Whether it is on. */
  get on(): boolean {
    return this.s.b[this.rule.reported] === 1;
  }

  /** Whether it turned on within this step, even if it is off again. */
  get turnedOn(): boolean {
    return this.rule.hasChanged(this.s, StepChange.On);
  }

  /** Whether it turned off within this step, even if it is on again. */
  get turnedOff(): boolean {
    return this.rule.hasChanged(this.s, StepChange.Off);
  }

  /** How often it turned on within this step. */
  get presses(): number {
    return this.turnedOn ? this.s.i[this.rule.presses]! : 0;
  }

  /** How long it has been on, in ms; 0 while off. */
  get onMs(): number {
    return this.on ? this.s.clock[Clock.Now]! - this.s.f[this.rule.onAt]! : 0;
  }

  /** How long it was on the last time, in ms: how far a bow was drawn. 0 before. */
  get lastMs(): number {
    return this.s.f[this.rule.lastMs]!;
  }

  /** How it last turned off: `released` and `pressed` are its player's; anything else is a cancellation. `null` before. */
  get endedBy(): EndedBy | null {
    return ENDED_BY[this.s.b[this.rule.endedBy] as Ending];
  }

  /** Whether the last time that it turned off was in this step, and not by its player. */
  get cancelled(): boolean {
    return this.turnedOff && this.s.b[this.rule.endedBy]! > Ending.Pressed;
  }

  /** Whether it has begun and `take` has not been called for it, within its `bufferMs`. */
  get granted(): boolean {
    const { keeper } = this.rule;
    return keeper !== null && keeper.isGranted(this.s);
  }

  /** The control that pressed it last; `null` before the first press. */
  get by(): string | null {
    return this.rule.signals[this.s.i[this.rule.by]!]?.name ?? null;
  }

  /** Progress of a long press, 0..1; 0 if there is none. */
  get progress(): number {
    let most = 0;
    for (const one of this.rule.progress) most = Math.max(most, one.progress(this.s));
    return most;
  }

  /**
   * How many presses of a gesture count so far, of the one that is furthest; of `all` the members that are down; 0 once its window is over,
   * and for `long` and `short`.
   */
  get pending(): number {
    let most = 0;
    for (const source of this.rule.sources) most = Math.max(most, source.pending?.(this.s) ?? 0);
    return most;
  }

  /** How long the gesture that is furthest may still go on, in ms; 0 where none is under way, or it has no limit. */
  get windowLeftMs(): number {
    const { pending } = this;
    if (pending === 0) return 0;
    let end = -Infinity;
    for (const source of this.rule.sources)
      if (source.pending?.(this.s) === pending) end = Math.max(end, source.windowEnd!(this.s, pending));
    return this.leftOf(end);
  }

  /** What is left of its `cooldownMs`, in ms. */
  get cooldownLeftMs(): number {
    let end = -Infinity;
    for (const guard of this.rule.guards) end = Math.max(end, guard.refusesUntil?.(this.s) ?? -Infinity);
    return this.leftOf(end);
  }

  /** How long a press that cannot begin yet is still kept (`bufferMs`), in ms; 0 if none is. */
  get bufferLeftMs(): number {
    return this.leftOf(this.rule.keeper?.keptUntil(this.s) ?? -Infinity);
  }

  /** @internal How long it is until then, in ms. */
  private leftOf(end: number): number {
    return Math.max(0, end - this.s.clock[Clock.Now]!);
  }

  /** How many pulses it gave within this step. */
  get pulses(): number {
    const { repeater: rhythm } = this.rule;
    return rhythm === null ? 0 : rhythm.pulsesNow(this.s);
  }

  toJSON(): { on: boolean; onMs: number; progress: number } {
    return { on: this.on, onMs: this.onMs, progress: this.progress };
  }
}
