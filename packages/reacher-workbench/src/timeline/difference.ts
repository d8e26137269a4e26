/** What another number would have changed. In: two timelines of one input. Out: one line of text. Pure. */
import type { ActionLane, Bar, Timeline } from "./lanes";

/** How an action differs. Times in ms, paths in the pace's unit times seconds. */
export interface Difference {
  readonly action: string;
  readonly seat: string;
  /** How many more or fewer times it began. */
  readonly begun: number;
  /** Of the new beginnings, those whose presses look like plain movement: held, not tapped. */
  readonly byPlainMovement: number;
  readonly pulses: number;
  readonly onMs: number;
  readonly path: number;
}

/** A shorter difference cannot be felt, in ms. */
const LEAST_MS = 1;
const LEAST_PATH = 0.01;
/** A press held longer than this was not a tap, in ms. */
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

/** How many beginnings come from taps whose previous press was held, as in steering. */
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

/** The distance of a movement: its length times its pace, in metres if the pace is in metres per second. */
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
    .map((difference) => {
      const name = isSeated ? `${difference.seat} ${difference.action}` : difference.action;
      const parts: string[] = [];
      if (difference.begun !== 0)
        parts.push(`${Math.abs(difference.begun)} ${difference.begun > 0 ? "more" : "fewer"} ${name}`);
      if (difference.byPlainMovement > 0) parts.push(`${difference.byPlainMovement} by plain movement`);
      if (difference.pulses !== 0)
        parts.push(
          `${Math.abs(difference.pulses)} ${difference.pulses > 0 ? "more" : "fewer"} ${Math.abs(difference.pulses) === 1 ? "pulse" : "pulses"} of ${name}`,
        );
      // The duration changes along with the count.
      if (Math.abs(difference.onMs) >= LEAST_MS && difference.begun === 0)
        parts.push(
          `${name} ${seconds(Math.abs(difference.onMs))} ${difference.onMs > 0 ? "longer" : "shorter"}`,
        );
      if (Math.abs(difference.path) >= LEAST_PATH)
        parts.push(
          `${name} goes ${Math.abs(difference.path).toFixed(2)} ${difference.path > 0 ? "further" : "less far"}`,
        );
      return parts.join(", ");
    })
    .join("; ");
}

const seconds = (ms: number) => (ms < 100 ? `${Math.round(ms)} ms` : `${(ms / 1000).toFixed(1)} s`);
