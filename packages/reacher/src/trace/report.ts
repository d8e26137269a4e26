/**
 * A report: plan, a player's changes, and a trace that begins with the state of the layer, in one file. In: an object or its JSON from outside. Out: its
 * parts, each checked; the rows of its replay.
 */
import { mustBeObject } from "../plan/arguments.js";
import { ReacherError } from "../plan/errors.js";
import { shownShort } from "../plan/depth.js";
import { parseOverrides, type Overrides } from "../plan/players/overrides.js";
import { parsePlan } from "../plan/resolve.js";
import type { Plan } from "../plan/types.js";
import type { TraceEntry } from "./entry.js";
import { TraceError, TraceReader } from "./lines.js";
import { replay, type ReplayOptions } from "./replay.js";
import type { ReplayRow } from "./rows.js";

/** What happened in a game, in one file: `recorder.report()` makes it. */
export interface Report {
  readonly reacherReport: 1;
  /** What the player says of it. */
  readonly about?: string;
  readonly plan: Plan;
  /** Each seat's changes of the plan, where it has any. */
  readonly overrides: Readonly<Record<string, Overrides>>;
  /** Lines of a trace, on the layer's own clock. */
  readonly trace: readonly TraceEntry[];
}

const FIELDS = ["reacherReport", "about", "plan", "overrides", "trace"];

/**
 * Reads a report from outside: its JSON, or what that parses to.
 * @throws ReacherError naming the place in it; PlanError where its plan cannot run
 */
export function parseReport(raw: unknown): Report {
  const given = typeof raw === "string" ? parsed(raw) : raw;
  mustBeObject(given, 'report; it begins with "reacherReport": 1');
  const { reacherReport, about, plan, overrides = {}, trace } = given as Partial<Record<string, unknown>>;
  if (reacherReport !== 1)
    throw new ReacherError(
      reacherReport === undefined
        ? "this is no report: reacherReport is missing"
        : `reacherReport ${shownShort(reacherReport, 40)} is not known; this version reads 1`,
    );
  const unknown = Object.keys(given as object).find((field) => !FIELDS.includes(field));
  if (unknown !== undefined)
    throw new ReacherError(`${unknown.slice(0, 40)} is no field of a report; it has ${FIELDS.join(", ")}`);
  if (about !== undefined && typeof about !== "string") throw new ReacherError("about: it is a text");
  if (!Array.isArray(trace)) throw new ReacherError("trace: it is a list of lines");
  return {
    reacherReport,
    ...(about !== undefined && { about }),
    plan: parsePlan(plan),
    overrides: readOverrides(overrides),
    trace: withOverrides(readLines(trace), readOverrides(overrides), Object(plan).seats !== undefined),
  };
}

/** The lines, with each seat's changes among those of its beginning, so that a trace alone replays as it was played. */
function withOverrides(
  lines: readonly TraceEntry[],
  given: Report["overrides"],
  isSeated: boolean,
): readonly TraceEntry[] {
  const [first] = lines;
  const t = first?.t ?? 0;
  const own = Object.entries(given).map(([seat, overrides]) => ({ t, overrides, ...(isSeated && { seat }) }));
  const isAtBeginning = (line: TraceEntry) => "overrides" in line && line.t === t && line.after === undefined;
  const others = lines.filter((line) => line !== first && !isAtBeginning(line));
  if (first === undefined) return own;
  return "state" in first
    ? [first, ...own, ...others]
    : [...own, ...lines.filter((line) => !isAtBeginning(line))];
}

/** The rows of its replay. @throws PlanError, ReacherError */
export function replayReport(report: Report, options?: ReplayOptions): ReplayRow[] {
  const { plan, trace } = parseReport(report);
  return replay(plan, trace, options);
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new ReacherError(`the report is not JSON: ${(error as Error).message}`);
  }
}

function readOverrides(given: unknown): Report["overrides"] {
  mustBeObject(given, "object of overrides; give each seat's");
  return Object.fromEntries(
    Object.entries(given as object).map(([seat, one]) => {
      try {
        return [seat, parseOverrides(one)];
      } catch (error) {
        throw new ReacherError(`overrides.${seat.slice(0, 40)}: ${(error as Error).message}`);
      }
    }),
  );
}

function readLines(lines: readonly unknown[]): TraceEntry[] {
  const reader = new TraceReader();
  reader.read('{ "reacherTrace": 1 }');
  return lines.flatMap((line, n) => {
    try {
      return reader.read(JSON.stringify(line) ?? "null") ?? [];
    } catch (error) {
      if (!(error instanceof TraceError)) throw error;
      throw new ReacherError(`trace.${n}: ${error.message.replace(/^line \d+: /, "")}`);
    }
  });
}
