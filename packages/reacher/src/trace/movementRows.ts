/** Detects changes of an axis, a vector or a turn from step to step. In: its reading. Out: rows. May change: the values of its last row. */
import type { AxisReading, TurnReading, VectorReading } from "../engine/readings.js";
import { rounded, type AxisRow, type ReplayRow, type VectorRow } from "./rows.js";

export type Moving = AxisReading | VectorReading | TurnReading;

/** Called with the reading of a movement that has changed, in place of a row. */
export type OnMoved = (
  at: number,
  seat: string,
  action: string,
  reading: AxisReading | VectorReading | TurnReading,
) => void;

/** A ramp or a turn changes at every step, except at one on its very beginning; so it is looked at a few times before it counts as still. */
export const LOOKS = 3;

export class MovementRows {
  /** Whether a notice said that it has changed. */
  moved = false;
  /** Whether it may change without a notice; no longer after `patience` looks without a change. */
  flows = false;
  patience = 0;
  private still = 0;
  private x = 0;
  private y = 0;
  private gait: string | null = null;
  private pace = 1;
  private faceX = 0;
  private faceY = 0;

  readonly isTurn: boolean;

  constructor(
    readonly seat: string,
    readonly action: string,
    private readonly reading: Moving,
    private readonly onMoved: OnMoved | undefined,
  ) {
    this.isTurn = "dx" in reading;
    if ("dx" in reading) return;
    this.pace = reading.pace;
    this.faceX = "value" in reading ? reading.facing : reading.facing.x;
    this.faceY = "value" in reading ? 0 : reading.facing.y;
  }

  look(t: number, emit: (row: ReplayRow) => void): void {
    const { reading, action, seat } = this;
    if (this.moved) this.still = 0;
    this.flows = this.still++ < this.patience;
    this.moved = false;
    if ("dx" in reading) {
      const { dx, dy } = reading;
      if (dx === 0 && dy === 0) return;
      this.still = 0;
      if (this.onMoved !== undefined) this.onMoved(t, seat, action, reading);
      else emit({ at: rounded(t), seat, action, dx: rounded(dx), dy: rounded(dy) });
      return;
    }
    const isAxis = "value" in reading;
    const x = isAxis ? reading.value : reading.x;
    const y = isAxis ? 0 : reading.y;
    const faceX = isAxis ? reading.facing : reading.facing.x;
    const faceY = isAxis ? 0 : reading.facing.y;
    const { gait, pace } = reading;
    const turned = faceX !== this.faceX || faceY !== this.faceY;
    const banded = gait !== this.gait;
    const paced = pace !== this.pace;
    if (x === this.x && y === this.y && !turned && !banded && !paced) return;
    this.still = 0;
    this.x = x;
    this.y = y;
    this.gait = gait;
    this.pace = pace;
    this.faceX = faceX;
    this.faceY = faceY;
    if (this.onMoved !== undefined) {
      this.onMoved(t, seat, action, reading);
      return;
    }
    // Written out, since a trace has millions of them.
    if (isAxis) {
      const row: Growing<AxisRow> = { at: rounded(t), seat, action, value: rounded(x) };
      if (banded) row.gait = gait;
      if (paced) row.pace = rounded(pace);
      if (turned) row.facing = faceX;
      emit(row);
      return;
    }
    const row: Growing<VectorRow> = { at: rounded(t), seat, action, x: rounded(x), y: rounded(y) };
    if (banded) row.gait = gait;
    if (paced) row.pace = rounded(pace);
    if (turned) row.facing = [rounded(faceX), rounded(faceY)];
    emit(row);
  }
}

type Growing<T> = { -readonly [K in keyof T]: T[K] };
