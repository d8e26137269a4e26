/** The game drives an action itself: a cutscene, an assist, a button on the screen. Each action has a rule of its own for it. */
import type { Feature } from "./compile.js";
import { DrivenMovement } from "./movement/driven.js";
import { Movement } from "./movement/movement.js";
import { DriveBits, EventKind } from "./queue.js";
import type { SeatState } from "./state.js";
import { DrivenSwitch } from "./switches/driven.js";
import { Switch } from "./switches/switch.js";
import type { Action, CommandRule } from "./tables.js";

class Driving implements CommandRule {
  // Another plan may have something else of a name: a turn is not driven.
  constructor(private readonly actions: readonly Action[]) {}

  apply(s: SeatState, index: number, x: number, y: number): void {
    const reason = (index >> DriveBits.Reason) & DriveBits.ReasonMask;
    this.actions[index >> DriveBits.Action]!.drive?.(s, reason, index & DriveBits.WayMask, x, y);
  }
}

class Blending implements CommandRule {
  constructor(private readonly actions: readonly Action[]) {}

  apply(s: SeatState, index: number, ms: number): void {
    this.actions[index]!.blendNext?.(s, ms);
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
