/**
 * What recordings ask of a seat's rules, compiled or made: what is on that no line of a trace tells, and what the game drives. In: tables. Out: readers of
 * cells, which change nothing.
 */
import { DriveCell, MOST_DRIVES, type Way } from "./meanings.js";
import type { Movement } from "./movement/movement.js";
import type { SeatState } from "./state.js";
import { Latch, type Switch } from "./switches/switch.js";
import { Live, type Tables } from "./tables.js";

/** A toggle or a latch; a hold, of which it asks whether its keys count; or a movement, of which it asks whether the pointer counts. */
export interface Latching {
  readonly name: string;
  readonly kind: "latch" | "hold" | "pointer";
  /** What it is at the start, before anything is pressed. */
  readonly startsOn: boolean;
  /** The controls that would change it, held at the start; `ANYTHING` for what comes out of a movement. */
  readonly by: readonly string[];
  isOn(s: SeatState): boolean;
}

/** In place of a control: whatever moves. */
export const ANYTHING = "";

/** The cells of what drives an action: the bits of its reasons; or, of a movement, its drives and their values. */
export type DrivenAt = readonly [reasons: number] | readonly [drives: number, values: number];

export interface Recordable {
  readonly latches: readonly Latching[];
  /** By action; `null` where nothing ever drives it. */
  readonly driven: readonly (DrivenAt | null)[];
}

/** One of them, as compiled rules have it. */
abstract class RuleLatch<R extends { readonly name: string }> implements Latching {
  readonly name: string;

  constructor(
    protected readonly rule: R,
    readonly kind: Latching["kind"],
    readonly startsOn: boolean,
    readonly by: readonly string[] = [],
  ) {
    this.name = rule.name;
  }

  abstract isOn(s: SeatState): boolean;
}

class SwitchLatch extends RuleLatch<Switch> {
  constructor(rule: Switch, tables: Tables) {
    const signals = rule.sources.flatMap((source) => source.signals);
    const by = signals.flatMap(({ controls, isResult }) =>
      isResult ? [ANYTHING] : controls.map((control) => tables.nameOf(control)),
    );
    super(rule, "latch", rule.startsOn, by);
  }

  isOn({ b }: SeatState): boolean {
    return b[this.rule.latch] === Latch.Latched;
  }
}

class HoldLatch extends RuleLatch<Switch> {
  /** A press that a hold has not seen, or that is spent, turns nothing on: held at the start of a replay it would. */
  isOn(s: SeatState): boolean {
    const { rule } = this;
    if (s.b[rule.liveAt] !== Live.Yes || rule.isHeld(s)) return true;
    const { sources } = rule;
    for (let n = 0; n < sources.length; n++) {
      const { hiddenAt, pending, signals } = sources[n]!;
      // Gestures keep count of their presses themselves.
      if (pending !== undefined || s.b[signals[0]!.up] !== 1) continue;
      if (!(hiddenAt >= 0 && s.b[hiddenAt] === 1)) return false;
    }
    return true;
  }
}

class PointerLatch extends RuleLatch<Movement> {
  isOn({ b }: SeatState): boolean {
    return b[this.rule.pointer!.counting] === 1;
  }
}

/** What a switch tells, as a hold or with another style. */
export const latchOf = (rule: Switch, tables: Tables, isHold: boolean): Latching =>
  isHold ? new HoldLatch(rule, "hold", true) : new SwitchLatch(rule, tables);

/** What compiled rules tell. */
export function recordableOf(tables: Tables): Recordable {
  const pointed = (tables.movements as readonly Movement[]).filter(({ pointer }) => pointer !== null);
  return {
    latches: [
      ...(tables.ranked as readonly Switch[]).map((rule) => latchOf(rule, tables, rule.style === null)),
      ...pointed.map((rule) => new PointerLatch(rule, "pointer", false)),
    ],
    driven: tables.plan.actions.map(({ kind }, n): DrivenAt | null => {
      const rule: unknown = tables.actions[n];
      if (kind === "turn") return null;
      if (kind !== "switch") {
        const { driven } = rule as Movement;
        return driven === null ? null : [driven.drives, driven.values];
      }
      const { driver } = rule as Switch;
      return driver === null ? null : [driver.reasons];
    }),
  };
}

/** What drives a movement, in the order in which it began. */
export function drivesAt(
  { i, f }: Pick<SeatState, "i" | "f">,
  drives: number,
  values: number,
): { reason: number; way: Way; x: number; y: number }[] {
  const found = [];
  for (let n = 0; n < MOST_DRIVES && i[drives + n] !== 0; n++)
    found.push({
      reason: (i[drives + n]! & DriveCell.ReasonMask) - 1,
      way: i[drives + n]! >> DriveCell.Way,
      x: f[values + n * 3]!,
      y: f[values + n * 3 + 1]!,
    });
  return found;
}
