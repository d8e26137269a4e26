/**
 * Follows a plan's file while a game is made, outside of Vite: for a server of Node, a tool, a terminal game. In: a path. Out: each plan that can run, and the
 * faults of others.
 *
 * @module reacher/watch
 */
import { watch } from "node:fs";
import { basename, dirname } from "node:path";
import { mustBeObject, mustBeText, mustCall } from "../plan/arguments.js";
import { checkPlan } from "../plan/check.js";
import { findingText } from "../plan/errors.js";
import { shown } from "../plan/depth.js";
import type { Plan } from "../plan/types.js";
import { readSettled } from "./settled.js";

/** Files are written in several steps: what comes within this time is one change, in ms. */
const TOGETHER_MS = 30;

/**
 * Gives the plan of a file at once and after each change: `watchPlan("game.plan.json", { onPlan: (plan) => input.setPlan(plan), onFault: console.error })`. A file that cannot run is told to
 * `onFault`, and the last plan stays. Returns what ends it. @throws Error if the folder cannot be watched
 */
export function watchPlan(
  file: string,
  options: {
    readonly onPlan: (plan: Plan) => void;
    /** Takes a message with the place and the mend. */
    readonly onFault: (message: string) => void;
  },
): () => void {
  mustBeText(file, "path of a plan");
  mustBeObject(options, "object of calls, onPlan and onFault");
  const { onPlan, onFault } = options;
  mustCall(onPlan, "onPlan(plan)");
  mustCall(onFault, "onFault(message)");
  let isOver = false;
  let known = "";
  const read = async () => {
    const written = await readSettled(file);
    if (isOver || written === known) return;
    known = written;
    let raw: unknown;
    try {
      raw = JSON.parse(written);
    } catch (error) {
      onFault(`${file}: not JSON: ${(error as Error).message}`);
      return;
    }
    const { plan, findings } = checkPlan(raw);
    if (plan === undefined) onFault(findings.map((found) => `${file}: ${findingText(found)}`).join("\n"));
    else onPlan(raw as Plan);
  };
  const look = () => {
    read().catch((error: unknown) => {
      if (!isOver) onFault(`${file} cannot be read: ${shown((error as Error).message)}`);
    });
  };
  let timer: ReturnType<typeof setTimeout> | undefined;
  // Of the folder: an editor may replace the file.
  const watching = watch(dirname(file), (_, name) => {
    if (name !== null && name !== basename(file)) return;
    clearTimeout(timer);
    timer = setTimeout(look, TOGETHER_MS);
  });
  look();
  return () => {
    isOver = true;
    clearTimeout(timer);
    watching.close();
  };
}
