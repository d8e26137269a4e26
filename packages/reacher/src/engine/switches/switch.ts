/**
 * A switch: its sources are OR-ed into one signal, to which its style and its conditions apply. Without a style it is on
 * while held. What a plan may add are hooks, each a rule in a file of its own, and `null` if the plan does not use it.
 */
import type { CheckedSwitch } from "../../plan/checked.js";
import { Rule, type RuleCells } from "../cells.js";
import { Clock } from "../clock.js";
import { Condition } from "../conditions.js";
import type { Signal } from "../signals.js";
import { Cause, type SeatState } from "../state.js";
import type {
  StartGuard,
  Driver,
  Keeper,
  Renewal,
  Requirement,
  Repeater,
  ExclusiveGroup,
  Style,
} from "./hooks.js";
import { KINDS, StyleKind } from "./styleKind.js";
import { Live, type Action, type SourceRule, type SwitchRule } from "../tables.js";

/** An either is on while held, or latched by a short press. A toggle is off or latched. */
export const enum Latch {
  Off,
  Held,
  Latched,
}

/** The current press: whether it has turned the switch on. */
const enum Fresh {
  No,
  /** It has not turned it on yet. */
  Yes,
  /** It has, and the game has not been told yet. */
  Begun,
}

/** What it did in a step, one bit each. */
export const enum StepChange {
  On = 1,
  Off,
}

/** How a switch turned off, by the number in the cells. */
export const enum Ending {
  None,
  Released,
  Pressed,
  Lost,
  Muted,
  Mode,
  Needs,
  OneOf,
  Bindings,
  Reset,
  Game,
}
const ENDINGS: { readonly [cause in Cause]: Ending } = {
  [Cause.Hands]: Ending.None,
  [Cause.Lost]: Ending.Lost,
  [Cause.Mode]: Ending.Mode,
  [Cause.Mute]: Ending.Muted,
  [Cause.Reset]: Ending.Reset,
  [Cause.Bindings]: Ending.Bindings,
  [Cause.Game]: Ending.Game,
};

/** No signal: the game itself. */
const NOBODY = -1;

export class Switch extends Rule implements SwitchRule, Action {
  readonly kind = "switch";
  readonly name: string;
  readonly in: readonly string[];
  /** Its position in the order of evaluation: switches that others need come first. */
  rank = 0;
  readonly condition: Condition;
  readonly sources: SourceRule[] = [];
  readonly comesBack: boolean;
  readonly carries: boolean;
  style: Style | null = null;
  needs: Requirement | null = null;
  readonly guards: StartGuard[] = [];
  exclusive: ExclusiveGroup | null = null;
  repeater: Repeater | null = null;
  keeper: Keeper | null = null;
  driver: Driver | null = null;
  anew: Renewal | null = null;
  readonly progress: { progress(s: SeatState): number }[] = [];

  /** How many sources are down, the signal as last evaluated, and whether the held press is spent. */
  readonly down = this.cells.tally("down");
  readonly up = this.cells.byte("up");
  readonly awaitingRelease = this.cells.byte("spent");
  readonly latch = this.cells.byte("latch");
  /** Until when a release latches an either; -1 where nobody makes it one. */
  readonly tapUntil: number;
  private readonly styleKind: StyleKind;
  private readonly styleAt: number;
  /** Twice the number of presses that rise and fall at one moment; odd while one of them is on. */
  instantPresses = -1;
  private instantBy = -1;
  /** By `Fresh`; -1 if unused. */
  private fresh = -1;
  /** Whether it is on, and whether the game has been told so. */
  readonly on: number;
  readonly reported = this.cells.byte("reported");
  readonly presses = this.cells.int("presses");
  readonly by: number;
  readonly onAt = this.cells.float("onAt", -Infinity);
  /** The step in which it last turned on or off, and which of these it did then. */
  private readonly changedIn = this.cells.int("turnedIn", -1);
  private readonly changesInStep = this.cells.byte("turns");
  /** How it last turned off, and how long it had been on. */
  readonly endedBy = this.cells.byte("endedBy");
  readonly lastMs = this.cells.float("lastMs");
  /** How it turns off in the current event. */
  private ending = Ending.None;

  constructor(
    cells: RuleCells,
    readonly id: number,
    readonly number: number,
    private readonly action: CheckedSwitch,
    readonly liveAt: number,
    readonly signals: readonly Signal[],
  ) {
    super(cells);
    this.name = action.name;
    this.in = action.in;
    this.comesBack = action.comesBack;
    this.carries = action.carry;
    this.condition = new Condition(cells, action.name);
    this.on = this.condition.at;
    this.styleKind = KINDS[action.style];
    this.styleAt = cells.byte("style", this.styleKind);
    this.tapUntil = action.mayBeEither ? cells.float("tapUntil") : -1;
    this.by = cells.place("by", signals);
  }

  get parts(): SourceRule[] {
    return this.sources;
  }
  /** The name of its `oneOf`. */
  get group(): string | undefined {
    return this.action.oneOf;
  }
  get startsOn(): boolean {
    return this.action.startsOn;
  }
  get pulses(): boolean {
    return this.repeater !== null && this.repeater.isPulsing;
  }

  /** From now on presses may rise and fall at one moment. */
  keepInstantPresses(): void {
    if (this.instantPresses >= 0) return;
    this.instantPresses = this.cells.byte("blips");
    this.instantBy = this.cells.place("blipBy", this.signals);
  }

  /** From now on beginning is distinguished from coming back. */
  begins(beginning: StartGuard): void {
    this.guards.push(beginning);
    this.keepFresh();
  }

  /** From now on a press that has just begun is known. */
  keepFresh(): void {
    if (this.fresh < 0) this.fresh = this.cells.byte("fresh");
  }

  private refuses(s: SeatState): boolean {
    const { guards: beginnings } = this;
    for (let n = 0; n < beginnings.length; n++) if (beginnings[n]!.refuses(s)) return true;
    return false;
  }

  /** Whether a press would turn it on now: a key's, or the game's. */
  mayBegin(s: SeatState, isDriven: boolean): boolean {
    const { style, needs } = this;
    const live = s.b[this.liveAt];
    if ((s.b[this.on] === 1 && !this.canRenew) || !(isDriven ? live !== Live.Hidden : live === Live.Yes))
      return false;
    if (needs !== null && !needs.hold(s)) return false;
    return (style === null || style.turnsOn(s)) && !this.refuses(s);
  }

  /** Whether a press of hands has not been evaluated yet. */
  isRising(s: SeatState): boolean {
    const isBlip = this.instantPresses >= 0 && (s.b[this.instantPresses]! & 1) === 1;
    return s.b[this.up] === 0 && (isBlip || this.isHeld(s));
  }

  /** Whether a press of hands waits for its needs. */
  isWaiting({ b }: SeatState): boolean {
    return b[this.up] === 1 && this.fresh >= 0 && b[this.fresh] === Fresh.Yes;
  }

  /** Whether a press begins it anew while it is on. */
  private get canRenew(): boolean {
    return this.anew !== null && this.style === null;
  }

  /** Whether a press holds it that was neither refused nor spent. */
  isHeld(s: SeatState): boolean {
    const { anew } = this;
    return anew !== null ? anew.holds(s) : s.b[this.down]! > 0 && s.b[this.awaitingRelease] === 0;
  }

  /** Applies a kept press: for as long as it is held, or for this moment only. `null`: the game's own. */
  pressKept(s: SeatState, signal: Signal | null): void {
    s.i[this.by] = signal === null ? NOBODY : signal.id;
    if (signal === null) {
      if (this.driver!.isDown(s)) this.driver!.renew(s);
      else this.pressForAnInstant(s, null);
    } else {
      const isDown = this.anew === null ? s.b[this.down]! > 0 : this.anew.renew(s, signal);
      if (!isDown) this.pressForAnInstant(s, signal);
      s.b[this.awaitingRelease] = 0;
    }
    s.markSwitch(this.rank);
  }

  press(s: SeatState, signal: Signal, source: SourceRule): void {
    const { anew } = this;
    if (anew !== null) anew.press(s, source, !isShowing(s));
    if (s.b[this.down]!++ > 0 && anew === null) return;
    s.i[this.by] = signal.id;
    s.markSwitch(this.rank);
  }

  release(s: SeatState, source: SourceRule): void {
    const { b } = s;
    const { anew } = this;
    const left = --b[this.down]!;
    if (anew !== null) {
      s.markSwitch(this.rank);
      if (anew.isNew(s, source) && !isShowing(s)) {
        anew.refuse(s, this.sources.indexOf(source));
        this.pressForAnInstant(s, source.signals[source.signals.length - 1]!);
      }
      return;
    }
    if (left > 0) return;
    s.markSwitch(this.rank);
    // An axis went up and down again in one event: the press has not been evaluated yet, and counts all the same.
    if (this.instantPresses >= 0 && b[this.up] === 0 && b[this.awaitingRelease] === 0)
      this.pressForAnInstant(s, this.signals[s.i[this.by]!]!);
  }

  /** A press that rises and falls at this moment: both count. */
  pressForAnInstant(s: SeatState, signal: Signal | null): void {
    s.b[this.instantPresses]! += 2;
    s.i[this.instantBy] = signal === null ? NOBODY : signal.id;
    s.noteBlip(this.rank);
    s.markSwitch(this.rank);
  }

  playInstantPress(s: SeatState): boolean {
    const { b, i } = s;
    const left = --b[this.instantPresses]!;
    const rises = (left & 1) === 1;
    if (rises && (b[this.down] === 0 || this.anew !== null)) i[this.by] = i[this.instantBy]!;
    // While it is up already, it is a press of its own all the same.
    if (rises && this.anew !== null && b[this.up] === 1 && i[this.instantBy] !== NOBODY)
      b[this.anew.instant] = 1;
    s.markSwitch(this.rank);
    return left === 0;
  }

  consumeNews(): boolean {
    return this.keeper !== null && this.keeper.consumeNews();
  }

  take(s: SeatState): boolean {
    return this.keeper !== null && this.keeper.take(s);
  }

  /** Applies the signal's change through its style and conditions. */
  update(s: SeatState): void {
    const { b } = s;
    const { style, needs, driver } = this;
    const needsHold = needs === null || needs.hold(s);
    const isAble = needsHold && b[this.liveAt] === Live.Yes;
    const isBlip = this.instantPresses >= 0 && (b[this.instantPresses]! & 1) === 1;
    const isDriven = isBlip && s.i[this.instantBy] === NOBODY;
    const { anew } = this;
    const isDown = anew === null ? b[this.down]! > 0 : anew.holds(s);
    let up = isDown || (isBlip && !isDriven) ? 1 : 0;
    if (b[this.awaitingRelease] === 1) {
      if (up === 0) b[this.awaitingRelease] = 0;
      up = 0;
    }
    // A held key that a mode shows again is not a press, and a binding taken away is not a release.
    const isShown = isShowing(s);
    const edge = isShown ? 0 : up - b[this.up]!;
    if (s.cause === Cause.Bindings && up === 0 && style !== null) style.cancel(s);
    if (edge > 0) {
      if (this.canRenew && b[this.on] === 1) up = isAble && !this.renew(s) ? 0 : 1;
      else up = this.rise(s, needsHold, isAble);
      if (up === 0) this.awaitRelease(s);
    }
    if (anew !== null) up = this.pressAnew(s, anew, edge > 0, up, needsHold, isAble);
    if (edge > 0) {
      // Its style has heard of it.
    } else if (edge < 0 && style !== null) style.release(s, isAble && b[this.on] === 1);
    const wanted = style === null ? up : style.wants(s, up);
    if (!needsHold) {
      if (style !== null) style.fail(s);
      if (!needs!.resumes(s) && up === 1) {
        this.spend(s);
        up = 0;
      }
    }
    b[this.up] = up;
    let on = isAble ? (style === null ? up : style.wants(s, up)) : 0;
    // Nearly always nothing drives it.
    if (driver !== null && ((s.i[driver.reasons]! | b[driver.press]!) !== 0 || isDriven))
      on = driver.add(s, on, needsHold, isDriven);
    if (on === b[this.on]) {
      // It was told off, since it began anew.
      if (b[this.reported] !== on) s.markChanged(this.id);
      return;
    }
    // What undoes itself at once is announced all the same: first on, then off.
    if (on === 0 && !needsHold && this.fresh >= 0 && b[this.fresh] === Fresh.Begun) {
      s.updateLater(this.rank);
      return;
    }
    if (on === 1 && this.fresh >= 0 && b[this.fresh] === Fresh.Yes) {
      // A press that its needs allow only now begins now.
      if ((edge <= 0 && this.refuses(s)) || (this.exclusive !== null && this.exclusive.isBeaten(s))) {
        this.spendAll(s);
        return;
      }
      this.begin(s);
    }
    if (on === 0) this.ending = this.endOf(s, needsHold, wanted, edge);
    this.condition.set(s, on);
    s.markChanged(this.id);
    if (on === 1 && this.exclusive !== null) this.exclusive.turnOthersOff(s);
  }

  /** Presses beside the one by which its signal rose. Returns the signal. */
  private pressAnew(
    s: SeatState,
    anew: Renewal,
    isRisen: boolean,
    up: number,
    needsHold: boolean,
    isAble: boolean,
  ): number {
    const { b } = s;
    let isFirst = isRisen;
    if (b[anew.instant] === 1) {
      b[anew.instant] = 0;
      this.pressAgain(s, needsHold, isAble);
    }
    for (let source = anew.take(s); source >= 0; source = anew.take(s)) {
      if (isFirst) {
        // The signal rose by it.
        isFirst = false;
        if (up === 0) anew.refuse(s, source);
        continue;
      }
      const counts = up === 0 ? this.rise(s, needsHold, isAble) === 1 : this.pressAgain(s, needsHold, isAble);
      if (counts) up = 1;
      else anew.refuse(s, source);
    }
    const newest = anew.newest(s);
    const isInstant = (b[this.instantPresses]! & 1) === 1;
    if (newest >= 0 && !isInstant) {
      const { signals } = this.sources[newest]!;
      s.i[this.by] = signals[signals.length - 1]!.id;
    }
    return newest < 0 && !isInstant ? 0 : up;
  }

  /** A press while its signal is up. False if it is refused, which changes nothing of what is on. */
  private pressAgain(s: SeatState, needsHold: boolean, isAble: boolean): boolean {
    const { b } = s;
    const isOff = b[this.on] === 0;
    // Off since something fails, a press of its own is kept or nothing, where presses are kept.
    if (this.style !== null || (isOff && !isAble && this.keeper !== null))
      return this.rise(s, needsHold, isAble) === 1;
    return isOff || !isAble || this.renew(s);
  }

  /** A press of the game's while it is on. False if it is refused. */
  renewDriven(s: SeatState, isAble: boolean): boolean {
    if (this.anew === null || s.b[this.on] === 0 || !isAble) return true;
    return this.renew(s, true);
  }

  /** Begins anew. False if that is refused. */
  private renew(s: SeatState, isDriven = false): boolean {
    if (this.refuses(s)) {
      this.keep(s, isDriven);
      return false;
    }
    if (this.fresh >= 0) this.begin(s);
    if (this.exclusive !== null) this.exclusive.pressed(s);
    s.b[this.anew!.begins] = 1;
    s.markChanged(this.id);
    return true;
  }

  /** A press that was refused counts no more until it is let go. */
  private awaitRelease(s: SeatState): void {
    if (this.anew === null) s.b[this.awaitingRelease] = 1;
  }

  /** Its signal rose. Returns the signal: 0 if the press is refused. */
  private rise(s: SeatState, needsHold: boolean, isAble: boolean): number {
    const { b } = s;
    const { style, keeper, driver } = this;
    // If the game keeps it on, the press is like a second key, and changes only the latch.
    const isOff =
      (style === null || style.turnsOn(s)) && !(driver !== null && needsHold && driver.keepsOn(s));
    // Muted, a press is kept or nothing: what is latched stays so.
    if (!isOff && style !== null && b[this.liveAt] !== Live.Yes) return 0;
    if (isOff && (isAble ? this.refuses(s) : keeper !== null)) {
      this.keep(s, false);
      if (isAble || !this.waits(s)) return 0;
    }
    if (isOff && this.fresh >= 0) b[this.fresh] = Fresh.Yes;
    if (this.exclusive !== null) this.exclusive.pressed(s);
    if (style !== null) style.press(s, needsHold);
    return 1;
  }

  /** Keeps a press that cannot begin; not one that a mode hides. */
  private keep(s: SeatState, isDriven: boolean): void {
    if (this.keeper !== null && s.b[this.liveAt] !== Live.Hidden) this.keeper.keep(s, isDriven);
  }

  /** Whether a press of it waits, held, for what is missing: to go live where it carries keys over, or needs alone. */
  private waits(s: SeatState): boolean {
    const { needs } = this;
    if (s.b[this.liveAt] !== Live.Yes) return this.carries;
    return needs !== null && needs.waits && needs.resumes(s);
  }

  /** The game presses it while it is off. False if that is refused. */
  riseDriven(s: SeatState, isAble: boolean): boolean {
    const isHidden = s.b[this.liveAt] === Live.Hidden;
    if (isHidden && !this.carries) return false;
    s.i[this.by] = NOBODY;
    if (isAble ? this.refuses(s) : this.keeper !== null) {
      this.keep(s, true);
      if (isAble || !this.waits(s)) return false;
    }
    // Hidden, what hands keep on comes back, which is no beginning.
    if (this.fresh >= 0 && !(isHidden && this.isKeptByHands(s))) s.b[this.fresh] = Fresh.Yes;
    if (this.exclusive !== null) this.exclusive.pressed(s);
    return true;
  }

  drive(s: SeatState, reason: number, _way: number, x: number): void {
    this.driver!.drive(s, reason, x === 1);
  }

  drivenBy({ i }: Pick<SeatState, "i">): number {
    return this.driver === null ? 0 : i[this.driver.reasons]!;
  }

  /** The game's press has ended without turning it on. */
  letGo(s: SeatState): void {
    if (this.fresh >= 0 && !this.isKeptByHands(s)) s.b[this.fresh] = Fresh.No;
  }

  private isKeptByHands(s: SeatState): boolean {
    return s.b[this.up] === 1 || (this.style !== null && !this.style.isOff(s));
  }

  private begin(s: SeatState): void {
    const { guards: beginnings } = this;
    s.b[this.fresh] = Fresh.Begun;
    for (let n = 0; n < beginnings.length; n++) beginnings[n]!.begin(s);
  }

  /** How it turns off in this event. */
  private endOf({ b, cause }: SeatState, needsHold: boolean, wanted: number, edge: number): Ending {
    // A loss that takes its own press is no need that failed, though what it needs be lost as well.
    if (cause === Cause.Lost && wanted === 0) return Ending.Lost;
    if (b[this.liveAt] !== Live.Hidden && !needsHold) return Ending.Needs;
    const known = ENDINGS[cause];
    if (known !== Ending.None) return known;
    return edge > 0 ? Ending.Pressed : Ending.Released;
  }

  /** Turns it off until it is pressed again. */
  spend(s: SeatState): void {
    const { b } = s;
    b[this.latch] = Latch.Off;
    b[this.up] = 0;
    if (this.anew !== null) this.anew.spendAll(s);
    else if (b[this.down]! > 0) b[this.awaitingRelease] = 1;
  }

  /** The same, including the game's press. */
  private spendAll(s: SeatState): void {
    this.spend(s);
    if (this.driver !== null) this.driver.spend(s);
  }

  /** The game sets it: latches a toggle or an either; a hold it can only turn off. Only its needs are checked. */
  setTo(s: SeatState, on: number): void {
    const { style, needs } = this;
    if (on === 0) {
      if (style === null) this.spendAll(s);
      else this.spend(s);
    } else if (style === null || (needs !== null && !needs.hold(s))) return;
    else {
      s.b[this.latch] = Latch.Latched;
      if (this.fresh >= 0) s.b[this.fresh] = Fresh.No;
      if (this.exclusive !== null) this.exclusive.pressed(s);
    }
    s.markSwitch(this.rank);
  }

  /** Another switch of its `oneOf` has taken its place. */
  turnOff(s: SeatState): void {
    this.spendAll(s);
    this.ending = Ending.OneOf;
    this.condition.set(s, 0);
    s.markChanged(this.id);
  }

  /** A hidden source that was held has been released. */
  cancelHidden(s: SeatState): void {
    if (this.style !== null && s.b[this.down] === 0 && !this.isHeldHidden(s)) this.style.cancel(s);
    s.markSwitch(this.rank);
  }

  /** Whether another of its sources is held while a mode hides it. */
  private isHeldHidden(s: SeatState): boolean {
    const { sources } = this;
    for (let n = 0; n < sources.length; n++) if (sources[n]!.isDown(s)) return true;
    return false;
  }

  /** A device is lost: presses kept from it are dropped. */
  lose(s: SeatState, isLost: (signal: Signal) => boolean): void {
    if (this.keeper !== null) this.keeper.lose(s, isLost);
  }

  /** Whether it keeps presses made while it is muted, which its entries do not see. */
  keepsPresses({ b }: SeatState): boolean {
    return this.keeper !== null && b[this.liveAt] !== Live.Hidden;
  }

  /** Resets it to its start; what is held must be pressed again. */
  reset(s: SeatState): void {
    for (const source of this.sources) source.forget(s);
    this.spend(s);
    if (this.style !== null) this.style.start(s);
    if (this.fresh >= 0) s.b[this.fresh] = Fresh.No;
    if (this.keeper !== null) this.keeper.dropAll(s);
    if (this.driver !== null) this.driver.reset(s);
    if (this.repeater !== null) this.repeater.reset(s);
    s.markSwitch(this.rank);
  }

  /** It became live, or stopped being live. */
  liveChanged(s: SeatState, was: Live): void {
    const { keeper, driver, exclusive: rivals, comesBack } = this;
    const live = s.b[this.liveAt]! as Live;
    const isOff = s.b[this.reported] === 0;
    if (live !== Live.Yes) {
      for (const source of this.sources) source.forget(s);
      if (this.repeater !== null && isOff) this.repeater.drop(s);
      // A press that it carries over from a mode into a mute has done nothing yet.
      if (!comesBack && was === Live.Yes) this.spend(s);
    }
    if (live === Live.Hidden) {
      // A mode that hides it drops kept presses; a mute does not, and silences only the player.
      if (keeper !== null) keeper.dropAll(s);
      if (driver !== null && !comesBack) driver.spend(s);
    } else if (rivals !== null && (live === Live.Yes || (isOff && driver !== null && driver.isDown(s))))
      rivals.pressed(s);
    s.markSwitch(this.rank);
  }

  /** Makes its state visible to the game. True if that has changed. */
  settle(s: SeatState): boolean {
    const { b } = s;
    const on = b[this.on]!;
    if (this.fresh >= 0 && b[this.fresh] === Fresh.Begun) b[this.fresh] = Fresh.No;
    if (this.anew !== null && b[this.anew.begins] === 1) {
      b[this.anew.begins] = 0;
      // Off first, then on; what needs it sees neither.
      if (on === 1 && b[this.reported] === 1) {
        this.ending = Ending.Pressed;
        s.updateLater(this.rank);
        return this.report(s, 0);
      }
    }
    return b[this.reported] !== on && this.report(s, on);
  }

  /** Makes it visible that it is on or off. */
  private report(s: SeatState, on: number): true {
    const { b, f, i, clock } = s;
    b[this.reported] = on;
    const step = clock[Clock.Step]!;
    if (i[this.changedIn] !== step) {
      i[this.changedIn] = step;
      b[this.changesInStep] = i[this.presses] = 0;
    }
    if (on === 0) {
      b[this.changesInStep]! |= StepChange.Off;
      b[this.endedBy] = this.ending;
      f[this.lastMs] = clock[Clock.Now]! - f[this.onAt]!;
      if (this.repeater !== null) this.repeater.end(s, this.ending === Ending.Released);
      return true;
    }
    b[this.changesInStep]! |= StepChange.On;
    i[this.presses]!++;
    f[this.onAt] = clock[Clock.Now]!;
    if (this.repeater !== null) this.repeater.begin(s);
    return true;
  }

  /** Whether it turned on, or off, within this step. */
  hasChanged({ i, b, clock }: SeatState, turn: StepChange): boolean {
    return i[this.changedIn] === clock[Clock.Step] && (b[this.changesInStep]! & turn) !== 0;
  }

  isOn({ b }: SeatState): boolean {
    return b[this.reported] === 1;
  }

  /** After a change of tables. With another style what is on stays on, as if latched; a hold is on only while its key is held. */
  recount({ b }: SeatState): void {
    const kind = this.styleKind;
    const before = b[this.styleAt]!;
    if (before === kind) return;
    b[this.styleAt] = kind;
    const latch = b[this.latch]!;
    const wasOn =
      before === StyleKind.Hold
        ? b[this.up] === 1
        : latch === Latch.Latched || (latch === Latch.Held && b[this.up] === 1);
    b[this.latch] = wasOn && kind !== StyleKind.Hold ? Latch.Latched : Latch.Off;
    if (kind === StyleKind.Hold && !wasOn && b[this.down]! > 0) {
      b[this.awaitingRelease] = 1;
      b[this.up] = 0;
    }
  }
}

/** Whether a mode, a mute or other bindings show what is held: that is not a press. */
function isShowing({ cause }: SeatState): boolean {
  return cause === Cause.Mode || cause === Cause.Mute || cause === Cause.Bindings;
}
