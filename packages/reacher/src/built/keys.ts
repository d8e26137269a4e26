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
import { override } from "../layer/override.js";
import { readAhead } from "./readAhead.js";

declare const setTimeout: (call: () => void) => void;

/** All rules, and rebinding. Its contents are internal. */
export interface KeyRules {
  readonly part: "rules";
}

/** The page goes on for a moment. */
const pause = () => new Promise<void>((done) => setTimeout(done));

const all: Rules = {
  tablesOf: compiledBy(EVERY),
  override,
  change,
  exchange,
  prepare: (plan, slots) => compileSlowly(EVERY, plan, slots, pause),
};

export const rules = all as unknown as KeyRules;

/** For layers that are not whole yet. */
export const growing = ((lean) => grow(lean, all, readAhead)) satisfies Grow as unknown as KeyRules;
