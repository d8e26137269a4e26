/**
 * The layer of a game for one player who may set own keys: until these are wanted it plays as lean as any, and then it becomes a whole layer, over the
 * same seat. In: events and calls. Out: the reading. May change: what it is.
 */
import { ReacherError } from "../plan/errors.js";
import type { OverrideFault, Overrides } from "../plan/players/overrides.js";
import type { Taken } from "../layer/layerSeats.js";
import { mustBeBare } from "../layer/fixed.js";
import { loaded } from "../layer/loaded.js";
import type { Held, RawEvent } from "../layer/types.js";
import { LeanLayer } from "./leanLayer.js";

/** Makes a lean layer a whole one. */
export type Grow = (lean: UntilKeys) => Promise<void>;

export class UntilKeys extends LeanLayer {
  /** Loads what players' keys need. */
  declare bring: () => Promise<Grow>;
  /** Whether it is a whole layer by now. */
  isWhole = false;
  /** What is held of controls that the plan does not bind: a player may bind them. */
  private readonly unbound = new Map<string, Held>();

  setOverrides(overrides: Overrides | null): readonly OverrideFault[] {
    if (overrides !== null) mustBeBare(overrides);
    return [];
  }

  async bringKeys(): Promise<void> {
    const grow = await loaded(this.bring);
    await grow(this);
  }

  protected override pass({ control, pad = 0 }: RawEvent, value: number): void {
    this.unbound.set(`${control} ${pad}`, { control, pad, value });
  }

  override lose(what: string, ...rest: readonly unknown[]): void {
    super.lose(what, ...rest);
    for (const [key, held] of this.unbound) if (this.isLost(held, what, rest[0])) this.unbound.delete(key);
  }

  private isLost({ control, pad }: Held, what: string, lost: unknown): boolean {
    if (what === "pad") return pad === lost && control.startsWith("Pad");
    const own = this.checked.controls.find(({ name }) => control.startsWith(name));
    return what === "focus" ? own?.keepsFocus !== true : own?.device === what;
  }

  /** What a whole layer takes over. */
  handOver(): Taken & { readonly unbound: Iterable<Held> } {
    const { scheduler, counters, pads, engine, now, listeners, unbound } = this;
    return { scheduler, counters, pads, engine, now, listeners, unbound: unbound.values() };
  }
}

/** Of a call that a lean layer does not have yet. */
export function comesWithKeys(call: string): ReacherError {
  return new ReacherError(`${call} comes with players' keys in this game; await input.bringKeys() first`);
}
