/**
 * Explains: for each press, the rule that decided and its numbers, as a reason.
 * In: a running layer, or a plan and a trace. Out: reasons. A layer that is not explained pays nothing.
 *
 * It compares the seat's cells before and after each event, so it reports what the engine did, not what it should have done.
 */

import { because } from "../engine/explaining.js";
import type { WatchedCommand } from "../layer/command.js";
import { engineBehind } from "../layer/seatHandle.js";
import type { InputLayer, Unsubscribe, Seat } from "../layer/types.js";
import type { Kinds, Plan } from "../plan/types.js";
import { Explainer } from "./explainer.js";
import type { Reason } from "./reason.js";
import type { Cause } from "./switchReasons.js";
import type { TraceEntry } from "./entry.js";
import { mustBeLayer, mustCall } from "../plan/arguments.js";
import { ReacherError } from "../plan/errors.js";
import { WAITS } from "../plan/later.js";
import { pushAll, startReplay, type Replay } from "./replay.js";

export type { Reason };

const WAITING: unique symbol = Symbol.for(WAITS);

/** Starts a replay that passes each reason to `emit`, so that a trace of any length can be explained. */
export function startExplaining<K extends Kinds, F extends string>(
  plan: Plan<K, F>,
  emit: (reason: Reason) => void,
  seat?: string,
): Replay {
  const running = startReplay(plan, {}, () => {});
  explainLayer(running.layer, emit, seat);
  return running;
}

/** Explains a whole trace, or one action in it. */
export function explain<K extends Kinds, F extends string>(
  plan: Plan<K, F>,
  entries: Iterable<TraceEntry>,
  action?: string,
): Reason[] {
  const reasons: Reason[] = [];
  const running = startExplaining(plan, (reason) => {
    if (action === undefined || reason.action === action) reasons.push(reason);
  });
  pushAll(running, entries);
  return reasons;
}

/**
 * Explains a layer while it works: its first seat, or the one named. Returns a function that stops it.
 * @throws ReacherError for an unknown seat, and where code that was made for the plan plays
 */
export function explainLayer<K extends Kinds, F extends string>(
  input: InputLayer<K, F>,
  emit: (reason: Reason) => void,
  named?: string,
): Unsubscribe {
  mustBeLayer(input);
  mustCall(emit, "explainLayer(input, emit)");
  const seat = named ?? input.seats[0]!;
  const engine = engineBehind(input.seat(seat) as Seat);
  const waits = (input as { readonly [WAITING]?: boolean })[WAITING] === true;
  if (engine.tables.bind !== undefined || waits)
    throw new ReacherError(
      "code that was made for a plan tells no reasons: await input.bringKeys() first, or build it with --calls setPlan, for the rules from the beginning",
    );
  const explainer = new Explainer(engine, emit);
  const here = (name: string, cause: Cause) => {
    if (name === seat) explainer.before(cause);
  };
  return input.watch({
    // For each move of a stick: nothing is made for what does not count.
    event: ({ control }, name) => {
      if (name === seat && explainer.isIdle) explainer.before({ control });
    },
    command: (command, { t: at, seat: name, done }) => {
      if (name !== seat) return;
      if ("take" in command)
        emit({ at, action: command.take, ...because("counts", "took", "taken by call") });
      else if (!done && explainer.isIdle) explainer.before(causeOf(command));
    },
    due: (timer, name) => here(name, { timer }),
    settled: (at, name) => {
      if (name === seat) explainer.after(at);
    },
  });
}

/** What a reason says of a command. */
function causeOf(command: WatchedCommand): Cause {
  if ("flag" in command) return { command: `${command.flag} is ${command.value ? "so" : "not so"}` };
  if ("setSwitch" in command)
    return {
      command: `${command.setSwitch} is set ${command.value ? "on" : "off"}`,
      set: command.setSwitch,
    };
  if ("drive" in command)
    return { drive: { action: command.drive, isOn: command.value !== null, reason: command.reason } };
  if ("number" in command) return { command: `${command.number} is ${command.value}` };
  if ("lost" in command) return { command: `${command.lost} lost` };
  if ("seatPad" in command) return { command: "pad lost" };
  return "reset" in command ? { command: "reset" } : {};
}
