/** Shapes on what cannot have one: a key is down or up, a mouse has no zone to rest in. In: a plan as written. Out: findings. */
import { findControl } from "../../controls/catalogue.js";
import type { Plan, Shape } from "../types.js";
import type { Report } from "./bindings.js";

export function checkShapes(plan: Plan, report: Report): void {
  for (const [name, action] of Object.entries(plan.actions))
    if ((action.kind as string) !== "switch")
      look((action as { from?: unknown }).from, `actions.${name}.from`, report);
}

function look(entry: unknown, place: string, report: Report): void {
  if (typeof entry !== "object" || entry === null) return;
  const { use, shape } = entry as { readonly use?: unknown; readonly shape?: Shape };
  if (typeof use !== "string") {
    for (const [key, one] of Object.entries(entry)) look(one, `${place}.${key}`, report);
    return;
  }
  if (shape === undefined) return;
  const family = findControl(use)?.family;
  if (family === "key" || family === "button" || family === "dpad" || family === "dpadAxis")
    report(
      "shape-none",
      `${place}.shape`,
      `${use} is down or up, and nothing between; a shape does nothing here`,
    );
  if (family !== "motion") return;
  for (const field of ["deadZone", "curve"] as const)
    if (shape[field] !== undefined)
      report(
        "shape-none",
        `${place}.shape.${field}`,
        `a mouse moves by amounts, and has no ${field}; gain and invert are its own`,
      );
}
