/** A seat's buffer as a whole: allocated for its tables, migrated to others, copied and restored. */
import { Clock } from "./clock.js";
import { NO_NUMBER, OWN_FROM } from "../controls/numbers.js";
import { controlsOf } from "../controls/ownControls.js";
import type { CheckedPlan } from "../plan/checked.js";
import { COMMAND_KINDS } from "./commands.js";
import type { DirtyLists } from "./dirty.js";
import { Bits, DriveBits, EventKind, Line, EventField } from "./queue.js";
import type { Scheduler, Steppable } from "./scheduler.js";
import { Settling } from "./settling.js";
import { Cause } from "./state.js";
import { FOCUS_LOST } from "./situations/losses.js";
import { DEVICES, type Tables } from "./tables.js";
import { migrate } from "./migrate.js";

/** Translates an event from one plan to another; one whose name is missing there does nothing. */
function renamed(before: CheckedPlan, after: CheckedPlan, what: number): number {
  const kind = (what & Bits.KindMask) as EventKind;
  if (kind === EventKind.Control || kind === EventKind.Press)
    return renamedControl(before, after, kind, what);
  if (kind === EventKind.Lose) return renamedLoss(before, after, what);
  const list = COMMAND_KINDS[kind]?.names;
  if (list === undefined) return what;
  const bits = Bits.Kind + (kind === EventKind.Drive ? DriveBits.Action : 0);
  const { name } = before[list][what >> bits]!;
  const index = after[list].findIndex((one) => one.name === name);
  return index < 0 ? EventKind.Nothing : (index << bits) | (what & ((1 << bits) - 1));
}

/** The loss of a device of own controls. */
function renamedLoss(before: CheckedPlan, after: CheckedPlan, what: number): number {
  const index = what >> Bits.Kind;
  if (index >= FOCUS_LOST) return what;
  const place = controlsOf(after).devices.indexOf(controlsOf(before).devices[-index - DEVICES.length]!);
  return place < 0 ? EventKind.Nothing : (-(place + DEVICES.length) << Bits.Kind) | EventKind.Lose;
}

/** A control of the catalogue has one number in all plans; one that the plan names itself goes by its name, where it is of the same kind. */
function renamedControl(before: CheckedPlan, after: CheckedPlan, kind: EventKind, what: number): number {
  const bits = kind === EventKind.Control ? Bits.Kind + Bits.Place : Bits.Kind;
  const number = ownNumber(before, after, what >> bits);
  return number === NO_NUMBER ? EventKind.Nothing : (number << bits) | (what & ((1 << bits) - 1));
}

/** The number that a control has in another plan; `NO_NUMBER` if it is another control there. */
function ownNumber(before: CheckedPlan, after: CheckedPlan, number: number): number {
  if (number < OWN_FROM) return number;
  const [known, other] = [controlsOf(before), controlsOf(after)];
  const name = known.nameOf(number);
  return known.ownOf(name)!.kind === other.ownOf(name)?.kind ? other.numberOf(name) : NO_NUMBER;
}

export abstract class SeatBuffer extends Settling implements Steppable {
  readonly number: number;
  readonly readings: { bind(): void }[] = [];
  /** Whether a command of the game is waiting. */
  protected hasCommand = false;
  /** The moment that this seat handled last, while seats take turns within a step: what comes then comes after it. */
  protected doneAt = NaN;

  constructor(tables: Tables, scheduler: Scheduler) {
    super(scheduler);
    this.number = scheduler.enlist(this);
    this.layOut(tables);
  }

  abstract prefetch(): number;
  abstract catchUp(): void;

  get marks(): DirtyLists {
    return this.dirty;
  }

  clear(): void {
    this.dirty.clear();
  }

  nextMoment(until: number): number {
    const { clock, events, number } = this;
    const first = events.first(number);
    // All seats begin together.
    if (clock[Clock.Now] === -Infinity) return first < 0 ? until : Math.min(until, events.timeAt(first));
    return Math.max(events.wakes[number * Line.Size]!, clock[Clock.Now]!);
  }

  private layOut(tables: Tables): void {
    const buffer = tables.cells.allocate();
    this.f = new Float64Array(buffer);
    this.i = new Int32Array(buffer);
    this.b = new Uint8Array(buffer);
    tables.bind?.(this);
    this.dirty = this.scheduler.listsOf(tables);
    this.tables = tables;
    for (const reading of this.readings) reading.bind();
    this.scheduler.tables[this.number] = tables;
    this.isStale = true;
    this.scheduler.wake(this.number);
  }

  /**
   * Switches to other tables at this moment, also from a callback: what is on and held stays so if it still can. `fill` writes the
   * present values of controls that are bound only now.
   */
  useTables(tables: Tables, fill: (seat: this, before: Tables) => void): void {
    if (tables === this.tables) return;
    const { tables: before, f } = this;
    if (this.scheduler.running === this.number) this.dirty.clear();
    this.layOut(tables);
    migrate(before.cells, f.buffer, tables.cells, this.f.buffer);
    this.i[tables.printAt] = tables.print;
    if (before.plan.controls.length + tables.plan.controls.length > 0) this.renumber(before);
    fill(this, before);
    if (this.b[tables.started] === 0) return;
    for (const one of tables.recounts) one.recount(this);
    this.releaseHeldBack(before, f);
  }

  /** Own controls and their devices have other numbers in another plan; one of another kind there is at rest. */
  private renumber({ plan: before, devices }: Tables): void {
    const { tables, i } = this;
    const deviceOf = (number: number) => Math.max(0, tables.devices.indexOf(devices[number] ?? null));
    i[tables.lastDevice] = deviceOf(i[tables.lastDevice]!);
    for (const movement of tables.movements) movement.renumber(this, deviceOf);
    for (const { pressedBy } of tables.signals)
      if (pressedBy >= 0) i[pressedBy] = ownNumber(before, tables.plan, i[pressedBy]!);
  }

  /**
   * Switches to the tables of another plan: waiting events keep their names, a plan with none of its modes on begins with its
   * start modes, and new switches begin as at the start.
   */
  usePlan(tables: Tables, fill: (seat: this, before: Tables) => void): void {
    const before = this.tables;
    const rename = (what: number) => renamed(before.plan, tables.plan, what);
    this.events.rename(this.number, rename);
    this.scheduler.commands.rename(this.number, rename);
    const hasLeftAll = before.situation?.hasLeftAll(this) === true;
    this.useTables(tables, fill);
    if (this.b[tables.started] === 0 || tables === before) return;
    if (!hasLeftAll) tables.situation?.startModes(this);
    const known = new Set(before.switches.map(({ name }) => name));
    for (const rule of tables.switches) if (!known.has(rule.name)) rule.reset(this);
  }

  /** Applies releases held back for a worn key that nothing holds back any more. */
  private releaseHeldBack({ bound }: Tables, f: Float64Array): void {
    const { scheduler, tables } = this;
    for (const { name, filter, padCount } of bound) {
      const own = tables.find(name);
      if (filter === null || filter.isHolding === undefined || own === undefined || own.filter !== null)
        continue;
      for (let padIndex = 0; padIndex < padCount; padIndex++) {
        if (!filter.isHolding(f, padIndex)) continue;
        scheduler.scratchEvent[EventField.T] = this.clock[Clock.Now]!;
        scheduler.scratchEvent[EventField.Value] = 0;
        scheduler.addEvent(this.number, own.what | (padIndex << Bits.Kind));
      }
    }
  }

  /** Recomputes what follows from other tables or another state. */
  protected refresh(): void {
    const { tables, dirty } = this;
    this.isStale = false;
    if (this.b[tables.started] === 0) return;
    this.cause = Cause.Bindings;
    tables.situation?.refresh(this);
    dirty.sticks.markAll();
    dirty.movements.markAll();
    dirty.turns.markAll();
    for (let id = 0; id < tables.paced.length; id++) this.markPace(id);
    dirty.switches.markAll();
    if (this.i[tables.instantCount]! > 0) {
      for (const { rank, instantPresses } of tables.switches)
        if (instantPresses >= 0 && this.b[instantPresses]! > 0) dirty.instantPresses.mark(rank);
      this.i[tables.instantCount] = dirty.instantPresses.count;
    }
    dirty.hasWork = true;
    this.settle();
  }

  /** Copies the whole state, with the clock. */
  snapshot(into: Uint8Array): void {
    const { f, clock } = this;
    const { stamp } = this.tables;
    f[stamp] = clock[Clock.Now]!;
    f[stamp + 1] = clock[Clock.Step]!;
    f[stamp + 2] = clock[Clock.Before]!;
    into.set(this.b);
  }

  /** Restores a copied state; events not yet handled are dropped. */
  restore(from: Uint8Array): void {
    const { f, clock, scheduler, number } = this;
    const { stamp, instantCount: blipping } = this.tables;
    this.b.set(from);
    this.events.clear(number);
    scheduler.commands.clear(number);
    this.hasCommand = false;
    this.doneAt = NaN;
    clock[Clock.Now] = f[stamp]!;
    clock[Clock.Step] = f[stamp + 1]!;
    clock[Clock.Before] = f[stamp + 2]!;
    if (clock[Clock.From]! > clock[Clock.Now]!) clock[Clock.From] = clock[Clock.Now]!;
    scheduler.wake(number);
    if (scheduler.running === number) {
      // In the middle of an event: its marks are dropped.
      this.dirty.clear();
      this.notices.clear();
      this.isStale = true;
    } else if (this.i[blipping]! > 0) this.isStale = true;
  }
}
