/** `reacher check PLAN`: what is wrong with a plan, and what goes wrong in practice. */
import type { Severity } from "reacher";
import { checkPlan } from "reacher/check";
import { count, paint, print, printJson } from "../output.js";
import { readPlanFile } from "../planFile.js";

/** Exit code 1 where there are errors or warnings. */
export async function check(file: string, options: { json?: boolean }): Promise<number> {
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
      print(`         ${message}`);
    }
    if (findings.length > 0) print();
    const numbers = (["error", "warning", "hint"] as const).map((severity) => {
      const number = findings.filter((found) => found.severity === severity).length;
      return number === 0 ? `no ${severity}s` : paint[severity](count(number, severity));
    });
    const size =
      plan === undefined
        ? ""
        : ` ${count(plan.actions.length, "action")} in ${count(plan.slots.length, "slot")};`;
    print(`${file}:${size} ${numbers.join(", ")}`);
  }
  const bad: readonly Severity[] = ["error", "warning"];
  return findings.some(({ severity }) => bad.includes(severity)) ? 1 : 0;
}
