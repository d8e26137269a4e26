/** Debounces worn keys: a release that a press follows within `bounceMs` is ignored. */
import { RELEASE_BELOW } from "../controls/thresholds.js";
import type { Cells } from "./cells.js";
import type { Feature } from "./compile.js";
import { hasFallen, ms, nowOf, because, type Change, type Because } from "./explaining.js";
import type { Channel, Filter, Signal } from "./signals.js";
import type { SeatState } from "./state.js";
import type { Timed, Timer, Timers } from "./timers.js";

export class Bounce implements Filter, Timed {
  private readonly timer: readonly Timer[];

  constructor(
    cells: Cells,
    private readonly channel: Channel,
    private readonly timers: Timers,
    private readonly bounceMs: number,
  ) {
    const own = cells.rule(`bounce ${channel.name}`);
    this.timer = Array.from({ length: channel.padCount }, (_, padIndex) =>
      timers.window(own, `until ${padIndex}`, this),
    );
  }

  holdsBack(s: SeatState, padIndex: number, slot: number): boolean {
    const timer = this.timer[padIndex]!;
    const isSet = s.f[timer.at] !== Infinity;
    if (s.slots[slot]! >= RELEASE_BELOW) {
      if (isSet) this.timers.clear(s, timer);
      return false;
    }
    if (s.f[this.channel.value + padIndex]! < RELEASE_BELOW) return false;
    if (!isSet) this.timers.set(s, timer, this.bounceMs);
    return true;
  }

  rest(s: SeatState, padIndex: number): void {
    this.timers.clear(s, this.timer[padIndex]!);
  }

  due(s: SeatState, timer: Timer): void {
    this.channel.rest(s, this.timer.indexOf(timer));
  }

  isHolding(f: Float64Array, padIndex: number): boolean {
    return f[this.timer[padIndex]!.at] !== Infinity;
  }

  /** The cell of the moment until which it holds back: of a seat with a pad of its own. */
  get until(): number {
    return this.timer[0]!.at;
  }

  /** How long the release had been held back when this event cancelled it, in ms; `undefined` if none was held back. */
  heldBackFor(change: Change): number | undefined {
    const { before, after } = change;
    const waited = this.timer.find(({ at }) => before.f[at] !== Infinity && after.f[at] === Infinity);
    return waited === undefined ? undefined : nowOf(change) - (before.f[waited.at]! - this.bounceMs);
  }
}

export const bounce: Feature = {
  link: ({ plan, bound, cells, timers }) => {
    if (plan.bounceMs === 0) return;
    // An axis does not bounce, and a wheel notch is not a key.
    for (const channel of bound)
      if (channel.isDigital && !channel.name.startsWith("Wheel"))
        channel.filter = new Bounce(cells, channel, timers, plan.bounceMs);
  },
};

/** The reason given for a press so soon after a release that neither counts. */
export function bounceWhy(signal: Signal, change: Change): Because | undefined {
  const bounce = signal.channel?.filter;
  if (!(bounce instanceof Bounce) || hasFallen(signal, change)) return undefined;
  const since = bounce.heldBackFor(change);
  if (since === undefined) return undefined;
  const { bounceMs } = change.tables.plan;
  return because(
    "nothing",
    "bounce",
    `${signal.name} came up for ${ms(since)}: within the ${ms(bounceMs)} that count as no release`,
  );
}
