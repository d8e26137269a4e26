/** One seat at work: the loop that carries its state from moment to moment, and other tables for it while it runs. */
import { carryOver } from "./carry.js";
import { clearDeadline, firstDeadline, setDeadline } from "./deadlines.js";
import { reviewEntry } from "./entries.js";
import { apply, begin, handleEvent, releaseLate } from "./events.js";
import { settleFacing } from "./facing.js";
import { fireLong } from "./gestures.js";
import { Clock, HeadInt } from "./layout.js";
import { clearStick, continueEase } from "./movement.js";
import { Bits, Kind, Line } from "./queue.js";
import { resolve, tellPulse } from "./resolve.js";
import type { Roster } from "./roster.js";
import { SeatState } from "./state.js";
import { clearSwitch, pulseSwitch } from "./switches.js";
import { Due, type Tables } from "./tables.js";

export class RunningSeat extends SeatState {
  constructor(tables: Tables, roster: Roster) {
    super(tables, roster);
    this.layOut(tables);
  }

  /** Lays a state out by these tables, as at the start. */
  private layOut(tables: Tables): void {
    this.allocate(tables);
    for (const table of tables.switch) clearSwitch(this, table);
    for (const table of tables.stick) clearStick(this, table);
    begin(this);
    this.scratch.clear();
  }

  /** Goes on with other tables of the same plan; what is on and held stays so where it still can. */
  useTables(tables: Tables): void {
    const { tables: before, f, i } = this;
    if (tables === before) return;
    const started = i[HeadInt.Started] === 1;
    const waiting = this.events.takeAll(this.number);
    this.layOut(tables);
    if (started) carryOver({ tables: before, f, i }, this);
    this.roster.scratchOf(tables).clear();
    for (const [t, what, value, other] of waiting) {
      const name = this.renamed(before, what);
      if (name >= 0) this.events.add(this.number, t, name, value);
      const second = other === other ? this.renamed(before, otherOf(before, what)) : -1;
      if (second >= 0) this.events.add(this.number, t, second, other);
    }
    if (started) this.releaseHeldBack(before, f);
    this.carried = started;
    this.unsettled = true;
  }

  /** Releases that were held back, and are no longer. */
  private releaseHeldBack(before: Tables, f: Float64Array): void {
    for (const { name, bounce, places } of before.channel) {
      for (let place = 0; bounce >= 0 && place < places; place++) {
        if (f[before.deadlinesAt + bounce + place] === Infinity) continue;
        const id = this.tables.channels.get(name);
        const own = id === undefined ? undefined : this.tables.channel[id]!;
        if (own === undefined || place >= own.places) continue;
        const at = f[before.deadlinesAt + bounce + place]!;
        if (own.bounce >= 0) setDeadline(this, own.bounce + place, at);
        else this.roster.addEvent(this.number, this.clock[Clock.Now]!, own.what | (place << Bits.Kind), 0);
      }
    }
  }

  /** An event that waits, by the new tables; -1 where they have no use for it. */
  private renamed(before: Tables, what: number): number {
    if ((what & Bits.KindMask) !== Kind.Control) return what;
    const place = (what >> Bits.Kind) & Bits.PlaceMask;
    const id = this.tables.channels.get(before.channel[what >> (Bits.Kind + Bits.Place)]!.name);
    if (id === undefined || place >= this.tables.channel[id]!.places) return -1;
    return this.tables.channel[id]!.what | (place << Bits.Kind);
  }

  /** Everything is to be looked at again. */
  private markAll(): void {
    const { tables } = this;
    this.scratch.stirred = true;
    for (let id = 0; id < tables.stick.length; id++) this.scratch.sticks.mark(id);
    for (let id = 0; id < tables.mover.length; id++) {
      this.scratch.movers.mark(id);
      if (tables.mover[id]!.pace !== undefined) this.scratch.paces.mark(id);
    }
    for (let id = 0; id < tables.switch.length; id++) this.scratch.switches.mark(id);
  }

  /** Handles all that is due until `Clock.Until`; the roster calls it. */
  catchUp(): void {
    const { clock, f, i, events, tables, number } = this;
    const line = number * Line.Size;
    const until = clock[Clock.Until]!;
    if (this.unsettled) this.settle(until);
    for (;;) {
      while (this.hears) {
        const { told } = this;
        const at = told.first(number);
        this.hears = told.drop(number, at) >= 0;
        apply(this, told, at);
        this.watcher?.settled?.(clock[Clock.Now]!);
      }
      // Nearly always nothing is due, and what is there is one event.
      const due = i[HeadInt.Running] === 0 ? -1 : firstDeadline(this);
      const first = events.first(number);
      if (due < 0 && first < 0) {
        events.wakes[line] = Infinity;
        break;
      }
      const next = first < 0 ? Infinity : events.timeAt(first);
      let moment = next;
      let deadlineFirst = false;
      if (due >= 0) {
        const at = f[tables.deadlinesAt + due]!;
        deadlineFirst = at < next || (at === next && due < tables.firstWindow);
        if (deadlineFirst) moment = at;
      }
      if (!(moment <= until)) {
        events.wakes[line] = moment;
        break;
      }
      if (moment > clock[Clock.Now]!) clock[Clock.Now] = moment;
      if (deadlineFirst) this.handleDeadline(due);
      else handleEvent(this, first);
      if (this.watcher !== null) this.watcher.settled?.(clock[Clock.Now]!);
    }
  }

  /** Begins, or works out what other tables mean. */
  private settle(until: number): void {
    const { clock, i, events } = this;
    const first = events.first(this.number);
    this.unsettled = false;
    if (i[HeadInt.Started] === 0) {
      i[HeadInt.Started] = 1;
      clock[Clock.Now] = first < 0 ? until : Math.min(until, events.timeAt(first));
      begin(this);
      resolve(this, true);
    }
    if (!this.carried) return;
    this.carried = false;
    this.markAll();
    resolve(this, false);
  }

  private handleDeadline(id: number): void {
    const { kind, target } = this.tables.deadlines[id]!;
    this.roster.work[0]!++;
    this.watcher?.due?.(id);
    clearDeadline(this, id);
    if (kind === Due.Settle) settleFacing(this, target);
    else if (kind === Due.Ease) continueEase(this, target);
    else if (kind === Due.Long) fireLong(this, this.tables.gesture[target]!);
    else if (kind === Due.Claim) reviewEntry(this, this.tables.entry[target]!, true);
    else if (kind === Due.Linger) this.setFact(target, 0);
    else if (kind === Due.Bounce) releaseLate(this, target);
    else {
      pulseSwitch(this, target);
      tellPulse(this, target);
    }
    resolve(this, false);
  }
}

/** The name of an event that is a stick's other axis. */
function otherOf(tables: Tables, what: number): number {
  return tables.channel[what >> (Bits.Kind + Bits.Place)]!.otherWhat | (what & (Bits.PlaceMask << Bits.Kind));
}
