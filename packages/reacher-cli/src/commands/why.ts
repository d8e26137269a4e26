/** `reacher why PLAN TRACE --action A`: why the action did or did not turn on. */
import { explain, type Reason, type TraceEntry } from "reacher/trace";
import { didYouMean } from "../didYouMean.js";
import { UseError } from "../faults.js";
import { count, padEnd, padStart, paint, print, printJson } from "../output.js";
import { readRunnablePlan } from "../planFile.js";
import { readTraceFile } from "../traceFile.js";

export interface WhyOptions {
  readonly json?: boolean;
  readonly action: string;
  readonly at?: number;
}

/** How far from the moment asked for a reason may lie, in ms. */
const NEAR = 500;

const PAINTS = { on: paint.on, off: paint.dim, counts: paint.hint, nothing: paint.warning };

export async function why(
  planFile: string,
  traceFile: string,
  { json, action, at }: WhyOptions,
): Promise<number> {
  const plan = await readRunnablePlan(planFile);
  const switches = plan.actions.filter(({ kind }) => kind === "switch").map(({ name }) => name);
  if (!switches.includes(action)) {
    const other = plan.actions.some(({ name }) => name === action);
    const fault = other
      ? "is no switch; replay shows how it moves"
      : `is not in the plan${didYouMean(action, switches)}`;
    throw new UseError(`--action ${action}: ${fault}`);
  }
  const entries: TraceEntry[] = [];
  await readTraceFile(traceFile, (entry) => entries.push(entry));
  const all = explain(plan, entries, action);
  const reasons = at === undefined ? all : near(all, at);
  if (json === true) {
    for (const reason of reasons) printJson({ ...reason, at: Math.round(reason.at * 1e6) / 1e6 });
    return 0;
  }
  if (reasons.length > 0) print(paint.dim(`${"ms".padStart(10)}  ${action.padEnd(7)}  why`));
  for (const { at: moment, outcome, text } of reasons) {
    print(`${padStart(moment.toFixed(1), 10, paint.dim)}  ${padEnd(outcome, 7, PAINTS[outcome])}  ${text}`);
  }
  if (reasons.length > 0) print();
  if (at !== undefined)
    print(
      reasons.length === 0
        ? `nothing concerned ${action} within ${NEAR} ms of ${at}`
        : `${action} around ${at} ms`,
    );
  else {
    const times = (outcome: Reason["outcome"]) => all.filter((reason) => reason.outcome === outcome).length;
    print(
      `${action}: on ${count(times("on"), "time")}, ${count(times("nothing"), "press").replace("presss", "presses")} did nothing`,
    );
  }
  return 0;
}

/** The reasons around a moment: those of the nearest, and what led to it. */
function near(reasons: readonly Reason[], at: number): Reason[] {
  return reasons.filter((reason) => Math.abs(reason.at - at) <= NEAR);
}
