/** `reacher compare PLAN PLAN TRACE...`: what changes between two plans on the same input. */
import { Comparison, type Difference, type Moving, type Stretch } from "../comparison.js";
import { count, note, padEnd, padStart, paint, print, printJson, widest } from "../output.js";
import { readPlayersPlan, readRunnablePlan, type RunnablePlan } from "../planFile.js";
import { readingText } from "../readingText.js";
import { noteSkipped } from "../skipped.js";
import { readTraceFile } from "../traceFile.js";

const SIDES = ["first", "second"] as const;

export interface CompareOptions {
  readonly json?: boolean;
  /** A player's changes to the second plan. */
  readonly overrides?: string;
}

export async function compare(
  firstFile: string,
  secondFile: string,
  traces: readonly string[],
  { json, overrides }: CompareOptions,
): Promise<number> {
  const first = await readRunnablePlan(firstFile);
  const second = await readPlayersPlan(secondFile, overrides);
  const names = [first, second].map(({ actions }) => new Map(actions.map(({ name, kind }) => [name, kind])));
  for (const [n, file] of [firstFile, secondFile].entries()) {
    const lacking = [...names[1 - n]!.keys()].filter((name) => !names[n]!.has(name));
    if (lacking.length > 0) note(`note: ${file} has no ${lacking.join(", ")}`);
  }
  const actions = new Set([...names[0]!.keys(), ...names[1]!.keys()]);
  const sums = new Map([...actions].map((action) => [action, new Sum(action)]));
  if (json !== true) {
    print(`first   ${firstFile}`);
    print(`second  ${secondFile}${overrides === undefined ? "" : ` with ${overrides}`}`);
  }
  for (const trace of traces) {
    const comparison = new Comparison(first, second);
    await readTraceFile(trace, (entry) => comparison.push(entry));
    const differences = comparison.finish();
    noteSkipped(comparison.first.running, firstFile);
    noteSkipped(comparison.second.running, secondFile);
    for (const difference of differences) sums.get(difference.action)!.add(difference);
    for (const side of SIDES)
      for (const { action, times } of comparison[side].counts()) sums.get(action)!.times[side] += times;
    if (json === true) for (const difference of differences) printJson({ trace, ...difference });
    else printDifferences(trace, differences, [first, second], comparison.first.running.t);
  }
  if (json === true) return 0;
  print();
  printSums(
    [...sums.values()].filter(({ differs }) => differs),
    actions.size,
  );
  return 0;
}

/** The result for an action in all traces. */
class Sum {
  readonly times = { first: 0, second: 0 };
  private readonly only = { first: 0, second: 0 };
  private otherwise = 0;
  private ms = 0;
  differs = false;

  constructor(readonly action: string) {}

  add(difference: Difference): void {
    this.differs = true;
    if ("ms" in difference) this.ms += difference.ms;
    else if (difference.second === null) this.only.first++;
    else if (difference.first === null) this.only.second++;
    else this.otherwise++;
  }

  text(): string {
    const { times, only, otherwise, ms } = this;
    if (ms > 0) return `differs for ${(ms / 1000).toFixed(2)} s`;
    const parts = [
      only.first > 0 ? `${only.first} only by the first` : "",
      only.second > 0 ? `${only.second} only by the second` : "",
      otherwise > 0 ? `${otherwise} differently` : "",
    ];
    return `on ${times.first} and ${count(times.second, "time")}; ${parts.filter((part) => part !== "").join(", ")}`;
  }
}

function printSums(sums: readonly Sum[], actions: number): void {
  if (sums.length === 0) {
    print(`no difference in any of ${count(actions, "action")}`);
    return;
  }
  print(`${sums.length} of ${count(actions, "action")} ${sums.length === 1 ? "differs" : "differ"}`);
  const width = widest(sums.map(({ action }) => action));
  for (const sum of sums) print(`  ${padEnd(sum.action, width, paint.action)}  ${sum.text()}`);
}

/** One difference a line: when, whose, what, and what each plan makes of it. */
function printDifferences(
  trace: string,
  differences: readonly Difference[],
  plans: readonly RunnablePlan[],
  t: number,
): void {
  print();
  print(`${paint.title(trace)}, ${(t / 1000).toFixed(2)} s${differences.length === 0 ? ": the same" : ""}`);
  if (differences.length === 0) return;
  const seated = plans.some((plan) => plan.seated);
  const rows = differences.map((difference) => ({
    at: difference.at.toFixed(1),
    seat: seated ? difference.seat : "",
    action: difference.action,
    cells: SIDES.map((side, n) => cell(difference, side, plans[n]!)),
    lasts: "ms" in difference ? `differs for ${(difference.ms / 1000).toFixed(2)} s, most here` : "",
  }));
  const seatWidth = seated ? widest(["seat", ...rows.map(({ seat }) => seat)]) + 2 : 0;
  const width = widest(["action", ...rows.map(({ action }) => action)]);
  const cellWidth = (n: number) => widest([SIDES[n]!, ...rows.map(({ cells }) => cells[n]!)]);
  const widths = [cellWidth(0), cellWidth(1)] as const;
  const head = `${"ms".padStart(10)}  ${"seat".padEnd(seatWidth).slice(0, seatWidth)}${"action".padEnd(width)}`;
  print(paint.dim(`${head}  ${"first".padEnd(widths[0])}  second`));
  for (const { at, seat, action, cells, lasts } of rows) {
    const begin = `${padStart(at, 10, paint.dim)}  ${seat.padEnd(seatWidth)}${padEnd(action, width, paint.action)}`;
    const [one, two] = [
      padEnd(cells[0]!, widths[0], painted(cells[0]!)),
      padEnd(cells[1]!, widths[1], painted(cells[1]!)),
    ];
    print(`${begin}  ${one}  ${lasts === "" ? two.trimEnd() : `${two}  ${paint.dim(lasts)}`}`);
  }
}

function painted(cell: string): (text: string) => string {
  return cell === NOTHING ? paint.dim : cell.startsWith("on ") ? paint.on : (same) => same;
}

const NOTHING = "-";

/** The state by one plan. */
function cell(difference: Difference, side: "first" | "second", plan: RunnablePlan): string {
  const here = difference[side];
  if (here === null) return NOTHING;
  if (!("ms" in difference)) return stretchText(here as Stretch, difference.at);
  const action = plan.actions.find(({ name }) => name === difference.action);
  return readingText(here as Moving, action?.kind === "vector" && action.pace !== undefined);
}

/** `on for 300.0 ms`, with the moment if that differs from the line's, and its pulses. */
function stretchText({ on, off, pulses }: Stretch, at: number): string {
  const from = on === at ? "on" : `on from ${on.toFixed(1)}`;
  const lasts = off === undefined ? "to the end" : `for ${(off - on).toFixed(1)} ms`;
  const last = pulses.at(-1);
  const pulsed = last === undefined ? "" : `, ${count(pulses.length, "pulse")} to ${last.toFixed(1)}`;
  return `${from} ${lasts}${pulsed}`;
}
