/**
 * Many players of one plan who have nothing to do with each other, stepped together: for a server. In: a plan, and each player's events. Out: their
 * readings. A crowd shares its tables, its queues and one buffer, and touches only the players for whom something is due.
 *
 * @module reacher/crowd
 */
import { WHOLE } from "#whole";
import { Clock } from "../engine/clock.js";
import { EventField } from "../engine/queue.js";
import { listOf } from "../engine/lists.js";
import { ManySeats } from "../engine/manySeats.js";
import type { Host } from "../engine/scheduler.js";
import { Yard } from "../engine/yard.js";
import { noTime } from "../plan/arguments.js";
import { shown } from "../plan/depth.js";
import { ReacherError } from "../plan/errors.js";
import type { AnyOtherNames, OtherNames } from "../plan/fieldNames.js";
import { resolvePlan } from "../plan/resolve.js";
import type { Kinds, Plan } from "../plan/types.js";
import { FixedStepCalls } from "./calls/fixedSteps.js";
import { bring } from "./calls/seatPart.js";
import type { Feeding } from "./feeding.js";
import { Layer } from "./layer.js";
import type { PadIndices } from "./padIndices.js";
import { copyOf, putBack } from "./snapshots.js";
import type { InputLayer, Interceptor, LayerWatcher, RawEvent, Unsubscribe } from "./types.js";
import { layerParts } from "./wholeLayer.js";

/** Many players of one plan, for a server. */
export interface Crowd<
  K extends Kinds = Kinds,
  F extends string = string,
  N extends string = string,
  X extends OtherNames = AnyOtherNames,
> {
  /**
   * Each is a layer of its own, but for `step` and `setPlan`: the crowd steps all, and has one plan. `restore` of one leaves the crowd's clock
   * alone; what has been due since then comes with the next step.
   */
  readonly players: readonly InputLayer<K, F, N, X>[];
  /**
   * Advances all players to the moment `t` (ms). Each takes all its events of the step in a row, in the order of `players`.
   * @throws ReacherError if `t` is not a finite number
   */
  step(t: number): void;
  /** As a layer's: the moments at which a server with `hz` ticks a second has to step to reach `now`, at most `most` (15 without it). */
  fixedSteps(now: number, hz: number, most?: number): readonly number[];
  /** Copies the state of all players, one after the other, into `into` if given. @throws ReacherError if that has another size */
  snapshot(into?: Uint8Array): Uint8Array;
  /** Restores a copied state, and the clock; events not yet handled are dropped. @throws ReacherError if it is of another plan or count */
  restore(snapshot: Uint8Array): void;
}

/** What a snapshot puts back of a clock, which here is everybody's. */
const TIMES = [Clock.Now, Clock.Step, Clock.Before, Clock.From];

const MOST_PLAYERS = 1_000_000;

/**
 * Makes so many players of one plan: to each of them as a layer of its own would be, in a fraction of the time and memory.
 * @example const crowd = createCrowd(plan, 10_000); // crowd.players[7].feed(event), crowd.step(t), crowd.players[7].now
 * @throws PlanError if the plan cannot run; ReacherError if it has seats, or for a count below 1 or above a million
 */
export function createCrowd<
  const K extends Kinds,
  const F extends string,
  const N extends string = string,
  const X extends OtherNames = AnyOtherNames,
>(plan: Plan<K, F, N, X>, count: number): Crowd<K, F, N, X> {
  if (!(Number.isInteger(count) && count >= 1 && count <= MOST_PLAYERS))
    throw new ReacherError(`${shown(count)} is no count of players; give a whole number from 1 to a million`);
  return new CrowdLayers(plan as unknown as Plan, count) as unknown as Crowd<K, F, N, X>;
}

// eslint-disable-next-line @typescript-eslint/no-unsafe-declaration-merging, @typescript-eslint/no-empty-object-type -- `bring` gives it its calls.
interface CrowdLayers extends FixedStepCalls {}

// eslint-disable-next-line @typescript-eslint/no-unsafe-declaration-merging
class CrowdLayers implements Host {
  readonly scheduler = new ManySeats();
  readonly moments: number[] = [];
  readonly players: readonly CrowdLayer[];
  /** Those that somebody watches. */
  private readonly followed = new Set<CrowdLayer>();
  private readonly engines: readonly CrowdLayer["hub"]["first"]["engine"][];

  constructor(written: Plan, count: number) {
    const { scheduler } = this;
    const plan = resolvePlan(written);
    const [seat] = plan.seats;
    if (plan.seated)
      throw new ReacherError(
        "a crowd's plan is one player's; this one has seats: leave them out, or make a layer of it",
      );
    const parts = { ...layerParts(written, () => WHOLE), scheduler };
    const tables = parts.tablesOf(written, plan, seat!.slots);
    if (tables.bind !== undefined)
      throw new ReacherError(
        "a crowd plays by the rules: give it the plan itself, not the code that was made for it",
      );
    scheduler.isApart = true;
    scheduler.yard = new Yard(count * tables.cells.allocate().length);
    const players: CrowdLayer[] = [];
    for (let n = 0; n < count; n++) players.push(new CrowdLayer(plan, parts, this.followed, players[0]));
    this.players = listOf(players);
    this.engines = listOf(this.players.map(({ hub }) => hub.first.engine));
    scheduler.yard = null;
    scheduler.host = this;
  }

  step(t: number): void {
    if (typeof t !== "number") throw noTime(t);
    this.scheduler.step(t);
    for (const player of this.followed) player.stepped();
  }

  snapshot(into?: Uint8Array): Uint8Array {
    return copyOf(this.engines, into);
  }

  restore(snapshot: Uint8Array): void {
    putBack(this.engines, snapshot);
    for (const { hub } of this.players) hub.notifyRestored();
  }

  hearPress(seat: number, control: string, pad: number, t: number): void {
    this.players[seat]!.hub.hearPress(seat, control, pad, t);
  }
  hearUnbound(seat: number, control: number, padIndex: number, value: number): void {
    this.players[seat]!.hub.hearUnbound(seat, control, padIndex, value);
  }
  hearLost(seat: number, pad: number, what: number): void {
    this.players[seat]!.hub.hearLost(seat, pad, what);
  }
}

bring(CrowdLayers, [FixedStepCalls]);

class CrowdLayer extends Layer {
  private readonly place: number;
  private readonly padPlaces: PadIndices;
  /** Who knows the numbers of controls, and the last ones by heart: one for all. */
  private readonly names: Feeding;

  constructor(
    plan: ConstructorParameters<typeof Layer>[0],
    parts: ConstructorParameters<typeof Layer>[1],
    private readonly followed: Set<CrowdLayer>,
    first: CrowdLayer | undefined,
  ) {
    super(plan, parts);
    this.place = this.hub.first.engine.number;
    this.padPlaces = this.hub.places!;
    this.names = (first ?? this).feeding;
  }

  /** The short way of nearly every event: what it needs lies together, since little of a crowd is in the cache. */
  override feed(event: RawEvent): void {
    if (this.interceptor !== null || this.presses !== null || typeof event?.control !== "string") {
      super.feed(event);
      return;
    }
    const { scheduler, place } = this;
    const { scratchEvent } = scheduler;
    const t = +event.t;
    const value = +event.value;
    const channel = scheduler.tables[place]!.channels[this.names.numberOf(event.control)];
    if (channel === undefined || !(value === value && t - t === 0)) {
      super.feed(event);
      return;
    }
    scratchEvent[EventField.T] = t;
    scratchEvent[EventField.Value] = value;
    const padIndex =
      channel.padCount > 1 ? this.padPlaces.indexOf(event.pad === undefined ? 0 : event.pad) : 0;
    if (padIndex < 0) this.counters.ignored++;
    else if (scheduler.addControl(place, channel, padIndex)) this.counters.late++;
  }

  override setPlan(): never {
    throw new ReacherError("a crowd's players have one plan; make another crowd for another one");
  }

  override step(): never {
    throw new ReacherError("a crowd's players are stepped together: crowd.step(t)");
  }

  override stepped(): void {
    super.stepped();
    if (this.hub.watchers.length === 0 && !this.intercepted) this.followed.delete(this);
  }

  override watch(watcher: LayerWatcher): Unsubscribe {
    const off = super.watch(watcher);
    this.followed.add(this);
    return off;
  }

  override intercept(name: string, interceptor: Interceptor): Unsubscribe {
    const off = super.intercept(name, interceptor);
    this.followed.add(this);
    return off;
  }

  override restore(snapshot: Uint8Array): void {
    const { clock } = this.scheduler;
    const now = TIMES.map((time) => clock[time]!);
    super.restore(snapshot);
    TIMES.forEach((time, n) => (clock[time] = now[n]!));
  }
}
