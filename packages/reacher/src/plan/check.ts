/**
 * Checks plans for what goes wrong in practice. In: a plan. Out: findings, errors first, then warnings, then hints.
 *
 * @module reacher/check
 */
import { controlsOf } from "../controls/ownControls.js";
import { isUnbound } from "./checks/bindings.js";
import type { Report } from "./findings.js";
import { checkBrowserKeys, checkDevices, checkOwnControls, checkRollover } from "./checks/devices.js";
import { checkModes } from "./checks/modes.js";
import { checkMovement } from "./checks/movement.js";
import { checkPaces } from "./checks/paces.js";
import { checkPlayer } from "./checks/player.js";
import { checkShapes } from "./checks/shapes.js";
import { checkSeats, checkSharing } from "./checks/sharing.js";
import { checkEntries, checkSwitch } from "./checks/switches.js";
import { finding, type Finding, type Severity } from "./findings.js";
import { PlanIndex } from "./checks/planIndex.js";
import { readPlan } from "./read.js";
import { noteResolved } from "./resolve.js";
import type { Plan } from "./types.js";

export { didYouMean } from "../controls/nearest.js";
export { didYouMeanControl, meantControl } from "../controls/meant.js";
export { planTypeName, planTypes, planTypesBeside } from "./planTypes.js";
export { ownSchema } from "./ownSchema.js";
export { planNumbers, type PlanNumber } from "./planNumbers.js";
export { FINDINGS, type Finding, type FindingId, type Severity } from "./findings.js";

const ORDER: readonly Severity[] = ["error", "warning", "hint"];

/** Checks a plan. If it has errors, only these are returned; otherwise the plan comes with warnings and hints. */
export function checkPlan(raw: unknown): { plan: Plan | undefined; findings: readonly Finding[] } {
  const read = readPlan(raw);
  if (!read.ok) return { plan: undefined, findings: read.findings };
  const { plan } = read;
  noteResolved(raw as Plan, plan);
  const index = new PlanIndex(plan);
  const found: Finding[] = [];
  const report: Report = (id, place, message) => void found.push(finding(id, place, message));
  if (plan.actions.length === 0)
    report("no-actions", "actions", "there is no action yet: name one, and give it a key");
  for (const action of plan.actions) {
    if (isUnbound(action)) {
      report(
        "unbound-action",
        `actions.${action.name}`,
        "no slot has a control for it, so it can never happen",
      );
    }
    if (action.kind === "switch") {
      checkSwitch(action, report);
      checkEntries(index, action, report);
    }
    if (action.kind === "axis" || action.kind === "vector") checkMovement(action, report);
  }
  checkPaces(index, report);
  checkShapes(raw as Plan, controlsOf(plan), report);
  checkPlayer(raw as Plan, report);
  checkModes(index, report);
  checkSharing(index, report);
  checkSeats(index, report);
  checkDevices(index, report);
  checkOwnControls(index, report);
  checkBrowserKeys(index, report);
  checkRollover(index, report);
  found.sort((a, b) => ORDER.indexOf(a.severity) - ORDER.indexOf(b.severity));
  return { plan: raw as Plan, findings: found };
}
