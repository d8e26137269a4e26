/**
 * Compares two plans on the same input. In: the plans, and the entries of a trace. Out: the ranges of switches that
 * differ, and for each movement how long it differs, and where most. Pure.
 */
import type { RunnablePlan } from "./planFile.js";
import { startReplay, type NowRow, type Replay, type TraceEntry } from "reacher/trace";

/** A switch was on from here to there, in ms, and pulsed at these moments. `off` is missing where the trace ends first. */
export interface Stretch {
  readonly on: number;
  readonly off?: number;
  readonly pulses: readonly number[];
}

/** The whole reading of a movement at one moment. */
export type Moving = Readonly<Record<string, unknown>>;

/** A switch is on otherwise, from `at` (ms) on: by one plan alone, or from or to another moment. */
export interface SwitchDifference {
  readonly at: number;
  readonly seat: string;
  readonly action: string;
  readonly first: Stretch | null;
  readonly second: Stretch | null;
}

/** A movement differs for so long in all, most of it at `at`; and what it is then. */
export interface MovingDifference {
  readonly at: number;
  readonly seat: string;
  readonly action: string;
  readonly ms: number;
  readonly first: Moving | null;
  readonly second: Moving | null;
}

export type Difference = SwitchDifference | MovingDifference;

/** How often movements are looked at, in ms: the steps of a game at 60 Hz. */
const LOOK_MS = 1000 / 60;

/** Differences below this are rounding. */
const ROUNDING = 1e-5;

/** Plays one trace through two plans. May change: the two replays. */
export class Comparison {
  readonly first: Side;
  readonly second: Side;
  private readonly movements = new Map<string, MovingSum>();

  constructor(first: RunnablePlan, second: RunnablePlan) {
    this.first = new Side(first);
    this.second = new Side(second);
  }

  push(entry: TraceEntry): void {
    for (const side of [this.first, this.second]) side.push(entry);
    this.look();
  }

  /** To be called after the last entry: what differs, in order of time. */
  finish(): Difference[] {
    for (const side of [this.first, this.second]) side.running.finish();
    this.look();
    const names = new Set([...this.first.stretches.keys(), ...this.second.stretches.keys()]);
    const switches = [...names].flatMap((name) => {
      const [seat, action] = JSON.parse(name) as [string, string];
      return differing(this.first.stretches.get(name) ?? [], this.second.stretches.get(name) ?? []).map(
        (pair) => ({ at: begin(pair), seat, action, ...pair }),
      );
    });
    const movements = [...this.movements].map(([name, { looks, most }]) => {
      const [seat, action] = JSON.parse(name) as [string, string];
      const { at, first, second } = most;
      return { at, seat, action, ms: Math.round(looks * LOOK_MS), first, second };
    });
    return [...switches, ...movements].sort((a, b) => a.at - b.at);
  }

  /** Compares the readings that have come in: both replays look at the same moments, each at its own seats. */
  private look(): void {
    const rows = this.first.takeRows();
    if (rows.length + this.second.rows.length === 0) return;
    const others = new Map(this.second.takeRows().map((row) => [`${row.at} ${row.seat}`, row]));
    for (const row of rows) {
      const key = `${row.at} ${row.seat}`;
      this.compare(row, row, others.get(key));
      others.delete(key);
    }
    for (const row of others.values()) this.compare(row, undefined, row);
  }

  private compare({ at, seat }: NowRow, first: NowRow | undefined, second: NowRow | undefined): void {
    const names = new Set([...Object.keys(first?.now ?? {}), ...Object.keys(second?.now ?? {})]);
    for (const action of names) {
      const one = moving(first, action);
      const other = moving(second, action);
      const distance = distanceOf(one, other);
      if (distance <= ROUNDING) continue;
      const name = JSON.stringify([seat, action]);
      let sum = this.movements.get(name);
      if (sum === undefined) this.movements.set(name, (sum = new MovingSum()));
      sum.add(distance, { at, first: one, second: other });
    }
  }
}

/** How long a movement differs, and where most. */
class MovingSum {
  looks = 0;
  private distance = 0;
  most: { at: number; first: Moving | null; second: Moving | null } = { at: 0, first: null, second: null };

  add(distance: number, here: MovingSum["most"]): void {
    this.looks++;
    if (distance <= this.distance) return;
    this.distance = distance;
    this.most = here;
  }
}

/** A stretch in the making. */
type Open = { on: number; off?: number; pulses: number[] };

/** One plan's replay. May change: that, and its results so far. */
class Side {
  readonly running: Replay;
  readonly stretches = new Map<string, Stretch[]>();
  rows: NowRow[] = [];
  /** Where it begins, in ms: a report's own moment. */
  private begin = 0;

  constructor(plan: RunnablePlan) {
    this.running = startReplay(
      plan.written,
      { every: LOOK_MS },
      (row) => "now" in row && this.rows.push(row),
    );
    const switches = plan.actions.filter(({ kind }) => kind === "switch");
    for (const seat of this.running.layer.seats) for (const { name } of switches) this.listen(seat, name);
  }

  push(entry: TraceEntry): void {
    if ("state" in entry) this.begin = entry.t;
    this.running.push(entry);
  }

  private listen(name: string, action: string): void {
    const seat = this.running.layer.seat(name);
    const stretches: Open[] = [];
    this.stretches.set(JSON.stringify([name, action]), stretches);
    seat.on(action, "on", (at) => stretches.push({ on: rounded(at), pulses: [] }));
    seat.on(action, "pulse", (at) => this.lastOf(stretches).pulses.push(rounded(at)));
    seat.on(action, "off", (at) => (this.lastOf(stretches).off = rounded(at)));
  }

  /** The stretch under way: one that a report's state began with has not been told. */
  private lastOf(stretches: Open[]): Open {
    if (stretches.at(-1) === undefined || stretches.at(-1)!.off !== undefined)
      stretches.push({ on: rounded(this.begin), pulses: [] });
    return stretches.at(-1)!;
  }

  /** How often each switch was on. */
  counts(): { action: string; times: number }[] {
    return [...this.stretches].map(([name, { length: times }]) => ({
      action: (JSON.parse(name) as [string, string])[1],
      times,
    }));
  }

  /** The readings so far, which are kept no longer. */
  takeRows(): NowRow[] {
    const { rows } = this;
    this.rows = [];
    return rows;
  }
}

interface Pair {
  readonly first: Stretch | null;
  readonly second: Stretch | null;
}

/** Ranges that only one plan has, or that begin or end at other moments; overlapping ones are paired. */
function differing(first: readonly Stretch[], second: readonly Stretch[]): Pair[] {
  const pairs: Pair[] = [];
  let n = 0;
  let m = 0;
  while (n < first.length || m < second.length) {
    const one = first[n] ?? null;
    const other = second[m] ?? null;
    const together = one !== null && other !== null && overlap(one, other);
    const oneFirst = one !== null && (other === null || one.on <= other.on);
    const takesOne = together || oneFirst;
    const takesOther = together || !oneFirst;
    if (takesOne) n++;
    if (takesOther) m++;
    if (together && JSON.stringify(one) === JSON.stringify(other)) continue;
    pairs.push({ first: takesOne ? one : null, second: takesOther ? other : null });
  }
  return pairs;
}

function overlap(stretch: Stretch, other: Stretch): boolean {
  if (stretch.on === other.on) return true;
  return stretch.on < (other.off ?? Infinity) && other.on < (stretch.off ?? Infinity);
}

function begin({ first, second }: Pair): number {
  return Math.min(first?.on ?? Infinity, second?.on ?? Infinity);
}

/** The reading of a movement, `null` where there is none: a switch has its stretches. */
function moving(row: NowRow | undefined, action: string): Moving | null {
  const reading = row?.now[action] as Moving | undefined;
  return reading === undefined || "on" in reading ? null : reading;
}

/** The values that a game moves by. */
const PARTS = ["vx", "vy", "value", "dx", "dy"];

/** How far two readings of a movement are apart, in the plan's own units; another gait is a difference too. */
function distanceOf(a: Moving | null, b: Moving | null): number {
  let squares = 0;
  for (const part of PARTS) {
    const apart = ((a?.[part] as number) ?? 0) - ((b?.[part] as number) ?? 0);
    squares += apart * apart;
  }
  if (squares === 0 && (a?.["gait"] ?? null) !== (b?.["gait"] ?? null)) return 2 * ROUNDING;
  return Math.sqrt(squares);
}

/** Six decimals, as rows of a replay have them. */
function rounded(at: number): number {
  return Math.round(at * 1e6) / 1e6;
}
