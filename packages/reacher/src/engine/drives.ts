/** The game drives an action itself: a cutscene, an assist, a button on the screen. Each action has a rule of its own for it. */
import type { Feature } from "./compile.js";
import { DrivenMovement } from "./movement/driven.js";
import { Movement } from "./movement/movement.js";
import { DriveBits, EventKind } from "./queue.js";
import type { SeatState } from "./state.js";
import { DrivenSwitch } from "./switches/driven.js";
import { Switch } from "./switches/switch.js";
import type { CommandRule } from "./tables.js";

/** The reasons that drive an action, one bit each. */
export function drivesOf(action: object): ((s: Pick<SeatState, "i">) => number) | undefined {
  if (action instanceof Switch) return ({ i }) => (action.driver === null ? 0 : i[action.driver.reasons]!);
  if (action instanceof Movement) return (s) => action.driven?.reasons(s) ?? 0;
  return undefined;
}

class Driving implements CommandRule {
  constructor(private readonly actions: readonly object[]) {}

  apply(s: SeatState, index: number, x: number, y: number): void {
    const action = this.actions[index >> DriveBits.Action];
    const reason = (index >> DriveBits.Reason) & DriveBits.ReasonMask;
    // Another plan may have something else of this name.
    if (action instanceof Switch) action.driver!.drive(s, reason, x === 1);
    else if (action instanceof Movement) action.drive(s, reason, index & DriveBits.WayMask, x, y);
  }
}

class Blending implements CommandRule {
  constructor(private readonly actions: readonly object[]) {}

  apply(s: SeatState, index: number, ms: number): void {
    const action = this.actions[index];
    if (action instanceof Movement) action.driven!.blendNext(s, ms);
  }
}

export const drives: Feature = {
  open: (compiler) => {
    compiler.commands[EventKind.Drive] = new Driving(compiler.actions);
    compiler.commands[EventKind.Blend] = new Blending(compiler.actions);
  },
  link: ({ actions, timers }) => {
    actions.forEach((action, number) => {
      if (action instanceof Switch) action.driver = new DrivenSwitch(action);
      else if (action instanceof Movement)
        action.driven = new DrivenMovement(action.cells, action, timers, number);
    });
  },
};
