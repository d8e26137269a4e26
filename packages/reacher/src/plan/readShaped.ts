/**
 * Reads a plan whose fields have the right types: names are resolved, defaults filled in. In: such a plan. Out: its checked form, or the list
 * of what it names and does not have.
 */
import type { CheckedAction, CheckedPlan } from "./checked.js";
import type { Finding } from "./findings.js";
import { readMovement } from "./reader/movements.js";
import { checkPromises, checkRanges } from "./reader/promises.js";
import { POINTER } from "./pointer.js";
import { Reader } from "./reader/reader.js";
import { readSeats } from "./reader/seats.js";
import { findNeedsCircle, readSwitch } from "./reader/switches.js";
import { readTurn } from "./reader/turns.js";
import type { Plan, SwitchFields, TurnFields, VectorFields } from "./types.js";

/** The result of reading a plan: the plan, or why it cannot run. */
export type PlanReading =
  | { readonly ok: true; readonly plan: CheckedPlan }
  | { readonly ok: false; readonly findings: readonly Finding[] };

/** `isPlayers`: a player has changed it, whose changes may leave a flick without its stick. */
export function readShaped(written: Plan, isPlayers = false): PlanReading {
  const reader = new Reader(written, isPlayers);
  const plan = readWhole(reader);
  return reader.findings.length > 0 ? { ok: false, findings: reader.findings } : { ok: true, plan };
}

/** What a plan of the right shape names and does not have. */
export function shapedFindings(written: Plan): readonly Finding[] {
  const read = readShaped(written);
  return read.ok ? [] : read.findings;
}

/** Turns it into its checked form, and collects findings. */
function readWhole(reader: Reader): CheckedPlan {
  const { plan } = reader;
  for (const name of Object.keys(plan.flags ?? {})) {
    if (Object.hasOwn(plan.actions, name)) {
      reader.report(
        "same-name",
        `flags.${name}`,
        `an action has the name ${name} too, so a rule that says ${name} could mean either`,
      );
    }
  }
  const modes = plan.modes ?? {};
  const actions = Object.entries(plan.actions).map(([name, action]): CheckedAction => {
    if (action.kind === "switch") return readSwitch(reader, name, action as SwitchFields);
    if (action.kind === "turn") return readTurn(reader, name, action as TurnFields);
    return readMovement(reader, name, action.kind, action as VectorFields);
  });
  findNeedsCircle(reader, actions);
  (plan.protected ?? []).forEach((control, n) => reader.known(control, `protected.${n}`));
  checkRanges(reader, plan.player, "player");
  checkPromises(reader, actions);
  return {
    name: plan.name ?? "",
    version: plan.version ?? 0,
    yAxis: plan.yAxis ?? "up",
    controls: reader.controls.own,
    slots: [...reader.slots.values()],
    flags: Object.entries(plan.flags ?? {}).map(([name, flag]) => ({
      name,
      start: typeof flag === "boolean" ? flag : (flag.start ?? false),
      lingerMs: typeof flag === "boolean" ? 0 : (flag.lingerMs ?? 0),
    })),
    numbers: Object.entries(plan.numbers ?? {}).map(([name, value]) => ({ name, value })),
    spots: readSpots(reader, actions),
    modes: Object.entries(modes).map(([name, mode]) => ({ name, covers: mode.covers ?? "same" })),
    start: reader.modeNames(plan.start ?? Object.keys(modes).slice(0, 1), "start"),
    actions,
    seats: readSeats(reader),
    bounceMs: plan.bounceMs ?? 0,
    protected: plan.protected ?? [],
    seated: plan.seats !== undefined,
  };
}

/** Where the pointer may be measured from, and its own place. */
function readSpots(reader: Reader, actions: readonly CheckedAction[]): CheckedPlan["spots"] {
  const spots = Object.entries(reader.plan.spots ?? {}).map(([name, value]) => ({ name, value }));
  if (spots.some(({ name }) => name === POINTER))
    reader.report("bad-name", `spots.${POINTER}`, "is the pointer's own place; take another name");
  const points = actions.some(
    (action) =>
      (action.kind === "axis" || action.kind === "vector") &&
      action.sticks.some(({ pointer }) => pointer !== undefined),
  );
  return spots.length > 0 || points ? [...spots, { name: POINTER, value: [0, 0] }] : [];
}
