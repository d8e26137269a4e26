/** `reacher check PLAN`: what is wrong with a plan, and what goes wrong in practice. */
import type { Severity } from "reacher";
import { checkPlan } from "reacher/check";
import { resolvePlan } from "reacher/internal";
import { count, paint, print, printHung, printJson } from "../output.js";
import { readOverrides, readPlanFile } from "../planFile.js";

/** Exit code 1 where there are errors or warnings. */
export async function check(file: string, options: { json?: boolean; overrides?: string }): Promise<number> {
  if (options.overrides !== undefined) return checkOverrides(file, options.overrides, options.json === true);
  const planFile = await readPlanFile(file);
  const { plan, findings } = checkPlan(planFile.raw);
  if (options.json === true) {
    for (const found of findings) printJson({ ...found, ...planFile.where(found.place) });
  } else {
    for (const { severity, id, place, message } of findings) {
      const { line, column } = planFile.where(place);
      print(
        `${paint[severity](severity.padEnd(8))} ${paint.title(place || "the plan")} ${paint.dim(`(${file}:${line}:${column}, ${id})`)}`,
      );
      printHung(" ".repeat(9), 9, message);
    }
    if (findings.length > 0) print();
    const numbers = (["error", "warning", "hint"] as const).map((severity) => {
      const number = findings.filter((found) => found.severity === severity).length;
      return number === 0 ? `no ${severity}s` : paint[severity](count(number, severity));
    });
    const { actions = [], slots = [] } = plan === undefined ? {} : resolvePlan(plan);
    const size =
      plan === undefined ? "" : ` ${count(actions.length, "action")} in ${count(slots.length, "slot")};`;
    print(`${file}:${size} ${numbers.join(", ")}`);
  }
  const bad: readonly Severity[] = ["error", "warning"];
  return findings.some(({ severity }) => bad.includes(severity)) ? 1 : 0;
}

/** What of a player's overrides does not fit the plan, and what the plan is warned of with the rest. */
async function checkOverrides(planFile: string, file: string, json: boolean): Promise<number> {
  const { plan, faults, where } = await readOverrides(planFile, file);
  const before = checkPlan((await readPlanFile(planFile)).raw).findings.map(
    ({ place, id }) => `${id} ${place}`,
  );
  // What the plan is warned of without them is the author's to mend, not the player's.
  // Where a player's keys lie is the player's own affair.
  const findings = checkPlan(plan).findings.filter(
    ({ place, id }) => id !== "end-place" && !before.includes(`${id} ${place}`),
  );
  if (json) {
    for (const fault of faults) printJson({ ...fault, ...where(fault.place) });
    for (const found of findings) printJson(found);
  } else {
    for (const { place, message, what } of faults) {
      const { line, column } = where(place);
      print(
        `${paint.warning(what.padEnd(8))} ${paint.title(place || "the overrides")} ${paint.dim(`(${file}:${line}:${column})`)}`,
      );
      printHung(" ".repeat(9), 9, message);
    }
    for (const { severity, id, place, message } of findings) {
      print(
        `${paint[severity](severity.padEnd(8))} ${paint.title(place)} ${paint.dim(`(with these overrides, ${id})`)}`,
      );
      printHung(" ".repeat(9), 9, message);
    }
    if (faults.length + findings.length > 0) print();
    const rejected = faults.filter(({ what }) => what === "rejected").length;
    print(
      `${file}: ${rejected === 0 ? "all of it applies" : `${count(rejected, "change")} kept aside`}; ${findings.length === 0 ? "nothing new to warn of" : count(findings.length, "new finding")}`,
    );
  }
  const bad = findings.some(({ severity }) => severity !== "hint");
  return faults.length > 0 || bad ? 1 : 0;
}
