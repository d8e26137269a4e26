/** What the lines of a trace say. */

/** The first line of a trace. */
export interface TraceHead {
  readonly reacherTrace: 1;
  /** The name of the plan it was recorded with. */
  readonly plan?: string;
  readonly note?: string;
}

/** A control had this value from `t` (ms) on. */
export interface ControlEntry {
  readonly t: number;
  readonly control: string;
  readonly value: number;
  readonly pad: number;
}

/** The game told the layer something. `seat` is missing where it went to all. */
export type ToldEntry = { readonly t: number; readonly seat?: string } & (
  | { readonly flag: string; readonly value: boolean }
  | { readonly enter: string }
  | { readonly leave: string }
  | { readonly mute: string; readonly reason: string }
  | { readonly unmute: string; readonly reason?: string }
);

/** A device was lost, a pad went to a seat, or other seats play from now on. */
export type DeviceEntry = { readonly t: number } & (
  | { readonly lost: "focus" }
  | { readonly lost: "pad"; readonly pad: number }
  | { readonly seatPad: string; readonly pad: number }
  | { readonly openSeats: readonly string[] }
);

/** The recording ends here. */
export interface EndEntry {
  readonly t: number;
  readonly end: true;
}

export type TraceEntry = ControlEntry | ToldEntry | DeviceEntry | EndEntry;
