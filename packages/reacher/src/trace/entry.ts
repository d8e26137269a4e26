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
 * When a line counts, in ms. `after`: it came when all that was due at that moment, and the windows that ended there, had been
 * handled: a late event, or something that the game told without a moment.
 */
export interface Stamped {
  readonly t: number;
  readonly after?: true;
}

/** A control had this value from `t` on. */
export interface ControlEntry extends Stamped {
  readonly control: string;
  readonly value: number;
  readonly pad: number;
}

/** The game told the layer something. `seat` is missing where it went to all. */
export type ToldEntry = Stamped & { readonly seat?: string } &
  /** `linger` is false where it does not count as true a while longer. */
  (
    | { readonly flag: string; readonly value: boolean; readonly linger?: false }
    | { readonly number: string; readonly value: number }
    | { readonly setSwitch: string; readonly value: boolean }
    | {
        readonly drive: string;
        /** Of a switch `true`, of an axis a number, of a vector x and y; `null` where the reason lets go. */
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

/** A device was lost, a pad went to a seat or (null) was taken away from it, or other seats play from now on. */
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
