/** What a recorder writes: a trace from its own beginning, or the lines of a report. In: recorded events. Out: lines. Pure. */
import { toBase64 } from "./base64.js";
import { Before } from "./before.js";
import type { Checkpoint } from "./checkpoints.js";
import { inOneOrder } from "./order.js";
import { lineOf, type Ring } from "./ring.js";
import type { TraceTextOptions } from "./textOptions.js";

/** The lines of a report: the state that it begins with, what was on then, and what came after it. */
export function reportLines(
  ring: Ring,
  from: Checkpoint | undefined,
  seats: readonly string[],
  end: number,
): object[] {
  const count = from?.count ?? ring.firstCount;
  const t = from?.t ?? ring.begin;
  const state =
    from === undefined
      ? []
      : [{ t, state: Object.fromEntries(seats.map((name, n) => [name, toBase64(from.states[n]!)])) }];
  const events = inOneOrder([...ring.events()].slice(count - ring.firstCount));
  const last = Math.max(end, events.at(-1)?.t ?? t, t);
  return [
    ...state,
    ...(from?.pads ?? []).map((pad) => ({ t, seatPad: seats[0], pad })),
    ...ring
      .beforeCount(count)
      .lines()
      .map((line) => ({ t, ...line })),
    ...events.map((event) => ({ t: Math.max(t, event.t), ...lineOf(event.what, event.value) })),
    { t: last, end: true },
  ];
}

export function writeTrace(
  ring: Ring,
  plan: string,
  { lastMs = Infinity, now, note }: TraceTextOptions,
): string {
  const events = inOneOrder([...ring.events()]);
  const end = Math.max(now ?? -Infinity, events.at(-1)?.t ?? ring.begin, ring.begin);
  const begin = Math.max(ring.begin, end - lastMs);
  const before = new Before(ring.controls, ring.before);
  const kept = events.filter((event) => {
    if (event.t >= begin || event.t === -Infinity) return true;
    before.apply(lineOf(event.what, event.value));
    return false;
  });
  for (const line of ring.latchesBefore(begin)) before.apply(line);
  const lines: object[] = [
    { reacherTrace: 1, ...(plan === "" ? {} : { plan }), ...(note === undefined ? {} : { note }) },
    ...before.lines().map((line) => ({ t: 0, ...line })),
    ...kept.map(({ t, what, value }) => ({
      t: milliseconds(Math.max(0, t - begin)),
      ...lineOf(what, value),
    })),
    { t: milliseconds(end - begin), end: true },
  ];
  return lines.map((line) => JSON.stringify(line) + "\n").join("");
}

/** To the microsecond: browsers' clocks are no finer. */
function milliseconds(t: number): number {
  return Math.round(t * 1000) / 1000;
}
