/** `reacher rebind PLAN --overrides F ADDRESS CONTROL`: changes a player's file, by the same clash rules as the library. */
import { existsSync } from "node:fs";
import writeFileAtomic from "write-file-atomic";
import { parseOverrides, ReacherError, type Overrides, type Plan } from "reacher";
import { choicesFor, controlAt, rebind, upToDate, type Choice, type Clash } from "reacher/rebind";
import { fileFault, UseError } from "../faults.js";
import { mayWrite } from "../made.js";
import { paint, print, printJson } from "../output.js";
import { readPlanFile, readRunnablePlan } from "../planFile.js";

export interface RebindOptions {
  readonly json?: boolean;
  readonly overrides: string;
  readonly choice?: Choice;
}

/** Exit code 1 where the change was not made. */
export async function rebindCommand(
  planFile: string,
  address: string,
  given: string,
  { json, overrides: file, choice }: RebindOptions,
): Promise<number> {
  const checked = await readRunnablePlan(planFile);
  const plan = (await readPlanFile(planFile)).raw as Plan;
  const before = upToDate(plan, await playersFile(file, plan));
  const control = given === "none" ? null : given;
  const { overrides, changed, clashes, fault } = rebind(plan, before, address, control, choice);
  if (changed) {
    mayWrite(file, [planFile]);
    await write(file, overrides);
  }
  const choices = changed || control === null ? [] : choicesFor(plan, before, address, control);
  if (json === true) {
    printJson({
      changed,
      clashes,
      ...(changed ? {} : { choices }),
      ...(fault === undefined ? {} : { fault }),
    });
    return changed ? 0 : 1;
  }
  for (const clash of clashes) print(clashText(clash, changed));
  if (fault !== undefined) print(`${paint.error("not changed")}: ${fault.place}: ${fault.message}`);
  else if (!changed)
    print(
      `${paint.warning("not changed")}: ${choices.length === 0 ? "nothing can be chosen here" : `choose --choice ${choices.join(", ").replace(/, (\w+)$/, " or $1")}`}`,
    );
  else
    print(
      `${file}: ${paint.title(address)} is ${control ?? "cleared"} (the plan has ${controlAt(checked.written, address) ?? "nothing"} there)`,
    );
  return changed ? 0 : 1;
}

function clashText({ action, address, control, otherSeat }: Clash, changed: boolean): string {
  const whose = otherSeat ? " of another player" : "";
  return `${control} ${changed ? "did" : "does"} ${paint.action(action)}${whose} too, at ${address}`;
}

/** A player who has changed nothing yet has no file. */
async function playersFile(file: string, plan: Plan): Promise<Overrides> {
  if (!existsSync(file)) {
    const of = {
      ...(plan.name === undefined ? {} : { plan: plan.name }),
      ...(plan.version === undefined ? {} : { planVersion: plan.version }),
    };
    return { reacherOverrides: 1, ...of };
  }
  const { raw } = await readPlanFile(file);
  try {
    return parseOverrides(raw);
  } catch (error) {
    throw error instanceof ReacherError ? new UseError(`${file}: ${error.message}`) : error;
  }
}

/** Whole or not at all: a player's settings are not to be lost by a full disk. */
async function write(file: string, overrides: Overrides): Promise<void> {
  try {
    await writeFileAtomic(file, JSON.stringify(overrides, null, 2) + "\n");
  } catch (error) {
    throw fileFault(file, error);
  }
}
