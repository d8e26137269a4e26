/**
 * What the game tells a seat, by groups of calls; and what befalls its devices. In: calls. Out: commands in the seat's queue, counted at their
 * moments; wrong names and values are errors, and change nothing.
 */
import { Clock } from "../engine/clock.js";
import { EventKind } from "../engine/queue.js";
import type { Scheduler } from "../engine/scheduler.js";
import { FOCUS_LOST } from "../engine/meanings.js";
import { callEach } from "./calling.js";
import { DriveCalls } from "./calls/driveCalls.js";
import { FlagCalls } from "./calls/flagCalls.js";
import { ListenCalls } from "./calls/listenCalls.js";
import { ModeCalls } from "./calls/modeCalls.js";
import { MuteCalls } from "./calls/muteCalls.js";
import { NumberCalls } from "./calls/numberCalls.js";
import { CopyCalls, LiveCalls } from "./calls/readCalls.js";
import { bring, command, SeatPart } from "./calls/seatPart.js";
import { SnapshotCalls } from "./calls/snapshotCalls.js";
import { SpotCalls } from "./calls/spotCalls.js";
import { ResetCalls, SetSwitchCalls, TakeCalls } from "./calls/switchCalls.js";
import type { WatchedCommand } from "./command.js";
import type { Hub, Member } from "./hub.js";
import { lostOf } from "./lost.js";

const GROUPS = [
  DriveCalls,
  FlagCalls,
  ListenCalls,
  ModeCalls,
  MuteCalls,
  NumberCalls,
  CopyCalls,
  LiveCalls,
  SnapshotCalls,
  SpotCalls,
  ResetCalls,
  SetSwitchCalls,
  TakeCalls,
] as const;
type AllOf<U> = (U extends unknown ? (of: U) => void : never) extends (of: infer All) => void ? All : never;

// eslint-disable-next-line @typescript-eslint/no-unsafe-declaration-merging, @typescript-eslint/no-empty-object-type -- `bring` gives it what these groups have.
export interface SeatCommands extends AllOf<(typeof GROUPS)[number]["prototype"]> {}

// eslint-disable-next-line @typescript-eslint/no-unsafe-declaration-merging
export abstract class SeatCommands extends SeatPart implements Member {
  abstract readonly pad: number | null;
  override readonly scheduler: Scheduler;
  override readonly counters: Hub["counters"];

  constructor(
    override readonly name: string,
    protected readonly hub: Hub,
  ) {
    super();
    this.scheduler = hub.scheduler;
    this.counters = hub.counters;
  }

  lose(what: string, ...rest: readonly unknown[]): void {
    const [pad, t] = lostOf(what, rest, this.hub.controls.devices);
    if (typeof pad === "string") {
      this.loseAt(this.lossOf(pad), 0, t);
      return;
    }
    const padIndex = this.hub.freePadIndex(this, pad, t ?? this.engine.clock[Clock.Now]!);
    if (padIndex >= 0) this.loseAt(padIndex, pad, t);
  }

  /** What the engine calls the loss of the focus, or of a device of own controls. */
  lossOf(lost: string): number {
    return lost === "focus" ? FOCUS_LOST : -this.engine.tables.devices.indexOf(lost);
  }

  /** The pad at a place of this seat goes to rest; or, below 0, what the engine calls a loss. */
  loseAt(padIndex: number, pad: number, t: number | undefined): void {
    command(this, EventKind.Lose, padIndex, pad, t);
  }

  notifyCommand(command: WatchedCommand, t?: number): void {
    const { engine, name: seat } = this;
    const when = {
      t: t ?? engine.clock[Clock.Now]!,
      seat,
      after: t === undefined && engine.isAfter,
      done: true,
    };
    callEach(this.hub.watchers, (watcher) => watcher.command?.(command, when));
  }

  notifyRestored(): void {
    this.hub.notifyRestored(this.name);
  }
}

bring(SeatCommands, GROUPS);
