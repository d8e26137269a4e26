/**
 * A press that cannot begin is kept for a while, and begins at the first moment at which it may. What has begun is granted: the
 * game takes it once, in the step that handled it or a little later, so that it is the same at any step rate.
 */
import { Rule } from "../cells.js";
import { Clock } from "../clock.js";
import type { Compiler, Feature } from "../compile.js";
import type { Signal } from "../signals.js";
import type { SeatState } from "../state.js";
import type { KeeperRule } from "../tables.js";
import { Phase, type Timed, type Timer, type Timers } from "../timers.js";
import type { StartGuard, Keeper } from "./hooks.js";
import type { Switch } from "./switch.js";

/** Whose press is kept. */
const enum Whose {
  Nobody,
  Hands,
  Game,
}

export class Buffer extends Rule implements Keeper, KeeperRule, StartGuard, Timed {
  /** Whether a press is kept, by `Whose`. */
  readonly isKept = this.cells.byte("kept");
  /** When it was pressed. */
  readonly since = this.cells.float("keptSince");
  private readonly by: number;
  /** The number of the event that pressed it. */
  private readonly pressedIn = this.cells.int("keptIn");
  readonly timer: Timer;
  private readonly granted = this.cells.byte("granted");
  private readonly grantStep = this.cells.int("grantStep", -1);
  private readonly grantUntil = this.cells.float("grantUntil");
  private readonly kept: number;
  private readonly turn: number;
  private readonly timers: Timers;
  private isNews = false;

  constructor(
    private readonly owner: Switch,
    readonly bufferMs: number,
    { kept, eventNumber: turn, timers }: Compiler,
  ) {
    super(owner.cells);
    this.kept = kept;
    this.turn = turn;
    this.timers = timers;
    this.by = this.cells.place("keptBy", owner.signals);
    this.timer = timers.window(this.cells, "keeps", this, Phase.Keeps);
  }

  keep(s: SeatState, isDriven: boolean): void {
    const { b, i } = s;
    if (b[this.isKept] === Whose.Nobody) i[this.kept]!++;
    b[this.isKept] = isDriven ? Whose.Game : Whose.Hands;
    i[this.by] = i[this.owner.by]!;
    i[this.pressedIn] = i[this.turn]!;
    s.f[this.since] = s.clock[Clock.Now]!;
    this.timers.set(s, this.timer, this.bufferMs);
  }

  drop(s: SeatState): void {
    const { b, i } = s;
    if (b[this.isKept] === 0) return;
    b[this.isKept] = 0;
    i[this.kept]!--;
    this.timers.clear(s, this.timer);
  }

  dropAll(s: SeatState): void {
    this.drop(s);
    s.b[this.granted] = 0;
    this.isNews = false;
  }

  /** The time for which it is kept is over. */
  due(s: SeatState): void {
    this.drop(s);
  }

  lose(s: SeatState, isLost: (signal: Signal) => boolean): void {
    // Nobody but the game presses a switch without entries.
    if (this.owner.signals.length === 0) return;
    const signal = this.signal(s);
    if (s.b[this.isKept] === Whose.Game) return;
    if (signal !== undefined && isLost(signal)) this.dropAll(s);
  }

  /** The control that pressed it last; none before the first press. */
  private signal({ i }: SeatState): Signal | undefined {
    return this.owner.signals[i[this.owner.by]!];
  }

  canBegin(s: SeatState): boolean {
    const whose = s.b[this.isKept]!;
    return whose !== Whose.Nobody && this.owner.mayBegin(s, whose === Whose.Game);
  }

  isNewer({ i }: SeatState, other: KeeperRule): boolean {
    return i[this.pressedIn]! >= i[(other as Buffer).pressedIn]!;
  }

  /** The kept press counts from now on; released meanwhile, it rises and falls at this moment. */
  beginKept(s: SeatState): void {
    const signal = s.b[this.isKept] === Whose.Game ? null : this.owner.signals[s.i[this.by]!]!;
    this.drop(s);
    this.owner.pressKept(s, signal);
  }

  refuses(): boolean {
    return false;
  }

  begin(s: SeatState): void {
    this.drop(s);
    s.b[this.granted] = 1;
    s.i[this.grantStep] = s.clock[Clock.Step]!;
    s.f[this.grantUntil] = s.clock[Clock.Now]! + this.bufferMs;
    this.isNews = true;
  }

  consumeNews(): boolean {
    const { isNews } = this;
    this.isNews = false;
    return isNews;
  }

  keptUntil({ b, f }: SeatState): number {
    return b[this.isKept] === Whose.Nobody ? -Infinity : f[this.timer.at]!;
  }

  isGranted({ b, i, f, clock }: SeatState): boolean {
    if (b[this.granted] === 0) return false;
    return i[this.grantStep] === clock[Clock.Step] || clock[Clock.Now]! <= f[this.grantUntil]!;
  }

  take(s: SeatState): boolean {
    if (!this.isGranted(s)) return false;
    s.b[this.granted] = 0;
    return true;
  }

  /** After a change of tables: a kept press whose key is no longer bound is dropped. */
  recount(s: SeatState): void {
    const { b, i } = s;
    if (b[this.isKept] === 0) return;
    i[this.kept]!++;
    if (b[this.isKept] === Whose.Game) return;
    const signal = this.owner.signals[i[this.by]!];
    if (!this.owner.sources.some(({ signals }) => signals.includes(signal!))) this.dropAll(s);
  }
}

export const buffer: Feature = {
  options: [
    {
      name: "bufferMs",
      appliesTo: ({ bufferMs }) => bufferMs > 0,
      make: (compiler, owner: Switch, { bufferMs }) => {
        const rule = new Buffer(owner, bufferMs, compiler);
        owner.keeper = rule;
        owner.begins(rule);
        owner.keepInstantPresses();
        compiler.keepers.push(rule);
        compiler.recounts.push(rule);
      },
    },
  ],
};
