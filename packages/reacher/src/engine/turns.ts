/**
 * Turns: how far the view was turned. In: pixels of the mouse, which are amounts, and sticks, which are rates. Out: the
 * amount of each step.
 *
 * The state holds the whole amount since the start, as a function of time; a step's amount is the difference between its
 * end and the end of the step before. So the amounts of all steps add up to the same, whatever the step rate is.
 */
import { Clock, StickFloat, TurnFloat } from "./layout.js";
import type { SeatState } from "./state.js";
import type { TurnMouse, TurnTable } from "./tables.js";

/** The mouse moved by so many pixels, one way. */
export function addPixels(state: SeatState, mouse: TurnMouse, pixels: number): void {
  const turn = state.tables.turn[mouse.turn]!;
  if (state.i[mouse.hiddenAt] === 1 || !state.isLive(turn.action)) return;
  bringUp(state, turn);
  state.f[turn.f + (mouse.vertical ? TurnFloat.TotalY : TurnFloat.TotalX)]! += pixels * mouse.perPixel;
  tellTurn(state, turn);
}

/** Its sticks, or whether it is live, have changed: the one tilted furthest gives the rate. */
export function updateTurn(state: SeatState, id: number): void {
  const { f } = state;
  const turn = state.tables.turn[id]!;
  let x = 0;
  let y = 0;
  let longest = 0;
  if (state.isLive(turn.action)) {
    for (const { f: at, perMs } of turn.sticks) {
      const length = f[at + StickFloat.Length]!;
      if (length <= longest) continue;
      longest = length;
      x = f[at + StickFloat.X]! * perMs;
      y = f[at + StickFloat.Y]! * perMs;
    }
  }
  if (f[turn.f + TurnFloat.RateX] === x && f[turn.f + TurnFloat.RateY] === y) return;
  bringUp(state, turn);
  f[turn.f + TurnFloat.RateX] = x;
  f[turn.f + TurnFloat.RateY] = y;
  tellTurn(state, turn);
}

function tellTurn(state: SeatState, turn: TurnTable): void {
  if (state.watcher !== null) state.watcher.turned?.(state.clock[Clock.Now]!, turn.action);
}

/** Carries the whole amount to this moment, and keeps what it was when the step at hand began. */
function bringUp(state: SeatState, turn: TurnTable): void {
  const { f } = state;
  const at = turn.f;
  if (f[at + TurnFloat.SavedStep] !== state.clock[Clock.Step]) {
    f[at + TurnFloat.SavedStep] = state.clock[Clock.Step]!;
    f[at + TurnFloat.SavedX] = totalAt(f, at, TurnFloat.TotalX, state.clock[Clock.Before]!);
    f[at + TurnFloat.SavedY] = totalAt(f, at, TurnFloat.TotalY, state.clock[Clock.Before]!);
  }
  const now = state.clock[Clock.Now]!;
  f[at + TurnFloat.TotalX] = totalAt(f, at, TurnFloat.TotalX, now);
  f[at + TurnFloat.TotalY] = totalAt(f, at, TurnFloat.TotalY, now);
  f[at + TurnFloat.At] = now;
}

/** The whole amount at a moment that is not before the last change. */
function totalAt(f: Float64Array, at: number, which: number, t: number): number {
  const rate = f[at + which + (TurnFloat.RateX - TurnFloat.TotalX)]!;
  const total = f[at + which]!;
  return rate === 0 ? total : total + rate * (t - f[at + TurnFloat.At]!);
}

/** What the game gets for a turn. Made once; every field is read off the seat's state as it is at the moment. */
export class TurnReading {
  readonly #state: SeatState;
  #table: TurnTable;

  /** @internal */
  constructor(state: SeatState, table: TurnTable) {
    this.#state = state;
    this.#table = table;
  }

  /** @internal */
  static point(reading: TurnReading, table: TurnTable): void {
    reading.#table = table;
  }

  /** How far to the right in this step, in the plan's unit (degrees). */
  get dx(): number {
    return this.#inStep(TurnFloat.TotalX);
  }

  /** How far up in this step; down is positive where the plan's `yAxis` says "down". */
  get dy(): number {
    return this.#inStep(TurnFloat.TotalY);
  }

  #inStep(which: number): number {
    const { f } = this.#state;
    const at = this.#table.f;
    const before =
      f[at + TurnFloat.SavedStep] === this.#state.clock[Clock.Step]
        ? f[at + which + (TurnFloat.SavedX - TurnFloat.TotalX)]!
        : totalAt(f, at, which, this.#state.clock[Clock.Before]!);
    return totalAt(f, at, which, this.#state.clock[Clock.Now]!) - before + 0;
  }

  toJSON(): { dx: number; dy: number } {
    return { dx: this.dx, dy: this.dy };
  }

  [Symbol.for("nodejs.util.inspect.custom")](): object {
    return { dx: this.dx, dy: this.dy };
  }
}
