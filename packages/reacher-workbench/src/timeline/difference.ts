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
    byPlainMovement: fresh.filter((bar) => isPlainMovement(bar, lane, now)).length,
    pulses: pulsesOf(lane) - pulsesOf(before),
    onMs: isSwitch ? lengthOf(lane.bars) - lengthOf(before.bars) : 0,
    path: isSwitch || lane.kind === "turn" ? 0 : pathOf(lane, now.to) - pathOf(before, now.to),
  };
}

/** Whether taps began with a press that was held, as steering is. */
function isPlainMovement({ from }: Bar, lane: ActionLane, { windows, controls }: Timeline): boolean {
  const isTaps = (windows.get(lane.key) ?? []).some(({ kind, from: at }) => kind === "taps" && at === from);
  if (!isTaps) return false;
  const key = controls.find(({ bars }) => bars.some((bar) => bar.from === from));
  const n = key?.bars.findIndex((bar) => bar.from === from) ?? 0;
  const first = key?.bars[n - 1];
  return first !== undefined && first.to - first.from > TAP_MS;
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
