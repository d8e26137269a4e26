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
  readonly timer: Timer;

  constructor(
    cells: RuleCells,
    owner: Switch,
    signal: Signal,
    hiddenAt: number,
    private readonly timers: Timers,
  ) {
    super(cells, owner, signal, hiddenAt);
    this.timer = timers.window(cells, "window", this);
    owner.keepInstantPresses();
  }

  protected override accept(s: SeatState): void {
    const { rivals } = this;
    for (let n = 0; n < rivals.length; n++) if (s.b[rivals[n]!.fired] === 1) return;
    s.b[this.waitingCount]!++;
    s.b[this.lasts] = 1;
    this.review(s, false);
  }

  override release(s: SeatState): void {
    s.b[this.lasts] = 0;
    super.release(s);
  }

  override forget(s: SeatState): void {
    s.b[this.waitingCount] = s.b[this.lasts] = 0;
    this.timers.clear(s, this.timer);
  }

  due(s: SeatState): void {
    this.review(s, true);
  }

  /** Lets waiting presses through once no gesture can claim them. `isOver`: the events of this moment have been handled. */
  review(s: SeatState, isOver: boolean): void {
    const { b, f } = s;
    const { rivals, owner, signal } = this;
    if (b[this.waitingCount] === 0) return;
    const now = s.clock[Clock.Now]!;
    let end = -Infinity;
    for (let n = 0; n < rivals.length; n++) end = Math.max(end, rivals[n]!.claimEnd(s));
    if (end > now || (end === now && !isOver)) {
      this.timers.set(s, this.timer, 0);
      f[this.timer.at] = end;
      return;
    }
    const presses = b[this.waitingCount]!;
    const lasts = b[this.lasts]!;
    this.forget(s);
    for (let n = 0; n < rivals.length; n++) rivals[n]!.lapse(s);
    for (let n = lasts; n < presses; n++) owner.pressForAnInstant(s, signal);
    if (lasts === 1) super.accept(s, signal);
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
      const waiting = new WaitingEntry(cells, owner, signal, compiler.hidden(cells), compiler.timers);
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
        gesture.claims.push(entry);
      }
    }
  },
};
