/** The rows of a replay: one for each change, or the whole reading at one moment. Numbers are rounded to six decimals; -0 is 0. */
import type { EndedBy } from "../engine/switches/reading.js";

/** A switch turned on or off, at its exact moment in ms. */
export interface SwitchRow {
  readonly at: number;
  readonly seat: string;
  readonly action: string;
  readonly on: boolean;
  /** How it turned off, if not by its player. */
  readonly endedBy?: EndedBy;
}

/** An axis has changed, as of this step; with `gait`, `pace` and `facing` (-1 or 1) if these changed. */
export interface AxisRow {
  readonly at: number;
  readonly seat: string;
  readonly action: string;
  readonly value: number;
  readonly gait?: string | null;
  readonly pace?: number;
  readonly facing?: number;
}

/** A vector has changed, as of this step; with `gait`, `pace` and `facing` if these changed. */
export interface VectorRow {
  readonly at: number;
  readonly seat: string;
  readonly action: string;
  readonly x: number;
  readonly y: number;
  readonly gait?: string | null;
  readonly pace?: number;
  readonly facing?: readonly [number, number];
}

/** The amount of a turn in this step. */
export interface TurnRow {
  readonly at: number;
  readonly seat: string;
  readonly action: string;
  readonly dx: number;
  readonly dy: number;
}

/** The whole reading at one moment. */
export interface NowRow {
  readonly at: number;
  readonly seat: string;
  readonly now: Readonly<Record<string, object>>;
}

/** A switch pulsed, at this exact moment in ms. */
export interface PulseRow {
  readonly at: number;
  readonly seat: string;
  readonly action: string;
  readonly pulse: true;
}

/** A switch with `bufferMs` has begun, and may be taken. */
export interface GrantRow {
  readonly at: number;
  readonly seat: string;
  readonly action: string;
  readonly grant: true;
}

/** One line of a replay: a change, or the whole reading. */
export type ReplayRow = SwitchRow | PulseRow | GrantRow | AxisRow | VectorRow | TurnRow | NowRow;

/** Six decimals; -0 is 0. */
export function rounded(value: number): number {
  return Math.round(value * 1e6) / 1e6 + 0;
}
