/** Makes the engine's tables from a checked plan. In: names. Out: numbers. */
import type { CheckedPlan } from "../../plan/checked.js";
import { listOf } from "../lists.js";
import { Due, Gesture, PAD, type ModeTable, type Tables } from "../tables.js";
import { Draft, dueCount } from "./draft.js";
import { linkGestures } from "./gestures.js";
import { addMover } from "./movers.js";
import { addTurn } from "./sticks.js";
import { addSwitch, joinGroups, rankSwitches } from "./switches.js";
import { findWays, markSpecial } from "./ways.js";

/** Compiles a plan for a seat with these slots. */
export function compilePlan(plan: CheckedPlan, slots: readonly string[]): Tables {
  return tablesOf(new Draft(plan, slots));
}

function tablesOf(draft: Draft): Tables {
  const { plan } = draft;
  let due = 0;
  // Movers first: switches may use their directions. Deadlines keep the plan's order all the same.
  const firstDue = draft.actions.map((action) => (due += dueCount(action)) - dueCount(action));
  draft.actions.forEach((action, n) => {
    if (action.kind === "turn") addTurn(draft, action, n);
    else if (action.kind !== "switch") addMover(draft, action, n, firstDue[n]!);
  });
  draft.actions.forEach((action, n) => action.kind === "switch" && addSwitch(draft, action, n, firstDue[n]!));
  joinGroups(draft);
  rankSwitches(draft);
  linkGestures(draft);
  markSpecial(draft.channel);
  const linger = listOf(
    plan.flags.map(({ lingerMs }, fact) => ({
      deadline: lingerMs > 0 ? draft.addWindow({ kind: Due.Linger, target: fact }) : -1,
      ms: lingerMs,
    })),
  );
  const deadlines = listOf([...draft.due, ...draft.windows]);
  for (const one of [...draft.mover, ...draft.switch])
    one.heard = draft.pacedBy[one.fact]!.length + draft.neededBy[one.fact]!.length > 0;
  findWays(draft);
  const hasAlls = draft.gesture.some(({ kind }) => kind === Gesture.All);
  return {
    plan,
    print: fingerprint(JSON.stringify([plan, draft.slots])),
    places: draft.places,
    closed: plan.seated && draft.slots.length === 0,
    usesPads: draft.channel.some(({ device }) => device === PAD),
    channels: draft.channels,
    used: draft.used,
    channel: draft.channel,
    signal: draft.signal,
    stick: draft.stick,
    switch: draft.switch,
    mover: draft.mover,
    turn: draft.turn,
    facts: draft.facts,
    pacedBy: draft.pacedBy,
    neededBy: draft.neededBy,
    linger,
    entry: draft.entry,
    waiting: listOf(draft.entry.filter(({ deadline }) => deadline >= 0)),
    gesture: draft.gesture,
    hasAlls,
    mode: modeTables(draft),
    start: plan.start.map((name) => plan.modes.findIndex((mode) => mode.name === name)),
    action: draft.action,
    deadlines,
    firstWindow: draft.dueCount,
    factsAt: draft.factsAt,
    deadlinesAt: draft.takeFloats(deadlines.length),
    runningAt: draft.takeInts(deadlines.length),
    liveAt: draft.liveAt,
    mutesAt: draft.takeInts(plan.actions.length),
    takenAt: draft.takeInts(hasAlls ? draft.channel.length : 0),
    stackAt: draft.takeInts(plan.modes.length),
    ints: draft.ints,
  };
}

function modeTables(draft: Draft): ModeTable[] {
  return draft.plan.modes.map(({ name, covers }, mode) => ({
    name,
    covers,
    channels: new Set(
      draft.action
        .filter(({ modes }) => modes.includes(mode))
        .flatMap(({ hideable }) => hideable.flatMap((one) => one.channels)),
    ),
  }));
}

/** A number for a text (FNV-1a, 32 bits): snapshots of another plan are told apart by it. */
function fingerprint(text: string): number {
  let hash = 0x811c9dc5 | 0;
  for (let n = 0; n < text.length; n++) hash = Math.imul(hash ^ text.charCodeAt(n), 0x01000193);
  return hash;
}
