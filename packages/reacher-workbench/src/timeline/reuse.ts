/**
 * Reuses what is the same in two timelines of one input. A number mostly changes one or two actions: the others need not be sent from the worker, compared,
 * or redrawn. In: the previous timeline, and the new one. Out: the new one, with the previous objects where they are equal. Pure.
 */
import type { ActionLane, Timeline } from "./lanes";

/** A timeline in transit from the worker: `null` for what has not changed since the last one. */
export interface Sent extends Omit<Timeline, "controls" | "actions"> {
  readonly controls: Timeline["controls"] | null;
  readonly actions: readonly (ActionLane | null)[];
}

/** The timeline `now`, with the lanes of `was` where they are equal. */
export function reusing(was: Timeline | undefined, now: Timeline): Timeline {
  if (was === undefined || was === now) return now;
  const actions = now.actions.map((lane, n) => {
    const old = was.actions[n];
    return old !== undefined && isSameLane(old, lane) ? old : lane;
  });
  return { ...now, actions };
}

/** The difference to send to a receiver that has `was`. `now` must come from `reusing`. */
export function sent(was: Timeline | undefined, now: Timeline): Sent {
  return {
    ...now,
    controls: was?.controls === now.controls ? null : now.controls,
    actions: now.actions.map((lane, n) => (was?.actions[n] === lane ? null : lane)),
  };
}

/** Rebuilds the timeline that was sent. */
export function received(was: Timeline | undefined, { controls, actions, ...rest }: Sent): Timeline {
  return {
    ...rest,
    controls: controls ?? was!.controls,
    actions: actions.map((lane, n) => lane ?? was!.actions[n]!),
  };
}

function isSameLane(lane: ActionLane, other: ActionLane): boolean {
  return (
    lane.key === other.key &&
    lane.kind === other.kind &&
    isSameList(lane.bars, other.bars) &&
    isSameList(lane.marks, other.marks) &&
    isSameList(lane.moving, other.moving) &&
    isSameList(lane.windows, other.windows) &&
    isSameList(lane.reasons, other.reasons)
  );
}

/** Compares lists of flat objects by value. */
function isSameList<One extends object>(one: readonly One[], other: readonly One[]): boolean {
  if (one === other) return true;
  if (one.length !== other.length) return false;
  for (let n = 0; n < one.length; n++) {
    const [a, b] = [one[n]!, other[n]!];
    for (const name in b) if (a[name] !== b[name]) return false;
    for (const name in a) if (!(name in b)) return false;
  }
  return true;
}
