/** Long presses, and short ones. */
import type { RuleCells } from "../cells.js";
import { Clock } from "../clock.js";
import type { EntryOf, Feature } from "../compile.js";
import { ms, nowOf, because, windowOf, type GestureWhy } from "../explaining.js";
import type { Signal } from "../signals.js";
import type { SeatState } from "../state.js";
import type { Switch } from "../switches/switch.js";
import type { Timed, Timer, Timers } from "../timers.js";
import { Gesture } from "./gesture.js";

/** What both share: a press that has begun and may still become theirs. */
export abstract class Lasting extends Gesture {
  readonly waits = this.cells.byte("waits");
  readonly lastAt = this.cells.float("lastAt");
  readonly until = this.cells.float("until");

  constructor(
    cells: RuleCells,
    owner: Switch,
    readonly of: Signal,
    hiddenAt: number,
    readonly ms: number,
  ) {
    super(cells, owner, [of], hiddenAt);
    of.keepLong();
  }

  press(s: SeatState, signal: Signal): void {
    if (!this.sees(s, signal)) return;
    s.f[this.lastAt] = s.clock[Clock.Now]!;
    s.f[this.until] = s.clock[Clock.Now]! + this.ms;
    s.b[this.waits] = 1;
    this.wait(s);
  }

  /** A press has begun. */
  protected wait(_: SeatState): void {}

  protected clear({ b }: SeatState): void {
    b[this.waits] = 0;
  }

  claimEnd({ f, b }: SeatState, _: Signal, newer: number): number {
    return b[this.waits] === 0 || newer > 0 ? -Infinity : f[this.until]!;
  }

  lapse({ f }: SeatState, _: Signal, newer: number): void {
    if (newer === 0) f[this.until] = -Infinity;
  }

  protected isHeld({ b }: SeatState): boolean {
    return b[this.of.up] === 1;
  }

  protected override review(s: SeatState): void {
    if (s.b[this.of.up] === 0) this.clear(s);
  }
}

export class Long extends Lasting implements Timed {
  readonly timer: Timer;

  constructor(
    cells: RuleCells,
    owner: Switch,
    of: Signal,
    hiddenAt: number,
    afterMs: number,
    private readonly timers: Timers,
    action: number,
  ) {
    super(cells, owner, of, hiddenAt, afterMs);
    this.timer = timers.due(cells, "fires", this, action);
  }

  protected override wait(s: SeatState): void {
    this.timers.set(s, this.timer, this.ms);
  }

  release(s: SeatState): void {
    this.forget(s);
  }

  protected override clear(s: SeatState): void {
    super.clear(s);
    this.timers.clear(s, this.timer);
  }

  due(s: SeatState): void {
    s.b[this.waits] = 0;
    s.b[this.of.wasLong] = 1;
    this.raise(s, this.of);
  }

  /** Progress of the press, 0..1; 1 while it is on. */
  progress({ f, b, clock }: SeatState): number {
    if (b[this.fired] === 1) return 1;
    const begun = f[this.lastAt]!;
    return b[this.waits] === 0 ? 0 : Math.min(1, (clock[Clock.Now]! - begun) / (f[this.until]! - begun));
  }
}

export class Short extends Lasting {
  release(s: SeatState, signal: Signal): void {
    if (s.b[this.waits] === 0) return;
    s.b[this.waits] = 0;
    this.dropClaim(s);
    if (s.b[signal.wasLong] === 1 || s.clock[Clock.Now]! > s.f[this.until]!) return;
    this.claim(s, signal);
    this.owner.pressForAnInstant(s, signal);
  }
}

export const long: Feature = {
  entries: {
    long: (compiler, { owner, entry }: EntryOf<Switch, "long">, action) => {
      const of = compiler.signal(entry.of[0]!);
      const cells = compiler.cells.rule(`${owner.name} long ${of.name}`);
      const rule = new Long(cells, owner, of, compiler.hidden(cells), entry.afterMs, compiler.timers, action);
      owner.progress.push(rule);
      compiler.addGesture(rule);
    },
  },
};
export const short: Feature = {
  entries: {
    short: (compiler, { owner, entry }: EntryOf<Switch, "short">) => {
      const of = compiler.signal(entry.of[0]!);
      const cells = compiler.cells.rule(`${owner.name} short ${of.name}`);
      owner.keepInstantPresses();
      compiler.addGesture(new Short(cells, owner, of, compiler.hidden(cells), entry.beforeMs));
    },
  },
};

export const longWhy: GestureWhy<Long> = {
  pressed: ({ ms: afterMs }, { name }) =>
    because("counts", "held", `${name} pressed: ${ms(afterMs)} to hold`),
  released({ waits, lastAt, until }, { name }, change) {
    const { before } = change;
    if (before.b[waits] === 0) return undefined;
    const held = nowOf(change) - before.f[lastAt]!;
    const afterMs = before.f[until]! - before.f[lastAt]!;
    return because(
      "nothing",
      "too-short",
      `${name} let go after ${ms(held)}: ${ms(afterMs - held)} too early for ${afterMs}`,
    );
  },
  due: ({ timer, of, lastAt, until }, { due, before }) =>
    due === timer
      ? because("on", "long", `${of.name} held for ${ms(before.f[until]! - before.f[lastAt]!)}`)
      : undefined,
};

export const shortWhy: GestureWhy<Short> = {
  pressed: ({ ms: beforeMs }, { name }) =>
    because("counts", "held", `${name} pressed: ${ms(beforeMs)} to let go`),
  released({ waits, lastAt, until, ms: own }, { name, wasLong }, change) {
    const { before, after } = change;
    if (before.b[waits] === 0) return undefined;
    const held = nowOf(change) - before.f[lastAt]!;
    const beforeMs = windowOf(before, lastAt, until, own);
    const text = `${name} let go after ${ms(held)}`;
    if (after.b[wasLong] === 1) return because("nothing", "was-long", `${text}: it was a long press`);
    if (held > beforeMs)
      return because("nothing", "too-long", `${text}: ${ms(held - beforeMs)} too late for ${beforeMs}`);
    return because("on", "short", `${text} (${beforeMs} allowed)`);
  },
};
