/**
 * Several sources down together. The press that completes it is taken: other switches' entries and gestures on that control
 * do not see it until it is released. Of several that complete at once, only the one with the most members fires.
 */
import type { Cells, RuleCells } from "../cells.js";
import { Clock } from "../clock.js";
import type { Compiler, EntryOf, Feature } from "../compile.js";
import { ms, nowOf, because, type GestureWhy } from "../explaining.js";
import { listOf } from "../lists.js";
import type { Channel, Signal } from "../signals.js";
import type { SeatState } from "../state.js";
import type { Switch } from "../switches/switch.js";
import type { ChordRule, SwitchRule, PressConsumer } from "../tables.js";
import { Gesture } from "./gesture.js";

export class All extends Gesture {
  override readonly consumesPress = true;
  /** Its place among the plan's chords: of several that complete at once the first fires. */
  place = 0;
  /** The members that are down, a bit each. */
  readonly members = this.cells.int("members");
  /** How far apart their presses may be, in ms, as of the first press; -1 for no limit. */
  private readonly spread: number;

  constructor(
    cells: RuleCells,
    owner: Switch,
    of: readonly Signal[],
    hiddenAt: number,
    readonly spreadMs: number,
    /** Its index among all gestures of the plan. */
    private readonly order: number,
  ) {
    super(cells, owner, of, hiddenAt);
    this.spread = spreadMs < Infinity ? cells.float("spread") : -1;
    for (const signal of of) signal.keepMoment();
  }

  /** The chords of an event are judged together, by `Chords`. */
  press(): void {}
  release(): void {}

  /** True if this press completes it. */
  completes(s: SeatState, signal: Signal): boolean {
    if (!this.sees(s, signal)) return false;
    const { i, f } = s;
    if (i[this.members] === 0 && this.spread >= 0) f[this.spread] = this.spreadMs;
    i[this.members]! |= 1 << this.signals.indexOf(signal);
    if (i[this.members] !== (1 << this.signals.length) - 1) return false;
    return this.spread < 0 || s.clock[Clock.Now]! - this.firstAt(s) <= f[this.spread]!;
  }

  /** Whether it wins: more members, or as many and earlier in the plan. */
  comesBefore(other: All): boolean {
    const more = this.signals.length - other.signals.length;
    return more > 0 || (more === 0 && this.order < other.order);
  }

  fire(s: SeatState, signal: Signal): void {
    this.raise(s, signal);
  }

  drop(s: SeatState, signal: Signal): void {
    s.i[this.members]! &= ~(1 << this.signals.indexOf(signal));
    this.lower(s);
  }

  protected clear({ i }: SeatState): void {
    i[this.members] = 0;
  }

  /** The press that completes it waits nowhere. */
  protected override claimed(signal: Signal, by: Signal): number {
    return signal === by ? 0 : 1;
  }

  /** A chord without a limit could claim forever, so it takes only the press that completes it. */
  claimEnd(s: SeatState, signal: Signal, newer: number): number {
    const member = this.signals.indexOf(signal);
    // A press that was let go is no member.
    return newer > 0 || (member >= 0 && (s.i[this.members]! & (1 << member)) === 0)
      ? -Infinity
      : this.lastChance(s);
  }

  private lastChance(s: SeatState): number {
    if (s.i[this.members] === 0 || this.spread < 0 || s.b[this.fired] === 1) return -Infinity;
    return this.firstAt(s) + s.f[this.spread]!;
  }

  /** A member whose time is over, or which an entry has let go, completes nothing more until it is pressed again. */
  lapse(s: SeatState, signal: Signal, newer: number): void {
    const { f, i } = s;
    const { signals, spread, members } = this;
    if (newer > 0 || spread < 0 || s.b[this.fired] === 1) return;
    for (let n = 0; n < signals.length; n++)
      if (signals[n] === signal || f[signals[n]!.pressedAt]! + f[spread]! <= s.clock[Clock.Now]!)
        i[members]! &= ~(1 << n);
  }

  /** The members that are down. */
  override pending(s: SeatState): number {
    if (s.b[this.fired] === 0 && this.spread >= 0 && s.clock[Clock.Now]! > this.lastChance(s)) return 0;
    let count = 0;
    for (let left = s.i[this.members]!; left !== 0; left &= left - 1) count++;
    return count;
  }

  override windowEnd(s: SeatState): number {
    return this.lastChance(s);
  }

  protected isHeld(s: SeatState): boolean {
    return s.i[this.members] === (1 << this.signals.length) - 1;
  }

  protected override review({ b, i }: SeatState): void {
    this.signals.forEach(({ up }, n) => {
      if (b[up] === 0) i[this.members]! &= ~(1 << n);
    });
  }

  /** When the first of the members that are down was pressed. */
  firstAt({ f, i }: Pick<SeatState, "f" | "i">): number {
    const { signals } = this;
    let first = Infinity;
    for (let n = 0; n < signals.length; n++)
      if ((i[this.members]! & (1 << n)) !== 0) first = Math.min(first, f[signals[n]!.pressedAt]!);
    return first;
  }
}

/** The chords that a signal is part of, and the cell of the switch that has taken its press; -1 if none can. */
class SignalChords {
  private readonly all: All[] = listOf();

  constructor(
    readonly signal: Signal,
    private readonly takenAt: number,
  ) {}

  add(rule: All): void {
    this.all.push(rule);
  }

  drop(s: SeatState): void {
    const { all } = this;
    for (let n = 0; n < all.length; n++) all[n]!.drop(s, this.signal);
  }

  /** The place of the best chord that its press completes, or of the one before. */
  best(s: SeatState, before: number): number {
    const { all } = this;
    let best = before;
    for (let n = 0; n < all.length; n++) {
      const { place } = all[n]!;
      if (all[n]!.completes(s, this.signal) && (best < 0 || place < best)) best = place;
    }
    return best;
  }

  consume(s: SeatState, by: number): void {
    if (this.takenAt >= 0) s.i[this.takenAt] = by;
  }
}

/** All chords of a plan: decides which fire, and knows which presses are taken. */
export class Chords implements ChordRule, PressConsumer {
  /** The best first. */
  private readonly all: All[] = listOf();
  private readonly bySignal: SignalChords[] = listOf();
  /** By channel: the cell of the switch that has taken its press; and the same for the directions of the current event. */
  private readonly taken = new Map<Channel, number>();
  private consumedNow = -1;

  constructor(private readonly signals: readonly Signal[]) {}

  add(rule: All): void {
    this.all.push(rule);
  }

  link(cells: Cells, bound: readonly Channel[], switches: readonly SwitchRule[]): void {
    for (const channel of bound)
      this.taken.set(channel, cells.rule(`taken ${channel.name}`).place("by", switches));
    this.consumedNow = cells.rule("taken").place("now", switches);
    for (const { sources } of switches) for (const source of sources) source.consumer = this;
    for (const signal of this.signals)
      this.bySignal.push(
        new SignalChords(signal, signal.channel === null ? -1 : this.taken.get(signal.channel)!),
      );
    this.all.sort((a, b) => (a.comesBefore(b) ? -1 : 1));
    this.all.forEach((rule, place) => {
      rule.place = place;
      for (const { id } of new Set(rule.signals)) this.bySignal[id]!.add(rule);
    });
  }

  judge(s: SeatState, changes: Int32Array, count: number): void {
    const { bySignal } = this;
    let best = -1;
    let completing = -1;
    for (let n = 0; n < count; n++) if (!isPress(changes[n]!)) bySignal[changes[n]! >> 1]!.drop(s);
    for (let n = 0; n < count; n++) {
      if (!isPress(changes[n]!)) continue;
      const now = bySignal[changes[n]! >> 1]!.best(s, best);
      if (now !== best) completing = changes[n]! >> 1;
      best = now;
    }
    if (best < 0) return;
    const rule = this.all[best]!;
    rule.fire(s, this.signals[completing]!);
    if (this.signals[completing]!.isResult) return;
    s.i[this.consumedNow] = rule.owner.id;
    // A direction is pressed by keys: the key pressed in this event is taken with it.
    for (let n = 0; n < count; n++)
      if (isPress(changes[n]!)) bySignal[changes[n]! >> 1]!.consume(s, rule.owner.id);
  }

  returnPresses(s: SeatState, changes: Int32Array, count: number): void {
    s.i[this.consumedNow] = -1;
    for (let n = 0; n < count; n++)
      if (!isPress(changes[n]!)) this.bySignal[changes[n]! >> 1]!.consume(s, -1);
  }

  /** The switch that has taken the press of a signal, or -1. */
  consumerOf({ i }: Pick<SeatState, "i">, { channel, isResult }: Signal): number {
    if (isResult) return -1;
    return channel === null ? i[this.consumedNow]! : i[this.taken.get(channel)!]!;
  }

  isConsumed(s: SeatState, signal: Signal, by: SwitchRule): boolean {
    const owner = this.consumerOf(s, signal);
    return owner >= 0 && owner !== by.id;
  }
}

function isPress(change: number): boolean {
  return (change & 1) === 1;
}

export const all: Feature = {
  entries: {
    all: (compiler, { owner, entry }: EntryOf<Switch, "all">) => {
      const of = entry.of.map((source) => compiler.signal(source));
      const cells = compiler.cells.rule([owner.name, "all", ...of.map(({ name }) => name)].join(" "));
      const spread = entry.spreadMs ?? Infinity;
      const rule = new All(cells, owner, of, compiler.hidden(cells), spread, compiler.gestures.length);
      compiler.addGesture(rule);
      ((compiler.chords ??= new Chords(compiler.signals)) as Chords).add(rule);
    },
  },
  link: ({ chords, cells, bound, switches }: Compiler) =>
    (chords as Chords | null)?.link(cells, bound, switches),
};

export const allWhy: GestureWhy<All> = {
  pressed(rule, { name }, change) {
    const { after } = change;
    const { signals, spreadMs, fired } = rule;
    const down = signals.filter(({ up }) => after.b[up] === 1);
    if (after.b[fired] === 1)
      return because("on", "all", `${name} completes ${signals.length} held together`);
    const spread = nowOf(change) - Math.min(...down.map(({ pressedAt }) => after.f[pressedAt]!));
    if (down.length === signals.length && spread > spreadMs)
      return because(
        "nothing",
        "too-far-apart",
        `${name}: ${ms(spread)} after the first: ${ms(spread - spreadMs)} too far apart for ${spreadMs}`,
      );
    return because("counts", "all", `${name}: ${down.length} of ${signals.length} held`);
  },
};
