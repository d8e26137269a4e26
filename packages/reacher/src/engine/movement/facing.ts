/**
 * The direction last moved in. In: the movement before ease. Out: the facing, which stays when the movement ends.
 *
 * Two keys of a diagonal are never released at the same moment. So from a diagonal to one of its two neighbours the facing changes only
 * once that movement has lasted for a while.
 */
import type { CheckedMovement } from "../../plan/checked.js";
import { Rule, type RuleCells } from "../cells.js";
import type { SeatState } from "../state.js";
import type { Timed, Timer, Timers } from "../timers.js";

/** The eight directions by name; a stick's facing has none. */
const FACES = { right: 0, up: 2, left: 4, down: 6 };
const NONE = -1;

export class Facing extends Rule implements Timed {
  /** The facing as one of the eight directions, or -1; and the pending one that it is about to settle on, or -1. */
  readonly sector: number;
  private readonly settling = this.cells.int("settling", NONE);
  /** The vector that a stick has turned it to, of any length above 0: readers normalize it. */
  readonly x = this.cells.float("faceX");
  readonly y = this.cells.float("faceY");
  private readonly timer: Timer;
  private readonly start: number;
  private readonly from: number;
  private readonly settleMs: number;

  constructor(
    cells: RuleCells,
    private readonly movement: { readonly id: number },
    action: CheckedMovement,
    private readonly timers: Timers,
    number: number,
  ) {
    super(cells);
    this.start = FACES[action.faces];
    this.from = action.facingFrom;
    this.settleMs = action.settleMs;
    this.sector = cells.int("face", this.start);
    this.timer = timers.due(cells, "settles", this, number);
  }

  /** Follows the movement, whose x, y and length lie from this cell on. `isFree`: it comes from a stick with free directions. `sector`: otherwise, which of the eight it is, or -1. */
  follow(s: SeatState, at: number, isFree: boolean, sector: number): void {
    const { i } = s;
    const settling = i[this.settling]!;
    if (settling === NONE && isFree) {
      this.turnTo(s, at);
      return;
    }
    if (sector >= 0 && isBeside(i[this.sector]!, sector)) {
      if (settling === sector) return;
      i[this.settling] = sector;
      this.timers.set(s, this.timer, this.settleMs);
      return;
    }
    if (settling !== NONE) {
      i[this.settling] = NONE;
      this.timers.clear(s, this.timer);
    }
    if (sector >= 0) i[this.sector] = sector;
    else this.turnTo(s, at);
  }

  /** Whether a stick of this length turns it. */
  isReached(length: number): boolean {
    return length > 0 && length >= this.from;
  }

  /** Turns to where the movement points, if that is far enough from rest. */
  private turnTo({ f, i }: SeatState, at: number): void {
    if (!this.isReached(f[at + 2]!)) return;
    i[this.sector] = NONE;
    f[this.x] = f[at]!;
    f[this.y] = f[at + 1]!;
  }

  /** The movement has lasted long enough. */
  due(s: SeatState): void {
    s.i[this.sector] = s.i[this.settling]!;
    s.i[this.settling] = NONE;
    s.noteMoved(this.movement.id);
  }

  reset(s: SeatState): void {
    s.i[this.sector] = this.start;
    s.i[this.settling] = NONE;
    this.timers.clear(s, this.timer);
  }
}

/** True from a diagonal (an odd sector) to one of the two beside it. */
function isBeside(from: number, to: number): boolean {
  return (from & 1) === 1 && from > 0 && (((from + 1) & 7) === to || from - 1 === to);
}
