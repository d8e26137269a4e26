/** What the input says about a plan's numbers. In: entries and their lanes. Out: measurements for each number. Pure. */
import type { PlanNumber } from "reacher/check";
import type { TraceEntry } from "reacher/trace";
import { allTimes, proposeTapWindow, StickMeter, TapCounter } from "reacher/tuning";
import type { Timeline } from "../timeline/lanes";

/** Values on a slider's own scale, and a summary. */
export interface Measured {
  /** One tick each. */
  readonly points: readonly number[];
  readonly text: string;
}

export interface Measures {
  readonly gaps: Measured;
  readonly lengths: Measured;
  readonly rest: Measured;
  readonly reach: Measured;
}

/** Drawn at most. */
const MOST_POINTS = 200;

export function measure(entries: readonly TraceEntry[], { controls }: Timeline): Measures {
  const taps = new TapCounter();
  const sticks = new StickMeter();
  for (const entry of entries) {
    taps.push(entry);
    sticks.push(entry);
  }
  taps.endTrace();
  sticks.endTrace();
  const keys = controls.filter(({ line }) => line.every(({ value }) => value === 0 || value === 1));
  const gaps = keys
    .flatMap(({ bars }) => bars.slice(1).map(({ from }, n) => from - bars[n]!.from))
    .filter((gap) => gap <= 600);
  const lengths = keys
    .flatMap(({ bars }) => bars.map(({ from, to }) => to - from))
    .filter((length) => length <= 2000);
  const { gapMs, reason } = proposeTapWindow(allTimes(taps.times()));
  const seen = sticks.measures();
  const rests = seen.flatMap(({ rest }) => (rest === undefined ? [] : [rest]));
  const reaches = seen.flatMap(({ reach }) => reach.filter((one) => one > 0.6));
  const furthest = Math.min(...reaches);
  return {
    gaps: {
      points: gaps.slice(-MOST_POINTS),
      text:
        gaps.length === 0
          ? "no second press within 600 ms yet"
          : gapMs === undefined
            ? `${gaps.length} second presses; ${reason}`
            : `${gapMs} ms suits: ${reason}`,
    },
    lengths: {
      points: lengths.slice(-MOST_POINTS),
      text:
        lengths.length === 0
          ? "no press yet"
          : `${lengths.length} presses, half of them up to ${Math.round(median(lengths))} ms`,
    },
    rest: {
      points: rests.map(({ within }) => within),
      text:
        rests.length === 0
          ? "no stick has rested yet"
          : `at rest within ${Math.max(...rests.map(({ within }) => within)).toFixed(3)} of the middle, trembling by ${Math.max(...rests.map(({ noise }) => noise)).toFixed(3)}`,
    },
    reach: {
      points: reaches.map((one) => Math.max(0, 1 - one)).slice(-MOST_POINTS),
      text:
        reaches.length === 0
          ? "no stick has gone to its rim yet"
          : `the rim lies at ${furthest.toFixed(2)} at least`,
    },
  };
}

/** The measurements that concern a number. */
export function measuredFor({ name }: PlanNumber, measures: Measures): Measured | undefined {
  if (name === "gapMs") return measures.gaps;
  if (name === "tapMs" || name === "afterMs" || name === "beforeMs") return measures.lengths;
  if (name === "inner") return measures.rest;
  return name === "outer" ? measures.reach : undefined;
}

function median(values: readonly number[]): number {
  return [...values].sort((a, b) => a - b)[values.length >> 1]!;
}
