/**
 * The seats of a layer. In: a plan, which seats play, and devices that are lost. Out: each seat with the tables of its slots, and what the seats
 * ask about each other. May change: which seats play, the owners of pads, and the plan.
 */
import { controlsOf, type Controls } from "../controls/ownControls.js";
import type { Adopt, Change, Override, PlanParts, PlayersPlan, Rules } from "./builtParts.js";
import { callEach } from "./calling.js";
import { command } from "./calls/seatPart.js";
import { Clock } from "../engine/clock.js";
import { EventField, EventKind } from "../engine/queue.js";
import { listOf } from "../engine/lists.js";
import { ManySeats } from "../engine/manySeats.js";
import type { Host, Scheduler } from "../engine/scheduler.js";
import type { Tables } from "../engine/tables.js";
import { PADS_TOGETHER } from "../engine/meanings.js";
import type { CheckedPlan } from "../plan/checked.js";
import { mustBeOptions } from "../plan/arguments.js";
import { shown } from "../plan/depth.js";
import { PlanError, ReacherError } from "../plan/errors.js";
import type { Overrides } from "../plan/players/overrides.js";
import type { Plan } from "../plan/types.js";
import { Feeding } from "./feeding.js";
import type { Hub, Member } from "./hub.js";
import { loaded, needsNothing } from "./loaded.js";
import type { Lost } from "./lost.js";
import { PadIndices } from "./padIndices.js";
import { SeatHandle, type TakenSeat } from "./seatHandle.js";
import { SeatPads, TAKEN_AWAY } from "./seatPads.js";
import type { LayerWatcher, Press, RawEvent } from "./types.js";
import { isOnPad, Unbound } from "./unbound.js";

/** What a layer is made with besides its plan. */
export interface LayerParts {
  /** The plan as it was written. */
  readonly written: Plan;
  /** The tables of a plan, as written and as read, for a seat with these slots. */
  readonly tablesOf: (written: Plan, plan: CheckedPlan, slots: readonly string[]) => Tables;
  readonly override?: Override;
  readonly change?: Change;
  readonly adopt?: Adopt;
  readonly opens?: PlanParts["opens"];
  /** Loads what players' keys need, where the tables are made code. */
  readonly bring?: () => Promise<Rules>;
  /** Reads another plan. */
  readonly resolve?: (plan: Plan) => CheckedPlan;
  /** A player's seat that has played without a whole layer until now. */
  readonly taken?: Taken;
  /** What steps its seats, where it steps others as well. */
  readonly scheduler?: Scheduler;
}

/** What a whole layer takes over. */
export interface Taken extends TakenSeat {
  readonly scheduler: Scheduler;
  readonly counters: Hub["counters"];
  readonly pads: PadIndices;
}

/** All seats of a layer, and what they share. */
export class LayerSeats implements Hub, Host {
  readonly scheduler: Scheduler;
  readonly unbound = new Unbound();
  watchers: readonly LayerWatcher[] = listOf();
  readonly counters: Hub["counters"];
  /** The plan as it was written, and as it was read. */
  written: Plan;
  private applied: Override;
  readonly names: readonly string[];
  readonly all: readonly SeatHandle[];
  readonly pads: SeatPads;
  readonly feeding: Feeding;
  controls: Controls;
  /** The seats that play. */
  open: readonly string[];
  /** For a plan without seats: the places of pads. */
  readonly places: PadIndices | undefined;
  private readonly byName: ReadonlyMap<string, SeatHandle>;
  private readonly resolve: (plan: Plan) => CheckedPlan;
  private madeOf: LayerParts["tablesOf"];
  change: Hub["change"];
  adopt: Adopt | undefined;
  private readonly bring: LayerParts["bring"];
  private readonly opens: LayerParts["opens"];

  constructor(
    public plan: CheckedPlan,
    parts: LayerParts,
  ) {
    const { written, tablesOf, override = noOverrides, resolve = noOverrides, bring, change, taken } = parts;
    this.scheduler = taken?.scheduler ?? parts.scheduler ?? new ManySeats();
    this.scheduler.host = this;
    this.counters = taken?.counters ?? { late: 0, ignored: 0, skipped: 0 };
    this.written = written;
    this.controls = controlsOf(plan);
    this.applied = override;
    this.resolve = resolve;
    this.madeOf = tablesOf;
    this.bring = bring;
    this.change = change;
    this.adopt = parts.adopt;
    this.opens = parts.opens;
    this.names = this.open = plan.seats.map(({ name }) => name);
    this.places = plan.seated
      ? undefined
      : (taken?.pads ?? new PadIndices(PADS_TOGETHER, this.scheduler.scratchEvent));
    this.all = plan.seats.map(
      ({ name, slots }) => new SeatHandle(name, this, taken ?? this.tablesOf(plan, slots)),
    );
    this.byName = new Map(this.all.map((player) => [player.name, player]));
    this.pads = new SeatPads(this.all, this);
    this.feeding = new Feeding(this.all, this, this.pads, this.places);
  }

  hearPress(_: number, control: string, pad: number, t: number): void {
    this.ears?.pressed({ control, pad, t });
  }

  hearUnbound(seat: number, control: number, padIndex: number, value: number): void {
    const name = this.controls.nameOf(control);
    const player = this.numbered(seat)!;
    if (!this.isBoundBesides(player, name))
      this.unbound.note(this.controls, name, player.padOf(name, padIndex), value);
  }

  hearLost(seat: number, pad: number, what: number): void {
    if (what >= 0 && pad === TAKEN_AWAY) this.numbered(seat)!.losesPad = false;
    if (what >= 0 || pad === ALL_SEATS)
      this.unbound.lose(this.controls, this.first.engine.tables.devices, what, pad);
  }

  /** The seat of a number. */
  private numbered(seat: number): SeatHandle | undefined {
    return this.all[seat - this.first.engine.number];
  }

  get first(): SeatHandle {
    return this.all[0]!;
  }

  /** Whether the plan names seats: then each has its own pad. */
  get isSeated(): boolean {
    return this.places === undefined;
  }
  /** The player whose callback runs, if one does. */
  private get running(): SeatHandle {
    return this.numbered(this.scheduler.running) ?? this.first;
  }

  /** @throws ReacherError if the plan has no seat of this name */
  named(name: string): SeatHandle {
    const player = this.byName.get(name);
    if (player !== undefined) return player;
    throw new ReacherError(
      `there is no seat ${shown(name)}; this plan has ${this.names.length === 1 ? "one, " : ""}${this.names.join(", ")}`,
    );
  }

  /** These seats play, and no others. */
  play(names: readonly string[], options: { readonly pads?: string; readonly pad?: number } = {}): void {
    if (!Array.isArray(names)) throw new ReacherError(`openSeats takes a list of seats, not ${shown(names)}`);
    const playing = names.map((name) => this.named(name as string));
    if (playing.length === 0) throw new ReacherError("no seat is named; at least one has to play");
    mustBeOptions(options);
    const { pads, pad } = options;
    if (pads !== undefined && pads !== "ask" && pads !== "give")
      throw new ReacherError(`pads is ${shown(pads)}; it is "ask" or "give"`);
    if (this.isSeated && this.isMade && this.change === undefined)
      throw new ReacherError(
        "this game was built with code for its seats as they are at the start, without openSeats; build it with --calls openSeats, or without --fixed-keys",
      );
    const before = this.open;
    this.open = this.names.filter((_, n) => playing.includes(this.all[n]!));
    let joining: SeatHandle | undefined;
    if (pad !== undefined) {
      const able = playing.filter(
        (player) => !before.includes(player.name) && this.tablesFor(player, player.checked).usesPads,
      );
      if (!(Number.isInteger(pad) && pad >= 0) || able.length !== 1 || !this.isSeated) {
        this.open = before;
        const who = able.length === 0 ? "none is" : `these are: ${able.map(({ name }) => name).join(", ")}`;
        throw new ReacherError(
          Number.isInteger(pad) && pad >= 0
            ? `pad ${pad} is for one newly opened seat that takes pads; ${who}`
            : `${shown(pad)} is no pad; give the index of one`,
        );
      }
      joining = able[0];
    }
    if (pads !== undefined) this.pads.asks = pads === "ask";
    for (const player of this.all) {
      player.useTables(this.tablesFor(player, player.checked));
      if (playing.includes(player) || !before.includes(player.name)) continue;
      this.pads.free(player, undefined);
      // Not by the game's own call, which a game may be built without.
      command(player, EventKind.Reset, 0, 0, undefined);
    }
    this.running.notifyCommand({ openSeats: this.open });
    if (joining !== undefined) this.pads.give(joining, pad!, undefined);
  }

  /** Losing the focus or a device of own controls concerns everybody; losing a pad its owner, who waits for it. */
  lose(lost: Lost, t: number | undefined): void {
    if (typeof lost === "string") {
      for (const player of this.all) player.loseAt(player.lossOf(lost), ALL_SEATS, t);
      return;
    }
    const pad = lost;
    if (this.places === undefined) {
      if (this.pads.owner(pad) === undefined) this.unbound.rest(pad);
      this.pads.lose(pad, t);
      return;
    }
    const padIndex = this.places.free(pad, t ?? this.scheduler.clock[Clock.Now]!);
    if (padIndex < 0) {
      this.unbound.rest(pad);
      return;
    }
    this.first.loseAt(padIndex, pad, t);
    this.pads.notify({ seat: this.first.name, pad, what: "lost" });
  }

  /** A plan with a player's changes, or without any. @throws ReacherError if these are not overrides */
  override(written: Plan, overrides: Overrides | null): PlayersPlan {
    if (overrides !== null) return this.applied(written, overrides);
    return { written, checked: this.resolve(written), faults: [] };
  }

  /** Whether code that was made for the plan plays, which knows no other keys and no other slots. */
  private get isMade(): boolean {
    return this.first.engine.tables.bind !== undefined;
  }

  /**
   * Made code gives way to the rules, between two steps: nothing that a game sees changes. Given overrides, only if these need the rules. @throws
   * ReacherError if they do not come
   */
  async bringRules(overrides?: Overrides | null): Promise<void> {
    if (!this.isMade || needsNothing(overrides, this.opens)) return;
    const rules = await loaded(this.bring);
    const known = rules.ownPlans(this.written, this.plan);
    for (const player of this.all)
      await rules.prepare(known.of(player.overrides).checked, this.slotsOf(player));
    if (!this.isMade) return;
    this.adopt = undefined;
    for (const player of this.all) {
      ({ written: player.own, checked: player.checked } = known.of(player.overrides));
      rules.exchange(player.engine, rules.tablesOf(player.checked, this.slotsOf(player)), player.now);
    }
    this.applied = rules.override;
    this.change = rules.change;
    this.madeOf = (_, checked, slots) => rules.tablesOf(checked, slots);
    for (const player of this.all) this.tablesChanged(player);
  }

  /** Switches to another plan with the same seats. */
  usePlan(written: Plan): void {
    if (this.isMade)
      throw new ReacherError(
        "this game was built with code for its own plan alone, without setPlan; build it with --calls setPlan, or without --fixed-keys",
      );
    const checked = this.resolve(written);
    const names = (plan: CheckedPlan) =>
      plan.seated ? plan.seats.map(({ name }) => name).join(", ") : "none";
    if (names(checked) !== names(this.plan))
      throw new PlanError([
        // Written out here, since a game that reads no plans does not ship the table of findings.
        {
          id: "wrong-value",
          severity: "error",
          place: "seats",
          message: `the layer was made for other seats (${names(this.plan)}); make a new one for these`,
        },
      ]);
    const own = this.all.map((player) => player.ownOf(written));
    this.written = written;
    this.plan = checked;
    this.controls = controlsOf(checked);
    this.feeding.forgetListening();
    this.all.forEach((player, n) => player.usePlan(written, own[n]!.written, own[n]!.checked));
    this.running.notifyCommand({ plan: written });
  }

  /** Its own slots; all slots if it plays alone, none if it does not play. */
  slotsOf({ name }: Member): readonly string[] {
    if (!this.open.includes(name)) return [];
    if (this.open.length === 1 && this.names.length > 1) return this.plan.slots.map((slot) => slot.name);
    return this.plan.seats.find((seat) => seat.name === name)!.slots;
  }

  tablesFor(player: Member, plan: CheckedPlan): Tables {
    const own = player.engine.tables;
    if (!this.isMade) return this.tablesOf(plan, this.slotsOf(player));
    // Made code may be of these slots alone.
    if (this.change === undefined) return own;
    const tables = this.tablesOf(plan, this.slotsOf(player));
    return tables.print === own.print && tables.plan === own.plan ? own : tables;
  }

  private tablesOf(plan: CheckedPlan, slots: readonly string[]): Tables {
    return this.madeOf(this.written, plan, slots);
  }

  tablesChanged({ engine, pad }: Member): void {
    this.feeding.forgetListening();
    // A seat without a pad tracks none of those that are free.
    const own = this.isSeated ? (pad ?? NO_PAD) : undefined;
    this.unbound.forget((control) => engine.tables.named.has(control), own);
  }

  /** Tells watchers that a seat, or all, are back where a snapshot was taken. */
  notifyRestored(seat?: string): void {
    // A loss that waited is dropped.
    for (const player of this.all) if (seat === undefined || seat === player.name) player.losesPad = false;
    if (this.watchers.length === 0) return;
    const t = this.scheduler.clock[Clock.Now]!;
    callEach(this.watchers, (watcher) => watcher.restored?.(t, seat));
  }

  /** For a plan without seats: the pads that have a place, in order. */
  padPlaces(): readonly number[] {
    return this.places?.all() ?? [];
  }

  /** Gives this pad the next place, as if it had been there from the beginning. */
  placePad(pad: number): void {
    this.scheduler.scratchEvent[EventField.T] = -Infinity;
    this.places?.indexOf(pad);
  }

  padAt({ pad }: Member, padIndex: number): number {
    return this.places?.padAt(padIndex) ?? pad ?? 0;
  }

  padIndexOf({ pad: own }: Member, pad: number): number {
    return this.places?.indexOf(pad) ?? (own === pad ? 0 : -1);
  }

  freePadIndex({ pad: own }: Member, pad: number, t: number): number {
    return this.places?.free(pad, t) ?? (own === pad ? 0 : -1);
  }

  deviceValue(player: Member, control: string, pad: number): number {
    if (this.isSeated && player.pad === null && isOnPad(control)) return 0;
    const known = isOnPad(control) ? undefined : this.others(player, control)[0]?.heldValue(control);
    return known ?? this.unbound.valueOf(control, pad);
  }

  isBoundBesides(player: Member, control: string): boolean {
    return !isOnPad(control) && this.others(player, control).length > 0;
  }

  private others(player: Member, control: string): SeatHandle[] {
    return this.all.filter((handle) => handle !== player && handle.findChannel(control) !== undefined);
  }

  shareEvents(player: Member, before: Tables): void {
    this.feeding.share(player, before);
  }

  /** Who hears of events before the seats, and after them; and of any press at its moment. */
  ears: {
    isIntercepted(event: RawEvent): boolean;
    heard(event: RawEvent): void;
    pressed(press: Press): void;
  } | null = null;

  feedSeat(player: SeatHandle, event: RawEvent): void {
    const { ears } = this;
    this.feeding.mustBeOwn(event.control);
    if (ears !== null && ears.isIntercepted(event)) return;
    this.feeding.feedSeat(player, event);
    if (ears !== null) ears.heard(event);
  }

  isShared(player: Member, control: string): boolean {
    if (isOnPad(control)) return false;
    const { all } = this;
    for (let n = 0; all[n] !== player; n++) if (all[n]!.findChannel(control) !== undefined) return true;
    return false;
  }
}

/** In place of a pad's index: a seat has none. */
const NO_PAD = -1;

/** In place of a pad's index: the focus is lost for every seat. */
const ALL_SEATS = 1;

function noOverrides(): never {
  throw new ReacherError("this layer was made of a checked plan; overrides need the plan as it was written");
}
