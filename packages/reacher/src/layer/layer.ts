/**
 * The input layer, as a game calls it: takes events, steps the seats, and lets others intercept, watch and ask. In: events and calls. Out:
 * the first seat's reading. It has seats, and is none. May change: who intercepts, and who waits for any press.
 */
import type { Overrides } from "../plan/players/overrides.js";
import type { CheckedPlan } from "../plan/checked.js";
import { ReacherError } from "../plan/errors.js";
import type { Plan } from "../plan/types.js";
import { Clock } from "../engine/clock.js";
import { listOf } from "../engine/lists.js";
import type { Reading } from "../engine/readings.js";
import { shown } from "../plan/depth.js";
import { momentOf, mustBeObject, mustCall, noTime, type Moment } from "../plan/arguments.js";
import type { Scheduler } from "../engine/scheduler.js";
import { FixedStepCalls } from "./calls/fixedSteps.js";
import { bring } from "./calls/seatPart.js";
import type { Feeding } from "./feeding.js";
import { FirstSeat } from "./firstSeat.js";
import type { Hub } from "./hub.js";
import type { SeatHandle } from "./seatHandle.js";
import { LayerSeats, type LayerParts } from "./layerSeats.js";
import { allHeld } from "./held.js";
import { lostOf, noEvent } from "./lost.js";
import { Presses } from "./presses.js";
import { copyOf, putBack } from "./snapshots.js";
import type {
  Held,
  InputLayer,
  Interceptor,
  LayerWatcher,
  Unsubscribe,
  PadChange,
  Press,
  RawEvent,
  Seat,
} from "./types.js";

/** Makes an input layer of a checked plan. @throws ReacherError if the plan needs a feature that is not among these */
export function createCheckedLayer(plan: CheckedPlan, parts: LayerParts): InputLayer {
  return new Layer(plan, parts);
}

/** The first moment at which a layer has work; steps before that change nothing. */
export function nextMoment(input: InputLayer): number {
  return (input as unknown as Layer).nextMoment;
}

/** For a plan without seats: the pads that have a place, in order; and gives a pad the next place. For reports. */
export function padPlaces(input: InputLayer): readonly number[] {
  return (input as unknown as Layer).hub.padPlaces();
}
export function placePad(input: InputLayer, pad: number): void {
  (input as unknown as Layer).hub.placePad(pad);
}

/** Who waited for any press elsewhere until now, does so here. */
export function takePresses(input: InputLayer, presses: Presses): void {
  (input as unknown as Layer).takePresses(presses);
}

/** Announces every pulse, however long a step is: for replays. */
export function reportAllPulses(input: InputLayer): void {
  (input as unknown as Layer).reportAllPulses();
}

// eslint-disable-next-line @typescript-eslint/no-unsafe-declaration-merging, @typescript-eslint/no-empty-object-type -- `bring` gives it its calls.
export interface Layer extends FixedStepCalls {}

// eslint-disable-next-line @typescript-eslint/no-unsafe-declaration-merging
export class Layer extends FirstSeat implements InputLayer {
  readonly scheduler: Scheduler;
  readonly counters: Hub["counters"];
  readonly seats: readonly string[];
  protected readonly first: SeatHandle;
  readonly hub: LayerSeats;
  protected readonly feeding: Feeding;
  replaying = false;
  readonly moments: number[] = [];
  protected interceptor: Interceptor | null = null;
  protected presses: Presses | null = null;

  constructor(plan: CheckedPlan, parts: LayerParts) {
    super();
    this.hub = new LayerSeats(plan, parts);
    const { feeding, first, names, counters } = this.hub;
    this.feeding = feeding;
    this.scheduler = this.hub.scheduler;
    this.hub.ears = this;
    this.first = first;
    this.seats = names;
    this.counters = counters;
    this.alone = [first.engine];
  }

  get open(): readonly string[] {
    return this.hub.open;
  }

  feed(event: RawEvent): void {
    if (typeof event !== "object" || event === null) throw noEvent(event);
    if (typeof event.control !== "string") {
      this.counters.ignored++;
      return;
    }
    const t = +event.t;
    const value = +event.value;
    if (this.interceptor !== null && this.isIntercepted(event)) return;
    this.feeding.feed(event, t, value);
    if (this.presses !== null) this.presses.note(event);
  }

  heard(event: RawEvent): void {
    this.presses?.note(event);
  }

  pressed(press: Press): void {
    this.presses?.tell(press);
  }

  isIntercepted(event: RawEvent): boolean {
    const { control, pad = 0 } = event;
    if (this.interceptor === null || !isWhole(event) || !this.hub.controls.isRaw(control)) return false;
    return this.interceptor.feed({ t: +event.t, control, value: +event.value, pad });
  }

  intercept(name: string, interceptor: Interceptor): Unsubscribe {
    const player = this.hub.named(name);
    mustBeObject(interceptor, "interceptor; it has feed, passed, lost and replaced");
    for (const call of ["feed", "passed", "lost", "replaced"] as const)
      mustCall(interceptor[call], `an interceptor's ${call}`);
    const before = this.interceptor;
    this.interceptor = interceptor;
    before?.replaced();
    // After the events not yet handled: a press among them must not stay down.
    player.loseAt(-1, 0, this.hub.scheduler.events.latest(player.engine.number));
    return () => {
      if (this.interceptor === interceptor) this.interceptor = null;
    };
  }

  onPress(fn: (press: Press) => void): Unsubscribe {
    this.presses ??= new Presses(this.hub, () => this.held());
    return this.presses.listen(fn);
  }

  takePresses(presses: Presses): void {
    this.presses = presses;
    presses.moveTo(this.hub, () => this.held());
  }

  get intercepted(): boolean {
    return this.interceptor !== null;
  }

  held(): readonly Held[] {
    return allHeld(
      this.hub.unbound,
      this.hub.all.map((player) => player.heldControls()),
    );
  }

  openSeats(
    names: readonly string[],
    options?: { readonly pads?: "ask" | "give"; readonly pad?: number },
  ): void {
    this.hub.play(names, options);
  }

  assignPad(name: string, pad: number | null, moment?: Moment): void {
    const player = this.hub.named(name);
    const t = momentOf(moment);
    const { pads, isSeated } = this.hub;
    if (!isSeated)
      throw new ReacherError(
        'the plan names no seats, so any pad is the one player\'s; give it "seats" first',
      );
    if (pad !== null && !(Number.isInteger(pad) && pad >= 0))
      throw new ReacherError(`${shown(pad)} is no pad; give the index of a pad, or null`);
    if (pad === null) pads.free(player, t);
    else if (pads.owner(pad) !== player) pads.give(player, pad, t);
  }

  awaitPad(name: string, t?: Moment): void {
    this.hub.pads.await(this.hub.named(name), momentOf(t));
  }

  onPads(fn: (change: PadChange) => void): Unsubscribe {
    mustCall(fn, "onPads(fn)");
    return this.hub.pads.listen(fn);
  }

  /** Losing the focus concerns everybody; losing a pad its owner, who waits for it. */
  lose(what: string, ...rest: readonly unknown[]): void {
    const [lost, t] = lostOf(what, rest, this.hub.controls.devices);
    const pad = typeof lost === "number" ? lost : 0;
    this.interceptor?.lost(what, pad);
    this.presses?.lose(what, pad);
    this.hub.lose(lost, t);
  }

  bringKeys(overrides?: Overrides | null): Promise<void> {
    return this.hub.bringRules(overrides);
  }

  setPlan(plan: object): never {
    this.hub.usePlan(plan as Plan);
    return this as never;
  }

  step(t: number): Reading {
    if (typeof t !== "number") throw noTime(t);
    this.hub.scheduler.step(+t);
    this.stepped();
    return this.first.now;
  }

  /** Tells those who wait for it that a step is done. */
  stepped(): void {
    const { watchers, scheduler } = this.hub;
    if (this.interceptor !== null) this.interceptor.passed(scheduler.clock[Clock.Now]!);
    for (let n = 0; n < watchers.length; n++) watchers[n]!.stepped?.(scheduler.clock[Clock.Now]!);
  }

  /** All seats, concatenated. */
  snapshot(into?: Uint8Array): Uint8Array {
    return copyOf(this.engines(), into);
  }

  restore(snapshot: Uint8Array): void {
    putBack(this.engines(), snapshot);
    this.hub.notifyRestored();
  }

  private engines() {
    return this.hub.all.length === 1 ? this.alone : this.hub.all.map(({ engine }) => engine);
  }
  private readonly alone: readonly SeatHandle["engine"][];

  reportAllPulses(): void {
    this.hub.scheduler.reportsAllPulses = true;
  }

  get nextMoment(): number {
    return this.hub.scheduler.clock[Clock.Wake]!;
  }

  seat(name: string): Seat {
    return this.hub.named(name);
  }

  uses(control: string): boolean {
    return this.hub.all.some((player) => player.usesAlone(control));
  }

  watch(watcher: LayerWatcher): Unsubscribe {
    mustBeObject(watcher, "watcher; it is an object with the calls that it listens to");
    const others = () => this.hub.watchers.filter((one) => one !== watcher);
    const show = (watchers: readonly LayerWatcher[]) => {
      // Lists are replaced, not changed: a watcher may remove itself or another while all are notified.
      this.hub.watchers = listOf(watchers);
      for (const player of this.hub.all) player.showWatchers();
    };
    show([...others(), watcher]);
    return () => show(others());
  }
}

bring(Layer, [FixedStepCalls]);

/** Whether its moment and value are numbers. */
function isWhole({ t, value }: RawEvent): boolean {
  return +value === +value && Number.isFinite(+t);
}
