/** Notifies recorders and explanations of what an engine's seat does, by the names of the plan. */
import { Clock } from "../engine/clock.js";
import { Bits, EventKind, type EventQueues } from "../engine/queue.js";
import type { CheckedPlan } from "../plan/checked.js";
import type { Errors } from "../engine/notices.js";
import type { SeatEngine } from "../engine/seat.js";
import type { SeatWatcher } from "../engine/watcher.js";
import { callEach } from "./calling.js";
import { commandOf } from "./commandOf.js";
import type { LayerWatcher, RawEvent } from "./types.js";

/** The owner of the seat. */
export interface Watched {
  readonly name: string;
  readonly checked: CheckedPlan;
  readonly engine: SeatEngine;
  /** Takes what watchers throw. */
  readonly errors: Errors;
  watchers(): readonly LayerWatcher[];
  /** The pad at a place of the seat. */
  padOf(control: string, padIndex: number): number;
  /** Whether a player before this one handles the control as well. */
  isShared(control: string): boolean;
}

/** Only what a watcher listens to is reported: a recorder of changes costs nothing else. */
export function watchSeat(player: Watched): SeatWatcher {
  const listens = (name: keyof LayerWatcher) =>
    player.watchers().some((watcher) => watcher[name] !== undefined);
  const { clock } = player.engine;
  const each = (call: (watcher: LayerWatcher) => void) => {
    try {
      callEach(player.watchers(), call);
    } catch (error) {
      player.errors.catch(error);
    }
  };
  return {
    ...((listens("event") || listens("command")) && {
      handling: (queue: EventQueues, first: number, end: number) => {
        for (let at = first; at !== end && at >= 0;) {
          const after = queue.after(at);
          notifyHandling(player, queue, at, each);
          at = after;
        }
      },
    }),
    ...(listens("due") && { due: (timer: number) => each((watcher) => watcher.due?.(timer, player.name)) }),
    ...(listens("settled") && {
      settled: () => each((watcher) => watcher.settled?.(clock[Clock.Now]!, player.name)),
    }),
  };
}

/** A command, or an event; of a stick both axes. */
function notifyHandling(
  player: Watched,
  queue: EventQueues,
  at: number,
  each: (call: (watcher: LayerWatcher) => void) => void,
): void {
  const { engine } = player;
  const what = queue.whatAt(at);
  const kind = (what & Bits.KindMask) as EventKind;
  const index = what >> Bits.Kind;
  const value = queue.valueAt(at);
  const second = queue.otherAt(at);
  if (kind !== EventKind.Control) {
    const command = commandOf(player, kind, index, value, second);
    if (command === undefined) return;
    const t = engine.clock[Clock.Now]!;
    const when = { t, seat: player.name, after: engine.isAfter, done: false };
    each((watcher) => watcher.command?.(command, when));
    return;
  }
  notifyEvent(player, index, value);
  if (second !== second) return;
  const other = engine.tables.channels[index >> Bits.Place]?.other;
  if (other != null) notifyEvent(player, (other.what >> Bits.Kind) | (index & Bits.PlaceMask), second);
}

/** All watchers get one and the same event: there is one for each move of a stick. */
function notifyEvent(player: Watched, index: number, value: number): void {
  const { engine } = player;
  const control = engine.tables.nameOf(index >> Bits.Place);
  let event: Required<RawEvent> | undefined;
  for (const watcher of player.watchers()) {
    // The new tables may not bind it.
    if (engine.tables.channels[index >> Bits.Place] === undefined) return;
    if (watcher.event === undefined) continue;
    const pad = player.padOf(control, index & Bits.PlaceMask);
    event ??= { t: engine.clock[Clock.Now]!, control, value, pad };
    try {
      watcher.event(event, player.name, player.isShared(control), engine.isAfter);
    } catch (error) {
      player.errors.catch(error);
    }
  }
}
