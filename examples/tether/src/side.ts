/**
 * One of two players' machines, with rollback. It steps at once by its own player's events and those that have arrived from the other, and steps again what turned out
 * differently. In: its player's events, and messages. Out: messages, and a world. May change: its layer, its world, and its history of ticks.
 */
import { createInputLayer } from "reacher";
import { packEvents, unpackEvents, type PackedEvent } from "reacher/trace";
import { plan, SEATS, type Seat } from "./plan";
import { checksum, World, type Swim } from "./world";

export const TICK_MS = 1000 / 60;
/** How many ticks may be played without news of the other; then this side waits. */
export const MOST_AHEAD = 120;
/** The length of the history, in ticks. */
const KEPT = 2 * MOST_AHEAD;

/** A message to the other side: its player's events of all ticks that the other may not have, and up to which tick it has the other's. */
export interface Message {
  readonly first: number;
  readonly ticks: readonly Uint8Array[];
  readonly has: number;
}

/** What rolling back has cost. */
export interface Cost {
  rollbacks: number;
  ticksAgain: number;
  mostTicks: number;
}

export class Side {
  readonly world = new World();
  /** Ticks played, and how many of them by the events of both. */
  tick = 0;
  confirmed = 0;
  readonly cost: Cost = { rollbacks: 0, ticksAgain: 0, mostTicks: 0 };
  /** Surges whose sound was played, by seat and moment. */
  private readonly heard = new Set<string>();
  /** By tick: the state before it, and each seat's packed events. */
  private readonly before = new Map<number, { readonly layer: Uint8Array; readonly world: Float64Array }>();
  private readonly packed: Readonly<Record<Seat, Map<number, Uint8Array>>> = {
    amber: new Map(),
    teal: new Map(),
  };
  /** Up to which tick the other has this side's events. */
  private told = 0;
  /** The first tick that was played without events that have arrived since. */
  private wrongFrom = Infinity;

  constructor(
    readonly seat: Seat,
    onSurge: (seat: Seat) => void = () => {},
    readonly layer = createInputLayer(plan),
  ) {
    // The owners of pads are fixed: a seat's events are sent with the seat's own number.
    SEATS.forEach((name, pad) => this.layer.assignPad(name, pad));
    for (const name of SEATS)
      this.layer.seat(name).on("surge", "on", (t) => {
        // The other's actions mostly happen first while ticks are stepped again; a sound already played at this moment is not played twice.
        const moment = `${name} ${t}`;
        if (this.layer.replaying && this.heard.has(moment)) return;
        this.heard.add(moment);
        onSurge(name);
      });
    this.layer.step(0);
  }

  private get other(): Seat {
    return this.seat === "amber" ? "teal" : "amber";
  }

  /** Takes the player's events since the last tick, and plays one more tick; `undefined` if it waits for news of the other. */
  advance(events: readonly PackedEvent[]): Message | undefined {
    this.rollBack();
    if (this.tick - this.confirmed >= MOST_AHEAD) return undefined;
    const tick = this.tick + 1;
    this.packed[this.seat].set(tick, packEvents(events, (tick - 1) * TICK_MS, tick * TICK_MS));
    this.play(tick);
    this.forget(tick - KEPT);
    return this.message();
  }

  private message(): Message {
    const own = this.packed[this.seat];
    const first = this.told + 1;
    const ticks: Uint8Array[] = [];
    for (let tick = first; tick <= this.tick; tick++) ticks.push(own.get(tick)!);
    return { first, ticks, has: this.confirmedByOther() };
  }

  /** Receives a message; one that is repeated, or out of order, does no harm. */
  receive({ first, ticks, has }: Message): void {
    const known = this.packed[this.other];
    this.told = Math.max(this.told, has);
    ticks.forEach((bytes, n) => {
      const tick = first + n;
      if (known.has(tick) || tick <= this.confirmed) return;
      // Invalid bytes are refused here, before they reach the world.
      const isQuiet = unpackEvents(bytes, 0).length === 0;
      known.set(tick, bytes);
      if (!isQuiet && tick <= this.tick) this.wrongFrom = Math.min(this.wrongFrom, tick);
    });
  }

  /** Up to which tick all of the other's events have arrived. */
  private confirmedByOther(): number {
    let tick = this.confirmed;
    while (this.packed[this.other].has(tick + 1)) tick++;
    return tick;
  }

  /** Steps again what was played without events that have arrived since. */
  private rollBack(): void {
    const { layer, world, wrongFrom: from, cost } = this;
    if (from <= this.tick) {
      const { layer: snapshot, world: state } = this.before.get(from)!;
      layer.restore(snapshot);
      world.state.set(state);
      const until = this.tick;
      layer.replaying = true;
      for (let tick = from; tick <= until; tick++) this.play(tick);
      layer.replaying = false;
      const ticks = until - from + 1;
      cost.rollbacks++;
      cost.ticksAgain += ticks;
      cost.mostTicks = Math.max(cost.mostTicks, ticks);
    }
    this.wrongFrom = Infinity;
    this.confirmed = Math.min(this.tick, this.confirmedByOther());
  }

  /** Plays one tick, by all that is known of both. */
  private play(tick: number): void {
    const { layer, world } = this;
    const kept = this.before.get(tick);
    if (kept === undefined) this.before.set(tick, { layer: layer.snapshot(), world: world.state.slice() });
    else {
      layer.snapshot(kept.layer);
      kept.world.set(world.state);
    }
    // In the same order on both machines.
    for (const seat of SEATS) {
      const bytes = this.packed[seat].get(tick);
      if (bytes !== undefined)
        for (const event of unpackEvents(bytes, (tick - 1) * TICK_MS)) this.hand(event);
    }
    layer.step(tick * TICK_MS);
    const swims = SEATS.map((seat): Swim => {
      const { swim, surge } = layer.seat(seat).now;
      return { vx: swim.vx, vy: swim.vy, surges: surge.turnedOn };
    });
    world.step(swims, TICK_MS / 1000);
    this.tick = tick;
  }

  private hand(event: PackedEvent): void {
    if ("lost" in event) this.layer.lose("focus", event.t);
    else this.layer.feed(event);
  }

  /** The checksum of layer and world after a tick that was played by both sides' events and followed by another; `undefined` otherwise, and if it is long past. */
  sumAt(tick: number): number | undefined {
    const after = tick <= this.confirmed ? this.before.get(tick + 1) : undefined;
    return after && checksum(after.layer, new Uint8Array(after.world.buffer));
  }

  private forget(tick: number): void {
    for (const kept of [this.before, this.packed.amber, this.packed.teal]) kept.delete(tick);
  }
}
