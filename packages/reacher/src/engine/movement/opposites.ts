/** Resolves opposite ends that are down together. */
import type { CheckedMovement } from "../../plan/checked.js";
import type { RuleCells } from "../cells.js";
import type { SeatState } from "../state.js";
import { End, HORIZONTAL, VERTICAL } from "./ends.js";

export class Opposites {
  /** By end: the event that pressed it last, and the one that pressed the first of the keys held; -1 if unused. */
  readonly newest: number;
  readonly first: number;
  private readonly opposed: CheckedMovement["opposed"];
  private readonly directions: CheckedMovement["directions"];

  constructor(cells: RuleCells, { opposed, directions }: CheckedMovement) {
    this.opposed = opposed;
    this.directions = directions;
    this.newest = cells.int("newest", 0, 4);
    this.first = opposed === "earliest" ? cells.int("first", 0, 4) : -1;
  }

  /** Whether the first of two ends was pressed later. */
  isAcross({ i }: SeatState, across: End, along: End): boolean {
    return i[this.newest + across]! > i[this.newest + along]!;
  }

  /** Of the ends that are down, those that count: opposite ones are settled, and with four directions perpendicular ones too. */
  settle(s: SeatState, ends: number): number {
    const left = this.settleOpposite(s, ends);
    if (this.directions !== 4 || (left & HORIZONTAL) === 0 || (left & VERTICAL) === 0) return left;
    const across = (left & (1 << End.Left)) === 0 ? End.Right : End.Left;
    const along = (left & (1 << End.Down)) === 0 ? End.Up : End.Down;
    return left & (this.isAcross(s, across, along) ? HORIZONTAL : VERTICAL);
  }

  settleOpposite(s: SeatState, ends: number): number {
    let left = ends;
    if ((left & HORIZONTAL) === HORIZONTAL) left &= ~this.loser(s, End.Left, End.Right);
    if ((left & VERTICAL) === VERTICAL) left &= ~this.loser(s, End.Down, End.Up);
    return left;
  }

  /** Which of two opposite ends, both down, count for nothing. */
  private loser({ i }: SeatState, minus: End, plus: End): number {
    const { opposed } = this;
    if (opposed === "neutral") return (1 << minus) | (1 << plus);
    const isLatest = opposed === "latest";
    const stamps = isLatest ? this.newest : this.first;
    const plusIsLater = i[stamps + plus]! > i[stamps + minus]!;
    return plusIsLater === isLatest ? 1 << minus : 1 << plus;
  }
}
