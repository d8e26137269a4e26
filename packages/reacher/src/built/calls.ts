/** What a game may call of a layer and need not bring along. In: names, or the text of a module. Out: what they need. Pure. */
import { mustBeList } from "../plan/arguments.js";
import { didYouMean } from "../controls/nearest.js";
import { ReacherError } from "../plan/errors.js";
import { shown } from "../plan/depth.js";
import type { FeatureName } from "../engine/every.js";

/**
 * What a call needs besides its own code: the whole layer, one that hears all controls, the plan's text, the rules themselves in place of made code, or
 * these loaded later.
 */
export type Need = "whole" | "hearing" | "text" | "rules" | "later";

/** Each call with the group that has it, or with what it needs. */
export const CALLS = {
  drive: "driveCalls",
  mute: "muteCalls",
  unmute: "muteCalls",
  mutes: "muteCalls",
  setFlag: "flagCalls",
  flags: "flagCalls",
  setNumber: "numberCalls",
  number: "numberCalls",
  setSpot: "spotCalls",
  enter: "modeCalls",
  leave: "modeCalls",
  modes: "modeCalls",
  setSwitch: "setSwitchCalls",
  take: "takeCalls",
  on: "listenCalls",
  reset: "resetCalls",
  live: "liveCalls",
  copy: "copyCalls",
  snapshot: "snapshotCalls",
  restore: "snapshotCalls",
  fixedSteps: "fixedStepCalls",
  plan: "text",
  own: "text",
  held: "hearing",
  onPress: "hearing",
  watch: "whole",
  intercept: "whole",
  openSeats: "whole",
  assignPad: "whole",
  awaitPad: "whole",
  onPads: "whole",
  setOverrides: "whole",
  bringKeys: "later",
  setPlan: "rules",
} as const;
export type Call = keyof typeof CALLS;

/** Every one that a game makes whose calls nobody told; `bringKeys` is told by those alone who have the rest loaded later. */
export const ALL_CALLS = (Object.keys(CALLS) as Call[]).filter(
  (call) => CALLS[call] !== "rules" && CALLS[call] !== "later",
);

/** Features of the interpreting engine that only these calls need. */
export const FEATURE_OF: { readonly [call in Call]?: FeatureName } = {
  drive: "drives",
  mute: "modes",
  unmute: "modes",
};

/** Whether any of these calls needs this. */
export function need(calls: readonly Call[], what: Need): boolean {
  return calls.some((call) => CALLS[call] === what || (CALLS[call] === "later" && what === "whole"));
}

/** Calls that a game makes only once players' keys have come. */
const WITH_KEYS: readonly Call[] = ["setOverrides", "bringKeys", "intercept"];

/** Whether a game with these calls has a whole layer from the beginning; `rebinding`: players' keys come, now or later. */
export function isWhole(calls: readonly Call[], isSeated: boolean, rebinding: boolean): boolean {
  return isSeated || calls.some((call) => need([call], "whole") && !(rebinding && WITH_KEYS.includes(call)));
}

/** Calls that throw in a game that was built with these: most of the others; of a whole layer what its engine lacks. */
export function callsLeftOut(told: readonly Call[], isSeated: boolean): readonly Call[] {
  const hasMost = need(told, "rules") || isWhole(told, isSeated, told.includes("setOverrides"));
  const lacks = (call: Call) =>
    hasMost
      ? FEATURE_OF[call] !== undefined || call === "setOverrides" || (isSeated && call === "openSeats")
      : !(told.includes("bringKeys") && (need([call], "whole") || need([call], "hearing")));
  return ALL_CALLS.filter((call) => !told.includes(call) && lacks(call));
}

/** @throws ReacherError naming a call that is none */
export function mustBeCalls(given: unknown): readonly Call[] {
  mustBeList(given, "calls");
  const names = Object.keys(CALLS);
  for (const call of given as readonly unknown[])
    if (typeof call !== "string" || !Object.hasOwn(CALLS, call))
      throw new ReacherError(
        `${shown(call)} is no call that can be left out; these can: ${names.join(", ")}${typeof call === "string" ? didYouMean(call, names) : ""}`,
      );
  return given as readonly Call[];
}

/** Modules of the library that call of a layer what a game does not name itself; and those that look at the rules behind it. */
const CALLING_MODULES: readonly (readonly [RegExp, readonly Call[]])[] = [
  [/\breacher\/rebind\b/, ["intercept", "plan", "own"]],
  [/\brecord\b[^;"']*["']reacher\/trace["']/, ["watch", "plan", "own"]],
  // They load what keys need before all else, and so need nothing until then.
  [/\breacher\/settings\b|\buseOverrides\b/, ["setOverrides", "bringKeys"]],
];
const LOOKING_MODULES = /\breacher\/(?:trace|panel|tuning|testing)\b/;
/** Imports from them that look at nothing: `record` hears what a layer tells. */
const BLIND =
  /\bimport\s+(?:type\s*)?\{(?:\s*(?:type\s+\w+|(?:(?:un)?packEvents|record)(?:\s+as\s+\w+)?)\s*,?)*\}\s*from\s*["']reacher\/trace["']|\bimport\s+type\b[^;"']*["']reacher\/\w+["']/g;

/** How a plan comes into a module by a name of its own. */
const PLAN_NAMES = [
  /\bimport\s+(\w+)\s+from\s+["'][^"']*\.plan\.jsonc?["']/g,
  /\b(?:const|let|var)\s+(\w+)\s*=\s*definePlan\s*[<(]/g,
];

/** Whether a module may read fields of its plan, or hands it on, besides making a layer of it. */
function usesText(text: string): boolean {
  // The name itself, what makes a layer, and a type of it.
  const silent = (name: string) =>
    text
      .replace(/["'][^"']*\.plan\.jsonc?["']/g, "")
      .replace(new RegExp(`\\bcreateInputLayer\\s*(?:<[^()]*>)?\\(\\s*${name}\\s*[,)]`, "g"), "")
      .replace(new RegExp(`\\btypeof\\s+${name}\\b`, "g"), "")
      .match(new RegExp(`\\b${name}\\b`, "g"))!.length === 1;
  const names = PLAN_NAMES.flatMap((pattern) => [...text.matchAll(pattern)].map(([, name]) => name!));
  const inline = text.match(/\bcreateInputLayer\s*\(\s*definePlan\s*[<(]/g)?.length ?? 0;
  const all = text.match(/\bdefinePlan\s*[<(]|\.plan\.jsonc?["']/g)?.length ?? 0;
  return all > names.length + inline || /\bexport\b[^;=]*=\s*definePlan/.test(text) || !names.every(silent);
}

/** The calls whose names are read as properties anywhere in a text: too many rather than too few. */
export function callsNamedIn(text: string): readonly Call[] {
  const code = text.replace(/\.plan\.jsonc?\b/g, "").replace(/\s+/g, " ");
  // Readings have fields of these names.
  const called = (call: Call) =>
    call === "on" || call === "live"
      ? `${call}\\s*!?(?:\\s+as\\s[^();]{0,300})?(?:\\s*[!)])*(?:\\s*<[^();]{0,300}>)?\\s*(?:(?:\\?\\.\\s*)?\\(|\\??\\.\\s*(?:bind|call|apply)\\b)`
      : `${call}\\b`;
  const found = (Object.keys(CALLS) as Call[]).filter((call) =>
    new RegExp(`\\.\\s*${called(call)}|[{,]\\s*${call}\\s*[,}:=]|["'\`]${call}["'\`]`).test(code),
  );
  for (const [module, calls] of CALLING_MODULES) if (module.test(text)) found.push(...calls);
  if (LOOKING_MODULES.test(text.replace(BLIND, ""))) found.push("setPlan", "plan", "own");
  if (usesText(text)) found.push("plan");
  return [...new Set(found)];
}
