/** What a timeline is made of: lanes of controls and of actions, with bars, marks, reasons and windows. */
import type { CheckedEntry } from "reacher/internal";
import type { Reason } from "reacher/trace";

/** A time window. `place` is the number that sets its length. */
export interface Window {
  readonly from: number;
  readonly to: number;
  readonly kind: CheckedEntry["kind"] | "kept" | "cooldown";
  readonly place: string;
}

/** From one moment to another, in ms. */
export interface Bar {
  readonly from: number;
  to: number;
  /** How it ended, if not by its player. */
  endedBy?: string;
}

/** The values of one control of one device. */
export interface ControlLane {
  readonly key: string;
  readonly control: string;
  readonly pad: number;
  readonly bars: Bar[];
  /** Its values by time. */
  readonly line: { readonly at: number; readonly value: number }[];
}

/** The state of a movement from one moment on. */
export interface Moving {
  readonly at: number;
  readonly x: number;
  readonly y: number;
  readonly pace: number;
  readonly gait: string | null;
}

export interface Mark {
  readonly at: number;
  readonly kind: "pulse" | "grant";
}

/** The changes of one action of one seat. */
export interface ActionLane {
  readonly key: string;
  readonly seat: string;
  readonly action: string;
  readonly kind: "switch" | "axis" | "vector" | "turn";
  readonly bars: Bar[];
  readonly marks: Mark[];
  moving: readonly Moving[];
  readonly reasons: PlacedReason[];
  /** For a switch: the time windows that it counts by. */
  windows: readonly Window[];
}

export type PlacedReason = Reason & { readonly seat: string };

export interface Timeline {
  /** The moment of its last entry, in ms from its first. */
  readonly to: number;
  readonly controls: readonly ControlLane[];
  readonly actions: readonly ActionLane[];
  /** Names in the trace that the plan does not have. */
  readonly skipped: readonly string[];
}
