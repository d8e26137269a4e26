/**
 * States of a layer from the recent past, so that a report can begin with one. In: a layer between two steps. Out: the newest that is old enough. May
 * change: its list, which is bounded, and the buffers in it.
 */
import type { InputLayer } from "../layer/types.js";
import { padPlaces } from "../layer/layer.js";
import { engineBehind, overridesBehind } from "../layer/seatHandle.js";
import { copyOf } from "../layer/snapshots.js";
import type { Overrides } from "../plan/players/overrides.js";

/** How far apart they are, in ms, and how many are kept: some 40 s, and sparser ones from before. */
const APART = 1000;
const MOST = 60;
/** This many of the newest are never thinned out. */
const RECENT = 40;

export interface Checkpoint {
  readonly t: number;
  /** How many events had been recorded by then. */
  readonly count: number;
  /** Each seat's bytes. */
  readonly states: readonly Uint8Array[];
  /** Of a plan without seats: the pads, by their places. */
  readonly pads: readonly number[];
  /** Each seat's changes of the plan. */
  readonly overrides: readonly (Overrides | null)[];
}

export class Checkpoints {
  private list: Checkpoint[] = [];

  constructor(private readonly input: InputLayer) {}

  /** The layer has been stepped to this moment; so many events are recorded. */
  stepped(t: number, count: number): void {
    const last = this.list.at(-1);
    if (last === undefined || t - last.t >= APART) this.take(t, count);
  }

  /** The layer as it is now. */
  take(t: number, count: number): void {
    const { input } = this;
    const free = this.list.length < MOST ? [] : this.thinOut();
    this.list.push({
      t,
      count,
      states: input.seats.map((name, n) => {
        const engine = engineBehind(input.seat(name));
        return copyOf([engine], free[n]?.length === engine.b.length ? free[n] : undefined);
      }),
      pads: padPlaces(input),
      overrides: input.seats.map((name) => overridesBehind(input.seat(name))),
    });
  }

  /** What came after this moment has not happened. */
  cut(t: number): void {
    while (this.list.length > 0 && this.list.at(-1)!.t > t) this.list.pop();
  }

  clear(): void {
    this.list = [];
  }

  /** Drops one of the older ones, and gives its buffers: the one with the least time from its neighbour before to the one after. */
  private thinOut(): readonly Uint8Array[] {
    let least = 1;
    const gapAt = (n: number) => this.list[n + 1]!.t - this.list[n - 1]!.t;
    for (let n = 2; n < MOST - RECENT; n++) if (gapAt(n) < gapAt(least)) least = n;
    return this.list.splice(least, 1)[0]!.states;
  }

  /** The newest at or before this moment that has all later events; the oldest such where none is that old. */
  from(t: number, firstEvent: number): Checkpoint | undefined {
    const whole = this.list.filter(({ count }) => count >= firstEvent);
    const old = whole.filter((one) => one.t <= t);
    return old.at(-1) ?? whole[0];
  }
}
