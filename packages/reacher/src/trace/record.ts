/**
 * Records what a layer handles, in bounded memory. In: a running layer. Out: a trace of its last seconds.
 * May change: its ring buffer of events, and the state from before the ring begins.
 */
import { resolvePlan } from "../plan/resolve.js";
import { controlsOf } from "../controls/ownControls.js";
import { mustBeLayer, mustBeNumber, mustBeOptions, mustBeText } from "../plan/arguments.js";
import type { InputLayer } from "../layer/types.js";
import type { Kinds } from "../plan/types.js";
import type { Command } from "../layer/command.js";
import { engineBehind, overridesBehind } from "../layer/seatHandle.js";
import { Clock } from "../engine/clock.js";
import { shown } from "../plan/depth.js";
import { ReacherError } from "../plan/errors.js";
import { Checkpoints } from "./checkpoints.js";
import type { Report } from "./report.js";
import { Ring } from "./ring.js";
import type { TraceTextOptions } from "./textOptions.js";
import { reportLines, writeTrace } from "./written.js";
import { Latches, presentLines, recordableIn } from "./present.js";

/** How much a recorder keeps. */
export interface RecordOptions {
  /** The maximum number of events; the oldest are dropped first. @default 20000 */
  readonly most?: number;
}

/** A recording under way, in bounded memory. */
export interface Recorder {
  /**
   * The trace as JSON Lines, its times from 0. It begins with what was held, set and switched on at that moment, so that it replays as
   * it was.
   */
  text(options?: TraceTextOptions): string;
  /**
   * The same in one file with the plan and each seat's changes: `JSON.stringify` it. It begins with the whole state of the layer, so that windows,
   * cooldowns and long presses go on as they were; `lastMs`: at the latest so many ms before the end. `about`: what the player says of it.
   */
  report(about?: string, options?: Pick<TraceTextOptions, "lastMs">): Report;
  /** Ends the recording; what was recorded stays. */
  stop(): void;
}

/**
 * Starts recording: only controls that the plan binds, at the times at which they counted.
 * @throws ReacherError in a game that was built ahead without `held`
 */
export function record<K extends Kinds, F extends string>(
  input: InputLayer<K, F>,
  options: RecordOptions = {},
): Recorder {
  mustBeLayer(input);
  mustBeOptions(options);
  const { most = 20_000 } = options;
  if (!(Number.isInteger(most) && most >= 1))
    throw new ReacherError(`${shown(most)} is no count of events; give at least 1`);
  for (const name of input.seats) recordableIn(engineBehind(input.seat(name)).tables);
  const controls = () => controlsOf(resolvePlan(input.plan));
  const ring = new Ring(most, controls);
  // A plan without seats does not name its only seat.
  const isSeated = input.plan.seats !== undefined;
  const of = (seat: string) => (isSeated ? { seat } : {});
  const add = (seat: string, t: number, line: object, after: boolean) =>
    ring.add(input.seats.indexOf(seat), t, JSON.stringify(after ? { ...line, after } : line), NaN);
  const latches = new Map(
    input.seats.map((name) => [name, new Latches(engineBehind(input.seat(name)), of(name))]),
  );
  const noteLatches = (_: number, seat: string) => ring.addLatches(latches.get(seat)!.news());
  const checkpoints = new Checkpoints(input as unknown as InputLayer);
  const clock = () => engineBehind(input.seat(input.seats[0]!)).clock[Clock.Now]!;
  /** From here on the recording begins with what is on now. */
  const beginHere = () => {
    if (clock() === -Infinity) return;
    const lines: object[] = presentLines(input as unknown as InputLayer, of);
    for (const own of latches.values()) lines.push(...own.all());
    ring.beginWith(clock(), lines);
    checkpoints.clear();
    checkpoints.take(clock(), ring.count);
  };
  beginHere();
  /** The pad that each seat was last given, and when. */
  const given = new Map<string, { readonly pad: number; readonly at: number }>();
  const notePad = (
    command: Extract<Command, { seatPad: string }>,
    t: number,
    seat: string,
    after: boolean,
  ) => {
    const { pad } = command;
    const before = given.get(seat);
    if (pad !== null) {
      // Its own pad, taken away and given back: one line of these two would say nothing.
      if (before?.pad === pad) add("", t, { ...command, pad: null }, after);
      for (const [other, { pad: its }] of given) if (its === pad) given.delete(other);
      given.set(seat, { pad, at: t });
      add("", t, command, after);
      return;
    }
    // If it has been given another one meanwhile, that line takes this one away.
    if (before !== undefined && before.at <= t && input.seat(seat).pad !== null) return;
    given.delete(seat);
    add(seat, t, command, after);
  };
  const stop = input.watch({
    event: ({ t, control, value, pad }, seat, _, after) => {
      // A seat may be fed alone.
      const of = isSeated && controls().ownOf(control) !== undefined ? seat : "";
      ring.add(input.seats.indexOf(seat), t, `${control} ${pad} ${after ? "after" : ""} ${of}`, value);
    },
    command: (command, { t, seat, after }) => {
      if ("plan" in command) beginHere();
      else if ("seatPad" in command) notePad(command, t, seat, after);
      else if ("openSeats" in command) add("", t, command, after);
      else if ("lost" in command)
        add(seat, t, command.lost === "pad" ? command : { ...command, ...of(seat) }, after);
      else if (!("take" in command)) add(seat, t, { ...command, ...of(seat) }, after);
    },
    settled: noteLatches,
    restored: (t, seat) => {
      ring.cut(t, seat === undefined ? undefined : input.seats.indexOf(seat));
      checkpoints.cut(t);
      for (const own of latches.values()) ring.addLatches(own.news());
    },
    stepped: (t) => checkpoints.stepped(t, ring.count),
  });
  let stoppedAt: number | undefined;
  return {
    text: (textOptions = {}) => {
      mustBeOptions(textOptions);
      const { now, lastMs } = textOptions;
      if (now !== undefined) mustBeNumber(now, "time");
      if (lastMs !== undefined && lastMs !== Infinity) mustBeNumber(lastMs, "time");
      return writeTrace(ring, input.plan.name ?? "", {
        now: stoppedAt ?? clock(),
        ...definedOf(textOptions),
      });
    },
    report: (about, reportOptions = {}) => {
      if (about !== undefined) mustBeText(about, "about");
      mustBeOptions(reportOptions);
      const { lastMs = Infinity } = reportOptions;
      if (lastMs !== Infinity) mustBeNumber(lastMs, "time");
      const end = stoppedAt ?? clock();
      const from = checkpoints.from(end - lastMs, ring.firstCount);
      const { seats, plan } = input;
      const changed = seats.flatMap((name, n) => {
        const own = from === undefined ? overridesBehind(input.seat(name)) : from.overrides[n]!;
        return own === null ? [] : [[name, own]];
      });
      const report = {
        reacherReport: 1,
        ...(about !== undefined && { about }),
        plan,
        overrides: Object.fromEntries(changed),
        trace: reportLines(ring, from, seats, end),
      };
      // A copy: what is changed in the game later is not in it.
      return JSON.parse(JSON.stringify(report)) as Report;
    },
    stop: () => {
      stoppedAt ??= clock();
      stop();
    },
  };
}

/** Options that were left out, or given as undefined, stand at their defaults. */
function definedOf(options: TraceTextOptions): TraceTextOptions {
  return Object.fromEntries(Object.entries(options).filter(([, value]) => value !== undefined));
}
