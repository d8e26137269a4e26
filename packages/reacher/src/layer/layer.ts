/**
 * The input layer: distributes events to the seats and steps them. May change: the owners of pads, and the seats'
 * states, each by its own events.
 */
import type { CheckedPlan, CheckedSeat } from "../plan/checked.js";
import { PlanError, ReacherError } from "../plan/findings.js";
import type { Plan } from "../plan/types.js";
import { Clock } from "../engine/clock.js";
import { compile, type Feature } from "../engine/compile.js";
import { PADS_TOGETHER } from "../engine/wiring.js";
import { listOf } from "../engine/lists.js";
import { Slot } from "../engine/queue.js";
import type { Reading } from "../engine/readings.js";
import { Scheduler } from "../engine/scheduler.js";
import type { Channel } from "../engine/signals.js";
import type { Tables } from "../engine/tables.js";
import { PadPlaces } from "./padPlaces.js";
import { Player, type Hub } from "./player.js";
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
import { Unbound } from "./unbound.js";

/** Tables compiled before; layers of one plan share them. */
const compiled = new WeakMap<CheckedPlan, Map<string, Tables>>();

/** What a layer is made with besides its plan. */
export interface LayerParts {
  /** The plan as it was written. */
  readonly written: Plan;
  /** What the layer supports; a plan that needs more is an error. */
  readonly features: readonly Feature[];
  /** Whether this is the name of a raw control, as devices report it. */
  readonly isRaw?: (name: string) => boolean;
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
  return (input as Layer).nextMoment;
}

/** Announces every pulse, however long a step is: for replays. */
export function tellAllPulses(input: InputLayer): void {
  (input as Layer).tellAllPulses();
}

/** The players that have bound a control, and its channel in each. */
interface Takers {
  readonly players: Player[];
  readonly channels: Channel[];
}

const NOBODY: Takers = { players: listOf(), channels: listOf() };

class Layer extends Player implements InputLayer {
  declare readonly counters: Hub["counters"];
  readonly seats: readonly string[];
  /** All players; the layer itself is the first. */
  private readonly players: readonly Player[];
  private readonly byName: ReadonlyMap<string, Player>;
  /** For a plan without seats: the places of pads. */
  private readonly places: PadPlaces | undefined;
  /** For a plan with seats: the owners of pads. */
  private readonly pads: SeatPads;
  /** The players that take a key or a mouse movement, by name; and the last name looked up. */
  private readonly takers = new Map<string, Takers>();
  private recentTakers: Takers = NOBODY;
  private recentKey = "";
  /** The channels of the pad's two controls fed last, for seats with these tables: a stick's axes alternate. */
  private padTables: Tables | undefined;
  private padControl = "";
  private padChannel: Channel | undefined;
  private olderPadControl = "";
  private olderPadChannel: Channel | undefined;
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
      isRaw = () => true,
      override = noOverrides,
      resolve = noOverrides,
      featuresOf = () => features,
    }: LayerParts,
  ) {
    const scheduler = new Scheduler();
    const places = plan.seated ? undefined : new PadPlaces(PADS_TOGETHER, scheduler.fed);
    const players: Player[] = [];
    const tablesOf = (own: CheckedPlan, slots: readonly string[]) =>
      knownTables(own, slots, featuresOf(hub.written));
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
      tablesChanged: (player) => this.forgetTakers(player),
      isShared: (player, control) => isBefore(players, player, control),
    };
    const [first, ...others] = plan.seats as [CheckedSeat, ...CheckedSeat[]];
    super(first.name, hub, tablesOf(plan, first.slots));
    players.push(this, ...others.map(({ name, slots }) => new Player(name, hub, tablesOf(plan, slots))));
    this.players = players;
    this.byName = new Map(players.map((player) => [player.name, player]));
    this.open = this.seats = players.map(({ name }) => name);
    this.counters = hub.counters;
    this.isRaw = isRaw;
    this.resolve = resolve;
    this.places = places;
    this.pads = new SeatPads(players, hub);
  }

  feed(event: RawEvent): void {
    if (typeof event !== "object" || event === null) throw noEvent(event);
    const t = +event.t;
    const value = +event.value;
    if (this.interceptor !== null && this.isIntercepted(event, t, value)) return;
    this.hand(event, t, value);
    if (this.presses !== null && value === value && t - t === 0 && this.isRaw(event.control))
      this.presses.note(event);
  }

  /** Distributes an event to the seats. */
  private hand(event: RawEvent, t: number, value: number): void {
    const { control } = event;
    const { fed } = this.hub.scheduler;
    fed[Slot.T] = t;
    fed[Slot.Value] = value;
    const isNumber = value === value && t - t === 0;
    if (this.places === undefined) {
      if (!isNumber || !this.feedPlayers(control, event.pad === undefined ? 0 : event.pad))
        this.ignore(event, isNumber);
      return;
    }
    const channel = this.channelOf(control);
    if (channel === undefined || !isNumber) {
      this.ignore(event, isNumber && channel === undefined);
      return;
    }
    let place = 0;
    if (channel.places > 1) {
      place = this.places.placeOf(event.pad === undefined ? 0 : event.pad);
      if (place < 0) {
        this.counters.ignored++;
        return;
      }
    }
    if (this.hub.scheduler.addControl(this.engine.number, channel, place)) this.counters.late++;
  }

  /** Counts a value that is not a number, or an unknown control, as a fault; an unbound control is not one. */
  private ignore({ control, pad, value }: RawEvent, isUnbound: boolean): void {
    if (isUnbound && this.isRaw(control)) this.hub.unbound.note(control, pad, +value);
    else this.counters.ignored++;
  }

  /** Keyboard and mouse go to all players that have bound the control, a pad to its seat; false if nothing takes it. */
  private feedPlayers(control: string, pad: number): boolean {
    if (control === this.recentKey) return this.feedTakers(this.recentTakers);
    const isPad =
      control === this.padControl || control === this.olderPadControl || control.startsWith("Pad");
    return isPad ? this.feedPad(control, pad) : this.feedTakers(this.takersOf(control));
  }

  private feedTakers({ players, channels }: Takers): boolean {
    const { scheduler } = this.hub;
    const { fed } = scheduler;
    const t = fed[Slot.T]!;
    for (let n = 0; n < players.length; n++) {
      fed[Slot.T] = t;
      if (scheduler.addControl(players[n]!.engine.number, channels[n]!, 0)) this.counters.late++;
    }
    return players.length > 0;
  }

  /** A pad's control goes to the pad's seat; false if that has not bound it. */
  private feedPad(control: string, pad: number): boolean {
    const { scheduler } = this.hub;
    const seat = this.pads.plugged.get(pad) ?? this.seatTaking(control, pad);
    if (seat === undefined) return false;
    const tables = scheduler.tables[seat]!;
    const channel =
      tables !== this.padTables
        ? this.lookUpPad(control, tables)
        : control === this.padControl
          ? this.padChannel
          : control === this.olderPadControl
            ? this.olderPadChannel
            : this.lookUpPad(control, tables);
    if (channel === undefined) return false;
    if (scheduler.addControl(seat, channel, 0)) this.counters.late++;
    return true;
  }

  /** The number of the seat that this event gives a free pad to. */
  private seatTaking(control: string, pad: number): number | undefined {
    if (!this.isRaw(control)) return undefined;
    const { fed } = this.hub.scheduler;
    const t = fed[Slot.T]!;
    const value = fed[Slot.Value]!;
    const seat = this.pads.takenBy(pad, value, t)?.engine.number;
    // A callback may have fed something else meanwhile.
    fed[Slot.T] = t;
    fed[Slot.Value] = value;
    return seat;
  }

  /** The channel of a pad's control that is not among the last two. */
  private lookUpPad(control: string, tables: Tables): Channel | undefined {
    const known = tables === this.padTables;
    this.olderPadControl = known ? this.padControl : "";
    this.olderPadChannel = known ? this.padChannel : undefined;
    this.padTables = tables;
    this.padControl = control;
    return (this.padChannel = tables.byName.get(control));
  }

  /** The players that have bound a key or a mouse movement. */
  private takersOf(control: string): Takers {
    let takers = this.takers.get(control);
    if (takers === undefined) {
      takers = { players: listOf(), channels: listOf() };
      for (const player of this.players) {
        const channel = player.findChannel(control);
        if (channel === undefined) continue;
        takers.players.push(player);
        takers.channels.push(channel);
      }
      // Unbound names are not cached: names from outside would fill the memory.
      if (takers.players.length === 0) return takers;
      this.takers.set(control, takers);
    }
    this.recentKey = control;
    return (this.recentTakers = takers);
  }

  /** A player has new tables: cached channels are dropped. */
  private forgetTakers(player: Player): void {
    this.takers.clear();
    this.recentKey = "";
    this.recentTakers = NOBODY;
    this.padTables = undefined;
    const { named } = player.engine.tables;
    this.hub.unbound.forget((control) => named.has(control), player.pad ?? undefined);
  }

  private isIntercepted({ control, pad = 0 }: RawEvent, t: number, value: number): boolean {
    if (value !== value || !(t - t === 0) || !this.isRaw(control)) return false;
    return this.interceptor!.feed({ t, control, value, pad });
  }

  intercept(name: string, interceptor: Interceptor): Off {
    const player = this.playerOf(name);
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
    for (const watcher of this.hub.watchers)
      watcher.open?.(this.engine.clock[Clock.Now]!, this.open, this.isAfter());
  }

  /** Whether everything due at this moment has been handled: by the running seat, if a callback runs. */
  private isAfter(): boolean {
    const { running } = this.hub.scheduler;
    return (this.players[running] ?? this).engine.isAfter;
  }

  /** Its own slots; all slots if it plays alone, none if it does not play. */
  private slotsOf(player: Player): readonly string[] {
    if (!this.open.includes(player.name)) return [];
    if (this.open.length === 1 && this.seats.length > 1) return this.checked.slots.map(({ name }) => name);
    return this.hub.plan.seats.find(({ name }) => name === player.name)!.slots;
  }

  assignPad(name: string, pad: number | null, t?: number): void {
    const player = this.playerOf(name);
    if (this.places !== undefined)
      throw new ReacherError(
        'the plan names no seats, so any pad is the one player\'s; give it "seats" first',
      );
    if (pad !== null && !(Number.isInteger(pad) && pad >= 0))
      throw new ReacherError(`${pad} is no pad; give the index of a pad, or null`);
    if (pad === null) this.pads.free(player, t);
    else if (this.pads.owner(pad) !== player) this.pads.give(player, pad, t);
  }

  awaitPad(name: string, t?: number): void {
    this.pads.await(this.playerOf(name), t);
  }

  onPads(fn: (change: PadChange) => void): Off {
    return this.pads.listen(fn);
  }

  /** Losing the focus concerns everybody; losing a pad its owner, who waits for it. */
  override lose(what: "focus" | "pad", t?: number, pad = 0): void {
    this.interceptor?.lost(what, pad);
    this.presses?.lose(what, pad);
    if (what === "focus") {
      this.hub.unbound.clear();
      for (const player of this.players) player.losePlace(-1, 0, t);
      return;
    }
    this.hub.unbound.rest(pad);
    if (this.places === undefined) {
      this.pads.lose(pad, t);
      return;
    }
    const place = this.places.leave(pad, t ?? this.engine.clock[Clock.Now]!);
    if (place < 0) return;
    this.losePlace(place, pad, t);
    this.pads.tell({ seat: this.name, pad, what: "lost" });
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
    for (const watcher of this.hub.watchers) watcher.plan?.(this.engine.clock[Clock.Now]!, plan);
    return this as never;
  }

  step(t: number): Reading {
    const until = +t;
    this.hub.scheduler.step(until);
    if (this.interceptor !== null) this.interceptor.passed(until);
    return this.now;
  }

  /** All seats, concatenated. */
  override snapshot(into?: Uint8Array): Uint8Array {
    return copyOf(this.engines(), into);
  }

  override restore(snapshot: Uint8Array): void {
    putBack(this.engines(), snapshot);
  }

  private engines() {
    return this.players.length === 1 ? this.alone : this.players.map(({ engine }) => engine);
  }
  private readonly alone = [this.engine];

  tellAllPulses(): void {
    this.hub.scheduler.tellsAll = true;
  }

  get nextMoment(): number {
    return this.hub.scheduler.clock[Clock.Wake]!;
  }

  fixedSteps(now: number, hz: number, most = 15): readonly number[] {
    const { moments } = this;
    const last = Math.floor((now * hz) / 1000);
    const step = this.engine.clock[Clock.Now]!;
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
      `there is no seat ${JSON.stringify(name)}; this plan has ${this.seats.length === 1 ? "one, " : ""}${this.seats.join(", ")}`,
    );
  }

  override uses(control: string): boolean {
    return this.players.some((player) => player.usesAlone(control));
  }

  watch(watcher: LayerWatcher): Off {
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
    `${String(given)} is no event; feed takes { t, control, value }, and pad where it is one's`,
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

function noOverrides(): never {
  throw new ReacherError("this layer was made of a checked plan; overrides need the plan as it was written");
}

/** Whether a player before this one has bound the control too. */
function isBefore(players: readonly Player[], player: Player, control: string): boolean {
  if (control.startsWith("Pad")) return false;
  for (let n = 0; players[n] !== player; n++) if (players[n]!.findChannel(control) !== undefined) return true;
  return false;
}
