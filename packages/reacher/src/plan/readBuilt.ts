/**
 * Reads plans in a game that was built ahead: the author's plan was checked then, so only a player's changes are. In: the
 * plan, or the plan with a player's changes. Out: its checked form, or why it cannot run; in fewer words than the whole reader has.
 */
import { finding } from "./findings.js";
import { BOUNCE, ENTRIES } from "./language/entries.js";
import { listed, type Fields } from "./language/fields.js";
import { mayHold } from "./language/mayHold.js";
import { OPTION_FIELDS } from "./language/settable.js";
import { SHAPE } from "./language/shapes.js";
import { readShaped, type PlanReading } from "./readShaped.js";
import type { Plan } from "./types.js";

/** Reads without throwing. `isPlayers`: the plan has a player's changes. */
export function readPlan(raw: unknown, isPlayers = false): PlanReading {
  const plan = raw as Plan;
  if (isPlayers)
    for (const [name, action] of Object.entries(plan.actions)) {
      const place = faultIn(action as unknown as Json);
      if (place !== undefined)
        return { ok: false, findings: [finding("wrong-value", `actions.${name}.${place}`, NOTHING)] };
    }
  if (!mayHold(BOUNCE, plan.bounceMs ?? 0))
    return { ok: false, findings: [finding("wrong-value", "bounceMs", "is 0 to 1000 ms")] };
  return readShaped(plan, isPlayers);
}

const NOTHING = "is nothing that a plan could have there";

type Json = Readonly<Record<string, unknown>>;

/** The places that a player may change with a value of the wrong shape. */
function faultIn(action: Json): string | undefined {
  const entry = listed(ENTRIES[action["kind"] as keyof typeof ENTRIES]);
  for (const [slot, given] of Object.entries(action["from"] as object))
    if (!mayHold(entry, given)) return `from.${slot}`;
  return Object.keys(PLAYERS).find(
    (name) => action[name] !== undefined && !mayHold(PLAYERS[name]!, action[name]),
  );
}

/** What else of an action a player changes. */
const PLAYERS: Fields = { ...OPTION_FIELDS, shape: SHAPE };
