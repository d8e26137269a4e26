/**
 * What the game tells a layer, and what befalls its devices: one union, which watchers are told, a trace has as its lines, and a replay
 * gives back. In the queue of a seat a command is a few numbers; its object is made only where somebody watches.
 */
import { COMMAND_KINDS } from "../engine/commands.js";
import { DriveBits, Kind } from "../engine/queue.js";
import { reasonNames } from "../engine/reasons.js";
import type { Seat as EngineSeat } from "../engine/seat.js";
import { FALSE_AT_ONCE } from "../engine/situations/flags.js";
import type { CheckedAction, CheckedPlan } from "../plan/checked.js";
import type { Overrides } from "../plan/players/overrides.js";
import type { Plan } from "../plan/types.js";

/** What the game tells a seat. */
export type SeatCommand =
  /** `linger` is false if the flag must not linger. */
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
  /** Without `reason` all of them are removed. */
  | { readonly unmute: string; readonly reason?: string }
  | { readonly reset: true }
  | { readonly overrides: Overrides | null };

/** A device was lost, a pad was given to a seat or (null) taken away from it, or the seats that play changed. */
export type DeviceCommand =
  | { readonly lost: "focus" }
  | { readonly lost: "pad"; readonly pad: number }
  | { readonly seatPad: string; readonly pad: number | null }
  | { readonly openSeats: readonly string[] };

/** All that a trace has as a line, but for controls. */
export type Command = SeatCommand | DeviceCommand;

/** What watchers are told besides: another plan, and a grant that the game took, which are in no trace. */
export type WatchedCommand = Command | { readonly plan: Plan } | { readonly take: string };

/** The command behind an event of a seat; `undefined` if it is none. */
export function commandOf(
  {
    name,
    checked,
    engine,
  }: { readonly name: string; readonly checked: CheckedPlan; readonly engine: EngineSeat },
  kind: Kind,
  index: number,
  value: number,
  other: number,
): Command | undefined {
  const known = COMMAND_KINDS[kind];
  if (known === undefined) return undefined;
  if (known.names === undefined) {
    if (kind === Kind.Reset) return { reset: true };
    if (index < 0) return { lost: "focus" };
    // It was not lost, but taken away.
    return value < 0 ? { seatPad: name, pad: null } : { lost: "pad", pad: value };
  }
  const thing = checked[known.names][kind === Kind.Drive ? index >> DriveBits.Action : index]!;
  const reasonOf = (bits: number) => reasonNames(engine, engine.tables, bits)[0]!;
  const details = (): object => {
    switch (kind) {
      case Kind.Flag:
        return { value: value === 1, ...(value === FALSE_AT_ONCE && { linger: false }) };
      case Kind.SetSwitch:
        return { value: value === 1 };
      case Kind.Number:
        return { value };
      case Kind.Mute:
      case Kind.Unmute:
        return value < 0 ? {} : { reason: reasonOf(value) };
      case Kind.Drive:
        return {
          value: drivenBy(thing as CheckedAction, value, other),
          reason: reasonOf(1 << ((index >> DriveBits.Reason) & DriveBits.ReasonMask)),
          ...((index & DriveBits.Alone) !== 0 && { alone: true }),
        };
      default:
        return {};
    }
  };
  return { [known.key]: thing.name, ...details() } as unknown as Command;
}

function drivenBy(
  { kind }: CheckedAction,
  x: number,
  y: number,
): true | number | readonly [number, number] | null {
  if (kind === "switch") return x === 1 ? true : null;
  if (x !== x) return null;
  return kind === "axis" ? x : [x, y];
}
