/** A gesture for the test alone: several presses that follow each other closely, the last of them held. */
import type { RuleCells } from "../../src/engine/cells";
import { Clock } from "../../src/engine/clock";
import type { EntryOf, Feature } from "../../src/engine/compile";
import { because, type GestureWhy } from "../../src/engine/explaining";
import { Gesture } from "../../src/engine/gestures/gesture";
import type { Signal } from "../../src/engine/signals";
import type { SeatState } from "../../src/engine/state";
import type { Switch } from "../../src/engine/switches/switch";
import type { Timed, Timer, Timers } from "../../src/engine/timers";
import { sourcesOf, type Checked, type Language, type Shown } from "../../src/plan/gestures/gesture";
import { CONTROL, ms, presses, required } from "../../src/plan/language/fields";

interface TapHoldEntry {
  readonly tapHold: number;
  readonly of: string;
  readonly gapMs?: number;
  readonly afterMs?: number;
}

declare module "../../src/plan/types" {
  interface Gestures {
    readonly tapHold: TapHoldEntry;
  }
}
declare module "../../src/plan/checked" {
  interface CheckedGestures {
    readonly tapHold: { readonly presses: number; readonly gapMs: number; readonly afterMs: number };
  }
}

export const language: Language<"tapHold"> = {
  fields: {
    tapHold: required(presses(2, 9)),
    of: required(CONTROL),
    gapMs: ms(600, { default: 250, felt: true, player: { about: "Double-tap time", has: "tap and hold" } }),
    afterMs: ms(2000, { default: 400, felt: true }),
  },
  source: "of",
  read(reader, { tapHold: presses, of: name, gapMs = 250, afterMs = 400 }, place) {
    const of = sourcesOf(reader, [name], () => `${place}.of`);
    return of && { kind: "tapHold", of, presses, gapMs, afterMs };
  },
  pattern: ({ presses }) => `tapHold ${presses}`,
  isTapped: true,
  words: { verb: ({ presses }) => `tap ${presses} times and hold` },
};

export const shown: Shown<"tapHold"> = {
  use: ({ presses, afterMs }) => `${presses} taps, the last for ${afterMs} ms`,
  brief: ({ presses, of }) => `${presses}x ${of[0]!.name} held`,
  window: { field: "gapMs", endsWithPress: false },
  decides: { tapHold: ["afterMs"] },
};

export class TapHold extends Gesture implements Timed {
  private readonly count = this.cells.byte("count");
  private readonly until = this.cells.float("until");
  readonly timer: Timer;

  constructor(
    cells: RuleCells,
    owner: Switch,
    readonly of: Signal,
    hiddenAt: number,
    private readonly entry: Checked<"tapHold">,
    private readonly timers: Timers,
    action: number,
  ) {
    super(cells, owner, [of], hiddenAt);
    this.timer = timers.due(cells, "fires", this, action);
  }

  press(s: SeatState, signal: Signal): void {
    if (!this.sees(s, signal)) return;
    const { b, f, clock } = s;
    const { presses, gapMs, afterMs } = this.entry;
    b[this.count] = clock[Clock.Now]! <= f[this.until]! ? b[this.count]! + 1 : 1;
    f[this.until] = clock[Clock.Now]! + gapMs;
    if (b[this.count] === presses) this.timers.set(s, this.timer, afterMs);
  }

  release(s: SeatState): void {
    if (s.b[this.count]! >= this.entry.presses) this.forget(s);
    else this.lower(s);
  }

  due(s: SeatState): void {
    this.raise(s, this.of);
  }

  protected clear(s: SeatState): void {
    s.b[this.count] = 0;
    this.timers.clear(s, this.timer);
  }

  claimEnd({ b, f }: SeatState): number {
    return b[this.count] === 0 ? -Infinity : f[this.until]!;
  }

  lapse({ f }: SeatState): void {
    f[this.until] = -Infinity;
  }

  protected isHeld({ b }: SeatState): boolean {
    return b[this.of.up] === 1;
  }
}

export const tapHold: Feature = {
  entries: {
    tapHold: (compiler, { owner, entry }: EntryOf<Switch, "tapHold">, action) => {
      const of = compiler.signal(entry.of[0]!);
      const cells = compiler.cells.rule(`${owner.name} tapHold ${of.name}`);
      const hiddenAt = compiler.hidden(cells);
      compiler.addGesture(new TapHold(cells, owner, of, hiddenAt, entry, compiler.timers, action));
    },
  },
};

export const why: GestureWhy<TapHold> = {
  pressed: (_, { name }) => because("counts", "tapHold", `${name} pressed`),
  due: ({ timer, of }, { due }) =>
    due === timer ? because("on", "tapHold", `${of.name} tapped and held`) : undefined,
};
