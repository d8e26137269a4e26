/** Tells when an axis, a vector or a turn is other than at the step before. In: its reading, looked at. Out: rows. May change: what it last told. */
import type { AxisReading, TurnReading, VectorReading } from "../engine/readings.js";
import { rounded, type ReplayRow, type VectorRow } from "./rows.js";

export type Moving = AxisReading | VectorReading | TurnReading;

/** A ramp or a turn changes with every step, but for one that falls on its very beginning. */
export const LOOKS = 3;

export class MovementRows {
  /** Whether it has changed since it was looked at. */
  moved = false;
  /** Whether it may change from step to step; after so many looks at which it had not, it does no longer. */
  flows = false;
  patience = 0;
  private still = 0;
  private x = 0;
  private y = 0;
  private gait: string | null = null;
  private faceX: number;
  private faceY: number;

  constructor(
    readonly seat: string,
    readonly action: string,
    private readonly reading: Moving,
  ) {
    this.faceX = "facing" in reading ? reading.facing.x : 0;
    this.faceY = "facing" in reading ? reading.facing.y : 0;
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
      emit({ at: rounded(t), seat, action, dx: rounded(dx), dy: rounded(dy) });
      return;
    }
    if (!("facing" in reading)) {
      if (reading.value === this.x) return;
      this.still = 0;
      this.x = reading.value;
      emit({ at: rounded(t), seat, action, value: rounded(this.x) });
      return;
    }
    const { x, y, gait } = reading;
    const faceX = reading.facing.x;
    const faceY = reading.facing.y;
    const turned = faceX !== this.faceX || faceY !== this.faceY;
    const paced = gait !== this.gait;
    if (x === this.x && y === this.y && !turned && !paced) return;
    this.still = 0;
    this.x = x;
    this.y = y;
    this.gait = gait;
    this.faceX = faceX;
    this.faceY = faceY;
    const row: Growing<VectorRow> = { at: rounded(t), seat, action, x: rounded(x), y: rounded(y) };
    if (paced) row.gait = gait;
    if (turned) row.facing = [rounded(faceX), rounded(faceY)];
    emit(row);
  }
}

type Growing<T> = { -readonly [K in keyof T]: T[K] };
