/** Presses in a given order. After a wrong press the longest suffix that still matches counts (Knuth, Morris, Pratt). */
import type { RuleCells } from "../cells.js";
import { Clock } from "../clock.js";
import type { CheckedEntry } from "../../plan/checked.js";
import type { Compiler, EntryOf, Feature } from "../compile.js";
import { ms, nowOf, because, type GestureWhy } from "../explaining.js";
import type { Signal } from "../signals.js";
import type { SeatState } from "../state.js";
import type { Switch } from "../switches/switch.js";
import { Gesture } from "./gesture.js";
import { heldKey, isTogether, notHeld, togetherOf, type Together } from "./together.js";

export class Series extends Gesture {
  readonly count = this.cells.byte("count");
  readonly lastAt = this.cells.float("lastAt", -Infinity);
  readonly until = this.cells.float("until", -Infinity);
  readonly gapMs: number;
  private readonly fallback: readonly number[];
  readonly together: Together | null;

  constructor(
    cells: RuleCells,
    owner: Switch,
    of: readonly Signal[],
    hiddenAt: number,
    entry: CheckedEntry & { kind: "series" },
    compiler: Compiler,
  ) {
    super(cells, owner, of, hiddenAt);
    this.gapMs = Math.min(entry.gapMs, entry.withinMs ?? Infinity);
    this.fallback = fallbacks(of);
    this.together = togetherOf(compiler, cells, entry, of.length, this, this.fallback);
  }

  press(s: SeatState, signal: Signal): void {
    const { signals, fallback, together } = this;
    if (!this.sees(s, signal) || (together !== null && !together.isHeld(s))) return;
    const { b, f } = s;
    const now = s.clock[Clock.Now]!;
    let count = now > f[this.until]! ? 0 : b[this.count]!;
    if (together !== null) count = together.dropOld(s, count);
    f[this.lastAt] = now;
    f[this.until] = now + this.gapMs;
    const had = count;
    while (count > 0 && signals[count] !== signal) count = fallback[count]!;
    if (together !== null) together.keepLast(s, had, count);
    if (signals[count] === signal) {
      count++;
      if (together !== null) together.add(s, count);
    }
    b[this.count] = count < signals.length ? count : 0;
    if (count === signals.length) this.raise(s, signal);
  }

  release(s: SeatState, signal: Signal): void {
    if (signal === this.signals[this.signals.length - 1]) this.lower(s);
  }

  protected clear({ b }: SeatState): void {
    b[this.count] = 0;
  }

  forgetCount(s: SeatState): void {
    this.clear(s);
    this.dropClaim(s);
  }

  override pending(s: SeatState): number {
    const { together } = this;
    const count = s.b[this.count]!;
    if (s.clock[Clock.Now]! > s.f[this.until]!) return 0;
    return together === null ? count : together.stillCounting(s, count);
  }

  override windowEnd(s: SeatState, pending: number): number {
    const end = this.together === null ? Infinity : this.together.endOf(s, s.b[this.count]!, pending);
    return Math.min(s.f[this.until]!, end);
  }

  protected override review(s: SeatState): void {
    if (this.together !== null && !this.together.isHeld(s)) this.clear(s);
  }

  claimEnd({ f, b }: SeatState): number {
    return b[this.count] === 0 ? -Infinity : f[this.until]!;
  }

  lapse({ f }: SeatState): void {
    f[this.until] = -Infinity;
  }

  protected isHeld({ b }: SeatState): boolean {
    return b[this.signals[this.signals.length - 1]!.up] === 1;
  }
}

/** The failure function: by members matched, the length of the longest proper suffix that is also a prefix. */
function fallbacks(of: readonly Signal[]): number[] {
  const back = [0, 0];
  for (let n = 1, k = 0; n < of.length; n++) {
    while (k > 0 && of[n] !== of[k]) k = back[k]!;
    if (of[n] === of[k]) k++;
    back[n + 1] = k;
  }
  return back;
}

export const series: Feature = {
  entries: {
    series: (compiler, { owner, entry }: EntryOf<Switch, "series">) => {
      const of = entry.of.map((source) => compiler.signal(source));
      const key = [owner.name, "series", ...of.map(({ name }) => name)].join(" ");
      const cells = compiler.cells.rule(key + heldKey(entry));
      compiler.addGesture(new Series(cells, owner, of, compiler.hidden(cells), entry, compiler));
    },
  },
};

export const seriesWhy: GestureWhy<Series> = {
  pressed(rule, { name }, change) {
    const { before, after } = change;
    const { count, lastAt, gapMs, fired, together } = rule;
    const { length } = rule.signals;
    if (!isTogether(rule, change)) return notHeld(together!, name, change);
    const since = nowOf(change) - before.f[lastAt]!;
    const now = after.b[count]!;
    if (after.b[fired] === 1) return because("on", "series", `${name}: ${length} of ${length} in order`);
    if (before.b[count]! > 0 && since > gapMs)
      return because(
        "counts",
        "too-late",
        `${name}: ${ms(since)} after the one before: ${ms(since - gapMs)} too late for ${gapMs}; ${now} of ${length} again`,
      );
    return because("counts", "series", `${name}: ${now} of ${length} in order`);
  },
};
