/** Callbacks of a game, by kind of change and action. May change: the lists of these. */
import { mustCall } from "../../plan/arguments.js";
import { shown } from "../../plan/depth.js";
import { ReacherError } from "../../plan/errors.js";
import { Clock } from "../../engine/clock.js";
import { Notice } from "../../engine/notices.js";
import type { EndedBy, SwitchReading } from "../../engine/switches/reading.js";
import type { SwitchChange, Unsubscribe } from "../types.js";
import { SeatPart, switchOf } from "./seatPart.js";

const CHANGES = { on: Notice.On, off: Notice.Off, pulse: Notice.Pulse, grant: Notice.Grant };

type Callback = (t: number, endedBy: EndedBy) => void;

/** By kind of change, then by action. */
export type Listeners = Map<Notice, Map<string, readonly Callback[]>>;

export abstract class ListenCalls extends SeatPart {
  declare listeners: Listeners;

  /** Callbacks have come: changes are announced from now on. */
  abstract hear(): void;

  on(action: string, change: SwitchChange, fn: Callback): Unsubscribe {
    switchOf(this, action);
    if (!Object.hasOwn(CHANGES, change))
      throw new ReacherError(`${shown(change)} is no change of a switch; it is on, off, pulse or grant`);
    mustCall(fn, `on(${shown(action)}, ${shown(change)}, fn)`);
    const notice = CHANGES[change];
    const own = this.listeners.get(notice) ?? new Map<string, readonly Callback[]>();
    this.listeners.set(notice, own);
    // Lists are replaced, not changed, so that a callback may remove itself or another.
    own.set(action, [...(own.get(action) ?? []), fn]);
    this.hear();
    let isEnded = false;
    return () => {
      if (isEnded) return;
      isEnded = true;
      const list = own.get(action)!;
      const at = list.indexOf(fn);
      own.set(
        action,
        list.filter((_, n) => n !== at),
      );
    };
  }

  /** Calls the callbacks of a change; what they throw is kept until the event is finished. */
  tell(action: string, notice: Notice): void {
    const fns = this.listeners.get(notice)?.get(action);
    if (fns === undefined) return;
    for (const fn of fns)
      try {
        // An earlier callback may have set a plan without this action.
        const reading = this.now[action] as SwitchReading | undefined;
        if (reading !== undefined) fn(this.engine.clock[Clock.Now]!, reading.endedBy!);
      } catch (error) {
        this.scheduler.catch(error);
      }
  }
}
