/** A pad as a page shows it, and where pads are read from. */

/** Gives the pads by their index; empty places are null. */
export type PadSource = () => readonly (PadLike | null | undefined)[];

/** The part of a W3C `Gamepad` that is read. */
export interface PadLike {
  readonly index: number;
  readonly id?: string;
  readonly connected: boolean;
  readonly mapping: string;
  /** When its values last changed, on the clock of `performance.now()`; 0 where the browser does not say. */
  readonly timestamp?: number;
  readonly axes: readonly number[];
  readonly buttons: readonly { readonly value: number; readonly pressed: boolean }[];
}
