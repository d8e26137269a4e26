/** Counts presses of one source that follow each other closely. Up from the last press to its release; a press counts once. */
import type { CheckedEntry, Source } from "../../plan/checked.js";
import { oppositeOf } from "../../plan/ways.js";
import type { RuleCells } from "../cells.js";
import { Clock } from "../clock.js";
import type { Compiler, EntryOf, Feature } from "../compile.js";
import { LATE_MS, ms, nowOf, because, windowOf, type GestureWhy } from "../explaining.js";
import type { Signal } from "../signals.js";
import type { SeatState } from "../state.js";
import type { Switch } from "../switches/switch.js";
import { PressRow } from "./pressRow.js";
import { heldKey, isTogether, notHeld, togetherOf, type Together } from "./together.js";

export type TapsEntry = CheckedEntry & { kind: "taps" };

/** Counters by which taps that any other press interrupts detect one: all presses, and those of their own source. */
interface Strokes {
  readonly all: number;
  readonly own: number;
  /** How many other presses there were at its last press. */
  readonly others: number;
}

export class Taps extends PressRow {
  readonly taps: number;
  private readonly eachMs: number;
  strokes: Strokes | null = null;
  readonly together: Together | null;

  constructor(
    cells: RuleCells,
    owner: Switch,
    readonly of: Signal,
    hiddenAt: number,
    entry: TapsEntry,
    compiler: Compiler,
  ) {
    super(cells, owner, [of], hiddenAt, entry, entry.taps);
    this.taps = entry.taps;
    this.together = togetherOf(compiler, cells, entry, entry.taps, this);
    this.eachMs = entry.eachMs ?? Infinity;
  }

  press(s: SeatState, signal: Signal): void {
    if (!this.counts(s, signal)) return;
    const { taps, together } = this;
    const count = this.before(s) + 1;
    if (together !== null) together.add(s, count);
    this.note(s);
    if (this.strokes !== null) s.i[this.strokes.others] = this.othersNow(s);
    // A press counts once: the count starts again.
    s.b[this.count] = count < taps ? count : 0;
    if (count >= taps) this.raise(s, signal);
  }

  release(s: SeatState): void {
    this.lower(s);
    if (s.clock[Clock.Now]! - s.f[this.lastAt]! <= this.eachMs) return;
    this.forgetCount(s);
  }

  protected isHeld({ b }: SeatState): boolean {
    return b[this.of.up] === 1;
  }

  /** A press that is held for too long is no tap. */
  protected override nextBy(s: SeatState): number {
    const end = super.nextBy(s);
    return this.isHeld(s) ? Math.min(end, s.f[this.lastAt]! + this.eachMs) : end;
  }

  /** Whether another key or button was pressed since its last press. */
  override isBroken(s: SeatState): boolean {
    return this.strokes !== null && s.i[this.strokes.others] !== this.othersNow(s);
  }

  private othersNow({ i }: SeatState): number {
    return i[this.strokes!.all]! - i[this.strokes!.own]!;
  }

  /** From now on any other press interrupts it. */
  breakByAny(all: number, own: number): void {
    this.strokes = { all, own, others: this.cells.int("others") };
  }
}

/** Linked once every signal exists. */
function breakByOpposite(compiler: Compiler, rule: Taps, source: Source): void {
  const opposite = oppositeOf(source);
  if (opposite !== undefined) compiler.signal(opposite).breaks.push(rule);
}

/** A press of any other key or button interrupts these; a stick's half axis does not, nor does a control that only presses their own source. */
function breakByAny(compiler: Compiler, all: readonly Taps[]): void {
  if (all.length === 0) return;
  const { cells, signals } = compiler;
  const counts = cells.rule("strokes");
  const total = counts.int("all");
  const isStroke = ({ channel }: Signal) => channel !== null && !channel.isAxis;
  for (const signal of signals) if (isStroke(signal)) signal.strokes.push(total);
  const own = new Map<Signal, number>();
  for (const rule of all) {
    const { of } = rule;
    let count = own.get(of);
    if (count === undefined) {
      own.set(of, (count = counts.int(`of ${of.name}`)));
      const controls = new Set([of, ...(compiler.signalsBehind(of) ?? [])].map(({ channel }) => channel));
      for (const signal of signals)
        if (isStroke(signal) && controls.has(signal.channel)) signal.strokes.push(count);
    }
    rule.breakByAny(total, count);
  }
}

export const taps: Feature = {
  entries: {
    taps: (compiler, { owner, entry }: EntryOf<Switch, "taps">) => {
      // Each direction of `swim.each` is counted separately.
      for (const source of entry.of) {
        const of = compiler.signal(source);
        const cells = compiler.cells.rule(`${owner.name} taps ${entry.taps} ${of.name}${heldKey(entry)}`);
        const rule = new Taps(cells, owner, of, compiler.hidden(cells), entry, compiler);
        compiler.addGesture(rule);
        if (entry.brokenBy === "opposite") compiler.links.push(() => breakByOpposite(compiler, rule, source));
        if (entry.brokenBy === "any") compiler.brokenByAny.push(rule);
      }
    },
  },
  link: (compiler) => breakByAny(compiler, compiler.brokenByAny as Taps[]),
};

export const tapsWhy: GestureWhy<Taps> = {
  pressed(rule, { name }, change) {
    const { before, after } = change;
    const { taps, count, lastAt, until, fired } = rule;
    const counted = before.b[count]!;
    const since = nowOf(change) - before.f[lastAt]!;
    const gapMs = windowOf(before, lastAt, until, rule.gapMs);
    const gap = `${ms(since)} after the one before`;
    if (!isTogether(rule, change)) return notHeld(rule.together!, name, change);
    if (counted > 0 && since > gapMs && since <= LATE_MS)
      return because(
        "counts",
        "too-late",
        `${name}: press ${gap}: ${ms(since - gapMs)} too late for ${gapMs}; it counts as the first`,
      );
    if (after.b[fired] === 1)
      return because("on", "taps", `${name}: tap ${taps} of ${taps}, ${gap} (${gapMs} allowed)`);
    const now = after.b[count]!;
    if (now <= counted && since <= gapMs && rule.together?.withinMs !== undefined)
      return because(
        "counts",
        "too-late",
        `${name}: ${counted + 1} presses took longer than ${rule.together.withinMs} ms; ${now} of ${taps} count`,
      );
    return because("counts", "taps", `${name}: tap ${now} of ${taps}${now > 1 ? `, ${gap}` : ""}`);
  },
};
