/**
 * Reads a plan: anything in, a checked plan or the list of what is wrong out. Nothing is half read.
 */
import * as v from "valibot";
import type { CheckedAction, CheckedPlan } from "./checked.js";
import { finding, type Finding } from "./findings.js";
import { badNames } from "./names.js";
import { readMovement } from "./reader/movements.js";
import { checkPromises, checkRanges } from "./reader/promises.js";
import { Reader } from "./reader/reader.js";
import { readSeats } from "./reader/seats.js";
import { findNeedsCircle, readSwitch } from "./reader/switches.js";
import { readTurn } from "./reader/turns.js";
import { planSchema } from "./schema.js";
import { RepairedPlan } from "./repaired.js";
import { schemaFindings, schemaPlaces } from "./schemaFindings.js";
import type { Plan, SwitchFields, TurnFields, VectorFields } from "./types.js";

/** What reading a plan gives: the plan, or why it cannot run. */
export type PlanReading =
  | { readonly ok: true; readonly plan: CheckedPlan }
  | { readonly ok: false; readonly findings: readonly Finding[] };

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
  const named = badNames(raw as Record<string, unknown>);
  const parsed = named.length > 0 ? undefined : v.safeParse(planSchema, raw);
  if (parsed?.success !== true) return { ok: false, findings: allFaults(raw, named) };

  const reader = new Reader(parsed.output as Plan, isPlayers);
  const plan = readWhole(reader);
  return reader.findings.length > 0 ? { ok: false, findings: reader.findings } : { ok: true, plan };
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
      const reader = new Reader(parsed.output as Plan);
      readWhole(reader);
      return [...findings, ...reader.findings.filter((one) => repaired.holds(one))];
    }
    if (n === 0) findings.push(...schemaFindings(parsed.issues, repaired.raw));
    for (const { path, isMissing } of schemaPlaces(parsed.issues))
      if (!repaired.mend(path, isMissing)) return findings;
  }
  return findings;
}

/** Turns a plan of the right shape into its checked form, and collects what it cannot make sense of. */
function readWhole(reader: Reader): CheckedPlan {
  const { plan } = reader;
  for (const name of Object.keys(plan.flags ?? {})) {
    if (Object.hasOwn(plan.actions, name)) {
      reader.report(
        "same-name",
        `flags.${name}`,
        `an action has the name ${name} too, so a rule that says ${name} could mean either`,
      );
    }
  }
  const modes = plan.modes ?? {};
  const actions = Object.entries(plan.actions).map(([name, action]): CheckedAction => {
    if (action.kind === "switch") return readSwitch(reader, name, action as SwitchFields);
    if (action.kind === "turn") return readTurn(reader, name, action as TurnFields);
    return readMovement(reader, name, action.kind, action as VectorFields);
  });
  findNeedsCircle(reader, actions);
  (plan.protected ?? []).forEach((control, n) => reader.known(control, `protected.${n}`));
  checkRanges(reader, plan.player, "player");
  checkPromises(reader, actions);
  return {
    name: plan.name ?? "",
    version: plan.version ?? 0,
    yAxis: plan.yAxis ?? "up",
    slots: [...reader.slots.values()],
    flags: Object.entries(plan.flags ?? {}).map(([name, flag]) => ({
      name,
      start: typeof flag === "boolean" ? flag : (flag.start ?? false),
      lingerMs: typeof flag === "boolean" ? 0 : (flag.lingerMs ?? 0),
    })),
    numbers: Object.entries(plan.numbers ?? {}).map(([name, value]) => ({ name, value })),
    modes: Object.entries(modes).map(([name, mode]) => ({ name, covers: mode.covers ?? "same" })),
    start: reader.modeNames(plan.start ?? Object.keys(modes).slice(0, 1), "start"),
    actions,
    seats: readSeats(reader),
    bounceMs: plan.bounceMs ?? 0,
    protected: plan.protected ?? [],
    seated: plan.seats !== undefined,
  };
}
