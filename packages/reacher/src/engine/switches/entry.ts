/** A plain entry: a control or a direction, pressed or released. In: its signal. Out: how many of a switch's sources are down. */
import { Rule, type RuleCells } from "../cells.js";
import type { Listener, Signal } from "../signals.js";
import type { SeatState } from "../state.js";
import { Live, type PressConsumer, type SourceRule } from "../tables.js";
import type { Switch } from "./switch.js";

export class Entry extends Rule implements Listener, SourceRule {
  readonly signals: readonly Signal[];
  readonly controls: readonly number[];
  private readonly liveAt: number;
  protected readonly down = this.cells.byte("down");
  consumer: PressConsumer | null = null;

  constructor(
    cells: RuleCells,
    readonly owner: Switch,
    readonly signal: Signal,
    readonly hiddenAt: number,
  ) {
    super(cells);
    this.liveAt = owner.liveAt;
    this.signals = [signal];
    this.controls = signal.channel === null ? [] : [signal.channel.id];
  }

  press(s: SeatState, signal: Signal): void {
    const { owner } = this;
    if (this.consumer !== null && this.consumer.isConsumed(s, signal, owner)) return;
    // A press that its switch cannot see now is not seen until the next press, unless it carries held keys over.
    if (this.hiddenAt >= 0 && s.b[this.hiddenAt] === 1) {
      if (owner.carries) s.b[this.down] = 1;
    } else if (s.b[this.liveAt] === Live.Yes || owner.carries || owner.keepsPresses(s))
      this.accept(s, signal);
  }

  release(s: SeatState): void {
    const { b } = s;
    if (b[this.down] === 0) return;
    b[this.down] = 0;
    if (this.hiddenAt >= 0 && b[this.hiddenAt] === 1) this.owner.cancelHidden(s);
    else this.owner.release(s, this);
  }

  /** Lets the press through to its switch. */
  protected accept(s: SeatState, signal: Signal): void {
    s.b[this.down] = 1;
    this.owner.press(s, signal, this);
  }

  isDown({ b }: SeatState): boolean {
    return b[this.down] === 1;
  }

  forget(_: SeatState): void {}

  /** A mode above begins or stops hiding its control. A key held all the time comes back if the switch keeps its state. */
  hide(s: SeatState, hidden: number): void {
    const { owner } = this;
    if (hidden === 1) {
      this.forget(s);
      owner.keeper?.dropAll(s);
    }
    if (s.b[this.down] === 0) return;
    if (hidden === 0) owner.press(s, this.signal, this);
    else {
      owner.release(s, this);
      if (owner.comesBack) return;
      s.b[this.down] = 0;
      owner.cancelHidden(s);
    }
  }

  recount({ b }: SeatState): void {
    if (b[this.signal.up] === 0) b[this.down] = 0;
    const isHidden = this.hiddenAt >= 0 && b[this.hiddenAt] === 1;
    if (b[this.down] === 1 && !isHidden) b[this.owner.down]!++;
  }
}
