/**
 * A seat: its buffer, and the loop that advances it from moment to moment. May change: its buffer and its tables.
 *
 * Nothing here keeps the buffer, lists or tables in a variable across a callback of the game, which may replace them all: notices are
 * delivered last, by `deliver`, and everything is read again after it.
 */
import { Clock } from "./clock.js";
import { COMMAND_KINDS } from "./commands.js";
import { Bits, EventKind, Line, EventField, type EventQueues } from "./queue.js";
import type { Steppable } from "./scheduler.js";
import { SeatBuffer } from "./seatBuffer.js";
import { Cause } from "./state.js";

export class SeatEngine extends SeatBuffer implements Steppable {
  /** Whether windows that end at the current moment are being handled: commands from callbacks wait until all of them are over. */
  private endsWindows = false;

  prefetch(): number {
    return this.i[0]! + this.b[this.tables.started]! + (this.hasCommand ? 1 : 0);
  }

  /** A command of the game: it counts at the last step's time, before any event not yet handled. */
  command(kind: EventKind, index: number, value: number, other = NaN): void {
    this.scheduler.addCommand(this.number, (index << Bits.Kind) | kind, value, other);
    this.hasCommand = true;
  }

  /** Handles everything due until `Clock.Limit`. Buffer and tables are read again each turn: a callback may have replaced them. */
  catchUp(): void {
    const { clock, events, number } = this;
    const until = clock[Clock.Limit]!;
    this.endsWindows = false;
    if (this.b[this.tables.started] === 0) this.begin(until);
    for (;;) {
      if (this.isStale) this.refresh();
      // The event is finished, and all callbacks have been called.
      this.scheduler.throwCaught();
      const { timers } = this.tables;
      const due = timers.first(this);
      if (this.hasCommand && !(due >= 0 && this.comesFirst(due))) {
        this.handleCommand();
        continue;
      }
      const first = events.first(number);
      if (due < 0 && first < 0) {
        events.wakes[number * Line.Size] = Infinity;
        return;
      }
      const next = first < 0 ? Infinity : events.timeAt(first);
      let moment = next;
      let isDue = false;
      if (due >= 0) {
        const { at, isWindow } = timers.all[due]!;
        const dueAt = this.f[at]!;
        isDue = dueAt < next || (dueAt === next && (!isWindow || this.comesFirst(due)));
        if (isDue) moment = dueAt;
      }
      if (!(moment <= until) || moment === Infinity) {
        events.wakes[number * Line.Size] = moment;
        this.doneAt = clock[Clock.Now]!;
        return;
      }
      if (moment > clock[Clock.Now]!) {
        clock[Clock.Now] = moment;
        this.endsWindows = false;
      }
      if (isDue) this.handleDue(due);
      else this.handleEvent(first);
    }
  }

  /** Whether everything due at this moment, including windows that end then, has been handled or is being handled. */
  get isAfter(): boolean {
    const { clock, scheduler } = this;
    if (scheduler.running !== this.number) return clock[Clock.Now]! > -Infinity;
    const now = clock[Clock.Now];
    return this.endsWindows || now === clock[Clock.From] || now === this.doneAt;
  }

  /** Whether a timer comes before the commands of callbacks: it is due now, and if it ends a window, windows have begun to end. */
  private comesFirst(due: number): boolean {
    const { at, isWindow } = this.tables.timers.all[due]!;
    if (this.f[at]! > this.clock[Clock.Now]!) return false;
    return !isWindow || this.endsWindows;
  }

  private begin(until: number): void {
    this.clock[Clock.Now] = this.beginning(until);
    this.b[this.tables.started] = 1;
    for (const one of this.tables.recounts) one.recount(this);
    this.isStale = false;
    this.cause = Cause.Reset;
    this.reset();
    this.settle();
  }

  /** Resets modes, flags, switches, axes and vectors to their start. */
  private reset(): void {
    for (const reset of this.tables.resets) reset.reset(this);
  }

  private handleDue(due: number): void {
    const { watcher } = this;
    if (watcher !== null && watcher.due !== undefined) watcher.due(due);
    const { timers } = this.tables;
    const timer = timers.all[due];
    if (timer === undefined || this.f[timer.at] === Infinity) return;
    this.endsWindows = timer.isWindow;
    this.i[this.tables.eventNumber]!++;
    timers.clear(this, timer);
    timer.owner.due(this, timer);
    this.settle();
    this.notifySettled();
  }

  private handleCommand(): void {
    const { scheduler, number } = this;
    const { commands } = scheduler;
    const at = commands.first(number);
    if (at >= 0 && this.watcher !== null) this.watcher.handling?.(commands, at, commands.after(at));
    if (at < 0 || commands.first(number) !== at) {
      this.hasCommand = commands.first(number) >= 0;
      return;
    }
    this.hasCommand = commands.drop(number, at) >= 0;
    this.apply(commands, at);
    this.settle();
    this.notifySettled();
  }

  /** Announces a press to `onPress`. It is not an event of the plan, and changes nothing of the seat. */
  private notifyPress(at: number): void {
    const { events, number, scheduler } = this;
    events.drop(number, at);
    scheduler.isCalling = true;
    try {
      scheduler.host?.hearPress(
        number,
        this.tables.nameOf(events.whatAt(at) >> Bits.Kind),
        events.valueAt(at),
        events.timeAt(at),
      );
    } catch (error) {
      scheduler.catch(error);
    }
    scheduler.isCalling = false;
  }

  /** Handles the first waiting event: a command of the game, or a control. All axes of a pad that move at one moment are one event. */
  private handleEvent(first: number): void {
    const { events, number } = this;
    const kind = events.whatAt(first) & Bits.KindMask;
    if (kind === EventKind.Press) {
      this.notifyPress(first);
      return;
    }
    if (this.watcher !== null) {
      this.watcher.handling?.(
        events,
        first,
        kind === EventKind.Control ? this.endOf(first) : events.after(first),
      );
      // A watcher may have changed the queue.
      if (events.first(number) !== first) return;
    }
    const isControl = kind === EventKind.Control;
    if (isControl && this.isUnbound(first)) {
      this.passOn(first);
      return;
    }
    this.i[this.tables.eventNumber]!++;
    if (isControl) this.move(first, this.endOf(first));
    else {
      events.drop(number, first);
      this.apply(events, first);
    }
    this.settle();
    this.notifySettled();
  }

  /** An event of a control that nothing binds by now: it changes nothing here, and counts as held elsewhere. */
  private passOn(at: number): void {
    const { events, scheduler, number } = this;
    const what = events.whatAt(at);
    events.drop(number, at);
    const control = what >> (Bits.Kind + Bits.Place);
    scheduler.host?.hearUnbound(number, control, (what >> Bits.Kind) & Bits.PlaceMask, events.valueAt(at));
  }

  /** Applies new values of controls: the events from one place to another count as one. */
  private move(first: number, end: number): void {
    const { events, number, tables } = this;
    for (let at = first; at !== end;) {
      const after = events.drop(number, at);
      const what = events.whatAt(at);
      const padIndex = (what >> Bits.Kind) & Bits.PlaceMask;
      const channel = tables.channels[what >> (Bits.Kind + Bits.Place)];
      // The new tables may not bind it.
      if (channel === undefined || padIndex >= channel.padCount) return;
      const { other } = channel;
      const second = events.otherAt(at);
      if (other === null || second !== second) channel.move(this, padIndex, at + EventField.Value);
      else if (channel.isStickAlone && at === first && after === end)
        channel.moveStick(this, padIndex, at, other);
      else {
        channel.move(this, padIndex, at + EventField.Value);
        other.move(this, padIndex, at + EventField.Other);
      }
      at = after;
    }
  }

  /**
   * The place after an event: axes of one pad that move in a row at one moment are one event. What is none of the plan's does not part
   * them; it comes after them.
   */
  private endOf(first: number): number {
    const { events, number } = this;
    const what = events.whatAt(first);
    let last = first;
    let at = events.after(first);
    if (at < 0 || events.timeAt(at) !== events.timeAt(first) || !this.isAxis(what)) return at;
    for (
      let before = first;
      at >= 0 && events.timeAt(at) === events.timeAt(first);
      at = events.after(before)
    ) {
      if (events.isForeign(at, this.tables.channels)) {
        before = at;
        continue;
      }
      const next = events.whatAt(at);
      const isSamePad = ((what ^ next) & ((Bits.PlaceMask << Bits.Kind) | Bits.KindMask)) === 0;
      if (!isSamePad || !this.isAxis(next) || this.groupOf(next) !== this.groupOf(what)) break;
      if (before !== last) events.pull(number, at, before, last);
      else before = at;
      last = at;
    }
    return events.after(last);
  }

  private isAxis(what: number): boolean {
    const channel = this.tables.channels[what >> (Bits.Kind + Bits.Place)];
    return channel !== undefined && channel.isAxis;
  }

  private groupOf(what: number): number {
    return this.tables.channels[what >> (Bits.Kind + Bits.Place)]!.group;
  }

  /** Applies a command of the game. */
  private apply(queue: EventQueues, at: number): void {
    const what = queue.whatAt(at);
    const kind = (what & Bits.KindMask) as EventKind;
    this.cause = COMMAND_KINDS[kind]?.cause ?? Cause.Hands;
    this.dirty.hasWork = true;
    if (kind === EventKind.Reset) this.reset();
    else this.tables.commands[kind]?.apply(this, what >> Bits.Kind, queue.valueAt(at), queue.otherAt(at));
    if (kind === EventKind.Lose)
      this.scheduler.host?.hearLost(this.number, queue.valueAt(at), what >> Bits.Kind);
  }

  private notifySettled(): void {
    if (this.watcher !== null) this.watcher.settled?.();
  }
}
