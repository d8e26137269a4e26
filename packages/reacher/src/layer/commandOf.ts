/** Makes a command's object of its numbers in a seat's queue, where somebody watches. In: an event. Out: a command. Pure. */
import { COMMAND_KINDS } from "../engine/commands.js";
import { DriveBits, EventKind } from "../engine/queue.js";
import { reasonNames } from "../engine/reasons.js";
import type { SeatEngine } from "../engine/seat.js";
import { FOCUS_LOST } from "../engine/meanings.js";
import { FALSE_AT_ONCE } from "../engine/meanings.js";
import type { CheckedAction, CheckedPlan } from "../plan/checked.js";
import type { Command } from "./command.js";
import { unusualWay } from "./driving.js";

/** The command behind an event of a seat; `undefined` if it is none. */
export function commandOf(
  {
    name,
    checked,
    engine,
  }: { readonly name: string; readonly checked: CheckedPlan; readonly engine: SeatEngine },
  kind: EventKind,
  index: number,
  value: number,
  other: number,
): Command | undefined {
  const known = COMMAND_KINDS[kind];
  if (known === null || kind === EventKind.Blend) return undefined;
  if (known.names === undefined) {
    if (kind === EventKind.Reset) return { reset: true };
    if (index === FOCUS_LOST) return { lost: "focus" };
    if (index < 0) return { lost: engine.tables.devices[-index]! } as Command;
    // It was not lost, but taken away.
    return value < 0 ? { seatPad: name, pad: null } : { lost: "pad", pad: value };
  }
  const thing = checked[known.names][kind === EventKind.Drive ? index >> DriveBits.Action : index]!;
  const reasonOf = (bits: number) => reasonNames(engine, engine.tables, bits)[0]!;
  const details = (): object => {
    switch (kind) {
      case EventKind.Flag:
        return { value: value === 1, ...(value === FALSE_AT_ONCE && { linger: false }) };
      case EventKind.SetSwitch:
        return { value: value === 1 };
      case EventKind.Number:
        return { value };
      case EventKind.Spot:
        return { value: [value, other] };
      case EventKind.Mute:
      case EventKind.Unmute:
        return value < 0 ? {} : { reason: reasonOf(value) };
      case EventKind.Drive:
        return {
          value: drivenBy(thing as CheckedAction, value, other),
          reason: reasonOf(1 << ((index >> DriveBits.Reason) & DriveBits.ReasonMask)),
          ...howOf(engine, index, thing as CheckedAction, value),
        };
      default:
        return {};
    }
  };
  return { [known.key]: thing.name, ...details() } as unknown as Command;
}

/** How a drive meets the hands where that is not the action's own way, and how long it blends. */
function howOf({ tables, f }: SeatEngine, index: number, action: CheckedAction, value: number): object {
  if (action.kind === "switch") return {};
  const blendMs = tables.actions[index >> DriveBits.Action]!.nextBlend!({ f });
  return {
    ...(value === value &&
      unusualWay(index & DriveBits.WayMask, "combine" in action && action.combine === "sum")),
    ...(blendMs > 0 && { blendMs }),
  };
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
