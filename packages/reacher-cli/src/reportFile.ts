/** Report files, which stand in place of a plan and a trace. In: a path. Out: whether it is one; its parts. */
import { open } from "node:fs/promises";
import { PlanError, ReacherError } from "reacher";
import { parseReport, type Report } from "reacher/trace";
import { fileFault, UseError } from "./faults.js";
import { readPiped, STDIN } from "./stdin.js";

/** Far beyond any report that a game makes. */
export const LARGEST_REPORT = 64_000_000;

/** A report names itself in its first field. */
export async function isReport(file: string): Promise<boolean> {
  return textIsReport(await beginningOf(file));
}

export function textIsReport(text: string): boolean {
  return /^\uFEFF?\s*\{\s*"reacherReport"/.test(text);
}

/** The first 4096 bytes of a file. @throws UseError if it cannot be read */
export async function beginningOf(file: string): Promise<string> {
  if (file === STDIN) return (await readPiped()).slice(0, 4096);
  try {
    const handle = await open(file);
    try {
      const { buffer, bytesRead } = await handle.read(Buffer.alloc(4096), 0, 4096, 0);
      return buffer.toString("utf8", 0, bytesRead);
    } finally {
      await handle.close();
    }
  } catch (error) {
    throw fileFault(file, error);
  }
}

/** @throws UseError naming the file and the place in it */
export function reportIn(file: string, text: string): Report {
  try {
    return parseReport(text.replace(/^\uFEFF/, ""));
  } catch (error) {
    if (error instanceof PlanError) throw new UseError(`${file}: plan: ${error.message}`);
    if (error instanceof ReacherError) throw new UseError(`${file}: ${error.message}`);
    throw error;
  }
}

/** The trace of a plan: a file of its own, or the report that the plan is in. @throws UseError if there is none */
export async function traceBeside(plan: string, trace: string | undefined): Promise<string> {
  if (trace !== undefined) return trace;
  if (await isReport(plan)) return plan;
  throw new UseError(`missing the trace of ${plan}; give a trace, or in place of both a report`);
}
