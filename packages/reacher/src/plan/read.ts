/**
 * Reads a plan: anything in, a checked plan or the list of what is wrong out. Nothing is half read.
 */
import * as v from "valibot";
import { isTooDeep } from "./depth.js";
import { finding, type Finding } from "./findings.js";
import { badNames } from "./names.js";
import { readShaped, shapedFindings, type PlanReading } from "./readShaped.js";
import { planSchema } from "./schema.js";
import { RepairedPlan } from "./repaired.js";
import { schemaFindings, schemaPlaces } from "./schemaFindings.js";
import type { Plan } from "./types.js";

/** Reads a plan without throwing. `isPlayers`: a player has changed it, whose changes may leave a flick without its stick. */
export function readPlan(raw: unknown, isPlayers = false): PlanReading {
  if (typeof raw !== "object" || raw === null || Array.isArray(raw)) {
    const what = Array.isArray(raw) ? "a list" : raw === null ? "null" : typeof raw;
    return {
      ok: false,
      findings: [
        finding("not-a-plan", "", `a plan is an object with "reacherPlan" and "actions", not ${what}`),
      ],
    };
  }
  if (isTooDeep(raw))
    return {
      ok: false,
      findings: [
        finding(
          "not-a-plan",
          "",
          "this is no plan: it is nested deeper than any, or holds what JSON does not know; give the plan's own object",
        ),
      ],
    };
  const named = badNames(raw as Record<string, unknown>);
  const parsed = named.length > 0 ? undefined : v.safeParse(planSchema, raw);
  if (parsed?.success !== true) return { ok: false, findings: allFaults(raw, named) };

  return readShaped(parsed.output as Plan, isPlayers);
}

/** Each time something is taken out, something else may come to light. */
const MOST_MENDS = 6;

/** What is wrong with a plan that the schema does not take: that, and what is wrong with the rest of it. */
function allFaults(raw: object, named: readonly Finding[]): readonly Finding[] {
  const repaired = new RepairedPlan(raw);
  repaired.dropBadNames();
  const findings = [...named];
  for (let n = 0; n <= MOST_MENDS; n++) {
    const parsed = v.safeParse(planSchema, repaired.raw);
    if (parsed.success) {
      const rest = shapedFindings(parsed.output as Plan);
      return [...findings, ...rest.filter((finding) => repaired.holds(finding))];
    }
    if (n === 0) findings.push(...schemaFindings(parsed.issues, repaired.raw));
    for (const { path, isMissing } of schemaPlaces(parsed.issues))
      if (!repaired.repair(path, isMissing)) return findings;
  }
  return findings;
}
