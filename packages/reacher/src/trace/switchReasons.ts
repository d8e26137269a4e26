/** Why a switch is on or not, after one event. In: the seat's cells before and after it, and its cause. Out: a reason. Pure. */
import { bounceWhy } from "../engine/bounce.js";
import { hasFallen, hasRisen, ms, nowOf, because, type Change, type Because } from "../engine/explaining.js";
import type { Chords } from "../engine/gestures/all.js";
import { Gesture } from "../engine/gestures/gesture.js";
import { reasonNames } from "../engine/reasons.js";
import type { Signal } from "../engine/signals.js";
import { situationOf } from "../engine/situations/situationOf.js";
import type { Entry } from "../engine/switches/entry.js";
import { Buffer } from "../engine/switches/buffer.js";
import { Needs } from "../engine/switches/needs.js";
import { BeginsIf } from "../engine/switches/beginsIf.js";
import { OneOf } from "../engine/switches/oneOf.js";
import { Cooldown } from "../engine/switches/cooldown.js";
import { Ending, type Switch } from "../engine/switches/switch.js";
import { Live, type Action } from "../engine/tables.js";
import { WaitingEntry } from "../engine/switches/waits.js";
import { whyOf } from "../engine/why.js";

/** The cause of a change: an event of a control, a command of the game, a lost device, or a timer. */
export interface Cause {
  readonly control?: string;
  readonly command?: string;
  /** The switch that the game sets. */
  readonly set?: string;
  readonly timer?: number;
  /** The game drives an action, or lets it go. */
  readonly drive?: { readonly action: string; readonly isOn: boolean; readonly reason: string };
}

/** The reason that a switch has to give for an event; `undefined` if it has none. */
export function reasonOf(rule: Switch, change: Change, cause: Cause): Because | undefined {
  const { before, after } = change;
  const was = before.b[rule.reported] === 1;
  const is = after.b[rule.reported] === 1;
  const said = ofSources(rule, change);
  const isBlip = before.f[rule.onAt] !== after.f[rule.onAt];
  const drive = cause.drive?.action === rule.name ? cause.drive : undefined;
  if (is !== was || (isBlip && !is)) {
    const on = said.find(({ outcome }) => outcome === "on");
    if (!is && was) {
      const off = wentOff(rule, change, cause);
      const isByPress = off.rule === "released" || off.rule === "pressed-again";
      return isByPress && on?.rule === "waited" ? { ...off, text: on.text } : off;
    }
    if (drive?.isOn === true) return because("on", "driven", `driven: ${drive.reason}`);
    if (cause.set === rule.name) return because("on", "set", "set on by the game");
    return on ?? cameBack(rule, change, cause);
  }
  if (is && was && isBlip) {
    const on = said.find(({ outcome }) => outcome === "on") ?? cameBack(rule, change, cause);
    return because(
      "on",
      "anew",
      `${drive === undefined ? on.text : `driven: ${drive.reason}`}: it begins anew`,
    );
  }
  const { keeper } = rule;
  if (keeper instanceof Buffer && change.due === keeper.timer) {
    const why = blockerOf(rule, change)[1];
    return because(
      "nothing",
      "kept-over",
      `${why ?? "it is on already"}; kept for ${ms(keeper.bufferMs)}, and could not begin`,
    );
  }
  const refused =
    said.find(({ outcome }) => outcome !== "on") ??
    refusal(rule, said.length > 0 || (drive?.isOn === true && isNewlyDriven(rule, change)), change);
  if (refused !== undefined || change.due !== undefined) return refused;
  for (const { signals } of rule.sources)
    for (const signal of signals) {
      const held = bounceWhy(signal, change);
      if (held !== undefined) return held;
    }
  return undefined;
}

/** The outcome of the event in each of its entries and gestures. */
function ofSources(rule: Switch, change: Change): readonly Because[] {
  let said: Because[] | undefined;
  for (const source of rule.sources) {
    const word =
      source instanceof Gesture ? ofGesture(rule, source, change) : ofEntry(rule, source as Entry, change);
    if (word !== undefined) (said ??= []).push(word);
  }
  return said ?? NOTHING_SAID;
}

/** The outcome of a press in a plain entry. */
function ofEntry(rule: Switch, entry: Entry, change: Change): Because | undefined {
  const { signal } = entry;
  const { before, after, due } = change;
  const { name } = signal;
  const waiting = entry instanceof WaitingEntry ? entry : undefined;
  const pending = waiting === undefined ? 0 : before.b[waiting.waitingCount]!;
  const isOver = waiting !== undefined && after.b[waiting.waitingCount]! < pending;
  const fell = before.b[signal.up] === 1 && after.b[signal.up] === 0;
  if (isOver && (due === waiting.timer || fell))
    return because("on", "waited", `${name} waited, and no gesture claimed it`);
  if (!hasRisen(signal, change)) return undefined;
  const unseen = notSeen(rule, entry.hiddenAt, signal, change);
  if (unseen?.rule === "muted" && isNewlyKept(rule, change))
    return keptFor(rule.keeper as Buffer, "muted", unseen.text);
  if (unseen !== undefined && !(unseen.rule !== "taken" && rule.carries)) return unseen;
  if (waiting !== undefined && after.b[waiting.waitingCount]! > pending)
    return because("counts", "waits", `${name} waits: ${namesOf(waiting.rivals)} may claim it`);
  const claimer = waiting?.rivals.find(({ fired }) => before.b[fired] === 0 && after.b[fired] === 1);
  if (claimer !== undefined)
    return because("nothing", "claimed", `${name} is claimed by ${namesOf([claimer])}`);
  if (before.b[rule.down]! > 0 && rule.anew === null)
    return because("nothing", "second-key", `${name} is a second key: another of its keys is down already`);
  return because("on", "pressed", `${name} pressed`);
}

/** The outcome of a press or a release in a gesture. */
function ofGesture(rule: Switch, gesture: Gesture, change: Change): Because | undefined {
  const why = whyOf(gesture);
  const due = why.due?.(gesture, change);
  if (due !== undefined) return due;
  for (const signal of gesture.signals) {
    if (change.before.b[signal.up] === 1 && change.after.b[signal.up] === 0) {
      const said = why.released?.(gesture, signal, change);
      if (said !== undefined) return said;
    }
    if (hasRisen(signal, change))
      return notSeen(rule, gesture.hiddenAt, signal, change) ?? why.pressed(gesture, signal, change);
    if (signal.channel === null && change.before.b[signal.up] === 1 && isSecondKey(signal, change))
      return because("nothing", "second-key", `second key of a direction already held: ${signal.name}`);
  }
  return undefined;
}

/** Why a press does not reach the action at all. */
function notSeen(rule: Switch, hiddenAt: number, signal: Signal, change: Change): Because | undefined {
  const { after, tables } = change;
  if (after.b[rule.liveAt] !== Live.Yes) return notLive(rule, change);
  if (hiddenAt >= 0 && after.b[hiddenAt] === 1)
    return because("nothing", "hidden", `${modeAbove(rule, change)} uses ${signal.name}, which hides it`);
  const owner = (tables.chords as Chords | null)?.consumerOf(after, signal) ?? -1;
  if (owner < 0 || tables.switches[owner] === rule || signal.channel === null) return undefined;
  return because("nothing", "taken", `${signal.name} is taken by ${tables.switches[owner]!.name}`);
}

/** The action that is not live: itself, or the movement whose result fell. */
function behindOf(rule: Switch, change: Change): Action {
  if (change.after.b[rule.liveAt] !== Live.Yes) return rule;
  const fallen = signalsOf(rule).find((signal) => signal.isResult && hasFallen(signal, change));
  const name = fallen?.name.split(".")[0];
  return change.tables.actions.find((action) => action.name === name) ?? rule;
}

function notLive(rule: Action, change: Change): Because {
  const { after, tables } = change;
  const reasons = reasonNames(after, tables, situationOf(tables)!.mutes(after, rule.number));
  if (reasons.length > 0) return because("nothing", "muted", `muted: ${reasons.join(", ")}`);
  return inNoMode(rule, change);
}

/** Which mode keeps it from being live. */
function inNoMode(rule: Action, change: Change): Because {
  const above = modeAbove(rule, change);
  if (above === "") return because("nothing", "mode-off", `${rule.in.join(" and ")} is not on`);
  return because("nothing", "covered", `${above} covers it`);
}

/** The modes above the highest of the action's own; empty if none of its own is on. */
function modeAbove({ number }: Action, { after, tables }: Change): string {
  return situationOf(tables)!.above(after, number)?.join(" and ") ?? "";
}

/** Why it turned off: what the engine noted of it, which is what readings tell as `endedBy`. */
function wentOff(rule: Switch, change: Change, cause: Cause): Because {
  const { after, before } = change;
  const { control, command, drive } = cause;
  switch (after.b[rule.endedBy] as Ending) {
    case Ending.Lost:
      return because("off", "lost", `${command ?? "its device is lost"}: everything at rest`);
    case Ending.Muted:
    case Ending.Mode: {
      const behind = behindOf(rule, change);
      const isMute = (after.b[rule.endedBy] as Ending) === Ending.Muted;
      const { rule: why, text } = isMute ? notLive(behind, change) : inNoMode(behind, change);
      return because("off", why, behind === rule ? text : `${behind.name}: ${text}`);
    }
    case Ending.Needs:
      return because("off", "needs", `needs ${failingOf(rule, change) ?? "what it spent"}`);
    case Ending.OneOf: {
      const rivals = rule.exclusive instanceof OneOf ? rule.exclusive.others() : [];
      const rival = rivals.find(({ on, reported: was }) => after.b[on] === 1 && before.b[was] === 0);
      return because("off", "one-of", `${rival?.name ?? `another ${rule.group}`} came on`);
    }
    case Ending.Bindings:
      return because("off", "bindings", "its keys were changed");
    case Ending.Reset:
      return because("off", "reset", "reset");
    case Ending.Game:
      return because("off", "set", "set off by the game");
    case Ending.Pressed:
      return because("off", "pressed-again", `${control ?? pressedBy(rule, change)} pressed again`);
    default:
      if (drive?.action === rule.name) return because("off", "driven", `no longer driven: ${drive.reason}`);
      return because(
        "off",
        "released",
        control === undefined ? (command ?? "its press ended") : `${control} let go`,
      );
  }
}

/** Why an action that saw its press is not on. */
function refusal(one: Switch, wasPressed: boolean, change: Change): Because | undefined {
  if (!wasPressed) return undefined;
  const { after } = change;
  const { keeper } = one;
  const [rule, text] = blockerOf(one, change);
  if (keeper instanceof Buffer && after.b[keeper.isKept]! > 0) return keptFor(keeper, "kept", text!);
  if (rule !== undefined) return because("nothing", rule, text!);
  if (after.b[one.reported] === 1) return because("counts", "already-on", "it is on already");
  return because("nothing", "other", "another switch keeps it off");
}

/** What keeps a press from beginning: the rule, and its text. */
function blockerOf(one: Switch, change: Change): [rule: string, text: string] | [] {
  if (change.after.b[one.liveAt] !== Live.Yes) {
    const { rule, text } = notLive(one, change);
    return [rule, text];
  }
  const failing = failingOf(one, change);
  if (failing !== undefined) return ["needs", `needs ${failing}`];
  for (const beginning of one.guards) {
    if (beginning instanceof BeginsIf) {
      const missing = beginning.conditions.missing(change.after);
      if (missing.length > 0) return ["begins-if", `begins only if ${missing.join(" and ")}`];
    }
    const left = beginning instanceof Cooldown ? change.before.f[beginning.until]! - nowOf(change) : -1;
    if (left >= 0) return ["cooldown", `cools down ${ms(left)} more`];
  }
  return [];
}

function pressedBy(rule: Switch, { after }: Change): string {
  return rule.signals[after.i[rule.by]!]?.name ?? rule.name;
}

/** Shared, since most switches have nothing to report at most events. */
const NOTHING_SAID: readonly Because[] = [];

function keptFor({ bufferMs }: Buffer, rule: string, blocker: string): Because {
  return because("counts", rule, `${blocker}; kept for ${ms(bufferMs)} to begin later`);
}

/** Whether the press of this event is kept. */
function isNewlyKept({ keeper }: Switch, { before, after }: Change): boolean {
  if (!(keeper instanceof Buffer) || after.b[keeper.isKept] === 0) return false;
  return before.b[keeper.isKept] === 0 || before.f[keeper.since] !== after.f[keeper.since];
}

function cameBack(rule: Switch, change: Change, { command }: Cause): Because {
  const { before } = change;
  const { keeper } = rule;
  if (command === "reset") return because("on", "reset", "reset: it starts on");
  if (keeper instanceof Buffer && before.b[keeper.isKept]! > 0) {
    const waited = nowOf(change) - before.f[keeper.since]!;
    return because("on", "kept", `pressed ${ms(waited)} before, and kept until it may begin`);
  }
  if (before.b[rule.liveAt] !== Live.Yes)
    return because("on", "live-again", "it is live again, and was kept");
  return because("on", "needs-hold", "all that it needs is so, and it is still held");
}

/** Whether the game has just begun to drive it for a reason. */
function isNewlyDriven({ driver }: Switch, { before, after }: Change): boolean {
  return driver !== null && before.i[driver.reasons] !== after.i[driver.reasons];
}

/** The needs that fail. */
function failingOf({ needs }: Switch, { after }: Change): string | undefined {
  const missing = needs instanceof Needs ? needs.conditions.missing(after) : [];
  return missing.length === 0 ? undefined : missing.join(" and ");
}

/** Whether a key of this direction, held by another key already, was pressed in this event. */
function isSecondKey(direction: Signal, change: Change): boolean {
  return change.risen.some(({ channel }) => channel !== null && direction.controls.includes(channel.id));
}

function namesOf(gestures: readonly { readonly owner: { readonly name: string } }[]): string {
  return [...new Set(gestures.map(({ owner }) => owner.name))].join(" or ");
}

/** All signals that a switch listens to. */
export function signalsOf({ sources }: Switch): Signal[] {
  return sources.flatMap(({ signals }) => signals);
}
