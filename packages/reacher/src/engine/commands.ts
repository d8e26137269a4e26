/** What each kind of event in the queue is, beside a control's value: the key that tells it, what its index refers to, its cause. */
import { EventKind } from "./queue.js";
import { Cause } from "./state.js";

/** The lists of a plan whose things have a name. */
export type Named = "flags" | "numbers" | "spots" | "modes" | "actions";

interface CommandKind {
  /** The field of a command that names what it is about. */
  readonly key: string;
  /** The list of the plan that its index is a place in. */
  readonly names?: Named;
  /** Why something changes by it; @default the player's hands */
  readonly cause?: Cause;
}

export const COMMAND_KINDS: { readonly [kind in EventKind]: CommandKind | null } = {
  [EventKind.Flag]: { key: "flag", names: "flags" },
  [EventKind.Number]: { key: "number", names: "numbers" },
  [EventKind.Spot]: { key: "spot", names: "spots" },
  [EventKind.Enter]: { key: "enter", names: "modes", cause: Cause.Mode },
  [EventKind.Leave]: { key: "leave", names: "modes", cause: Cause.Mode },
  [EventKind.Mute]: { key: "mute", names: "actions", cause: Cause.Mute },
  [EventKind.Unmute]: { key: "unmute", names: "actions", cause: Cause.Mute },
  [EventKind.SetSwitch]: { key: "setSwitch", names: "actions", cause: Cause.Game },
  [EventKind.Drive]: { key: "drive", names: "actions" },
  // No command of its own: told with the drive that follows.
  [EventKind.Blend]: { key: "blend", names: "actions" },
  [EventKind.Lose]: { key: "lost", cause: Cause.Lost },
  [EventKind.Reset]: { key: "reset", cause: Cause.Reset },
  // These are no commands.
  [EventKind.Control]: null,
  [EventKind.Press]: null,
  [EventKind.Nothing]: null,
};
