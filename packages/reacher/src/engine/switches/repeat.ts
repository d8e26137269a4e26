/** Pulses of a switch while it is on; no two of them are closer than the plan says, whatever is released and pressed in between. */
import { Rule } from "../cells.js";
import { Clock } from "../clock.js";
import type { Feature } from "../compile.js";
import type { SeatState } from "../state.js";
import type { Timed, Timer, Timers } from "../timers.js";
import type { Repeater } from "./hooks.js";
import type { Switch } from "./switch.js";

export class Repeat extends Rule implements Repeater, Timed {
  private readonly pulses = this.cells.int("pulses");
  private readonly step = this.cells.int("pulseStep", -1);
  private readonly timer: Timer;
  /** When it pulsed last; whether the first pulse since it turned on is still due; and whether that was delayed. */
  private readonly last: number;
  private readonly isFirst = this.cells.byte("firstPulse");
  private readonly isPutOff = this.cells.byte("putOff");
  /** When it was let go last; -1 if a pulse never outlasts its press. */
  private readonly letGoAt: number;
  isPulsing = false;

  constructor(
    private readonly owner: Switch,
    private readonly timers: Timers,
    private readonly beats: { readonly afterMs: number; readonly everyMs: number; readonly apartMs: number },
    private readonly bufferMs: number,
    action: number,
  ) {
    super(owner.cells);
    this.last = beats.apartMs > 0 ? this.cells.float("lastPulse", -Infinity) : -1;
    this.letGoAt = this.last >= 0 && bufferMs > 0 ? this.cells.float("letGoAt") : -1;
    this.timer = timers.due(owner.cells, "pulse", this, action);
  }

  begin(s: SeatState): void {
    s.b[this.isFirst] = 1;
    this.isPulsing = this.pulseIfDue(s);
  }

  /** A delayed first pulse is still given if it was let go no longer ago than a press is kept. */
  end(s: SeatState, isRelease: boolean): void {
    if (isRelease && s.b[this.isPutOff] === 1 && this.letGoAt >= 0) s.f[this.letGoAt] = s.clock[Clock.Now]!;
    else this.drop(s);
  }

  drop(s: SeatState): void {
    s.b[this.isPutOff] = 0;
    this.timers.clear(s, this.timer);
  }

  reset(s: SeatState): void {
    this.drop(s);
    if (this.last >= 0) s.f[this.last] = -Infinity;
  }

  due(s: SeatState): void {
    const { owner } = this;
    if (s.b[owner.reported] === 0 && !this.outlasts(s)) {
      s.b[this.isPutOff] = 0;
      return;
    }
    if (this.pulseIfDue(s)) s.notePulse(owner.name);
    if (s.b[owner.reported] === 0) this.drop(s);
  }

  /** Whether a delayed pulse still comes after its press. */
  private outlasts({ f, clock }: SeatState): boolean {
    return this.letGoAt >= 0 && clock[Clock.Now]! - f[this.letGoAt]! <= this.bufferMs;
  }

  /** Pulses, unless the last pulse was too recent: then it is delayed. True if the pulse is announced. */
  private pulseIfDue(s: SeatState): boolean {
    const { f, b, clock } = s;
    const { afterMs, everyMs, apartMs } = this.beats;
    if (this.last >= 0) {
      const wait = f[this.last]! + apartMs - clock[Clock.Now]!;
      if (wait > 0) {
        b[this.isPutOff] = b[this.isFirst]!;
        this.timers.set(s, this.timer, wait);
        return false;
      }
      f[this.last] = clock[Clock.Now]!;
    }
    const isTold = this.pulse(s);
    this.timers.set(s, this.timer, b[this.isFirst] === 1 ? afterMs : everyMs);
    b[this.isFirst] = b[this.isPutOff] = 0;
    return isTold;
  }

  pulsesNow({ i, clock }: SeatState): number {
    return i[this.step] === clock[Clock.Step] ? i[this.pulses]! : 0;
  }

  /** False if a long step leaves it out. */
  private pulse(s: SeatState): boolean {
    const { i, clock } = s;
    if (i[this.step] !== clock[Clock.Step]) {
      i[this.step] = clock[Clock.Step]!;
      i[this.pulses] = 0;
    }
    if (!s.reportsPulse(i[this.pulses]!)) return false;
    i[this.pulses]!++;
    return true;
  }
}

export const repeat: Feature = {
  options: [
    {
      name: "repeat",
      appliesTo: (action) => action.repeat !== undefined,
      make: ({ timers }, owner: Switch, action, _, number) => {
        owner.repeater = new Repeat(owner, timers, action.repeat!, action.bufferMs, number);
      },
    },
  ],
};
