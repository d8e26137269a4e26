/** Which actions are live: modes, what they cover, and mutes. In: what the game tells. Out: live actions, hidden parts. */
import type { CheckedMode } from "../../plan/checked.js";
import { Rule, type RuleCells } from "../cells.js";
import type { Compiler, Feature } from "../compile.js";
import { EventKind } from "../queue.js";
import type { SeatState } from "../state.js";
import { Live, type Action, type CommandRule, type Component, type SituationRule } from "../tables.js";

export class Mode extends Rule {
  /** 0 while it is off; otherwise modes entered later have the higher number. */
  readonly level = this.cells.int("level");
  /** Controls that its actions use: what `covers: "same"` hides from modes below. */
  readonly controls = new Set<number>();

  constructor(
    cells: RuleCells,
    readonly name: string,
    readonly covers: CheckedMode["covers"],
  ) {
    super(cells);
  }
}

/** An action as modes and mutes see it. */
interface Affected {
  readonly action: Action;
  readonly modes: readonly Mode[];
  /** Reasons for which it is muted, one bit each. */
  readonly muted: number;
  /** Its parts that a mode may hide, and the modes that do so when they are above. */
  readonly hideable: readonly { readonly part: Component; readonly hiders: readonly Mode[] }[];
}

export class Situation implements SituationRule {
  readonly modes: readonly Mode[];
  private readonly start: readonly Mode[];
  private readonly top: number;
  private readonly affected: readonly Affected[];
  private readonly isClosed: boolean;

  constructor({ cells, plan, actions, slots }: Compiler) {
    // A seat that does not play has no slots, and none of its actions is live.
    this.isClosed = plan.seated && slots.length === 0;
    this.modes = plan.modes.map(({ name, covers }) => new Mode(cells.rule(`mode ${name}`), name, covers));
    const byName = new Map(this.modes.map((mode) => [mode.name, mode]));
    this.start = plan.start.map((name) => byName.get(name)!);
    this.top = cells.rule("modes").int("top");
    for (const { in: names, parts } of actions)
      for (const name of names)
        for (const { controls } of parts)
          for (const control of controls) byName.get(name)!.controls.add(control);
    const hiding = this.modes.filter(({ covers }) => covers === "same");
    this.affected = actions.map((action) => ({
      action,
      modes: action.in.map((name) => byName.get(name)!),
      muted: cells.rule(`mutes ${action.name}`).int("reasons"),
      hideable: hideableOf(action, hiding),
    }));
  }

  enter(s: SeatState, mode: number): void {
    s.i[this.modes[mode]!.level] = ++s.i[this.top]!;
    this.refresh(s);
  }

  leave(s: SeatState, mode: number): void {
    s.i[this.modes[mode]!.level] = 0;
    this.refresh(s);
  }

  mute(s: SeatState, action: number, reasons: number): void {
    const one = this.affected[action]!;
    s.i[one.muted]! |= reasons;
    this.refreshOne(s, one);
  }

  unmute(s: SeatState, action: number, reasons: number): void {
    const one = this.affected[action]!;
    s.i[one.muted]! &= ~reasons;
    this.refreshOne(s, one);
  }

  reset(s: SeatState): void {
    s.i[this.top] = 0;
    for (const { level } of this.modes) s.i[level] = 0;
    this.startModes(s);
    for (const { muted } of this.affected) s.i[muted] = 0;
    this.refresh(s);
  }

  /** Enters the start modes if no mode is on. */
  startModes(s: SeatState): void {
    if (this.isAnyOn(s)) return;
    for (const { level } of this.start) s.i[level] = ++s.i[this.top]!;
  }

  hasLeftAll(s: SeatState): boolean {
    return this.modes.length > 0 && !this.isAnyOn(s);
  }

  private isAnyOn({ i }: SeatState): boolean {
    return this.modes.some(({ level }) => i[level]! > 0);
  }

  /** Recomputes what is live and what is hidden. */
  refresh(s: SeatState): void {
    for (const one of this.affected) this.refreshOne(s, one);
  }

  private refreshOne(s: SeatState, { action, modes, muted, hideable }: Affected): void {
    const level = levelOf(s, modes);
    for (const { part, hiders } of hideable) {
      const hidden = level >= 0 && levelOf(s, hiders) > level ? 1 : 0;
      if (s.b[part.hiddenAt] === hidden) continue;
      s.b[part.hiddenAt] = hidden;
      part.hide(s, hidden);
    }
    const isShown = !this.isClosed && level >= 0 && !this.isCovered(s, level);
    const live = !isShown ? Live.Hidden : s.i[muted] === 0 ? Live.Yes : Live.Muted;
    const was = s.b[action.liveAt]! as Live;
    if (was === live) return;
    s.b[action.liveAt] = live;
    action.liveChanged(s, was);
  }

  /** The level of a mode among those that are on; 0 if it is off. */
  levelOf({ i }: Pick<SeatState, "i">, mode: number): number {
    return i[this.modes[mode]!.level]!;
  }

  /** Reasons for which an action is muted, one bit each. */
  mutes({ i }: Pick<SeatState, "i">, action: number): number {
    return i[this.affected[action]!.muted]!;
  }

  /** By action: the cell of its reasons, for made code. */
  get mutedAt(): number[] {
    return this.affected.map(({ muted }) => muted);
  }

  /** The names of the modes above the highest of an action's own; `undefined` if none of its own is on. */
  above(s: Pick<SeatState, "i">, action: number): string[] | undefined {
    const level = levelOf(s, this.affected[action]!.modes);
    if (level < 0) return undefined;
    const above = this.modes.filter((mode) => s.i[mode.level]! > level);
    return above.sort((mode, other) => s.i[mode.level]! - s.i[other.level]!).map(({ name }) => name);
  }

  private isCovered({ i }: SeatState, level: number): boolean {
    for (const mode of this.modes) if (mode.covers === "all" && i[mode.level]! > level) return true;
    return false;
  }
}

/** The level of the highest of these modes that is on; Infinity for an empty list, -1 if none is on. */
function levelOf({ i }: Pick<SeatState, "i">, modes: readonly Mode[]): number {
  if (modes.length === 0) return Infinity;
  let highest = 0;
  for (const { level } of modes) highest = Math.max(highest, i[level]!);
  return highest === 0 ? -1 : highest;
}

/** No mode is above itself, and nothing hides what is in none. */
function hideableOf({ in: own, parts }: Action, modes: readonly Mode[]): Affected["hideable"] {
  if (own.length === 0) return [];
  const others = modes.filter(({ name }) => !own.includes(name));
  return parts
    .filter(({ hiddenAt }) => hiddenAt >= 0)
    .map((part) => ({
      part,
      hiders: others.filter(({ controls }) => part.controls.some((control) => controls.has(control))),
    }))
    .filter(({ hiders }) => hiders.length > 0);
}

class Entering implements CommandRule {
  constructor(private readonly situation: Situation) {}

  apply(s: SeatState, mode: number): void {
    this.situation.enter(s, mode);
  }
}

class Leaving implements CommandRule {
  constructor(private readonly situation: Situation) {}

  apply(s: SeatState, mode: number): void {
    this.situation.leave(s, mode);
  }
}

class Muting implements CommandRule {
  constructor(private readonly situation: Situation) {}

  apply(s: SeatState, action: number, reasons: number): void {
    this.situation.mute(s, action, reasons);
  }
}

class Unmuting implements CommandRule {
  constructor(private readonly situation: Situation) {}

  apply(s: SeatState, action: number, reasons: number): void {
    this.situation.unmute(s, action, reasons);
  }
}

export const modes: Feature = {
  link: (compiler) => {
    const own = new Situation(compiler);
    const { commands } = compiler;
    compiler.situation = own;
    compiler.resets.unshift(own);
    commands[EventKind.Enter] = new Entering(own);
    commands[EventKind.Leave] = new Leaving(own);
    commands[EventKind.Mute] = new Muting(own);
    commands[EventKind.Unmute] = new Unmuting(own);
  },
};
