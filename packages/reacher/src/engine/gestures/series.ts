/** Presses in a given order. After a wrong press the longest suffix that still matches counts (Knuth, Morris, Pratt). */
import type { RuleCells } from "../cells.js";
import type { CheckedEntry } from "../../plan/checked.js";
import type { Compiler, EntryOf, Feature } from "../compile.js";
import { ms, nowOf, because, windowOf, type GestureWhy } from "../explaining.js";
import type { Signal } from "../signals.js";
import type { SeatState } from "../state.js";
import type { Switch } from "../switches/switch.js";
import { PressRow } from "./pressRow.js";
import { heldKey, isTogether, notHeld, togetherOf, type Together } from "./together.js";

export class Series extends PressRow {
  readonly together: Together | null;

  constructor(
    cells: RuleCells,
    owner: Switch,
    of: readonly Signal[],
    hiddenAt: number,
    entry: CheckedEntry & { kind: "series" },
    compiler: Compiler,
  ) {
    super(cells, owner, of, hiddenAt, entry, of.length, fallbacks(of));
    this.together = togetherOf(compiler, cells, entry, of.length, this);
  }

  press(s: SeatState, signal: Signal): void {
    if (!this.counts(s, signal)) return;
    const { signals, together } = this;
    const had = this.before(s);
    let count = had;
    while (count > 0 && signals[count] !== signal) count = this.shorter(count);
    if (together !== null) together.keepLast(s, had, count);
    if (signals[count] === signal) {
      count++;
      if (together !== null) together.add(s, count);
    }
    this.note(s);
    if (count <= had) this.dropClaim(s);
    s.b[this.count] = count < signals.length ? count : 0;
    if (count === signals.length) this.raise(s, signal);
  }

  release(s: SeatState, signal: Signal): void {
    if (signal === this.signals[this.signals.length - 1]) this.lower(s);
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
    const { count, lastAt, until, fired, together } = rule;
    const { length } = rule.signals;
    if (!isTogether(rule, change)) return notHeld(together!, name, change);
    const since = nowOf(change) - before.f[lastAt]!;
    const gapMs = windowOf(before, lastAt, until, rule.gapMs);
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
