/**
 * The layer of a game for one player that was made for its plan, with the groups of calls that the game makes and nothing else: no recording, no
 * capture, no seats, no other plan. In: events and calls. Out: the reading. The loop below it is the same as everywhere.
 */
import type { Device } from "../controls/catalogue.js";
import { EventField, EventKind } from "../engine/queue.js";
import { makeReading, type Reading } from "../engine/readings.js";
import { Scheduler } from "../engine/scheduler.js";
import { SeatEngine } from "../engine/seat.js";
import type { Channel } from "../engine/signals.js";
import { FOCUS_LOST } from "../engine/meanings.js";
import { Clock } from "../engine/clock.js";
import { DEVICES } from "../engine/tables.js";
import { PADS_TOGETHER } from "../engine/meanings.js";
import type { MadeTables } from "../made/madeTables.js";
import type { CheckedPlan } from "../plan/checked.js";
import { noTime } from "../plan/arguments.js";
import { shown } from "../plan/depth.js";
import { ReacherError } from "../plan/errors.js";
import type { Plan } from "../plan/types.js";
import { command, bring, SeatPart } from "../layer/calls/seatPart.js";
import type { ListenCalls, Listeners } from "../layer/calls/listenCalls.js";
import { lostOf, noEvent, type Lost } from "../layer/lost.js";
import { isUsed } from "../layer/uses.js";
import { PadIndices } from "../layer/padIndices.js";
import type { RawEvent } from "../layer/types.js";

/** All calls of a layer, of which a game made for its plan brings some. */
const CALLS =
  "on setFlag setNumber number setSpot enter leave mute unmute setSwitch drive take reset live copy snapshot restore fixedSteps setOverrides bringKeys setPlan watch held onPress intercept openSeats assignPad awaitPad onPads".split(
    " ",
  );
/** The same of what is read without a call. */
const READ = ["flags", "modes", "mutes"];

export class LeanLayer extends SeatPart {
  override readonly name: string;
  readonly seats: readonly string[];
  own: Plan;
  override readonly scheduler = new Scheduler();
  override readonly counters = { late: 0, ignored: 0, skipped: 0 };
  override readonly engine: SeatEngine;
  override readonly now: Reading;
  readonly intercepted = false;
  readonly replaying = false;
  readonly pad = null;
  readonly padLost = false;
  readonly moments: number[] = [];
  readonly listeners: Listeners = new Map();
  protected readonly pads = new PadIndices(PADS_TOGETHER, this.scheduler.scratchEvent);
  private readonly byName: ReadonlyMap<string, Channel>;
  /** The last two controls: a stick's axes alternate. */
  private recentName = "";
  private recent: Channel | undefined;
  private olderName = "";
  private older: Channel | undefined;

  constructor(
    readonly plan: Plan,
    override checked: CheckedPlan,
    tables: MadeTables,
  ) {
    super();
    this.own = plan;
    this.name = checked.seats[0]!.name;
    this.seats = [this.name];
    this.engine = new SeatEngine(tables as never, this.scheduler);
    this.engine.counts = this.counters;
    this.now = makeReading(this.engine, this.engine.tables);
    this.byName = new Map(this.engine.tables.bound.map((channel) => [channel.name, channel]));
  }

  get open(): readonly string[] {
    return this.seats;
  }
  get slots(): readonly string[] {
    return this.checked.seats[0]!.slots;
  }
  get lastDevice(): Device | (string & {}) | null {
    const { i, tables } = this.engine;
    return (tables.devices[i[tables.lastDevice]!] ?? null) as Device | (string & {}) | null;
  }

  feed(event: RawEvent): void {
    if (typeof event !== "object" || event === null) throw noEvent(event);
    const { control, pad } = event;
    const { scheduler, counters } = this;
    const { scratchEvent } = scheduler;
    const t = +event.t;
    const value = +event.value;
    scratchEvent[EventField.T] = t;
    scratchEvent[EventField.Value] = value;
    if (typeof control !== "string" || !(value === value && t - t === 0)) {
      counters.ignored++;
      return;
    }
    const channel =
      control === this.recentName
        ? this.recent
        : control === this.olderName
          ? this.older
          : this.find(control);
    if (channel === undefined) {
      // A pad has its place from its first event on, whatever that is.
      if (control.startsWith("Pad")) this.pads.indexOf(pad === undefined ? 0 : pad);
      this.pass(event, value);
      return;
    }
    const padIndex = channel.padCount > 1 ? this.pads.indexOf(pad === undefined ? 0 : pad) : 0;
    if (padIndex < 0) counters.ignored++;
    else if (scheduler.addControl(0, channel, padIndex)) counters.late++;
  }

  /** An event of a control that the plan does not bind. */
  protected pass(_event: RawEvent, _value: number): void {}
  /** A loss: of a pad, by its index, or of a device or the focus, by its name. */
  protected passLoss(_lost: Lost, _t: number): void {}
  /** The loss of a pad that has no place. */
  protected passUnplaced(_pad: number): void {}

  private find(control: string): Channel | undefined {
    this.olderName = this.recentName;
    this.older = this.recent;
    this.recentName = control;
    return (this.recent = this.byName.get(control));
  }

  step(t: number): Reading {
    if (typeof t !== "number") throw noTime(t);
    this.scheduler.step(+t);
    return this.now;
  }

  seat(name: string): this {
    if (name === this.name) return this;
    throw new ReacherError(`there is no seat ${shown(name)}; this plan has one, ${this.name}`);
  }

  uses(control: string): boolean {
    return isUsed(this.engine, control);
  }

  lose(what: string, ...rest: readonly unknown[]): void {
    const { devices } = this.engine.tables;
    const [lost, t] = lostOf(what, rest, devices.slice(DEVICES.length) as string[]);
    this.passLoss(lost, t ?? this.scheduler.clock[Clock.Now]!);
    if (typeof lost === "string") {
      command(this, EventKind.Lose, lost === "focus" ? FOCUS_LOST : -devices.indexOf(lost), 1, t);
      return;
    }
    const place = this.pads.free(lost, t ?? this.scheduler.clock[Clock.Now]!);
    if (place >= 0) command(this, EventKind.Lose, place, lost, t);
    else this.passUnplaced(lost);
  }

  /** Callbacks have come. */
  hear(): void {
    const { tell } = this as unknown as ListenCalls;
    this.engine.audience ??= (action, notice) => tell.call(this as unknown as ListenCalls, action, notice);
    this.scheduler.isHeard = true;
  }

  notifyCommand(): void {}
  notifyRestored(): void {}
}

/** A layer with these groups of calls; each of the others says how it is brought. `Base`: what it has besides. */
export function leanLayer<L extends LeanLayer>(
  Base: new (plan: Plan, checked: CheckedPlan, tables: MadeTables) => L,
  groups: readonly { readonly prototype: object }[],
  missing: (call: string) => ReacherError,
): (plan: Plan, checked: CheckedPlan, tables: MadeTables) => L {
  class Layer extends Base {}
  bring(Layer, groups);
  for (const call of [...CALLS, ...READ]) {
    const refuse = () => {
      throw missing(call);
    };
    if (!(call in Layer.prototype))
      Object.defineProperty(Layer.prototype, call, READ.includes(call) ? { get: refuse } : { value: refuse });
  }
  return (plan, checked, tables) => new Layer(plan, checked, tables);
}
