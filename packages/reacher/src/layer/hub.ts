/** What a layer's players share: the plan, the queues, watchers, and what each asks about the others. Types alone. */
import type { Controls } from "../controls/ownControls.js";
import type { CheckedPlan } from "../plan/checked.js";
import type { OverrideFault, Overrides } from "../plan/players/overrides.js";
import type { Plan } from "../plan/types.js";
import type { Scheduler } from "../engine/scheduler.js";
import type { SeatEngine } from "../engine/seat.js";
import type { Tables } from "../engine/tables.js";
import type { Adopt, Change } from "./builtParts.js";
import type { LayerWatcher, RawEvent } from "./types.js";
import type { Unbound } from "./unbound.js";

/** A player, as the others see it. */
export interface Member {
  readonly name: string;
  readonly engine: SeatEngine;
  /** Its own pad. */
  readonly pad: number | null;
}

/** What a layer's players share. */
export interface Hub {
  /** The plan as it was written, and as it was read. */
  written: Plan;
  plan: CheckedPlan;
  /** All controls that the plan may name. */
  readonly controls: Controls;
  readonly scheduler: Scheduler;
  readonly unbound: Unbound;
  /** A plan with a player's changes. */
  override(
    written: Plan,
    overrides: Overrides | null,
  ): {
    readonly written: Plan;
    readonly checked: CheckedPlan;
    readonly faults: readonly OverrideFault[];
  };
  /** How a player goes over to other tables; made code may have no others. */
  readonly change?: Change | undefined;
  /** How made code takes a player's settings. */
  readonly adopt?: Adopt | undefined;
  /** The tables of a plan for a player, with the slots that it has now. */
  tablesFor(player: Member, plan: CheckedPlan): Tables;
  watchers: readonly LayerWatcher[];
  readonly counters: { late: number; ignored: number; skipped: number };
  /** Takes an event of an own control to one player. */
  feedSeat(player: Member, event: RawEvent): void;
  /** The slots that a player has now. */
  slotsOf(player: Member): readonly string[];
  /** The pad at a place of a player, and the place of a pad that is not its own seat's; -1 if there is none. */
  padAt(player: Member, padIndex: number): number;
  padIndexOf(player: Member, pad: number): number;
  /** The place of a lost pad, which is given up at this moment. */
  freePadIndex(player: Member, pad: number, t: number): number;
  /** The present value of a control that this player does not bind yet. */
  deviceValue(player: Member, control: string, pad: number): number;
  /** Whether another player binds a control that several may. */
  isBoundBesides(player: Member, control: string): boolean;
  /** Hands a player the waiting events of controls that it binds only now. */
  shareEvents(player: Member, before: Tables): void;
  /** Called when a player is back where a snapshot was taken. */
  notifyRestored(seat: string): void;
  /** Called when a player has new tables. */
  tablesChanged(player: Member): void;
  /** Whether a player before this one handles the control as well. */
  isShared(player: Member, control: string): boolean;
}
