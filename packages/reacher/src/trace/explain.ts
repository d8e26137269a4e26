/**
 * Says why: for each press, and for each rule that decided, one reason with its numbers.
 * In: a layer at work, or a plan and a trace. Out: reasons. A layer that nobody explains pays nothing.
 *
 * It compares the seat's state before and after each event, so that it tells what the engine did and not what it should do.
 */
import type { CheckedPlan, Word } from "../plan/checked.js";
import {
  Clock,
  GestureFloat,
  GestureInt,
  EntryInt,
  HeadInt,
  SignalInt,
  SwitchFloat,
  SwitchInt,
} from "../engine/layout.js";
import { stateBehind, type InputLayer, type Off, type Seat } from "../engine/layer.js";
import type { SeatState } from "../engine/state.js";
import {
  Gesture,
  type EntryTable,
  type GestureTable,
  type SignalTable,
  type SwitchTable,
} from "../engine/tables.js";
import type { Kinds } from "../plan/types.js";
import type { TraceEntry } from "./entry.js";
import { startReplay, type Replay } from "./replay.js";

/** Why an action turned on, turned off, or did neither, at one moment. */
export interface Reason {
  /** The moment, in ms. */
  readonly at: number;
  readonly action: string;
  /** `counts`: a press that is part of something. `nothing`: a press that did nothing. */
  readonly outcome: "on" | "off" | "counts" | "nothing";
  /** The rule that decided: `needs`, `muted`, `covered`, `too-late` ... */
  readonly rule: string;
  /** One sentence without its full stop. */
  readonly text: string;
}

/** Starts a replay that gives each reason to `emit` as it comes, so that a trace of any length can be explained. */
export function startExplaining(plan: CheckedPlan, emit: (reason: Reason) => void, seat?: string): Replay {
  const running = startReplay(plan, {}, () => {});
  explainLayer(running.layer, emit, seat);
  return running;
}

/** Explains a whole trace, or one action in it. */
export function explain(plan: CheckedPlan, entries: Iterable<TraceEntry>, action?: string): Reason[] {
  const reasons: Reason[] = [];
  const running = startExplaining(plan, (reason) => {
    if (action === undefined || reason.action === action) reasons.push(reason);
  });
  for (const entry of entries) running.push(entry);
  running.finish();
  return reasons;
}

/** Explains a layer while it works: its first seat, or the one named. Returns what ends it. @throws ReacherError for an unknown seat */
export function explainLayer<K extends Kinds, F extends string>(
  input: InputLayer<K, F>,
  emit: (reason: Reason) => void,
  seat: string = input.seats[0]!,
): Off {
  const explainer = new Explainer(input.plan, input.seat(seat) as Seat, emit);
  const here = (name: string, cause: Cause) => {
    if (name === seat) explainer.before(cause);
  };
  return input.watch({
    event: ({ control }, name) => here(name, { control }),
    flag: (_, flag, on, name) => here(name, { told: `${flag} is ${on ? "so" : "not so"}` }),
    lost: (_, what, _pad, name) => here(name, { told: `${what} lost`, lost: true }),
    reset: (_, name) => here(name, { told: "reset" }),
    mode: (_, _mode, _on, name) => here(name, {}),
    mute: (_, action, reason, on, name) => name === seat && explainer.muted(action, reason, on),
    due: (deadline, name) => here(name, { deadline }),
    took: (at, action, name) => {
      if (name === seat) emit({ at, action, ...told("counts", "took", "taken by call") });
    },
    settled: (at, name) => name === seat && explainer.after(at),
  });
}

/** What is happening: a control moves, the game or a device tells something, or a deadline is due. */
interface Cause {
  readonly control?: string;
  readonly told?: string;
  readonly lost?: boolean;
  readonly deadline?: number;
}

class Explainer {
  private readonly state: SeatState;
  private readonly mutes = new Map<string, Set<string>>();
  private f: Float64Array;
  private i: Int32Array;
  private cause: Cause | undefined;

  constructor(
    private readonly plan: CheckedPlan,
    seat: Seat,
    private readonly emit: (reason: Reason) => void,
  ) {
    this.state = stateBehind(seat);
    this.f = this.state.f.slice();
    this.i = this.state.i.slice();
  }

  muted(action: string, reason: string | undefined, on: boolean): void {
    const reasons = this.mutes.get(action) ?? new Set();
    this.mutes.set(action, reasons);
    if (on) reasons.add(reason!);
    else if (reason === undefined) reasons.clear();
    else reasons.delete(reason);
    this.before({});
  }

  before(cause: Cause): void {
    // The two axes of a stick are one event: what was before the first of them counts.
    if (this.cause !== undefined) return;
    this.cause = cause;
    if (this.f.length !== this.state.f.length || this.i.length !== this.state.i.length) {
      // Other slots, or other keys: another layout of the same things.
      this.f = this.state.f.slice();
      this.i = this.state.i.slice();
    }
    this.f.set(this.state.f);
    this.i.set(this.state.i);
  }

  after(at: number): void {
    const { cause } = this;
    this.cause = undefined;
    if (cause === undefined) return;
    for (const table of this.state.tables.switch) {
      const told = this.tell(table, cause);
      if (told !== undefined) this.emit({ at, action: table.name, ...told });
    }
  }

  private tell(table: SwitchTable, cause: Cause): Omit<Reason, "at" | "action"> | undefined {
    const was = this.i[table.i + SwitchInt.Told] === 1;
    const is = this.state.i[table.i + SwitchInt.Told] === 1;
    const { gestures, entries } = table;
    const seen = [
      ...entries.map((entry) => this.ofEntry(table, entry, cause)),
      ...gestures.map((gesture) => this.ofGesture(table, gesture, cause)),
    ];
    const told = seen.filter((one) => one !== undefined);
    const blip = this.f[table.f + SwitchFloat.OnAt] !== this.state.f[table.f + SwitchFloat.OnAt];
    if (is !== was || (blip && !is)) {
      const on = told.find(({ outcome }) => outcome === "on");
      if (is || !was) return on ?? this.cameBack(table);
      return on?.rule === "waited" ? { ...on, outcome: "off" } : this.wentOff(table, cause);
    }
    const refused = told.find(({ outcome }) => outcome !== "on") ?? this.refusal(table, told.length > 0);
    return refused ?? this.bounced(table, cause);
  }

  /** A press that came so soon after a release that neither counts. */
  private bounced({ entries, gestures }: SwitchTable, cause: Cause): Told | undefined {
    const { channel, deadlinesAt, plan } = this.state.tables;
    if (plan.bounceMs === 0 || cause.deadline !== undefined) return undefined;
    const signals = [...entries.map(({ signal }) => signal), ...gestures.flatMap(({ of }) => of)];
    for (const id of signals) {
      const signal = this.signal(id);
      const { bounce = -1 } = channel[signal.channel] ?? {};
      const due = bounce < 0 ? Infinity : this.f[deadlinesAt + bounce]!;
      if (due === Infinity || this.state.f[deadlinesAt + bounce] !== Infinity || this.fell(signal)) continue;
      const since = this.state.clock[Clock.Now]! - (due - plan.bounceMs);
      return told(
        "nothing",
        "bounce",
        `${signal.control} came up for ${ms(since)}: within the ${ms(plan.bounceMs)} that count as no release`,
      );
    }
    return undefined;
  }

  /** What a press of a plain entry came to. */
  private ofEntry(table: SwitchTable, entry: EntryTable, cause: Cause): Told | undefined {
    const signal = this.signal(entry.signal);
    const { i } = this.state;
    const waits = entry.deadline >= 0;
    const pending = waits ? this.i[entry.i + EntryInt.Pending]! : 0;
    const letThrough =
      pending > 0 &&
      i[entry.i + EntryInt.Pending] === 0 &&
      (cause.deadline === entry.deadline || this.fell(signal));
    if (letThrough) {
      return told("on", "waited", `${signal.control} waited, and no gesture claimed it`);
    }
    if (!this.rose(signal)) return undefined;
    const unseen = this.unseen(table, entry.i + EntryInt.Hidden, signal);
    if (unseen !== undefined && !(unseen.rule !== "taken" && table.carry)) return unseen;
    if (waits && i[entry.i + EntryInt.Pending]! > pending) {
      return told("counts", "waits", `${signal.control} waits: ${this.names(entry.rivals)} may claim it`);
    }
    const claimer = entry.rivals.find((rival) => i[rival.i + GestureInt.Up] === 1);
    if (claimer !== undefined)
      return told("nothing", "claimed", `${signal.control} is claimed by ${this.names([claimer])}`);
    if (this.i[table.i + SwitchInt.Down]! > 0)
      return told(
        "nothing",
        "second-key",
        `${signal.control} is a second key: another of its keys is down already`,
      );
    return told("on", "pressed", `${signal.control} pressed`);
  }

  /** What a press or a release came to in a gesture. */
  private ofGesture(table: SwitchTable, gesture: GestureTable, cause: Cause): Told | undefined {
    const { i } = this.state;
    const now = this.state.clock[Clock.Now]!;
    const counted = this.i[gesture.i + GestureInt.Count]!;
    const since = now - this.f[gesture.f + GestureFloat.LastAt]!;
    if (cause.deadline !== undefined && gesture.deadline === cause.deadline) {
      return told("on", "long", `${this.signal(gesture.of[0]!).control} held for ${ms(gesture.ms)}`);
    }
    for (const id of gesture.of) {
      const signal = this.signal(id);
      if (this.fell(signal)) {
        const early = this.released(gesture, signal, counted, since);
        if (early !== undefined) return early;
      }
      if (this.rose(signal)) {
        const unseen = this.unseen(table, gesture.i + GestureInt.Hidden, signal);
        if (unseen !== undefined) return unseen;
        return this.pressed(gesture, signal, counted, since, i[gesture.i + GestureInt.Count]!);
      }
      if (signal.channel < 0 && this.i[signal.i] === 1 && this.secondKey(signal)) {
        return told("nothing", "second-key", `second key of a direction already held: ${signal.control}`);
      }
    }
    return undefined;
  }

  private pressed(
    gesture: GestureTable,
    signal: SignalTable,
    counted: number,
    since: number,
    count: number,
  ): Told {
    const fired = this.state.i[gesture.i + GestureInt.Up] === 1;
    const { control } = signal;
    switch (gesture.kind) {
      case Gesture.Taps: {
        const after = `${ms(since)} after the one before`;
        if (counted > 0 && since > gesture.ms && since <= LATE_MS) {
          return told(
            "counts",
            "too-late",
            `${control}: press ${after}: ${ms(since - gesture.ms)} too late for ${gesture.ms}; it counts as the first`,
          );
        }
        if (fired)
          return told(
            "on",
            "taps",
            `${control}: tap ${gesture.taps} of ${gesture.taps}, ${after} (${gesture.ms} allowed)`,
          );
        return told(
          "counts",
          "taps",
          `${control}: tap ${count} of ${gesture.taps}${counted > 0 && since <= gesture.ms ? `, ${after}` : ""}`,
        );
      }
      case Gesture.Series: {
        const length = gesture.of.length;
        if (fired) return told("on", "series", `${control}: ${length} of ${length} in order`);
        if (counted > 0 && since > gesture.ms) {
          return told(
            "counts",
            "too-late",
            `${control}: ${ms(since)} after the one before: ${ms(since - gesture.ms)} too late for ${gesture.ms}; ${count} of ${length} again`,
          );
        }
        return told("counts", "series", `${control}: ${count} of ${length} in order`);
      }
      case Gesture.All: {
        const members = gesture.of.length;
        const down = gesture.of.filter((_, n) => (count & (1 << n)) !== 0);
        if (fired) return told("on", "all", `${control} completes ${members} held together`);
        const first = Math.min(...down.map((id) => this.state.f[this.signal(id).f]!));
        const spread = this.state.clock[Clock.Now]! - first;
        if (down.length === members && spread > gesture.ms) {
          return told(
            "nothing",
            "too-far-apart",
            `${control}: ${ms(spread)} after the first: ${ms(spread - gesture.ms)} too far apart for ${gesture.ms}`,
          );
        }
        return told("counts", "all", `${control}: ${down.length} of ${members} held`);
      }
      default:
        return told(
          "counts",
          "held",
          `${control} pressed: ${gesture.kind === Gesture.Long ? `${ms(gesture.ms)} to hold` : `${ms(gesture.ms)} to let go`}`,
        );
    }
  }

  private released(
    gesture: GestureTable,
    signal: SignalTable,
    counted: number,
    held: number,
  ): Told | undefined {
    if (counted === 0 || (gesture.kind !== Gesture.Long && gesture.kind !== Gesture.Short)) return undefined;
    const after = `${signal.control} let go after ${ms(held)}`;
    if (gesture.kind === Gesture.Long)
      return told("nothing", "too-short", `${after}: ${ms(gesture.ms - held)} too early for ${gesture.ms}`);
    if (this.state.i[signal.i + SignalInt.LongFired] === 1)
      return told("nothing", "was-long", `${after}: it was a long press`);
    if (held > gesture.ms)
      return told("nothing", "too-long", `${after}: ${ms(held - gesture.ms)} too late for ${gesture.ms}`);
    return told("on", "short", `${after} (${gesture.ms} allowed)`);
  }

  /** Why a press does not reach the action at all. */
  private unseen(table: SwitchTable, hiddenAt: number, signal: SignalTable): Told | undefined {
    const { state } = this;
    if (!state.isLive(table.action)) return this.notLive(table);
    if (state.i[hiddenAt] === 1)
      return told("nothing", "hidden", `${this.modesAbove(table)} uses ${signal.control}, which hides it`);
    const owner =
      signal.channel < 0 || !state.tables.hasAlls ? 0 : state.i[state.tables.takenAt + signal.channel]!;
    if (owner > 0 && state.tables.switch[owner - 1] !== table) {
      return told(
        "nothing",
        "taken",
        `${signal.control} is taken by ${state.tables.switch[owner - 1]!.name}`,
      );
    }
    return undefined;
  }

  private notLive(table: SwitchTable): Told {
    const reasons = [...(this.mutes.get(table.name) ?? [])];
    if (reasons.length > 0) return told("nothing", "muted", `muted: ${reasons.join(", ")}`);
    const modes = this.state.tables.action[table.action]!.modes.map(
      (mode) => this.state.tables.mode[mode]!.name,
    );
    const above = this.modesAbove(table);
    if (above === "") return told("nothing", "mode-off", `${modes.join(" and ")} is not on`);
    return told("nothing", "covered", `${above} covers it`);
  }

  /** The modes that are on above the highest of the action's own; nothing where none of its own is on. */
  private modesAbove(table: SwitchTable): string {
    const { i, tables } = this.state;
    const on = Array.from({ length: i[HeadInt.Modes]! }, (_, n) => i[tables.stackAt + n]!);
    const own = tables.action[table.action]!.modes;
    const highest = Math.max(...on.map((mode, n) => (own.includes(mode) ? n : -1)), -1);
    return highest < 0
      ? ""
      : on
          .slice(highest + 1)
          .map((mode) => tables.mode[mode]!.name)
          .join(" and ");
  }

  /** Why an action whose press was seen is not on. */
  private refusal(table: SwitchTable, wasPressed: boolean): Told | undefined {
    if (!wasPressed) return undefined;
    const failing = this.failing(table);
    if (failing !== undefined && table.keepMs > 0 && this.state.i[table.i + SwitchInt.Kept] === 1)
      return told("counts", "kept", `needs ${failing}; kept for ${ms(table.keepMs)} to be taken`);
    if (failing !== undefined) return told("nothing", "needs", `needs ${failing}`);
    const rests = this.f[table.f + SwitchFloat.OnAt]! + table.restMs - this.state.clock[Clock.Now]!;
    if (table.restMs > 0 && rests >= 0) return told("nothing", "rests", `rests ${ms(rests)} more`);
    if (this.state.i[table.i + SwitchInt.Told] === 1) return told("counts", "already-on", "it is on already");
    return told("nothing", "other", "another switch keeps it off");
  }

  private wentOff(table: SwitchTable, cause: Cause): Told {
    if (cause.lost === true) return told("off", "lost", `${cause.told}: everything at rest`);
    if (!this.state.isLive(table.action)) return { ...this.notLive(table), outcome: "off" };
    const failing = this.failing(table);
    if (failing !== undefined) return told("off", "needs", `needs ${failing}`);
    const rival = table.group
      .map((id) => this.state.tables.switch[id]!)
      .find((other) => this.state.fact(other.fact) === 1);
    if (rival !== undefined && this.i[rival.i + SwitchInt.Told] === 0)
      return told("off", "one-of", `${rival.name} came on`);
    if (cause.control !== undefined && this.anyRose(table))
      return told("off", "pressed-again", `${cause.control} pressed again`);
    return told(
      "off",
      "released",
      cause.control === undefined ? (cause.told ?? "its press ended") : `${cause.control} let go`,
    );
  }

  private cameBack(table: SwitchTable): Told {
    if (this.i[this.state.tables.liveAt + table.action] === 0)
      return told("on", "live-again", "it is live again, and was kept");
    return told("on", "needs-hold", "all that it needs is so, and it is still held");
  }

  /** The words that it needs and that are not so. */
  private failing(table: SwitchTable): string | undefined {
    const action = this.plan.actions[table.action]! as { readonly needs: readonly Word[] };
    const words = action.needs.filter(
      (_, n) => this.state.fact(table.needs[n]!.fact) !== table.needs[n]!.truth,
    );
    return words.length === 0
      ? undefined
      : words.map(({ name, not }) => (not ? `not ${name}` : name)).join(" and ");
  }

  /** Whether a key of this direction, held by another key already, was pressed in this event. */
  private secondKey(direction: SignalTable): boolean {
    return this.state.tables.signal.some(
      (signal) => signal.ends.some((end) => end.direction === direction) && this.rose(signal),
    );
  }

  private anyRose(table: SwitchTable): boolean {
    return [...table.entries.map(({ signal }) => signal), ...table.gestures.flatMap(({ of }) => of)].some(
      (id) => this.rose(this.signal(id)),
    );
  }

  private rose(signal: SignalTable): boolean {
    return this.i[signal.i] === 0 && this.state.i[signal.i] === 1;
  }

  private fell(signal: SignalTable): boolean {
    return this.i[signal.i] === 1 && this.state.i[signal.i] === 0;
  }

  private signal(id: number): SignalTable {
    return this.state.tables.signal[id]!;
  }

  private names(gestures: readonly GestureTable[]): string {
    return [...new Set(gestures.map((gesture) => this.state.tables.switch[gesture.switch]!.name))].join(
      " or ",
    );
  }
}

/** A press later than this after another was not meant to follow it. */
const LATE_MS = 1000;

type Told = Omit<Reason, "at" | "action">;

function told(outcome: Reason["outcome"], rule: string, text: string): Told {
  return { outcome, rule, text };
}

function ms(value: number): string {
  return `${Math.round(value * 10) / 10} ms`;
}
