/** Reads plan files. In: a path. Out: a checked plan, or errors that name the file, the line and the place. */
import { readFile, stat } from "node:fs/promises";
import {
  findNodeAtLocation,
  parseTree,
  printParseErrorCode,
  stripComments,
  type Node,
  type ParseError,
} from "jsonc-parser";
import {
  applyOverrides,
  findingText,
  parseOverrides,
  ReacherError,
  type Finding,
  type OverriddenPlan,
  type Plan,
} from "reacher";
import { checkPlan } from "reacher/check";
import { resolvePlan, type CheckedPlan } from "reacher/internal";
import { didYouMean } from "./didYouMean.js";
import { BadAnswer, fileFault, UseError } from "./faults.js";
import { note } from "./output.js";
import { isReport, LARGEST_REPORT } from "./reportFile.js";
import { readPiped, STDIN } from "./stdin.js";

/** Far beyond any plan that people write. */
const LARGEST = 1_000_000;

export interface PlanFile {
  readonly file: string;
  readonly raw: unknown;
  /** Where a place of the plan (`actions.kick.from.main`) stands in the file, from 1. */
  where(place: string): Position;
}

export interface Position {
  readonly line: number;
  readonly column: number;
}

/** Reads a plan's JSON. @throws UseError */
export async function readPlanFile(file: string): Promise<PlanFile> {
  const written = await readText(file);
  // Comments become blanks, so that every place stays where it is.
  const text = /\.jsonc$/.test(file) ? stripComments(written, " ") : written;
  const errors: ParseError[] = [];
  // Comments (but in a .jsonc) and trailing commas are no JSON; the library's own parser would refuse them as well.
  const tree = parseTree(text, errors, { disallowComments: true, allowTrailingComma: false });
  const first = errors[0];
  if (/^\s*\{\s*"reacherTrace"/.test(text))
    throw new UseError(`${file}: this is a trace, no plan; replay and why take it beside its plan`);
  if (first !== undefined || tree === undefined) {
    if (text.trim() === "")
      throw new UseError(`${file}: the file is empty; a plan begins with { "reacherPlan": 1`);
    const { line, column } = position(text, first?.offset ?? 0);
    const fault = first === undefined ? "nothing readable" : sentence(printParseErrorCode(first.error));
    throw new UseError(`${file}:${line}:${column}: not JSON: ${fault}`);
  }
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch (error) {
    throw new UseError(`${file}: not JSON: ${(error as Error).message}`);
  }
  // A report has its plan in it.
  const isWithin = Object.hasOwn(Object(raw) as object, "reacherReport");
  const at = (place: string) => (isWithin ? ["plan", ...(place === "" ? [] : [place])].join(".") : place);
  return {
    file,
    raw: isWithin ? (raw as { plan?: unknown }).plan : raw,
    where: (place) => position(text, nodeAt(tree, at(place)).offset),
  };
}

/** A player's changes as a file has them, and what they make of a plan. */
export interface OverriddenFile extends OverriddenPlan {
  /** Where a place of the overrides (`controls.kick.main`) stands in the file, from 1. */
  where(place: string): Position;
}

/** Reads a player's overrides and applies them to a plan. @throws UseError, or BadAnswer with the plan's errors */
export async function readOverrides(planFile: string, file: string): Promise<OverriddenFile> {
  await readRunnablePlan(planFile);
  const { raw } = await readPlanFile(planFile);
  const overrides = await readPlanFile(file);
  try {
    return { ...applyOverrides(raw as Plan, parseOverrides(overrides.raw)), where: overrides.where };
  } catch (error) {
    throw error instanceof ReacherError ? new UseError(`${file}: ${error.message}`) : error;
  }
}

/** A plan that can run: every name resolved, every default filled in, and as it was written. */
export interface RunnablePlan extends CheckedPlan {
  readonly written: Plan;
}

function runnable(written: Plan): RunnablePlan {
  return { ...resolvePlan(written), written };
}

/** Reads a plan with a player's changes; changes that do not fit are noted. @throws UseError, or BadAnswer with the plan's errors */
export async function readPlayersPlan(
  planFile: string,
  overrides: string | undefined,
): Promise<RunnablePlan> {
  if (overrides === undefined) return readRunnablePlan(planFile);
  const { plan, faults } = await readOverrides(planFile, overrides);
  for (const { place, message } of faults) note(`note: ${overrides}: ${place}: ${message}`);
  return runnable(plan);
}

/** Reads a plan that must be able to run. @throws UseError, or BadAnswer with the plan's errors */
export async function readRunnablePlan(file: string): Promise<RunnablePlan> {
  const planFile = await readPlanFile(file);
  const { plan, findings } = checkPlan(planFile.raw);
  if (plan !== undefined) return runnable(plan);
  throw new BadAnswer(findings.map((found) => placed(planFile, found)).join("\n"));
}

/** @throws UseError if a seat is named that the plan does not have */
export function mustBeSeat(plan: CheckedPlan, seat: string | undefined): void {
  const names = plan.seats.map(({ name }) => name);
  if (seat !== undefined && !names.includes(seat))
    throw new UseError(
      `--seat ${seat}: the plan has ${plan.seated ? names.join(", ") : "no seats of its own"}${didYouMean(seat, names)}`,
    );
}

/** `kelpline.plan.json:62:24: actions.kick.from.main: LeftShift is no control; did you mean ShiftLeft?` */
export function placed(file: PlanFile, found: Finding): string {
  const { line, column } = file.where(found.place);
  return `${file.file}:${line}:${column}: ${findingText(found)}`;
}

async function readText(file: string): Promise<string> {
  if (file === STDIN) return (await readPiped()).replace(/^\uFEFF/, "");
  try {
    const { size } = await stat(file);
    if (size > ((await isReport(file)) ? LARGEST_REPORT : LARGEST)) {
      const megabytes = (size / 1e6).toFixed(1);
      throw new UseError(
        `${file}: has ${megabytes} MB, and the largest plan has ${LARGEST / 1e6} MB; is it a trace?`,
      );
    }
    return (await readFile(file, "utf8")).replace(/^\uFEFF/, "");
  } catch (error) {
    throw error instanceof UseError ? error : fileFault(file, error);
  }
}

/** The node at a place, or the nearest one above it that there is. */
function nodeAt(tree: Node, place: string): Node {
  const [, part, address] = /^(controls|settings)\.(.+)$/.exec(place) ?? [];
  if (address !== undefined) return findNodeAtLocation(tree, [part!, address])?.parent ?? tree;
  const path = place === "" ? [] : place.split(".").map((part) => (/^\d+$/.test(part) ? Number(part) : part));
  for (; path.length > 0; path.pop()) {
    const node = findNodeAtLocation(tree, path);
    // The field's name says more than its value.
    if (node !== undefined) return node.parent?.type === "property" ? node.parent : node;
  }
  return tree;
}

function position(text: string, offset: number): Position {
  const before = text.slice(0, offset);
  return { line: before.split("\n").length, column: offset - before.lastIndexOf("\n") };
}

function sentence(code: string): string {
  return code.replace(/([a-z])([A-Z])/g, "$1 $2").toLowerCase();
}
