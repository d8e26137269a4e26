/** A seat that plays by made code takes a player's settings: the numbers of its code, where it stands. May change: the seat and its tables. */
import type { SeatEngine } from "../engine/seat.js";
import { Width } from "../engine/cells.js";
import { printOf } from "../engine/fingerprint.js";
import type { MadeTables } from "./madeTables.js";
import type { CheckedPlan } from "../plan/checked.js";
import { valueOf, type Formula } from "./formula.js";

/** Sets the numbers of tables. */
export function tune(
  tables: MadeTables,
  plan: CheckedPlan,
  slots: readonly string[],
  formulas: readonly Formula[],
): void {
  tables.plan = plan;
  tables.print = printOf(plan, slots);
  // The code has this list in hand.
  formulas.forEach((formula, n) => (tables.open[n] = valueOf(plan, formula)));
}

/** As compiled rules would: what their numbers decide is counted anew, and everything is looked at again. */
export function adopt(
  seat: SeatEngine,
  plan: CheckedPlan,
  slots: readonly string[],
  formulas: readonly Formula[],
): void {
  const tables = seat.tables as unknown as MadeTables;
  if (plan === tables.plan) return;
  tune(tables, plan, slots, formulas);
  seat.clear();
  seat.i[tables.printAt] = tables.print;
  if (seat.b[tables.started] === 1) {
    const { timers, counted } = tables.told;
    const [running, list] = timers.map((at) => at * Width.Int);
    const runs = counted ?? [
      running!,
      running! + Width.Int,
      list!,
      list! + Width.Int * tables.timers.all.length,
    ];
    for (let n = 0; n < runs.length; n += 2) seat.b.fill(0, runs[n], runs[n + 1]);
    tables.timers.recount(seat);
    tables.adjust?.();
  }
  seat.isStale = true;
  seat.scheduler.wake(seat.number);
}
