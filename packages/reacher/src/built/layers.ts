/** What makes layers of a plan's made code. Types alone. */
import type { Controls } from "../controls/ownControls.js";
import type { PlanParts } from "../layer/builtParts.js";
import type { MadeTables } from "../made/madeTables.js";
import type { CheckedPlan } from "../plan/checked.js";
import type { Plan } from "../plan/types.js";

export interface Layers {
  /** The checked plan of its text; of a lean layer its names alone, and its controls, which fingers on a page ask for. */
  read(checked: string): CheckedPlan;
  /** All controls that the plan may name, where the layer asks for what is not bound. */
  controls?(plan: CheckedPlan): Controls;
  layerOf(plan: Plan, checked: CheckedPlan, tables: () => MadeTables): object;
  readonly Tables?: typeof MadeTables;
  /** What the layer does with a player's changes, where it has calls for them. */
  readonly changes?: Pick<PlanParts, "override" | "bring" | "change" | "adopt" | "opens">;
  /** Gives tables the numbers of a player's plan. */
  tune?(tables: MadeTables, plan: CheckedPlan, slots: readonly string[]): void;
}
