/** A stick flicked from rest to its rim. Only sticks count; keys and buttons of a direction are ignored. */
import { Rule, type RuleCells } from "../cells.js";
import { Clock } from "../clock.js";
import type { Compiler, EntryOf, Feature } from "../compile.js";
import type { GivingStick } from "../wiring.js";
import { ms, nowOf, because, type GestureWhy } from "../explaining.js";
import type { Channel, Signal } from "../signals.js";
import type { SeatState } from "../state.js";
import type { Switch } from "../switches/switch.js";
import type { Updatable } from "../tables.js";
import { Gesture } from "./gesture.js";

/** Tilts: where it has left rest, where it counts as flicked, and where it is released again. */
const LEAVES = 0.3;
const THROWN = 0.8;
const LETS_GO = 0.6;

/** The phase of a stick. */
const enum Way {
  Rest,
  /** It has left rest, and may still become a flick. */
  Leaving,
  Thrown,
  /** It has to come to rest first. */
  Spent,
}

export class Flick extends Gesture {
  readonly sticks: FlickedStick[] = [];

  constructor(
    cells: RuleCells,
    owner: Switch,
    readonly of: Signal,
    hiddenAt: number,
    readonly withinMs: number,
  ) {
    super(cells, owner, [of], hiddenAt);
  }

  /** Presses of its source do not matter. */
  press(): void {}
  release(): void {}

  canSee(s: SeatState): boolean {
    return this.sees(s, this.of);
  }
  thrown(s: SeatState): void {
    this.raise(s, this.of);
  }
  letGo(s: SeatState): void {
    if (!this.isHeld(s)) this.lower(s);
  }
  late(s: SeatState): void {
    this.dropClaim(s);
  }

  protected clear(s: SeatState): void {
    for (const stick of this.sticks) stick.clear(s);
  }

  claimEnd(s: SeatState, _: Signal, newer: number): number {
    let end = -Infinity;
    if (newer > 0) return end;
    for (const stick of this.sticks) end = Math.max(end, stick.claimEnd(s));
    return end;
  }

  lapse(s: SeatState, _: Signal, newer: number): void {
    if (newer > 0) return;
    for (const stick of this.sticks) stick.lapse(s);
  }

  protected isHeld(s: SeatState): boolean {
    return this.sticks.some((stick) => stick.isThrown(s));
  }
}

/** One stick of one pad, and the end that it may flick to. */
class FlickedStick extends Rule implements Updatable {
  readonly way = this.cells.byte("way");
  readonly until = this.cells.float("until");

  constructor(
    cells: RuleCells,
    readonly id: number,
    private readonly flick: Flick,
    private readonly giving: GivingStick,
  ) {
    super(cells);
  }

  update(s: SeatState): void {
    const { b, f, clock } = s;
    const { flick } = this;
    const tilt = this.giving.stick.tiltTo(s, this.giving.end);
    if (tilt < LEAVES) {
      this.change(s, Way.Rest);
      return;
    }
    if (b[this.way] === Way.Rest) {
      this.change(s, flick.canSee(s) ? Way.Leaving : Way.Spent);
      f[this.until] = clock[Clock.Now]! + flick.withinMs;
    }
    if (b[this.way] === Way.Leaving && clock[Clock.Now]! > f[this.until]!) this.change(s, Way.Spent);
    if (b[this.way] === Way.Leaving && tilt >= THROWN) {
      this.change(s, Way.Thrown);
      flick.thrown(s);
    } else if (b[this.way] === Way.Thrown && tilt < LETS_GO) this.change(s, Way.Spent);
  }

  private change(s: SeatState, way: Way): void {
    const was = s.b[this.way]!;
    s.b[this.way] = way;
    if (was === Way.Thrown && way !== Way.Thrown) this.flick.letGo(s);
    if (was === Way.Leaving && way !== Way.Thrown) this.flick.late(s);
  }

  /** It starts from rest: a stick held away from it has to return first. */
  clear(s: SeatState): void {
    s.b[this.way] = this.giving.stick.tiltTo(s, this.giving.end) < LEAVES ? Way.Rest : Way.Spent;
  }

  lapse({ b }: SeatState): void {
    if (b[this.way] === Way.Leaving) b[this.way] = Way.Spent;
  }

  claimEnd({ b, f }: SeatState): number {
    return b[this.way] === Way.Leaving ? f[this.until]! : -Infinity;
  }

  isThrown({ b }: SeatState): boolean {
    return b[this.way] === Way.Thrown;
  }
}

/** One end of an axis of one pad, as a stick. */
class HalfAxis {
  readonly controls: readonly number[];
  private readonly at: number;

  constructor(
    channel: Channel,
    padIndex: number,
    private readonly sign: number,
  ) {
    this.controls = [channel.id];
    this.at = channel.value + padIndex;
  }

  tiltTo({ f }: Pick<SeatState, "f">): number {
    return f[this.at]! * this.sign;
  }
}

/** The sticks of a source: those of a direction, or the one that a half axis belongs to. */
function sticksOf(compiler: Compiler, of: Signal): readonly GivingStick[] {
  const { channel, sign } = of;
  if (channel === null) return compiler.sticksOf(of);
  return Array.from({ length: channel.padCount }, (_, padIndex) => ({
    stick: new HalfAxis(channel, padIndex, sign),
    end: 0,
  }));
}

export const flick: Feature = {
  entries: {
    flick: (compiler, { owner, entry }: EntryOf<Switch, "flick">) => {
      const of = compiler.signal(entry.of[0]!);
      const cells = compiler.cells.rule(`${owner.name} flick ${of.name}`);
      const rule = new Flick(cells, owner, of, compiler.hidden(cells), entry.withinMs);
      sticksOf(compiler, of).forEach((giving, n) => {
        const own = compiler.cells.rule(`${owner.name} flick ${of.name} ${n}`);
        const stick = new FlickedStick(own, compiler.sticks.length, rule, giving);
        compiler.sticks.push(stick);
        rule.sticks.push(stick);
        compiler.readBy(stick, giving.stick.controls);
      });
      compiler.addGesture(rule);
    },
  },
};

export const flickWhy: GestureWhy<Flick> = {
  pressed({ of, sticks, withinMs, fired }, _, change) {
    const { before, after } = change;
    const stick = sticks.find(({ way }) => after.b[way] !== Way.Rest) ?? sticks[0]!;
    const since = nowOf(change) - (after.f[stick.until]! - withinMs);
    if (after.b[fired] === 1)
      return because("on", "flick", `${of.name} thrown in ${ms(since)} (${withinMs} allowed)`);
    const isLate = after.b[stick.way] === Way.Spent && before.b[stick.way] === Way.Leaving;
    if (!isLate) return because("counts", "flick", `${of.name} has left rest: ${ms(withinMs)} to its end`);
    return because(
      "nothing",
      "too-slow",
      `${of.name}: ${ms(since)} from rest: ${ms(since - withinMs)} too slow for ${withinMs}`,
    );
  },
};
