/** Replaces the reading of plans in a game that was built ahead: it throws an error that says so. */
import { ReacherError } from "./errors.js";
import type { PlanReading } from "./readShaped.js";

/** @throws ReacherError: what is to be read here was not built */
export function readPlan(_raw: unknown): PlanReading {
  throw new ReacherError(
    "this game reads no plans: it was bundled under the condition reacher-built. Import the plan through reacher/vite, or a module that `reacher build` made of it; or bundle without the condition",
  );
}
