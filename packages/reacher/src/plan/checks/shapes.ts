/** Shapes on what cannot have one: a key is down or up, a mouse has no zone to rest in. In: a plan as written. Out: findings. */
import type { Controls } from "../../controls/ownControls.js";
import type { Plan, Shape } from "../types.js";
import type { Report } from "../findings.js";

export function checkShapes(plan: Plan, controls: Controls, report: Report): void {
  for (const [name, action] of Object.entries(plan.actions)) {
    const kind = action.kind as string;
    if (kind === "switch") continue;
    const { from, shape } = action as { readonly from?: unknown; readonly shape?: Shape };
    look(from, controls, `actions.${name}.from`, report);
    if (plan.yAxis === "down" && kind === "vector") checkTurned(from, shape, `actions.${name}`, report);
  }
}

/** `yAxis: "down"` leaves a stick as pads report it: inverted, down is up again. */
function checkTurned(entry: unknown, shape: Shape | undefined, place: string, report: Report): void {
  if (shape?.invert === "y" || shape?.invert === "both")
    report(
      "turned-twice",
      `${place}.shape.invert`,
      'the plan\'s yAxis "down" has down as +1 already, as pads report it; inverted, a stick goes the other way',
    );
  if (typeof entry !== "object" || entry === null) return;
  for (const [key, one] of Object.entries(entry as Record<string, unknown>)) {
    const own = (one as { readonly shape?: Shape } | null)?.shape;
    const at = place.includes(".from") ? `${place}.${key}` : `${place}.from.${key}`;
    checkTurned(Array.isArray(one) ? one : undefined, own, at, report);
  }
}

function look(entry: unknown, controls: Controls, place: string, report: Report): void {
  if (typeof entry !== "object" || entry === null) return;
  const { use, shape } = entry as { readonly use?: unknown; readonly shape?: Shape };
  if (typeof use !== "string") {
    for (const [key, one] of Object.entries(entry)) look(one, controls, `${place}.${key}`, report);
    return;
  }
  if (shape === undefined) return;
  const family = controls.find(use)?.family;
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
