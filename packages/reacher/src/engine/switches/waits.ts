/** An entry that waits: it holds its presses back while a gesture on the same control may still claim them. */
import type { RuleCells } from "../cells.js";
import { Clock } from "../clock.js";
import type { EntryOf, Feature, ClaimingGesture } from "../compile.js";
import type { Signal } from "../signals.js";
import type { SeatState } from "../state.js";
import type { Timed, Timer, Timers } from "../timers.js";
import { Entry } from "./entry.js";
import type { Switch } from "./switch.js";

export class WaitingEntry extends Entry implements Timed {
  readonly rivals: ClaimingGesture[] = [];
  /** How many presses wait, and whether the last of these is still held. */
  readonly waitingCount = this.cells.byte("pending");
  private readonly lasts = this.cells.byte("lasts");
  /** How many presses after those that wait have been claimed. */
  private readonly claimed = this.cells.byte("claimed");
  readonly timer: Timer;

  constructor(
    cells: RuleCells,
    owner: Switch,
    signal: Signal,
    hiddenAt: number,
    private readonly timers: Timers,
    private readonly eventNumber: number,
  ) {
    super(cells, owner, signal, hiddenAt);
    this.timer = timers.window(cells, "window", this);
    owner.keepInstantPresses();
  }

  protected override accept(s: SeatState): void {
    const { rivals, eventNumber } = this;
    for (let n = 0; n < rivals.length; n++)
      if (s.i[rivals[n]!.firedIn] === s.i[eventNumber]) {
        if (s.b[this.waitingCount]! > 0) s.b[this.claimed]!++;
        return;
      }
    s.b[this.waitingCount]!++;
    s.b[this.lasts] = 1;
    this.review(s, false);
  }

  override release(s: SeatState): void {
    s.b[this.lasts] = 0;
    super.release(s);
  }

  override forget(s: SeatState): void {
    s.b[this.waitingCount] = s.b[this.lasts] = s.b[this.claimed] = 0;
    this.timers.clear(s, this.timer);
  }

  claim(s: SeatState, presses: number): void {
    const { b } = s;
    if (presses === 0 || b[this.waitingCount] === 0) return;
    b[this.lasts] = 0;
    if (presses >= b[this.waitingCount]!) this.forget(s);
    else {
      b[this.waitingCount]! -= presses;
      b[this.claimed]! += presses;
      s.reviewWaiting();
    }
  }

  due(s: SeatState): void {
    this.review(s, true);
  }

  /** Lets waiting presses through, the oldest first, once no gesture can claim them. `isOver`: the events of this moment have been handled. */
  review(s: SeatState, isOver: boolean): void {
    const { b, f, clock } = s;
    const { rivals, owner, signal, waitingCount } = this;
    const now = clock[Clock.Now]!;
    while (b[waitingCount]! > 0) {
      const left = b[waitingCount]! - 1;
      const newer = left + b[this.claimed]!;
      const isHeld = left === 0 && b[this.lasts] === 1;
      let end = -Infinity;
      for (let n = 0; n < rivals.length; n++) end = Math.max(end, rivals[n]!.claimEnd(s, signal, newer));
      // One that is held counts when those before it have come and gone.
      const isBlip = isHeld && b[owner.instantPresses]! > 0;
      if (isBlip) end = Math.max(end, now);
      if (end > now || (end === now && (!isOver || isBlip))) {
        this.timers.set(s, this.timer, 0);
        f[this.timer.at] = end;
        return;
      }
      for (let n = 0; n < rivals.length; n++) rivals[n]!.lapse(s, signal, newer);
      b[waitingCount] = left;
      if (isHeld) super.accept(s, signal);
      else owner.pressForAnInstant(s, signal);
    }
    this.forget(s);
  }

  override recount(s: SeatState): void {
    if (this.signal.hasLostItsKey(s)) this.forget(s);
    else if (s.b[this.signal.up] === 0) s.b[this.lasts] = 0;
    super.recount(s);
  }
}

export const waits: Feature = {
  entries: {
    waits: (compiler, { owner, entry }: EntryOf<Switch, "plain">) => {
      const signal = compiler.signal(entry.of[0]!);
      const cells = compiler.cells.rule(`${owner.name} waits ${signal.name}`);
      const waiting = new WaitingEntry(
        cells,
        owner,
        signal,
        compiler.hidden(cells),
        compiler.timers,
        compiler.eventNumber,
      );
      compiler.addEntry(waiting, signal);
      compiler.waiting.push(waiting);
    },
  },
  link: (compiler) => {
    const byControl = new Map<number, WaitingEntry[]>();
    for (const entry of compiler.waiting as WaitingEntry[])
      for (const control of compiler.controlsOf(entry.signal)) {
        const own = byControl.get(control) ?? [];
        byControl.set(control, own);
        own.push(entry);
      }
    for (const gesture of compiler.gestures) {
      const controls = gesture.signals.flatMap((signal) => compiler.controlsOf(signal));
      for (const entry of new Set(controls.flatMap((control) => byControl.get(control) ?? []))) {
        entry.rivals.push(gesture);
        gesture.keepEvent(compiler.eventNumber);
        gesture.claims.push(entry);
      }
    }
  },
};
