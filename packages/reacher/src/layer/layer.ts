/**
 * The input layer: distributes events to the seats and steps them. May change: the owners of pads, and the seats'
 * states, each by its own events.
 */
import type { CheckedPlan } from "../plan/checked.js";
import { PlanError, ReacherError } from "../plan/findings.js";
import type { Plan } from "../plan/types.js";
import { Clock } from "../engine/clock.js";
import { compile, type Feature } from "../engine/compile.js";
import { PADS_TOGETHER } from "../engine/wiring.js";
import { listOf } from "../engine/lists.js";
import { nameOf } from "../controls/numbers.js";
import type { Reading } from "../engine/readings.js";
import { Scheduler } from "../engine/scheduler.js";
import type { Tables } from "../engine/tables.js";
import { shown } from "../plan/depth.js";
import { momentOf, mustBeObject, mustCall, noTime, type Moment } from "../plan/arguments.js";
import { Feeding } from "./feeding.js";
import { FirstSeat } from "./firstSeat.js";
import { PadPlaces } from "./padPlaces.js";
import { Player, lostOf, type Hub } from "./player.js";
import { Presses } from "./presses.js";
import { SeatPads } from "./seatPads.js";
import { copyOf, putBack } from "./snapshots.js";
import type {
  Held,
  InputLayer,
  Interceptor,
  LayerWatcher,
  Off,
  PadChange,
  Press,
  RawEvent,
  Seat,
} from "./types.js";
import { Unbound, isOnPad } from "./unbound.js";

/** Tables compiled before; layers of one plan share them. */
const compiled = new WeakMap<CheckedPlan, Map<string, Tables>>();

/** What a layer is made with besides its plan. */
export interface LayerParts {
  /** The plan as it was written. */
  readonly written: Plan;
  /** What the layer supports; a plan that needs more is an error. */
  readonly features: readonly Feature[];
  /** Whether this is the name of a raw control, as devices report it. */
  readonly isRaw: (name: string) => boolean;
  readonly override?: Hub["override"];
  /** Reads another plan. */
  readonly resolve?: (plan: Plan) => CheckedPlan;
  /** What a layer of another plan supports. */
  readonly featuresOf?: (plan: Plan) => readonly Feature[];
}

/** Makes an input layer of a checked plan. @throws ReacherError if the plan needs a feature that is not among these */
export function createCheckedLayer(plan: CheckedPlan, parts: LayerParts): InputLayer {
  return new Layer(plan, parts);
}

/** The first moment at which a layer has work; steps before that change nothing. */
export function nextMoment(input: InputLayer): number {
  return (input as unknown as Layer).nextMoment;
}

/** Announces every pulse, however long a step is: for replays. */
export function tellAllPulses(input: InputLayer): void {
  (input as unknown as Layer).tellAllPulses();
}

class Layer extends FirstSeat implements InputLayer {
  readonly counters: Hub["counters"];
  readonly seats: readonly string[];
  private readonly hub: Hub;
  protected readonly first: Player;
  private readonly players: readonly Player[];
  private readonly byName: ReadonlyMap<string, Player>;
  /** For a plan without seats: the places of pads. */
  private readonly places: PadPlaces | undefined;
  /** For a plan with seats: the owners of pads. */
  private readonly pads: SeatPads;
  private readonly feeding: Feeding;
  open: readonly string[];
  replaying = false;
  private readonly moments: number[] = [];
  private interceptor: Interceptor | null = null;
  private presses: Presses | null = null;
  private readonly isRaw: (name: string) => boolean;
  private readonly resolve: (plan: Plan) => CheckedPlan;

  constructor(
    plan: CheckedPlan,
    {
      written,
      features,
      isRaw,
      override = noOverrides,
      resolve = noOverrides,
      featuresOf = () => features,
    }: LayerParts,
  ) {
    super();
    const scheduler = new Scheduler();
    const places = plan.seated ? undefined : new PadPlaces(PADS_TOGETHER, scheduler.fed);
    const players: Player[] = [];
    const tablesOf = (own: CheckedPlan, slots: readonly string[]) =>
      knownTables(own, slots, featuresOf(hub.written));
    const others = (player: Player, control: string) =>
      players.filter((one) => one !== player && one.findChannel(control) !== undefined);
    const hub: Hub = {
      written,
      plan,
      override,
      tablesFor: (player, own) => tablesOf(own, this.slotsOf(player)),
      slotsOf: (player) => this.slotsOf(player),
      scheduler,
      unbound: new Unbound(),
      watchers: listOf(),
      counters: countersOf(scheduler),
      padAt: (player, place) => places?.padAt(place) ?? player.pad ?? 0,
      placeOf: (player, pad) => places?.placeOf(pad) ?? (player.pad === pad ? 0 : -1),
      leavePlace: (player, pad, t) => places?.leave(pad, t) ?? (player.pad === pad ? 0 : -1),
      valueOf: (player, control, pad) => {
        const channel = isOnPad(control) ? undefined : others(player, control)[0]?.valueOf(control);
        return channel ?? hub.unbound.valueOf(control, pad);
      },
      isBoundBesides: (player, control) => !isOnPad(control) && others(player, control).length > 0,
      shareEvents: (player, before) => this.feeding.share(player, before),
      tablesChanged: (player) => this.forgetTakers(player),
      isShared: (player, control) => isBefore(players, player, control),
    };
    this.hub = hub;
    players.push(...plan.seats.map(({ name, slots }) => new Player(name, hub, tablesOf(plan, slots))));
    this.first = players[0]!;
    this.alone = [this.first.engine];
    this.players = players;
    this.byName = new Map(players.map((player) => [player.name, player]));
    this.open = this.seats = players.map(({ name }) => name);
    this.counters = hub.counters;
    this.isRaw = isRaw;
    this.resolve = resolve;
    this.places = places;
    this.pads = new SeatPads(players, hub);
    this.feeding = new Feeding(players, hub, this.pads, places, isRaw);
    scheduler.unbound = (seat, control, place, value) => {
      const name = nameOf(control);
      const player = players[seat]!;
      if (!hub.isBoundBesides(player, name)) hub.unbound.note(name, player.padOf(name, place), value);
    };
    scheduler.lost = (pad, isAll) => {
      if (!isAll) hub.unbound.rest(pad);
      else if (pad === ALL_SEATS) hub.unbound.clear();
    };
  }

  feed(event: RawEvent): void {
    if (typeof event !== "object" || event === null) throw noEvent(event);
    if (typeof event.control !== "string") {
      this.counters.ignored++;
      return;
    }
    const t = +event.t;
    const value = +event.value;
    if (this.interceptor !== null && this.isIntercepted(event, t, value)) return;
    this.feeding.feed(event, t, value);
    if (this.presses !== null && value === value && t - t === 0 && this.isRaw(event.control))
      this.presses.note(event);
  }

  /** A player has new tables: it takes other controls. */
  private forgetTakers(player: Player): void {
    this.feeding.forgetTakers();
    const { named } = player.engine.tables;
    this.hub.unbound.forget((control) => named.has(control), player.pad ?? undefined);
  }

  private isIntercepted({ control, pad = 0 }: RawEvent, t: number, value: number): boolean {
    if (value !== value || !(t - t === 0) || !this.isRaw(control)) return false;
    return this.interceptor!.feed({ t, control, value, pad });
  }

  intercept(name: string, interceptor: Interceptor): Off {
    const player = this.playerOf(name);
    mustBeObject(interceptor, "interceptor; it has feed, passed, lost and replaced");
    for (const call of ["feed", "passed", "lost", "replaced"] as const)
      mustCall(interceptor[call], `an interceptor's ${call}`);
    const before = this.interceptor;
    this.interceptor = interceptor;
    before?.replaced();
    // After the events not yet handled: a press among them must not stay down.
    player.losePlace(-1, 0, this.hub.scheduler.events.latest(player.engine.number));
    return () => {
      if (this.interceptor === interceptor) this.interceptor = null;
    };
  }

  onPress(fn: (press: Press) => void): Off {
    mustCall(fn, "onPress(fn)");
    this.presses ??= new Presses(this.hub.scheduler, this.held());
    const { presses } = this;
    const off = presses.listen(fn);
    return () => {
      off();
      if (presses.isEmpty && this.presses === presses) this.presses = null;
    };
  }

  get intercepted(): boolean {
    return this.interceptor !== null;
  }

  held(): readonly Held[] {
    const all = new Map<string, Held>();
    for (const one of this.hub.unbound.held()) all.set(`${one.control} ${one.pad}`, { ...one });
    for (const player of this.players) {
      for (const one of player.heldControls()) {
        const key = `${one.control} ${one.pad}`;
        if (one.value === 0) all.delete(key);
        else all.set(key, one);
      }
    }
    return [...all.values()];
  }

  openSeats(names: readonly string[]): void {
    if (!Array.isArray(names)) throw new ReacherError(`openSeats takes a list of seats, not ${shown(names)}`);
    const playing = names.map((name) => this.playerOf(name));
    if (playing.length === 0) throw new ReacherError("no seat is named; at least one has to play");
    const before = this.open;
    this.open = this.seats.filter((_, n) => playing.includes(this.players[n]!));
    for (const player of this.players) {
      player.useTables(this.hub.tablesFor(player, player.checked));
      if (playing.includes(player) || !before.includes(player.name)) continue;
      this.pads.free(player, undefined);
      player.reset();
    }
    this.running.tellCommand({ openSeats: this.open });
  }

  /** The player whose callback runs, if one does. */
  private get running(): Player {
    return this.players[this.hub.scheduler.running] ?? this.first;
  }

  /** Its own slots; all slots if it plays alone, none if it does not play. */
  private slotsOf(player: Player): readonly string[] {
    if (!this.open.includes(player.name)) return [];
    if (this.open.length === 1 && this.seats.length > 1) return this.hub.plan.slots.map(({ name }) => name);
    return this.hub.plan.seats.find(({ name }) => name === player.name)!.slots;
  }

  assignPad(name: string, pad: number | null, moment?: Moment): void {
    const player = this.playerOf(name);
    const t = momentOf(moment);
    if (this.places !== undefined)
      throw new ReacherError(
        'the plan names no seats, so any pad is the one player\'s; give it "seats" first',
      );
    if (pad !== null && !(Number.isInteger(pad) && pad >= 0))
      throw new ReacherError(`${shown(pad)} is no pad; give the index of a pad, or null`);
    if (pad === null) this.pads.free(player, t);
    else if (this.pads.owner(pad) !== player) this.pads.give(player, pad, t);
  }

  awaitPad(name: string, t?: Moment): void {
    this.pads.await(this.playerOf(name), momentOf(t));
  }

  onPads(fn: (change: PadChange) => void): Off {
    mustCall(fn, "onPads(fn)");
    return this.pads.listen(fn);
  }

  /** Losing the focus concerns everybody; losing a pad its owner, who waits for it. */
  lose(what: "focus" | "pad", ...rest: readonly unknown[]): void {
    const [pad, t] = lostOf(what, rest);
    this.interceptor?.lost(what, pad ?? 0);
    this.presses?.lose(what, pad ?? 0);
    if (pad === undefined) {
      for (const player of this.players) player.losePlace(-1, ALL_SEATS, t);
      return;
    }
    if (this.places === undefined) {
      if (this.pads.owner(pad) === undefined) this.hub.unbound.rest(pad);
      this.pads.lose(pad, t);
      return;
    }
    const place = this.places.leave(pad, t ?? this.hub.scheduler.clock[Clock.Now]!);
    if (place < 0) {
      this.hub.unbound.rest(pad);
      return;
    }
    this.first.losePlace(place, pad, t);
    this.pads.tell({ seat: this.first.name, pad, what: "lost" });
  }

  setPlan(given: object): never {
    const plan = given as Plan;
    const checked = this.resolve(plan);
    const names = (one: CheckedPlan) => (one.seated ? one.seats.map(({ name }) => name).join(", ") : "none");
    if (names(checked) !== names(this.hub.plan))
      throw new PlanError([
        // Written out here, since a game that reads no plans does not ship the table of findings.
        {
          id: "wrong-value",
          severity: "error",
          place: "seats",
          message: `the layer was made for other seats (${names(this.hub.plan)}); make a new one for these`,
        },
      ]);
    const own = this.players.map((player) => player.ownOf(plan));
    this.hub.written = plan;
    this.hub.plan = checked;
    this.players.forEach((player, n) => player.usePlan(plan, own[n]!.written, own[n]!.checked));
    this.running.tellCommand({ plan });
    return this as never;
  }

  step(t: number): Reading {
    if (typeof t !== "number") throw noTime(t);
    this.hub.scheduler.step(+t);
    if (this.interceptor !== null) this.interceptor.passed(+t);
    return this.first.now;
  }

  /** All seats, concatenated. */
  snapshot(into?: Uint8Array): Uint8Array {
    return copyOf(this.engines(), into);
  }

  restore(snapshot: Uint8Array): void {
    putBack(this.engines(), snapshot);
  }

  private engines() {
    return this.players.length === 1 ? this.alone : this.players.map(({ engine }) => engine);
  }
  private readonly alone: readonly Player["engine"][];

  tellAllPulses(): void {
    this.hub.scheduler.tellsAll = true;
  }

  get nextMoment(): number {
    return this.hub.scheduler.clock[Clock.Wake]!;
  }

  fixedSteps(now: number, hz: number, most = 15): readonly number[] {
    const { moments } = this;
    if (!Number.isFinite(now)) throw noTime(now);
    if (!(hz > 0 && hz < Infinity))
      throw new ReacherError(`${shown(hz)} is no rate; give steps per second, above 0`);
    if (!(most >= 1)) throw new ReacherError(`${shown(most)} is no count of steps; give at least 1`);
    const last = Math.floor((now * hz) / 1000);
    const step = this.hub.scheduler.clock[Clock.Now]!;
    const first = step > -Infinity ? Math.floor((step * hz) / 1000 + 1e-6) + 1 : last;
    moments.length = 0;
    for (let n = Math.max(first, last - most + 1); n <= last; n++) moments.push((n * 1000) / hz);
    return moments;
  }

  seat(name: string): Seat {
    return this.playerOf(name);
  }

  private playerOf(name: string): Player {
    const player = this.byName.get(name);
    if (player !== undefined) return player;
    throw new ReacherError(
      `there is no seat ${shown(name)}; this plan has ${this.seats.length === 1 ? "one, " : ""}${this.seats.join(", ")}`,
    );
  }

  uses(control: string): boolean {
    return this.players.some((player) => player.usesAlone(control));
  }

  watch(watcher: LayerWatcher): Off {
    mustBeObject(watcher, "watcher; it is an object with the calls that it listens to");
    const others = () => this.hub.watchers.filter((one) => one !== watcher);
    const show = (watchers: readonly LayerWatcher[]) => {
      // Lists are replaced, not changed: a watcher may remove itself or another while all are notified.
      this.hub.watchers = listOf(watchers);
      for (const player of this.players) player.showWatchers();
    };
    show([...others(), watcher]);
    return () => show(others());
  }
}

function knownTables(plan: CheckedPlan, slots: readonly string[], features: readonly Feature[]): Tables {
  let known = compiled.get(plan);
  if (known === undefined) compiled.set(plan, (known = new Map()));
  const key = slots.join(" ");
  let tables = known.get(key);
  if (tables === undefined) known.set(key, (tables = compile(plan, slots, features)));
  return tables;
}

function noEvent(given: unknown): ReacherError {
  return new ReacherError(
    `${shown(given)} is no event; feed takes { t, control, value }, and pad where it is one's`,
  );
}

/** The scheduler counts skipped pulses itself. */
function countersOf(scheduler: Scheduler): Hub["counters"] {
  return {
    late: 0,
    ignored: 0,
    get skipped() {
      return scheduler.skipped;
    },
  };
}

/** In place of a pad's index: the focus is lost for every seat. */
const ALL_SEATS = 1;

function noOverrides(): never {
  throw new ReacherError("this layer was made of a checked plan; overrides need the plan as it was written");
}

/** Whether a player before this one has bound the control too. */
function isBefore(players: readonly Player[], player: Player, control: string): boolean {
  if (isOnPad(control)) return false;
  for (let n = 0; players[n] !== player; n++) if (players[n]!.findChannel(control) !== undefined) return true;
  return false;
}
