/** What the lines of a trace say. */
import type { DeviceCommand, SeatCommand } from "../layer/command.js";

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
  /** Of an own control that was fed to one seat. */
  readonly seat?: string;
}

/** A command of the game. Without `seat` it went to all seats. */
export type CommandEntry = Stamped & { readonly seat?: string } & SeatCommand;

/** A device was lost, a pad was given to a seat or (null) taken away from it, or the seats that play changed. */
export type DeviceEntry = Stamped & DeviceCommand;

/**
 * One line of a trace after its first. `state`: the whole state of each seat at this moment, by its snapshot as base64; what was on then
 * follows as lines, for other plans. `end`: the recording ends here.
 */
export type TraceEntry =
  | ControlEntry
  | CommandEntry
  | DeviceEntry
  | { readonly t: number; readonly state: Readonly<Record<string, string>> }
  | { readonly t: number; readonly end: true };
