/** A control that presses one end of a movement: a key, or a trigger whose amount is computed elsewhere. */
import { Rule, type RuleCells } from "../cells.js";
import type { Listener, Signal } from "../signals.js";
import type { SeatState } from "../state.js";
import { Live, type Component } from "../tables.js";
import { endBits, oneMore, type End } from "./ends.js";
import type { Movement } from "./movement.js";

export class MovementEnd extends Rule implements Listener, Component {
  readonly controls: readonly number[];
  private readonly down = this.cells.byte("down");
  /** What one key adds to the movement's count; 0 for an analog control, which is not counted. */
  private readonly one: number;

  constructor(
    cells: RuleCells,
    private readonly movement: Movement,
    private readonly end: End,
    private readonly signal: Signal,
    readonly hiddenAt: number,
    private readonly turn: number,
    isKey: boolean,
  ) {
    super(cells);
    this.controls = [signal.channel!.id];
    this.one = isKey ? oneMore(end) : 0;
  }

  press(s: SeatState, signal: Signal): void {
    const { i, b } = s;
    const { movement, end } = this;
    const { opposites } = movement;
    const turn = i[this.turn]!;
    if (opposites.first >= 0 && (i[movement.keys]! & endBits(end)) === 0) i[opposites.first + end] = turn;
    // A second key of a direction already held counts as a new press.
    i[opposites.newest + end] = turn;
    i[movement.keyDevice] = signal.device;
    b[this.down] = 1;
    if (this.hiddenAt < 0 || b[this.hiddenAt] === 0) {
      i[movement.keys]! += this.one;
      movement.useHands(s);
    }
    this.mark(s);
    movement.addSource(s, end, this.controls[0]!);
  }

  release(s: SeatState): void {
    const { i, b } = s;
    const { movement } = this;
    // A key that was down before it was bound here has not pressed it, so its release does not count.
    if (b[this.down] === 0) return;
    b[this.down] = 0;
    if (this.hiddenAt < 0 || b[this.hiddenAt] === 0) i[movement.keys]! -= this.one;
    this.mark(s);
    movement.dropSource(s, this.end);
  }

  /** An action that is not live is at rest, whatever is held. */
  private mark(s: SeatState): void {
    if (s.b[this.movement.liveAt] === Live.Yes) s.markMovement(this.movement.id);
  }

  hide(s: SeatState, hidden: number): void {
    const { movement } = this;
    if (s.b[this.down] === 1) s.i[movement.keys]! += hidden === 1 ? -this.one : this.one;
    s.markMovement(movement.id);
  }

  recount({ b, i }: SeatState): void {
    if (b[this.signal.up] === 0) b[this.down] = 0;
    if (b[this.down] === 0) return;
    if (this.hiddenAt < 0 || b[this.hiddenAt] === 0) i[this.movement.keys]! += this.one;
    i[this.movement.sources]! += oneMore(this.end);
  }
}
