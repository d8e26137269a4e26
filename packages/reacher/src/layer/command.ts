/**
 * What the game tells a layer, and what befalls its devices: one union, which watchers are told, a trace has as its lines, and a replay
 * gives back. In the queue of a seat a command is a few numbers; its object is made only where somebody watches. Types alone.
 */
import type { Overrides } from "../plan/players/overrides.js";
import type { Plan } from "../plan/types.js";

/** What the game tells a seat. */
export type SeatCommand =
  /** `linger` is false if the flag must not linger. */
  | { readonly flag: string; readonly value: boolean; readonly linger?: false }
  | { readonly number: string; readonly value: number }
  /** Where a spot is now, or (`pointer`) the pointer, without a move of a hand. */
  | { readonly spot: string; readonly value: readonly [x: number, y: number] }
  | { readonly setSwitch: string; readonly value: boolean }
  | {
      readonly drive: string;
      /** For a switch `true`, for an axis a number, for a vector x and y; `null` lets go. */
      readonly value: true | number | readonly [x: number, y: number] | null;
      readonly reason: string;
      /** Missing where it is the action's usual way. */
      readonly how?: "longest" | "add" | "alone";
      /** How long it blends, in ms. */
      readonly blendMs?: number;
    }
  | { readonly enter: string }
  | { readonly leave: string }
  | { readonly mute: string; readonly reason: string }
  /** Without `reason` all of them are removed. */
  | { readonly unmute: string; readonly reason?: string }
  | { readonly reset: true }
  | { readonly overrides: Overrides | null };

/** A device was lost, a pad was given to a seat or (null) taken away from it, or the seats that play changed. */
export type DeviceCommand =
  /** `focus`, `pad`, or the device of own controls. */
  | { readonly lost: string; readonly pad?: number; readonly seat?: string }
  | { readonly seatPad: string; readonly pad: number | null }
  | { readonly openSeats: readonly string[] };

/** All that a trace has as a line, but for controls. */
export type Command = SeatCommand | DeviceCommand;

/** What watchers are told besides: another plan, and a grant that the game took, which are in no trace. */
export type WatchedCommand = Command | { readonly plan: Plan } | { readonly take: string };
