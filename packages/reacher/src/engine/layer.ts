/**
 * The input layer: what devices feed goes to the seats, and steps carry them all. May change: which pad is whose, and the
 * seats' states, each by its own events.
 */
import type { CheckedPlan, CheckedSeat } from "../plan/checked.js";
import { ReacherError } from "../plan/findings.js";
import { compilePlan } from "./compile/compile.js";
import { PADS_TOGETHER } from "./compile/draft.js";
import type { Held, InputLayer, Interceptor, LayerWatcher, Off, PadChange, RawEvent, Seat } from "./face.js";
import { Clock } from "./layout.js";
import { PadPlaces } from "./padPlaces.js";
import type { Reading } from "./readings.js";
import { Roster } from "./roster.js";
import { SeatPads } from "./seatPads.js";
import { SeatCore, type Hub } from "./seat.js";
import { listOf } from "./lists.js";
import type { ChannelTable, Tables } from "./tables.js";
import { Unbound } from "./unbound.js";

export type * from "./face.js";
export { stateBehind } from "./seat.js";

/** Tables that layers were made of before; many layers of one plan share them. */
const compiled = new WeakMap<CheckedPlan, Map<string, Tables>>();

/** The tables of a plan for a seat with these slots. */
function tablesOf(plan: CheckedPlan, slots: readonly string[]): Tables {
  let known = compiled.get(plan);
  if (known === undefined) compiled.set(plan, (known = new Map()));
  const key = slots.join(" ");
  let tables = known.get(key);
  if (tables === undefined) known.set(key, (tables = compilePlan(plan, slots)));
  return tables;
}

/** Makes an input layer of a plan that was read before. `isRaw`: whether devices report a control of this name. */
export function createCheckedLayer(
  plan: CheckedPlan,
  isRaw: (name: string) => boolean = () => true,
  override: Hub["override"] = () => {
    throw new ReacherError(
      "this layer was made of a checked plan; overrides need the plan as it was written",
    );
  },
): InputLayer {
  return new Layer(plan, isRaw, override);
}

/** The seats that have bound a control, and its channel in each. */
interface Takers {
  readonly seats: SeatCore[];
  readonly channels: ChannelTable[];
}

const NOBODY: Takers = { seats: listOf(), channels: listOf() };

class Layer extends SeatCore implements InputLayer {
  declare readonly counters: { late: number; ignored: number };
  readonly seats: readonly string[];
  /** All seats, of which the layer itself is the first. */
  private readonly cores: readonly SeatCore[];
  private readonly byName: ReadonlyMap<string, SeatCore>;
  /** Of a plan without seats: where its pads stand. */
  private readonly places: PadPlaces | undefined;
  /** Of a plan with seats: whose each pad is. */
  private readonly pads: SeatPads;
  /** Who takes a key or a move of the mouse, by its name; and the name that was asked for last. */
  private readonly takers = new Map<string, Takers>();
  private recentTakers: Takers = NOBODY;
  private recentKey = "";
  /** The channels of the pad's two controls that were fed last, for seats with these tables: a stick's axes come by turns. */
  private padTables: Tables | undefined;
  private padControl = "";
  private padChannel: ChannelTable | undefined;
  private olderPadControl = "";
  private olderPadChannel: ChannelTable | undefined;
  open: readonly string[];
  private readonly moments: number[] = [];
  private interceptor: Interceptor | null = null;
  private readonly unbound = new Unbound();

  constructor(
    plan: CheckedPlan,
    private readonly isRaw: (name: string) => boolean,
    override: Hub["override"],
  ) {
    const places = plan.seated ? undefined : new PadPlaces(PADS_TOGETHER);
    const cores: SeatCore[] = [];
    const hub: Hub = {
      plan,
      override,
      tablesFor: (seat, own) => tablesOf(own, this.slotsOf(seat)),
      slotsOf: (seat) => this.slotsOf(seat),
      roster: new Roster(),
      watchers: listOf(),
      counters: { late: 0, ignored: 0 },
      padAt: (seat, place) => places?.padAt(place) ?? seat.pad ?? 0,
      tablesChanged: () => this.forgetTakers(),
      isShared: (seat, control) => isBefore(cores, seat, control),
    };
    const [first, ...others] = plan.seats as [CheckedSeat, ...CheckedSeat[]];
    super(first.name, hub, tablesOf(plan, first.slots));
    cores.push(this, ...others.map(({ name, slots }) => new SeatCore(name, hub, tablesOf(plan, slots))));
    this.cores = cores;
    this.byName = new Map(cores.map((seat) => [seat.name, seat]));
    this.open = this.seats = cores.map(({ name }) => name);
    this.counters = hub.counters;
    this.places = places;
    this.pads = new SeatPads(cores, hub);
  }

  feed(event: RawEvent): void {
    const { control } = event;
    const t = +event.t;
    const value = +event.value;
    if (this.interceptor !== null && this.isIntercepted(event, t, value)) return;
    if (this.places === undefined) {
      this.feedSeats(event, control, t, value);
      return;
    }
    const channel = this.channelOf(control);
    if (channel === undefined || value !== value || !(t - t === 0)) {
      // A control that nobody bound is no fault.
      if (channel !== undefined || !this.isRaw(control)) this.counters.ignored++;
      else this.unbound.note(control, event.pad, value);
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
    this.takeEvent(channel, place, t, value);
  }

  /** Keyboard and mouse go to whoever has bound the control, a pad to its seat. */
  private feedSeats(event: RawEvent, control: string, t: number, value: number): void {
    if (value === value && t - t === 0) {
      if (control === this.recentKey) {
        this.feedTakers(this.recentTakers, t, value);
        return;
      }
      const isPad =
        control === this.padControl || control === this.olderPadControl || control.startsWith("Pad");
      if (isPad) {
        if (this.feedPad(control, event.pad === undefined ? 0 : event.pad, t, value)) return;
      } else {
        const takers = this.takersOf(control);
        this.feedTakers(takers, t, value);
        if (takers.seats.length > 0) return;
      }
    }
    // What is no number, or no control, is a fault; a control that nobody bound is none.
    if (value !== value || !(t - t === 0) || !this.isRaw(control)) this.counters.ignored++;
    else this.unbound.note(control, event.pad, value);
  }

  private feedTakers({ seats, channels }: Takers, t: number, value: number): void {
    for (let n = 0; n < seats.length; n++) seats[n]!.takeEvent(channels[n]!, 0, t, value);
  }

  /** A pad's control goes to the pad's seat; false where that has not bound it. */
  private feedPad(control: string, pad: number, t: number, value: number): boolean {
    const { roster } = this.hub;
    const seat =
      this.pads.plugged.get(pad) ??
      (this.isRaw(control) ? this.pads.takenBy(pad, value, t)?.state.number : undefined);
    if (seat === undefined) return false;
    const tables = roster.tables[seat]!;
    const channel =
      tables !== this.padTables
        ? this.lookPad(control, tables)
        : control === this.padControl
          ? this.padChannel
          : control === this.olderPadControl
            ? this.olderPadChannel
            : this.lookPad(control, tables);
    if (channel === undefined) return false;
    const clamped = value > channel.most ? channel.most : value < channel.least ? channel.least : value;
    if (roster.addControl(seat, channel, 0, t, clamped)) this.counters.late++;
    return true;
  }

  /** The channel of a pad's control that was not fed lately. */
  private lookPad(control: string, tables: Tables): ChannelTable | undefined {
    const known = tables === this.padTables;
    this.olderPadControl = known ? this.padControl : "";
    this.olderPadChannel = known ? this.padChannel : undefined;
    this.padTables = tables;
    this.padControl = control;
    const id = tables.channels.get(control);
    return (this.padChannel = id === undefined ? undefined : tables.channel[id]);
  }

  /** The seats that have bound a key or a move of the mouse. */
  private takersOf(control: string): Takers {
    let takers = this.takers.get(control);
    if (takers === undefined) {
      takers = { seats: listOf(), channels: listOf() };
      for (const seat of this.cores) {
        const channel = seat.channelOf(control);
        if (channel === undefined) continue;
        takers.seats.push(seat);
        takers.channels.push(channel);
      }
      // What nobody has bound is not kept: names from outside would fill the memory.
      if (takers.seats.length === 0) return takers;
      this.takers.set(control, takers);
    }
    this.recentKey = control;
    return (this.recentTakers = takers);
  }

  /** A seat has other tables: what was known of its channels is so no more. */
  private forgetTakers(): void {
    this.takers.clear();
    this.recentKey = "";
    this.recentTakers = NOBODY;
    this.padTables = undefined;
  }

  private isIntercepted({ control, pad = 0 }: RawEvent, t: number, value: number): boolean {
    if (value !== value || !(t - t === 0) || !this.isRaw(control)) return false;
    return this.interceptor!.feed({ t, control, value, pad });
  }

  intercept(name: string, interceptor: Interceptor): Off {
    const seat = this.coreOf(name);
    const before = this.interceptor;
    this.interceptor = interceptor;
    before?.replaced();
    const { events, number } = seat.state;
    // After what is fed and not yet handled: a press among it is not to stay down.
    seat.losePlace(-1, 0, events.latest(number));
    return () => {
      if (this.interceptor === interceptor) this.interceptor = null;
    };
  }

  get intercepted(): boolean {
    return this.interceptor !== null;
  }

  held(): readonly Held[] {
    const all = new Map<string, Held>();
    for (const one of this.unbound.held()) all.set(`${one.control} ${one.pad}`, { ...one });
    for (const seat of this.cores) {
      for (const { control, place, value } of seat.heldControls()) {
        const pad = control.startsWith("Pad") ? this.hub.padAt(seat, place) : 0;
        const key = `${control} ${pad}`;
        if (value === 0) all.delete(key);
        else all.set(key, { control, pad, value });
      }
    }
    return [...all.values()];
  }

  openSeats(names: readonly string[]): void {
    const playing = names.map((name) => this.coreOf(name));
    if (playing.length === 0) throw new ReacherError("no seat is named; at least one has to play");
    const before = this.open;
    this.open = this.seats.filter((_, n) => playing.includes(this.cores[n]!));
    for (const seat of this.cores) {
      seat.useTables(tablesOf(seat.own, this.slotsOf(seat)));
      if (playing.includes(seat) || !before.includes(seat.name)) continue;
      this.pads.free(seat, undefined);
      seat.reset();
    }
    for (const watcher of this.hub.watchers) watcher.open?.(this.state.clock[Clock.Now]!, this.open);
  }

  /** Its own slots; all of them where it plays alone, none where it does not play. */
  private slotsOf(seat: SeatCore): readonly string[] {
    if (!this.open.includes(seat.name)) return [];
    if (this.open.length === 1 && this.seats.length > 1) return this.plan.slots.map(({ name }) => name);
    return this.plan.seats.find(({ name }) => name === seat.name)!.slots;
  }

  assignPad(name: string, pad: number | null, t?: number): void {
    const seat = this.coreOf(name);
    if (this.places !== undefined)
      throw new ReacherError(
        'the plan names no seats, so any pad is the one player\'s; give it "seats" first',
      );
    if (pad !== null && !(Number.isInteger(pad) && pad >= 0))
      throw new ReacherError(`${pad} is no pad; give the index of a pad, or null`);
    if (pad === null) this.pads.free(seat, t);
    else if (this.pads.owner(pad) !== seat) this.pads.give(seat, pad, t);
  }

  onPads(fn: (change: PadChange) => void): Off {
    return this.pads.listen(fn);
  }

  /** The window's focus is everybody's; a pad is its owner's, who waits for it. */
  override lose(what: "focus" | "pad", t?: number, pad = 0): void {
    this.interceptor?.lost(what, pad);
    if (what === "pad") this.unbound.rest(pad);
    if (what === "focus") {
      this.unbound.clear();
      for (const seat of this.cores) seat.losePlace(-1, 0, t);
      return;
    }
    if (this.places !== undefined) {
      const place = this.places.leave(pad);
      if (place < 0) return;
      this.losePlace(place, pad, t);
      this.pads.tell({ seat: this.name, pad, what: "lost" });
      return;
    }
    this.pads.lose(pad, t);
  }

  step(t: number): Reading {
    if (this.interceptor !== null) this.interceptor.passed(+t);
    this.hub.roster.step(+t);
    return this.now;
  }

  fixedSteps(now: number, hz: number, most = 15): readonly number[] {
    const { moments } = this;
    moments.length = 0;
    const last = Math.floor((now * hz) / 1000);
    const begun = this.state.clock[Clock.Now]! > -Infinity;
    const first = begun ? Math.floor((this.state.clock[Clock.Now]! * hz) / 1000 + 1e-6) + 1 : last;
    for (let n = Math.max(first, last - most + 1); n <= last; n++) moments.push((n * 1000) / hz);
    return moments;
  }

  seat(name: string): Seat {
    return this.coreOf(name);
  }

  private coreOf(name: string): SeatCore {
    const seat = this.byName.get(name);
    if (seat !== undefined) return seat;
    throw new ReacherError(
      `there is no seat ${JSON.stringify(name)}; this plan has ${this.seats.length === 1 ? "one, " : ""}${this.seats.join(", ")}`,
    );
  }

  override uses(control: string): boolean {
    return this.cores.some((seat) => seat.usesAlone(control));
  }

  watch(watcher: LayerWatcher): Off {
    const others = () => this.hub.watchers.filter((one) => one !== watcher);
    const show = (watchers: readonly LayerWatcher[]) => {
      // Lists are replaced, not changed: a watcher may end itself or another while all are told.
      this.hub.watchers = listOf(watchers);
      for (const seat of this.cores) seat.showWatchers();
    };
    show([...others(), watcher]);
    return () => show(others());
  }
}

/** Whether a seat before this one has bound the control. */
function isBefore(cores: readonly SeatCore[], seat: SeatCore, control: string): boolean {
  if (control.startsWith("Pad")) return false;
  return cores.slice(0, cores.indexOf(seat)).some((one) => one.state.tables.channels.has(control));
}
