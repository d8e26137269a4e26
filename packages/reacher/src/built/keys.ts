/**
 * The second part of a game whose players set their own keys: the rules, in place of code that was made of them. Loaded by `bringKeys`; games do not import
 * it themselves.
 *
 * @module reacher/internal/keys
 */
import { EVERY } from "../engine/every.js";
import { exchange } from "../engine/exchange.js";
import type { Rules } from "../layer/builtParts.js";
import { change, compiledBy, compileSlowly } from "../layer/compiled.js";
import { grow } from "../lean/grow.js";
import type { Grow } from "../lean/untilKeys.js";
import type { CheckedPlan } from "../plan/checked.js";
import { PlanError } from "../plan/errors.js";
import { readPlan } from "../plan/readBuilt.js";
import { noteResolved } from "../plan/resolve.js";
import type { Plan } from "../plan/types.js";
import { override } from "../layer/override.js";

declare const setTimeout: (call: () => void) => void;

/** All rules, and rebinding. Its contents are internal. */
export interface KeyRules {
  readonly part: "rules";
}

/** The page goes on for a moment. */
const pause = () => new Promise<void>((done) => setTimeout(done));

/** The plan of a game that was built ahead: it was checked then. */
const read = (plan: Plan): CheckedPlan => {
  const read = readPlan(plan);
  if (!read.ok) throw new PlanError(read.findings);
  noteResolved(plan, read.plan);
  return read.plan;
};

const all: Rules = {
  tablesOf: compiledBy(EVERY),
  override,
  change,
  exchange,
  prepare: (plan, slots) => compileSlowly(EVERY, plan, slots, pause),
};

export const rules = all as unknown as KeyRules;

/** For layers that are not whole yet. */
export const growing = ((lean) => grow(lean, all, read)) satisfies Grow as unknown as KeyRules;
