/** `reacher replay PLAN TRACE`: what changed, and when; the same against an earlier replay. */
import { readFile } from "node:fs/promises";
import { didYouMean } from "../didYouMean.js";
import type { CheckedMovement, CheckedPlan } from "reacher/internal";
import { startReplay, type ReplayOptions, type ReplayRow } from "reacher/trace";
import { fileFault, UseError } from "../faults.js";
import { count, note, padEnd, padStart, paint, print, printJson, signed, widest } from "../output.js";
import { readPlayersPlan } from "../planFile.js";
import { readingText } from "../readingText.js";
import { traceBeside } from "../reportFile.js";
import { noteSkipped } from "../skipped.js";
import { readTraceFile } from "../traceFile.js";

export interface ReplayCommandOptions extends ReplayOptions {
  readonly json?: boolean;
  readonly expect?: string;
  readonly overrides?: string;
}

export async function replayCommand(
  planFile: string,
  trace: string | undefined,
  options: ReplayCommandOptions,
): Promise<number> {
  const traceFile = await traceBeside(planFile, trace);
  const plan = await readPlayersPlan(planFile, options.overrides);
  const { action } = options;
  if (action !== undefined && !plan.actions.some(({ name }) => name === action)) {
    const names = plan.actions.map(({ name }) => name);
    throw new UseError(
      `--action ${action}: the plan has no such action, it has ${names.join(", ")}${didYouMean(action, names)}`,
    );
  }
  const expected = options.expect === undefined ? undefined : await readExpected(options.expect);
  const got: string[] = [];
  let rows = 0;
  const human =
    options.every === undefined
      ? new ChangePrinter(plan, options.hz ?? 60)
      : new ReadingPrinter(plan, action);
  const running = startReplay(plan.written, options, (row) => {
    rows++;
    if (expected !== undefined) got.push(JSON.stringify(row));
    else if (options.json === true) printJson(row);
    else human.print(row);
  });
  const head = await readTraceFile(traceFile, (entry) => running.push(entry));
  running.finish();
  human.finish();

  if (head.plan !== undefined && plan.name !== "" && head.plan !== plan.name) {
    note(`note: ${traceFile} was recorded with the plan ${head.plan}, and is replayed with ${plan.name}`);
  }
  noteSkipped(running);
  if (expected !== undefined) return tellDifferences(expected, got, options);
  if (options.json !== true) {
    if (rows > 0) print();
    const what = options.every === undefined ? "change" : "reading";
    print(`${count(rows, what)} in ${(running.t / 1000).toFixed(2)} s of ${traceFile}`);
  }
  return 0;
}

interface Printer {
  print(row: ReplayRow): void;
  finish(): void;
}

type ChangeRow = Exclude<ReplayRow, { now: unknown }>;

/** What changes from step to step: its first row is printed, the others are one line when it has ended. */
interface Run {
  last: ChangeRow;
  steps: number;
  dx: number;
  dy: number;
}

/** One change a line; a ramp, or a view that turns on and on, two. */
class ChangePrinter implements Printer {
  private readonly runs = new Map<string, Run>();
  private readonly width: number;
  private readonly seatWidth: number;
  private readonly onSince = new Map<string, number>();
  private begun = false;

  constructor(
    private readonly plan: CheckedPlan,
    private readonly hz: number,
  ) {
    this.width = widest(["action", ...plan.actions.map(({ name }) => name)]);
    this.seatWidth = seatWidth(plan);
  }

  print(row: ReplayRow): void {
    if ("now" in row) return;
    if (this.goesOn(row)) return;
    this.line(row);
  }

  finish(): void {
    this.end(() => true);
  }

  /** Prints what these runs came to. */
  private end(isOver: (run: Run, key: string) => boolean): void {
    const ended = [...this.runs].filter(([key, run]) => isOver(run, key));
    for (const [key] of ended) this.runs.delete(key);
    const told = ended.map(([, run]) => run).filter(({ steps }) => steps > 0);
    told.sort((run, other) => run.last.at - other.last.at);
    for (const { last, steps, dx, dy } of told)
      this.line("dx" in last ? { ...last, dx, dy } : last, steps === 1 ? "" : ` in ${steps} steps`);
  }

  /** Whether a row only carries on what the one before it of this action did; else what went on is printed first. */
  private goesOn(row: ChangeRow): boolean {
    const key = `${row.seat} ${row.action}`;
    const isRamp = ("dx" in row || "x" in row || "value" in row) && !("gait" in row || "facing" in row);
    this.end(({ last }) => row.at - last.at > 1500 / this.hz);
    const run = this.runs.get(key);
    if (isRamp && run !== undefined) {
      run.last = row;
      run.steps++;
      if ("dx" in row) {
        run.dx += row.dx;
        run.dy += row.dy;
      }
      return true;
    }
    const isSwitch = !("dx" in row || "x" in row || "value" in row);
    this.end((_, other) => isSwitch || other === key);
    if (!isSwitch) this.runs.set(key, { last: row, steps: 0, dx: 0, dy: 0 });
    return false;
  }

  private line(row: ChangeRow, more = ""): void {
    if (!this.begun)
      print(
        paint.dim(
          `${"ms".padStart(10)}  ${"seat".padEnd(this.seatWidth).slice(0, this.seatWidth)}${"action".padEnd(this.width)}  change`,
        ),
      );
    this.begun = true;
    print(
      `${padStart(row.at.toFixed(1), 10, paint.dim)}  ${this.seatWidth > 0 ? row.seat.padEnd(this.seatWidth) : ""}${padEnd(row.action, this.width, paint.action)}  ${this.change(row)}${paint.dim(more)}`,
    );
  }

  private change(row: ChangeRow): string {
    if ("on" in row) {
      if (row.on) {
        this.onSince.set(`${row.seat} ${row.action}`, row.at);
        return paint.on("on");
      }
      const ms = row.at - (this.onSince.get(`${row.seat} ${row.action}`) ?? 0);
      const cancelled = row.endedBy === undefined ? "" : `, cancelled: ${row.endedBy}`;
      return paint.off(`off after ${ms.toFixed(1)} ms${cancelled}`);
    }
    if ("pulse" in row) return "pulse";
    if ("grant" in row) return "granted";
    if ("value" in row) {
      const parts = [padEnd(row.value === 0 ? "still" : signed(row.value), 14)];
      if (row.gait != null) parts.push(row.gait);
      if (row.pace !== undefined) parts.push(`pace ${round(row.pace)}`);
      const ends = this.plan.actions.find(({ name }) => name === row.action) as CheckedMovement;
      if (row.facing !== undefined) parts.push(paint.dim(`facing ${ends.endNames[row.facing < 0 ? 0 : 1]}`));
      return parts.join("  ").trimEnd();
    }
    if ("dx" in row) return `turned (${signed(row.dx)}, ${signed(row.dy)})`;
    const still = row.x === 0 && row.y === 0;
    const parts = [padEnd(still ? "still" : `(${signed(row.x)}, ${signed(row.y)})`, 14)];
    if (row.gait != null) parts.push(row.gait);
    if (row.pace !== undefined) parts.push(`pace ${round(row.pace)}`);
    if (row.facing !== undefined) parts.push(paint.dim(`facing ${compass(row.facing, this.plan.yAxis)}`));
    return parts.join("  ").trimEnd();
  }
}

/** A speed, without more digits than anybody reads. */
function round(value: number): string {
  return String(Math.round(value * 1000) / 1000);
}

/** One moment a line, one action a column. */
class ReadingPrinter implements Printer {
  private readonly columns: { name: string; width: number; paced: boolean }[];
  private begun = false;
  private readonly seatWidth: number;

  constructor(plan: CheckedPlan, action: string | undefined) {
    this.seatWidth = seatWidth(plan);
    this.columns = plan.actions
      .filter(({ name }) => action === undefined || name === action)
      .map((one) => {
        const moves = one.kind === "axis" || one.kind === "vector";
        const gaits = moves && one.gaits.length > 0 ? 2 + widest(one.gaits.map(({ name }) => name)) : 0;
        const paced = moves && one.pace !== undefined;
        const bare = one.kind === "vector" || one.kind === "turn" ? 14 : 5;
        const width = bare + gaits + (paced ? 8 : 0);
        return { name: one.name, width: Math.max(one.name.length, width), paced };
      });
  }

  print(row: ReplayRow): void {
    if (!("now" in row)) return;
    if (!this.begun) {
      print(
        paint.dim(
          `${"ms".padStart(10)}  ${"seat".padEnd(this.seatWidth).slice(0, this.seatWidth)}${this.columns.map(({ name, width }) => name.padEnd(width)).join("  ")}`.trimEnd(),
        ),
      );
    }
    this.begun = true;
    const cells = this.columns.map(({ name, width, paced }) =>
      padEnd(readingText(row.now[name] as Record<string, unknown>, paced), width),
    );
    const seat = this.seatWidth > 0 ? row.seat.padEnd(this.seatWidth) : "";
    print(`${padStart(row.at.toFixed(1), 10, paint.dim)}  ${seat}${cells.join("  ")}`.trimEnd());
  }

  finish(): void {}
}

/** Room for the seats' names, where the plan names any. */
function seatWidth(plan: CheckedPlan): number {
  return plan.seated ? widest(["seat", ...plan.seats.map(({ name }) => name)]) + 2 : 0;
}

const COMPASS = [
  "right",
  "up and right",
  "up",
  "up and left",
  "left",
  "down and left",
  "down",
  "down and right",
];

/** The nearest of eight directions, in words. */
function compass([x, y]: readonly [number, number], yAxis: "up" | "down"): string {
  const eighth = Math.round(Math.atan2(yAxis === "up" ? y : -y, x) / (Math.PI / 4));
  return COMPASS[(eighth + 8) % 8]!;
}

async function readExpected(file: string): Promise<string[]> {
  let text: string;
  try {
    text = await readFile(file, "utf8");
  } catch (error) {
    throw fileFault(file, error);
  }
  const rows = text.split("\n").filter((line) => line.trim() !== "");
  return rows.map((line, n) => {
    try {
      return JSON.stringify(JSON.parse(line));
    } catch {
      throw new UseError(`${file}: line ${n + 1}: not JSON; it takes the rows of an earlier replay --json`);
    }
  });
}

/** Rows that came once and not again, and new ones, in order of time. */
function tellDifferences(
  expected: readonly string[],
  got: readonly string[],
  options: { json?: boolean },
): number {
  const left = new Map<string, number>();
  for (const row of got) left.set(row, (left.get(row) ?? 0) + 1);
  const missing = expected.filter((row) => {
    const number = left.get(row) ?? 0;
    if (number > 0) left.set(row, number - 1);
    return number === 0;
  });
  const extra = got.filter((row) => {
    const number = left.get(row) ?? 0;
    if (number > 0) left.set(row, number - 1);
    return number > 0;
  });
  const differences = [
    ...missing.map((row) => ({ sign: "-", row })),
    ...extra.map((row) => ({ sign: "+", row })),
  ];
  const at = ({ row }: { row: string }) => (JSON.parse(row) as { at: number }).at;
  differences.sort((a, b) => at(a) - at(b));
  for (const { sign, row } of differences) {
    if (options.json === true)
      printJson({ [sign === "-" ? "missing" : "extra"]: JSON.parse(row) as unknown });
    else print((sign === "-" ? paint.error : paint.on)(`${sign} ${row}`));
  }
  if (options.json !== true) {
    print(
      differences.length === 0
        ? `as expected: ${count(got.length, "row")}`
        : `not as expected: ${missing.length} missing (-), ${extra.length} extra (+), of ${count(expected.length, "row")}`,
    );
  }
  return differences.length === 0 ? 0 : 1;
}
