/** One line of a settings screen. Types alone. */
import type { Range } from "../plan/types.js";

/** One thing that a player may set. */
export type Setting = {
  /** What `editOverrides().set` takes: `surge.gapMs`, `bounceMs`. */
  readonly address: string;
  /** The action that it belongs to and its label; `undefined` for the whole plan. */
  readonly action: string | undefined;
  /** The label of the slot that it is for, where it is not for all of the action: mouse and stick differ. */
  readonly slot?: string;
  readonly label: string;
  /** What it is, in words: "Double-tap time". */
  readonly about: string;
} & (
  | {
      readonly kind: "number";
      readonly range: Range;
      readonly unit: "ms" | "share" | "times" | "degrees";
      readonly value: number;
      /** What the plan says. */
      readonly plan: number;
    }
  | {
      readonly kind: "choice";
      readonly options: readonly string[];
      readonly value: string;
      readonly plan: string;
    }
);
