/** What another number would have changed. In: the timeline that was, and the one that would have been. Out: one line of text. Pure. */
import type { ActionLane, Bar, Timeline } from "./timeline";

/** How an action differs. Times in ms, paths in the pace's unit times seconds. */
export interface Difference {
  readonly action: string;
  readonly seat: string;
  /** Beginnings more, or fewer. */
  readonly begun: number;
  /** Of the beginnings that are new, those whose presses went on as plain movement does: held, not tapped. */
  readonly byPlainMovement: number;
  readonly pulses: number;
  readonly onMs: number;
  readonly path: number;
}

/** Shorter than this is no difference that anybody feels. */
const LEAST_MS = 1;
const LEAST_PATH = 0.01;
/** A press that is held longer than this was no tap. */
const TAP_MS = 200;

export function differencesOf(was: Timeline, now: Timeline): Difference[] {
  return now.actions
    .filter((lane) => !was.actions.includes(lane))
    .map((lane) =>
      differenceOf(
        was.actions.find(({ key }) => key === lane.key),
        lane,
        now,
      ),
    )
    .filter(
      ({ begun, pulses, onMs, path }) =>
        begun !== 0 || pulses !== 0 || Math.abs(onMs) >= LEAST_MS || Math.abs(path) >= LEAST_PATH,
    );
}

function differenceOf(was: ActionLane | undefined, lane: ActionLane, now: Timeline): Difference {
  const before = was ?? { ...lane, bars: [], marks: [], moving: [] };
  const isSwitch = lane.kind === "switch";
  const begins = new Set(before.bars.map(({ from }) => from));
  const fresh = isSwitch ? lane.bars.filter(({ from }) => !begins.has(from)) : [];
  return {
    action: lane.action,
    seat: lane.seat,
    begun: isSwitch ? lane.bars.length - before.bars.length : 0,
    byPlainMovement: plainMovements(fresh, lane, now),
    pulses: pulsesOf(lane) - pulsesOf(before),
    onMs: isSwitch ? lengthOf(lane.bars) - lengthOf(before.bars) : 0,
    path: isSwitch || lane.kind === "turn" ? 0 : pathOf(lane, now.to) - pathOf(before, now.to),
  };
}

/** Of beginnings, how many are of taps whose press before was held, as steering is. */
function plainMovements(fresh: readonly Bar[], lane: ActionLane, { controls }: Timeline): number {
  if (fresh.length === 0) return 0;
  const taps = new Set(lane.windows.flatMap(({ kind, from }) => (kind === "taps" ? from : [])));
  const firsts = new Map<number, Bar>();
  for (const { bars } of controls)
    bars.slice(1).forEach(({ from }, n) => firsts.has(from) || firsts.set(from, bars[n]!));
  return fresh.filter(({ from }) => {
    const first = firsts.get(from);
    return taps.has(from) && first !== undefined && first.to - first.from > TAP_MS;
  }).length;
}

const lengthOf = (bars: readonly Bar[]) => bars.reduce((sum, { from, to }) => sum + to - from, 0);
const pulsesOf = ({ marks }: ActionLane) => marks.filter(({ kind }) => kind === "pulse").length;

/** How far a movement went: its length times its pace, in metres where the pace is in metres per second. */
export function pathOf({ moving }: ActionLane, to: number): number {
  return moving.reduce((sum, { at, x, y, pace }, n) => {
    const until = moving[n + 1]?.at ?? to;
    return sum + (Math.hypot(x, y) * pace * (until - at)) / 1000;
  }, 0);
}

/** The line below the timeline: "3 more surge, 1 by plain movement; kick on 0.4 s longer". */
export function differenceText(differences: readonly Difference[], isSeated: boolean): string {
  if (differences.length === 0) return "No difference in what is shown";
  return differences
    .map((one) => {
      const name = isSeated ? `${one.seat} ${one.action}` : one.action;
      const parts: string[] = [];
      if (one.begun !== 0) parts.push(`${Math.abs(one.begun)} ${one.begun > 0 ? "more" : "fewer"} ${name}`);
      if (one.byPlainMovement > 0) parts.push(`${one.byPlainMovement} by plain movement`);
      if (one.pulses !== 0)
        parts.push(
          `${Math.abs(one.pulses)} ${one.pulses > 0 ? "more" : "fewer"} ${Math.abs(one.pulses) === 1 ? "pulse" : "pulses"} of ${name}`,
        );
      // How long a beginning lasts goes with it.
      if (Math.abs(one.onMs) >= LEAST_MS && one.begun === 0)
        parts.push(`${name} ${seconds(Math.abs(one.onMs))} ${one.onMs > 0 ? "longer" : "shorter"}`);
      if (Math.abs(one.path) >= LEAST_PATH)
        parts.push(`${name} goes ${Math.abs(one.path).toFixed(2)} ${one.path > 0 ? "further" : "less far"}`);
      return parts.join(", ");
    })
    .join("; ");
}

const seconds = (ms: number) => (ms < 100 ? `${Math.round(ms)} ms` : `${(ms / 1000).toFixed(1)} s`);
