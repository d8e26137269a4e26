/**
 * A plan's response to raw input, as lanes to be drawn. In: a plan and the entries of a trace. Out: controls, actions, and a reason for
 * each press. Pure.
 */
import type { Plan } from "reacher";
import {
  explainLayer,
  startReplay,
  type OnMoved,
  type Reason,
  type ReplayRow,
  type TraceEntry,
} from "reacher/trace";
import type { ActionLane, Bar, ControlLane, Moving, Timeline } from "./lanes";
import { windowsOf } from "./windows";

/** Lanes of controls do not depend on the plan. */
const known = new WeakMap<readonly TraceEntry[], readonly ControlLane[]>();

/** Computes a timeline. `progress` is called now and then with the share done, 0..1; `was` is an earlier one of the same input, whose movements are reused. */
export function timelineOf(
  plan: Plan,
  entries: readonly TraceEntry[],
  progress?: (share: number) => void,
  was?: Timeline,
): Timeline {
  const controls = controlsOf(entries);
  const made = new ActionLanes(was);
  const running = startReplay(plan, { onMoved: (...moved) => made.move(...moved) }, (row) => made.add(row));
  for (const seat of running.layer.seats)
    for (const [action, { kind }] of Object.entries(plan.actions) as [string, { kind: ActionLane["kind"] }][])
      made.open(seat, action, kind);
  for (const seat of running.layer.seats)
    explainLayer(running.layer, (reason) => made.explain(reason, seat), seat);
  const step = Math.ceil(entries.length / 20);
  entries.forEach((entry, n) => {
    running.push(entry);
    if (progress !== undefined && n % step === 0) progress(n / entries.length);
  });
  running.finish();
  const to = entries.at(-1)?.t ?? 0;
  made.end(to);
  for (const lane of made.lanes) lane.windows = windowsOf(plan, lane, controls);
  return { to, controls, actions: made.lanes, skipped: [...running.skipped.keys()] };
}

function controlsOf(entries: readonly TraceEntry[]): readonly ControlLane[] {
  let lanes = known.get(entries);
  if (lanes === undefined) {
    const raw = new RawLanes();
    for (const entry of entries) raw.add(entry);
    raw.end(entries.at(-1)?.t ?? 0);
    known.set(entries, (lanes = [...raw.lanes.values()]));
  }
  return lanes;
}

/** The value from which an analog control is drawn as pressed; entries of a plan may have other thresholds. */
const PRESSED = 0.5;

/** Collects the lanes of controls. May change: these. */
class RawLanes {
  readonly lanes = new Map<string, ControlLane>();

  add(entry: TraceEntry): void {
    if ("lost" in entry) this.lose(entry.t, entry.lost === "pad" ? entry.pad : undefined);
    if (!("control" in entry)) return;
    const { t, control, pad, value } = entry;
    const key = `${control} ${pad}`;
    let lane = this.lanes.get(key);
    if (lane === undefined) this.lanes.set(key, (lane = { key, control, pad, bars: [], line: [] }));
    const isDown = Math.abs(value) >= PRESSED;
    const last = lane.bars.at(-1);
    const wasDown = last !== undefined && last.to === Infinity;
    if (isDown && !wasDown) lane.bars.push({ from: t, to: Infinity });
    else if (!isDown && wasDown) last.to = t;
    lane.line.push({ at: t, value });
  }

  private lose(t: number, pad: number | undefined): void {
    for (const lane of this.lanes.values()) {
      if (pad !== undefined && (lane.pad !== pad || !lane.control.startsWith("Pad"))) continue;
      endLast(lane.bars, t);
      if (lane.line.length > 0) lane.line.push({ at: t, value: 0 });
    }
  }

  end(to: number): void {
    for (const lane of this.lanes.values()) endLast(lane.bars, to);
  }
}

/** Collects the lanes of actions. May change: these. */
class ActionLanes {
  readonly lanes: ActionLane[] = [];
  /** By seat, then by action: a combined key would have to be concatenated for each change. */
  private readonly bySeat = new Map<string, Map<string, { lane: ActionLane; path: Path }>>();

  constructor(private readonly was: Timeline | undefined) {}

  open(seat: string, action: string, kind: ActionLane["kind"]): void {
    const key = `${seat} ${action}`;
    const lane: ActionLane = {
      key,
      seat,
      action,
      kind,
      bars: [],
      marks: [],
      moving: [],
      reasons: [],
      windows: [],
    };
    const path = new Path(this.was?.actions.find((one) => one.key === key)?.moving);
    this.lanes.push(lane);
    this.bySeat.set(seat, (this.bySeat.get(seat) ?? new Map()).set(action, { lane, path }));
  }

  add(row: ReplayRow): void {
    if (!("action" in row)) return;
    const { lane } = this.bySeat.get(row.seat)!.get(row.action)!;
    if ("pulse" in row) lane.marks.push({ at: row.at, kind: "pulse" });
    else if ("grant" in row) lane.marks.push({ at: row.at, kind: "grant" });
    else if ("on" in row) {
      if (row.on) lane.bars.push({ from: row.at, to: Infinity });
      else endLast(lane.bars, row.at, row.endedBy);
    }
  }

  move(...[t, seat, action, reading]: Parameters<OnMoved>): void {
    const { lane, path } = this.bySeat.get(seat)!.get(action)!;
    const at = rounded(t);
    const x = rounded("dx" in reading ? reading.dx : "value" in reading ? reading.value : reading.x);
    const y = rounded("dx" in reading ? reading.dy : "value" in reading ? 0 : reading.y);
    const [pace, gait] = "dx" in reading ? [1, null] : [rounded(reading.pace), reading.gait];
    path.add(at, x, y, pace, gait);
    const isMoving = x !== 0 || y !== 0;
    const wasMoving = lane.bars.at(-1)?.to === Infinity;
    if (isMoving && !wasMoving) lane.bars.push({ from: at, to: Infinity });
    else if (!isMoving && wasMoving) endLast(lane.bars, at);
  }

  explain({ at, action, outcome, rule, text }: Reason, seat: string): void {
    // Presses meant for another mode would hide those that were meant here.
    if (rule === "mode-off") return;
    this.bySeat.get(seat)?.get(action)?.lane.reasons.push({ at, action, outcome, rule, text, seat });
  }

  end(to: number): void {
    for (const actions of this.bySeat.values())
      for (const { lane, path } of actions.values()) {
        endLast(lane.bars, to);
        lane.moving = path.moves;
      }
  }
}

/** Collects the moves of a movement. As long as they equal those of an earlier timeline, nothing is made. May change: these. */
class Path {
  private same = 0;
  private own: Moving[] | undefined;

  constructor(private readonly was: readonly Moving[] = []) {}

  add(at: number, x: number, y: number, pace: number, gait: string | null): void {
    if (this.own === undefined) {
      const old = this.was[this.same];
      const isSame = old !== undefined && old.at === at && old.x === x && old.y === y;
      if (isSame && old.pace === pace && old.gait === gait) {
        this.same++;
        return;
      }
      this.own = this.was.slice(0, this.same);
    }
    this.own.push({ at, x, y, pace, gait });
  }

  get moves(): readonly Moving[] {
    return this.own ?? (this.same === this.was.length ? this.was : this.was.slice(0, this.same));
  }
}

/** To six decimals, as rows of a replay are. */
function rounded(value: number): number {
  return Math.round(value * 1e6) / 1e6 + 0;
}

function endLast(bars: Bar[], to: number, endedBy?: string): void {
  const last = bars.at(-1);
  if (last === undefined || last.to !== Infinity) return;
  last.to = to;
  if (endedBy !== undefined) last.endedBy = endedBy;
}

/** The state of a movement at a moment; `undefined` before it ever moved. */
export function movingAt(lane: ActionLane, t: number): Moving | undefined {
  let [low, high] = [0, lane.moving.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (lane.moving[middle]!.at <= t) low = middle + 1;
    else high = middle;
  }
  return lane.moving[low - 1];
}

/** Whether something was on at a moment. */
export function isOnAt(bars: readonly Bar[], t: number): boolean {
  return bars.some(({ from, to }) => from <= t && t < to);
}
