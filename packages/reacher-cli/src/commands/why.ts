/** `reacher why PLAN TRACE --action A`: why the action did or did not turn on. */
import { startExplaining, type Reason } from "reacher/trace";
import { didYouMean } from "../didYouMean.js";
import { UseError } from "../faults.js";
import { count, padEnd, padStart, paint, print, printHung, printJson } from "../output.js";
import { mustBeSeat, readRunnablePlan } from "../planFile.js";
import { traceBeside } from "../reportFile.js";
import { readTraceFile } from "../traceFile.js";

export interface WhyOptions {
  readonly json?: boolean;
  readonly action: string;
  readonly at?: number;
  readonly seat?: string;
}

/** What happened this near to the moment asked for, in ms, led to it. */
const NEAR = 500;

const PAINTS = { on: paint.on, off: paint.dim, counts: paint.hint, nothing: paint.warning };

export async function why(
  planFile: string,
  trace: string | undefined,
  { json, action, at, seat }: WhyOptions,
): Promise<number> {
  const traceFile = await traceBeside(planFile, trace);
  const plan = await readRunnablePlan(planFile);
  const switches = plan.actions.filter(({ kind }) => kind === "switch").map(({ name }) => name);
  if (!switches.includes(action)) {
    const other = plan.actions.some(({ name }) => name === action);
    const fault = other
      ? "is no switch; replay shows how it moves"
      : `is no switch of the plan, which has ${switches.join(", ")}${didYouMean(action, switches)}`;
    throw new UseError(`--action ${action}: ${fault}`);
  }
  mustBeSeat(plan, seat);
  const told = { on: 0, off: 0, counts: 0, nothing: 0 };
  let shown = 0;
  const explained = (reason: Reason) => {
    if (reason.action !== action) return;
    told[reason.outcome]++;
    if (at !== undefined && Math.abs(reason.at - at) > NEAR) return;
    if (json === true) printJson({ ...reason, at: Math.round(reason.at * 1e6) / 1e6 });
    else {
      if (shown === 0) print(paint.dim(`${"ms".padStart(10)}  ${action.padEnd(7)}  why`));
      printReason(reason);
    }
    shown++;
  };
  const running = startExplaining(plan.written, explained, seat);
  await readTraceFile(traceFile, (entry) => running.push(entry));
  running.finish();
  if (json === true) return 0;
  if (shown > 0) print();
  if (at === undefined) {
    const idle = `${told.nothing} press${told.nothing === 1 ? "" : "es"}`;
    print(`${action}: on ${count(told.on, "time")}, ${idle} did nothing`);
  } else if (shown === 0) print(`nothing concerned ${action} within ${NEAR} ms of ${at}`);
  else print(`${action} around ${at} ms`);
  return 0;
}

function printReason({ at, outcome, text }: Reason): void {
  printHung(`${padStart(at.toFixed(1), 10, paint.dim)}  ${padEnd(outcome, 7, PAINTS[outcome])}  `, 21, text);
}
