/** Notifies recorders and explanations of what an engine's seat does, by the names of the plan. */
import { nameOf } from "../controls/numbers.js";
import { Clock } from "../engine/clock.js";
import { Bits, DriveBits, Kind } from "../engine/queue.js";
import { FALSE_AT_ONCE } from "../engine/situations/flags.js";
import { reasonNames } from "../engine/reasons.js";
import type { CheckedPlan } from "../plan/checked.js";
import type { Errors } from "../engine/notices.js";
import type { Seat } from "../engine/seat.js";
import type { SeatWatcher } from "../engine/watcher.js";
import { callEach } from "./calling.js";
import type { LayerWatcher, RawEvent } from "./types.js";

type Told = readonly (keyof LayerWatcher)[];
const EVENTS: Told = ["event", "flag", "number", "switched", "driven", "lost", "reset", "mode", "mute"];

/** The owner of the seat. */
export interface Watched {
  readonly name: string;
  readonly checked: CheckedPlan;
  readonly engine: Seat;
  /** Takes what watchers throw. */
  readonly errors: Errors;
  watchers(): readonly LayerWatcher[];
  /** The pad at a place of the seat. */
  padOf(control: string, place: number): number;
  /** Whether a player before this one handles the control as well. */
  isShared(control: string): boolean;
}

/** Only what a watcher listens to is reported: a recorder of changes costs nothing else. */
export function watchSeat(player: Watched): SeatWatcher {
  const listens = (names: Told) =>
    player.watchers().some((one) => names.some((name) => one[name] !== undefined));
  const { clock } = player.engine;
  const each = (call: (one: LayerWatcher) => void) => {
    try {
      callEach(player.watchers(), call);
    } catch (error) {
      player.errors.catch(error);
    }
  };
  return {
    ...(listens(EVENTS) && {
      handled: (kind: Kind, index: number, value: number, other: number) => {
        if (kind === Kind.Control) tellControl(player, index, value);
        else each((one) => tellCommand(player, one, kind, index, value, other));
      },
    }),
    ...(listens(["due"]) && { due: (timer: number) => each((one) => one.due?.(timer, player.name)) }),
    ...(listens(["settled"]) && {
      settled: () => each((one) => one.settled?.(clock[Clock.Now]!, player.name)),
    }),
  };
}

/** All watchers get one and the same event: there is one for each move of a stick. */
function tellControl(player: Watched, index: number, value: number): void {
  const { engine } = player;
  const control = nameOf(index >> Bits.Place);
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

function tellCommand(
  player: Watched,
  watcher: LayerWatcher,
  kind: Kind,
  index: number,
  value: number,
  other: number,
): void {
  const { name: seat, checked: plan, engine } = player;
  const t = engine.clock[Clock.Now]!;
  const after = engine.isAfter;
  if (kind === Kind.Flag)
    watcher.flag?.(t, plan.flags[index]!.name, value === 1, seat, after, value !== FALSE_AT_ONCE);
  else if (kind === Kind.SetSwitch)
    watcher.switched?.(t, plan.actions[index]!.name, value === 1, seat, after);
  else if (kind === Kind.Drive) {
    const { name, kind: what } = plan.actions[index >> DriveBits.Action]!;
    const bit = 1 << ((index >> DriveBits.Reason) & DriveBits.ReasonMask);
    const reason = reasonNames(engine, engine.tables, bit)[0]!;
    const isOff = what === "switch" ? value !== 1 : value !== value;
    const given = isOff
      ? null
      : what === "switch"
        ? true
        : what === "axis"
          ? value
          : ([value, other] as const);
    watcher.driven?.(t, name, given, reason, (index & DriveBits.Alone) !== 0, seat, after);
  } else if (kind === Kind.Nothing || kind === Kind.Press) return;
  else if (kind === Kind.Number) watcher.number?.(t, plan.numbers[index]!.name, value, seat, after);
  else if (kind === Kind.Lose) watcher.lost?.(t, index < 0 ? "focus" : "pad", value, seat, after);
  else if (kind === Kind.Reset) watcher.reset?.(t, seat, after);
  else if (kind === Kind.Enter || kind === Kind.Leave)
    watcher.mode?.(t, plan.modes[index]!.name, kind === Kind.Enter, seat, after);
  else {
    const reason = value < 0 ? undefined : reasonNames(engine, engine.tables, value)[0];
    watcher.mute?.(t, plan.actions[index]!.name, reason, kind === Kind.Mute, seat, after);
  }
}
