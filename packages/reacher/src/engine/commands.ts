/** What each kind of event in the queue is, beside a control's value: the key that tells it, what its index refers to, its cause. */
import { Kind } from "./queue.js";
import { Cause } from "./state.js";

/** The lists of a plan whose things have a name. */
export type Named = "flags" | "numbers" | "modes" | "actions";

interface CommandKind {
  /** The field of a command that names what it is about. */
  readonly key: string;
  /** The list of the plan that its index is a place in. */
  readonly names?: Named;
  /** Why something changes by it; @default the player's hands */
  readonly cause?: Cause;
}

export const COMMAND_KINDS: { readonly [kind in Kind]?: CommandKind } = {
  [Kind.Flag]: { key: "flag", names: "flags" },
  [Kind.Number]: { key: "number", names: "numbers" },
  [Kind.Enter]: { key: "enter", names: "modes", cause: Cause.Mode },
  [Kind.Leave]: { key: "leave", names: "modes", cause: Cause.Mode },
  [Kind.Mute]: { key: "mute", names: "actions", cause: Cause.Mute },
  [Kind.Unmute]: { key: "unmute", names: "actions", cause: Cause.Mute },
  [Kind.SetSwitch]: { key: "setSwitch", names: "actions", cause: Cause.Game },
  [Kind.Drive]: { key: "drive", names: "actions" },
  [Kind.Lose]: { key: "lost", cause: Cause.Lost },
  [Kind.Reset]: { key: "reset", cause: Cause.Reset },
};
