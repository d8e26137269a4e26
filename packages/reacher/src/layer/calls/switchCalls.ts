/** The game sets switches, takes what they grant, and resets. */
import { momentOf, mustBeTruth, type Moment } from "../../plan/arguments.js";
import { EventKind } from "../../engine/queue.js";
import { command, indexIn, SeatPart, switchOf } from "./seatPart.js";

export abstract class SetSwitchCalls extends SeatPart {
  setSwitch(action: string, on: boolean, t?: Moment): void {
    switchOf(this, action);
    mustBeTruth(on, `the switch ${action}`);
    command(
      this,
      EventKind.SetSwitch,
      indexIn("action", action, this.checked.actions),
      on ? 1 : 0,
      momentOf(t),
    );
  }
}

export abstract class TakeCalls extends SeatPart {
  take(action: string): boolean {
    const took = switchOf(this, action).take(this.engine);
    if (took) this.notifyCommand({ take: action });
    return took;
  }
}

export abstract class ResetCalls extends SeatPart {
  reset(t?: Moment): void {
    command(this, EventKind.Reset, 0, 0, momentOf(t));
  }
}
