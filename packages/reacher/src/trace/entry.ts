/** What the lines of a trace say. */
import type { Overrides } from "../plan/overrides.js";

/** The first line of a trace. */
export interface TraceHead {
  readonly reacherTrace: 1;
  /** The name of the plan it was recorded with. */
  readonly plan?: string;
  readonly note?: string;
}

/**
 * When a line counts, in ms. `after`: it came when everything due at that moment, and the windows that ended then, had been
 * handled: a late event, or a command of the game without a moment.
 */
export interface Stamped {
  readonly t: number;
  readonly after?: true;
}

/** A trace lasts for no more, in ms: some three thousand years. */
const LONGEST = 1e14;

/** Whether this is a time that a trace may have. */
export function isMoment(t: unknown): t is number {
  return typeof t === "number" && t >= 0 && t <= LONGEST;
}

/** A control had this value from `t` on. */
export interface ControlEntry extends Stamped {
  readonly control: string;
  readonly value: number;
  readonly pad: number;
}

/** A command of the game. Without `seat` it went to all seats. */
export type ToldEntry = Stamped & { readonly seat?: string } &
  /** `linger` is false if the flag must not linger. */
  (
    | { readonly flag: string; readonly value: boolean; readonly linger?: false }
    | { readonly number: string; readonly value: number }
    | { readonly setSwitch: string; readonly value: boolean }
    | {
        readonly drive: string;
        /** For a switch `true`, for an axis a number, for a vector x and y; `null` lets go. */
        readonly value: true | number | readonly [x: number, y: number] | null;
        readonly reason: string;
        readonly alone?: true;
      }
    | { readonly enter: string }
    | { readonly leave: string }
    | { readonly mute: string; readonly reason: string }
    | { readonly unmute: string; readonly reason?: string }
    | { readonly reset: true }
    | { readonly overrides: Overrides | null }
  );

/** A device was lost, a pad was given to a seat or (null) taken away from it, or the seats that play changed. */
export type DeviceEntry = Stamped &
  (
    | { readonly lost: "focus" }
    | { readonly lost: "pad"; readonly pad: number }
    | { readonly seatPad: string; readonly pad: number | null }
    | { readonly openSeats: readonly string[] }
  );

/** The recording ends here. */
export interface EndEntry {
  readonly t: number;
  readonly end: true;
}

/** One line of a trace after its first. */
export type TraceEntry = ControlEntry | ToldEntry | DeviceEntry | EndEntry;
