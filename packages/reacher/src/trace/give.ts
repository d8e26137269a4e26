/** Gives a trace's commands to a seat. In: a command, and a plan that may lack what it names. */
import { COMMAND_KINDS } from "../engine/commands.js";
import type { SeatCommand } from "../layer/command.js";
import type { Seat } from "../layer/types.js";
import type { CheckedAction, CheckedPlan } from "../plan/checked.js";

/** Gives a command to a seat, at a moment in ms. Overrides have none: they count at once. */
export function give(seat: Seat, command: SeatCommand, t: number): void {
  if ("flag" in command) seat.setFlag(command.flag, command.value, { t, linger: command.linger });
  else if ("setSwitch" in command) seat.setSwitch(command.setSwitch, command.value, t);
  else if ("number" in command) seat.setNumber(command.number, command.value, t);
  else if ("spot" in command) seat.setSpot(command.spot, ...command.value, t);
  else if ("drive" in command)
    seat.drive(command.drive as never, command.value as never, command.reason, {
      t,
      how: command.how,
      blendMs: command.blendMs,
    });
  else if ("enter" in command) seat.enter(command.enter, t);
  else if ("leave" in command) seat.leave(command.leave, t);
  else if ("mute" in command) seat.mute(command.mute, command.reason, t);
  else if ("unmute" in command) seat.unmute(command.unmute, command.reason, t);
  else if ("reset" in command) seat.reset(t);
  else seat.setOverrides(command.overrides);
}

/** What a command names and this plan does not have, with its kind; `undefined` if it has all. */
export function missingIn(plan: CheckedPlan, command: SeatCommand): string | undefined {
  for (const known of Object.values(COMMAND_KINDS)) {
    if (known?.names === undefined || !Object.hasOwn(command, known.key)) continue;
    const { key, names } = known;
    const name = (command as unknown as Readonly<Record<string, string>>)[key]!;
    const kind = kindAsked(command) ?? names.slice(0, -1);
    return plan[names].some((one) => one.name === name && fits(one as CheckedAction, command))
      ? undefined
      : `${kind} ${name}`;
  }
  return undefined;
}

/** The kind of action that a command is for; `undefined` if any will do. */
function kindAsked(command: SeatCommand): CheckedAction["kind"] | undefined {
  if ("setSwitch" in command) return "switch";
  if (!("drive" in command) || command.value === null) return undefined;
  return command.value === true ? "switch" : typeof command.value === "number" ? "axis" : "vector";
}

function fits({ kind }: CheckedAction, command: SeatCommand): boolean {
  const asked = kindAsked(command);
  return asked === undefined ? !("drive" in command) || kind !== "turn" : kind === asked;
}
