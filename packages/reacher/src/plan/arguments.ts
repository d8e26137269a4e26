/** Checks what a game passes, before anything is changed. In: arguments. Out: the same, typed, or an error that names what fits. */
import { ReacherError } from "./errors.js";
import { shown } from "./depth.js";

/** A moment, in ms on the clock of `performance.now()`: as a number, or among other options. Left out: the last step's time. */
export type Moment = number | { readonly t?: number | undefined } | undefined;

/** @throws ReacherError if it is neither a time nor options */
export function momentOf(given: unknown): number | undefined {
  const t = typeof given === "object" && given !== null ? (given as { readonly t?: unknown }).t : given;
  if (t === undefined) return undefined;
  if (typeof t !== "number" || !Number.isFinite(t)) throw noTime(t);
  return t;
}

export function noTime(t: unknown): ReacherError {
  return new ReacherError(`${shown(t)} is not a time; give milliseconds on the clock of performance.now()`);
}

/** @throws ReacherError naming the call, if this is no function */
export function mustCall(fn: unknown, call: string): void {
  if (typeof fn !== "function") throw new ReacherError(`${call} takes a function, not ${shown(fn)}`);
}

/** @throws ReacherError naming the argument, if this is no text */
export function mustBeText(given: unknown, what: string): void {
  if (typeof given !== "string") throw new ReacherError(`${shown(given)} is no ${what}; give a text`);
}

/** @throws ReacherError naming the argument, if this is not true or false */
export function mustBeTruth(given: unknown, what: string): void {
  if (typeof given !== "boolean") throw new ReacherError(`${shown(given)} for ${what}; give true or false`);
}

/** @throws ReacherError naming the argument, if this is no object */
export function mustBeObject(given: unknown, what: string): void {
  if (typeof given !== "object" || given === null) throw new ReacherError(`${shown(given)} is no ${what}`);
}

/** @throws ReacherError naming the argument, if this is no finite number */
export function mustBeNumber(given: unknown, what: string): void {
  if (typeof given !== "number" || !Number.isFinite(given))
    throw new ReacherError(`${shown(given)} is no ${what}; give a number`);
}

/** @throws ReacherError naming the argument, if this is no list */
export function mustBeList(given: unknown, what: string): void {
  if (!Array.isArray(given)) throw new ReacherError(`${shown(given)} is no list of ${what}`);
}

/** Options that may be left out. @throws ReacherError if they are no object */
export function mustBeOptions(given: unknown): void {
  if (given !== undefined) mustBeObject(given, "object of options");
}

/** @throws ReacherError naming the argument, if these calls are missing */
export function mustHave(given: unknown, calls: readonly string[], what: string): void {
  const has = (name: string) => typeof (given as Record<string, unknown>)[name] === "function";
  if (typeof given !== "object" || given === null || !calls.every(has))
    throw new ReacherError(`${shown(given)} is no ${what}`);
}

/** @throws ReacherError if this is no layer */
export function mustBeLayer(given: unknown): void {
  mustHave(given, ["feed", "step", "seat", "watch"], "input layer; give what createInputLayer makes");
}
