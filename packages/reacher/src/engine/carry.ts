/**
 * Carries a seat's state over to other tables of the same plan: other slots, or a player's own keys. In: what was, and a
 * state that has just been made. Out: the state as if it had always been so.
 *
 * What is on stays on, what is held stays held where its control still does the same. A control that does something new
 * counts from its next press on.
 */
import { setDeadline } from "./deadlines.js";
import {
  EndInt,
  EntryInt,
  GestureFloat,
  GestureInt,
  HeadInt,
  MoverInt,
  SignalInt,
  StickInt,
  SwitchFloat,
  SwitchInt,
  TurnFloat,
} from "./layout.js";
import { endBits, oneMore } from "./keys.js";
import { showModes } from "./live.js";
import type { SeatState } from "./state.js";
import type { EndTable, GestureTable, MoverTable, SignalTable, StickTable, Tables } from "./tables.js";

/** A state as it was, with the tables that it was laid out by. */
export interface Before {
  readonly tables: Tables;
  readonly f: Float64Array;
  readonly i: Int32Array;
}

export function carryOver(from: Before, to: SeatState): void {
  carryHead(from, to);
  carrySituation(from, to);
  carryChannels(from, to);
  const sources = new Sources(from);
  for (const signal of to.tables.signal) if (signal.channel >= 0) carrySignal(from, to, sources, signal);
  for (const stick of to.tables.stick) carryStick(from, to, stick);
  for (const mover of to.tables.mover) carryMover(from, to, mover);
  for (const signal of to.tables.signal) if (signal.channel < 0) carryDirection(from, to, sources, signal);
  for (const gesture of to.tables.gesture) carryGesture(from, to, sources, gesture);
  carrySwitches(from, to, sources);
  to.tables.turn.forEach((turn, id) => copy(from.f, from.tables.turn[id]!.f, to.f, turn.f, TurnFloat.Size));
}

/** Finds in the old tables what stands for the same thing. */
class Sources {
  private readonly signals: ReadonlyMap<string, SignalTable>;

  constructor(private readonly from: Before) {
    this.signals = new Map(from.tables.signal.map((signal) => [keyOf(signal), signal]));
  }

  signal(signal: SignalTable): SignalTable | undefined {
    return this.signals.get(keyOf(signal)) ?? this.signals.get(signal.control);
  }

  /** The same end of the same mover, on the same control. */
  end(signal: SignalTable, end: EndTable): EndTable | undefined {
    return this.signal(signal)?.ends.find((one) => one.mover === end.mover && one.end === end.end);
  }

  /** The gesture of the same switch on the same controls; of several such, the one of the same place among them. */
  gesture(gesture: GestureTable, tables: Tables): GestureTable | undefined {
    const alike = likeness(gesture, tables);
    const own = tables.gesture.filter((one) => likeness(one, tables) === alike);
    const before = this.from.tables.gesture.filter((one) => likeness(one, this.from.tables) === alike);
    return before[own.indexOf(gesture)];
  }
}

/** What a gesture is, but for its times, which a player may have changed. */
function likeness({ switch: id, kind, taps, of }: GestureTable, tables: Tables): string {
  return [id, kind, taps, ...of.map((signal) => tables.signal[signal]!.control)].join(" ");
}

/** A direction is known by its name, a control by that and its threshold. */
function keyOf({ control, press, channel }: SignalTable): string {
  return channel < 0 ? control : `${control} ${press}`;
}

function copy(from: Float64Array, at: number, to: Float64Array, place: number, size: number): void;
function copy(from: Int32Array, at: number, to: Int32Array, place: number, size: number): void;
function copy(
  from: Float64Array | Int32Array,
  at: number,
  to: typeof from,
  place: number,
  size: number,
): void {
  for (let n = 0; n < size; n++) to[place + n] = from[at + n]!;
}

function carryHead({ i }: Before, to: SeatState): void {
  for (const at of [HeadInt.Started, HeadInt.Presses, HeadInt.LastDevice]) to.i[at] = i[at]!;
}

/** Flags, modes and mutes; which actions are live, and what is hidden, follows from them. */
function carrySituation({ tables, f, i }: Before, to: SeatState): void {
  const { tables: own } = to;
  copy(i, tables.factsAt, to.i, own.factsAt, tables.facts.size);
  tables.linger.forEach(({ deadline }, flag) =>
    carryDeadline(tables, f, deadline, to, own.linger[flag]!.deadline),
  );
  to.i[HeadInt.Modes] = i[HeadInt.Modes]!;
  copy(i, tables.stackAt, to.i, own.stackAt, i[HeadInt.Modes]!);
  copy(i, tables.mutesAt, to.i, own.mutesAt, tables.action.length);
  showModes(to);
}

function carryDeadline(tables: Tables, f: Float64Array, id: number, to: SeatState, own: number): void {
  if (id < 0 || own < 0) return;
  const at = f[tables.deadlinesAt + id]!;
  if (at < Infinity) setDeadline(to, own, at);
}

function carryChannels({ tables, f, i }: Before, to: SeatState): void {
  to.tables.channel.forEach((channel, id) => {
    const before = tables.channels.get(channel.name);
    if (before === undefined) return;
    const places = Math.min(channel.places, tables.channel[before]!.places);
    copy(f, tables.channel[before]!.f, to.f, channel.f, places);
    if (tables.hasAlls && to.tables.hasAlls) to.i[to.tables.takenAt + id] = i[tables.takenAt + before]!;
  });
}

function carrySignal(from: Before, to: SeatState, sources: Sources, signal: SignalTable): void {
  const before = sources.signal(signal);
  if (before === undefined) {
    // Nobody asked for this before: where it is down, it is no press.
    const { f: at } = to.tables.channel[signal.channel]!;
    if (to.f[at]! * signal.sign >= signal.press) to.i[signal.i + SignalInt.Up] = 1;
    return;
  }
  copy(from.i, before.i, to.i, signal.i, SignalInt.Size);
  to.f[signal.f] = from.f[before.f]!;
  for (const end of signal.ends) {
    const old = sources.end(signal, end);
    if (old === undefined || from.i[old.i + EndInt.Down] === 0) continue;
    to.i[end.i + EndInt.Down] = 1;
    if (to.i[end.i + EndInt.Hidden] === 0) to.i[end.moverAt + MoverInt.Keys]! += end.key;
    if (end.direction !== undefined) to.i[end.moverAt + MoverInt.Sources]! += oneMore(end.end);
  }
  for (const entry of signal.entries) {
    const old = before.entries.find((one) => one.switch === entry.switch);
    if (old === undefined) continue;
    const waits = old.deadline >= 0 && entry.deadline >= 0;
    to.i[entry.i + EntryInt.Down] = from.i[old.i + EntryInt.Down]!;
    for (const at of [EntryInt.Pending, EntryInt.PendingDown])
      if (waits) to.i[entry.i + at] = from.i[old.i + at]!;
    carryDeadline(from.tables, from.f, old.deadline, to, entry.deadline);
    if (to.i[entry.i + EntryInt.Down] === 1 && to.i[entry.i + EntryInt.Hidden] === 0)
      to.i[to.tables.switch[entry.switch]!.i + SwitchInt.Down]!++;
  }
}

function carryStick(from: Before, to: SeatState, stick: StickTable): void {
  const nameOf = (tables: Tables, one: StickTable) =>
    tables.channel.find(({ f, places }) => one.rawX >= f && one.rawX < f + places)!;
  const channel = nameOf(to.tables, stick);
  const before = from.tables.stick.find(
    (one) =>
      one.mover === stick.mover &&
      one.turn === stick.turn &&
      nameOf(from.tables, one).name === channel.name &&
      one.rawX - nameOf(from.tables, one).f === stick.rawX - channel.f,
  );
  if (before === undefined) return;
  to.i[stick.i + StickInt.Sector] = from.i[before.i + StickInt.Sector]!;
  if (stick.directionSignals === undefined) return;
  const ends = from.i[before.i + StickInt.Ends]!;
  to.i[stick.i + StickInt.Ends] = ends;
  for (let end = 0; end < 4; end++)
    if ((ends & (1 << end)) !== 0 && stick.directionSignals[end] !== undefined)
      to.i[stick.moverAt + MoverInt.Sources]! += oneMore(end);
}

function carryMover(from: Before, to: SeatState, mover: MoverTable): void {
  const before = from.tables.mover.find(({ name }) => name === mover.name)!;
  copy(from.f, before.f, to.f, mover.f, Math.min(before.floats, mover.floats));
  for (const at of [MoverInt.Face, MoverInt.Settling, MoverInt.Gait, MoverInt.KeyDevice])
    to.i[mover.i + at] = from.i[before.i + at]!;
  copy(from.i, before.i + MoverInt.Newest, to.i, mover.i + MoverInt.Newest, 8);
  to.i[mover.i + MoverInt.Winner] = from.i[before.i + MoverInt.Winner]!;
  carryDeadline(from.tables, from.f, before.settle, to, mover.settle);
  carryDeadline(from.tables, from.f, before.easing, to, mover.easing);
}

/** A direction is up while any source of it is; what its entries saw before, they still see. */
function carryDirection(from: Before, to: SeatState, sources: Sources, signal: SignalTable): void {
  const before = sources.signal(signal);
  const up = to.tables.mover.some((mover) =>
    [0, 1, 2, 3].some(
      (end) =>
        (to.i[mover.i + MoverInt.Sources]! & endBits(end)) !== 0 &&
        directionOf(to.tables, mover, end) === signal,
    ),
  );
  if (before === undefined || !up) {
    to.i[signal.i + SignalInt.Up] = up ? 1 : 0;
    return;
  }
  carrySignal(from, to, sources, signal);
  to.i[signal.i + SignalInt.Up] = 1;
}

function directionOf(tables: Tables, mover: MoverTable, end: number): SignalTable | undefined {
  const stick = mover.sticks.find(({ directionSignals }) => directionSignals?.[end] !== undefined);
  if (stick !== undefined) return stick.directionSignals![end];
  for (const { ends } of tables.signal)
    for (const one of ends)
      if (one.moverAt === mover.i && one.end === end && one.direction !== undefined) return one.direction;
  return undefined;
}

function carryGesture(from: Before, to: SeatState, sources: Sources, gesture: GestureTable): void {
  const before = sources.gesture(gesture, to.tables);
  if (before === undefined) return;
  to.i[gesture.i + GestureInt.Count] = from.i[before.i + GestureInt.Count]!;
  copy(from.f, before.f, to.f, gesture.f, GestureFloat.Size);
  carryDeadline(from.tables, from.f, before.deadline, to, gesture.deadline);
  const held = gesture.of.some((id) => to.i[to.tables.signal[id]!.i + SignalInt.Up] === 1);
  if (from.i[before.i + GestureInt.Up] === 0 || !held) return;
  to.i[gesture.i + GestureInt.Up] = 1;
  to.i[to.tables.switch[gesture.switch]!.i + SwitchInt.Down]!++;
}

function carrySwitches(from: Before, to: SeatState, sources: Sources): void {
  const signals = new Map(to.tables.signal.map((signal, id) => [sources.signal(signal), id]));
  to.tables.switch.forEach((table, id) => {
    const before = from.tables.switch[id]!;
    const down = to.i[table.i + SwitchInt.Down]!;
    const whole = before.waits && table.waits;
    copy(from.i, before.i, to.i, table.i, whole ? SwitchInt.Size : SwitchInt.Plain);
    copy(from.f, before.f, to.f, table.f, whole ? SwitchFloat.Size : SwitchFloat.Plain);
    // One that was only held has no press to go on with, whatever it is now.
    if (!whole && !table.simple) to.i[table.i + SwitchInt.Latch] = 0;
    to.i[table.i + SwitchInt.Down] = down;
    const by = from.tables.signal[from.i[before.i + SwitchInt.By]!];
    to.i[table.i + SwitchInt.By] = (by === undefined ? undefined : signals.get(by)) ?? -1;
    carryDeadline(from.tables, from.f, before.repeat, to, table.repeat);
  });
}
