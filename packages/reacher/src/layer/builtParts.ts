/** The parts that a layer of a plan is made with. May change: the record of plans that were built ahead. */
import type { OverrideFault, Overrides } from "../plan/players/overrides.js";
import type { CheckedPlan } from "../plan/checked.js";
import type { Plan } from "../plan/types.js";
import type { Reading } from "../engine/readings.js";
import type { SeatEngine } from "../engine/seat.js";
import type { Tables } from "../engine/tables.js";

/** A player's own plan: as it would be written, as it runs, and what did not fit. */
export interface PlayersPlan {
  readonly written: Plan;
  readonly checked: CheckedPlan;
  readonly faults: readonly OverrideFault[];
}

/** Applies a player's changes. @throws ReacherError if they are not overrides */
export type Override = (plan: Plan, overrides: Overrides) => PlayersPlan;

/** The tables of a plan for a seat with these slots. @throws ReacherError if the plan needs what the game was built without */
export type TablesOf = (plan: CheckedPlan, slots: readonly string[]) => Tables;

/** Writes the present values of controls that are bound only now. */
type Fill = (seat: SeatEngine, before: Tables) => void;

/** How a seat goes over to other tables of its plan, and to those of another plan. `now`: its reading, whose objects stay. */
export interface Change {
  useTables(seat: SeatEngine, tables: Tables, fill: Fill, now: Reading): void;
  /** Made code has no other plan. */
  usePlan?(seat: SeatEngine, tables: Tables, fill: Fill): void;
}

/** Makes each player's plan once. */
export interface OwnPlans {
  of(overrides: Overrides | null): Pick<PlayersPlan, "written" | "checked">;
}

export type Adopt = (seat: SeatEngine, plan: CheckedPlan, slots: readonly string[]) => void;

/** What layers are made with besides their plan. */
export interface PlanParts {
  /** Makes a layer of a plan. */
  readonly layerOf: (written: Plan) => object;
  readonly tablesOf: TablesOf;
  readonly override: Override;
  /** Changes the tables of a seat; made code may have no others. */
  readonly change?: Change;
  /** Gives a seat's made code the numbers of a player's plan; and whether overrides need nothing else. */
  readonly adopt?: Adopt;
  readonly opens?: (overrides: Overrides) => boolean;
  /** Loads the rules themselves, where the plan plays by code that was made of them. */
  readonly bring?: () => Promise<Rules>;
}

/** What takes the place of made code when players' keys come. */
export interface Rules {
  readonly tablesOf: TablesOf;
  readonly override: Override;
  readonly change: Change;
  /** A page goes on for a moment. */
  readonly pause: () => Promise<void>;
  /** Makes such tables ahead, in steps between which a page goes on. */
  readonly prepare: (plan: CheckedPlan, slots: readonly string[]) => Promise<void>;
  /** The plans of players who have set something before. */
  readonly ownPlans: (written: Plan, checked: CheckedPlan) => OwnPlans;
  /** A seat goes on by these tables, whose cells are the same. */
  readonly exchange: (seat: SeatEngine, tables: Tables, now: Reading) => void;
}

const built = new WeakMap<object, PlanParts>();

/** Records what a plan was built with. */
export function noteBuilt(plan: Plan, parts: PlanParts): void {
  built.set(plan, parts);
}

/** What a plan was built with; `undefined` if it was not built ahead. */
export function builtParts(plan: Plan): PlanParts | undefined {
  return built.get(plan);
}
