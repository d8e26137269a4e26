/** A seat takes other tables: what it holds and does goes on as far as it still can. May change: the seat, and its waiting events. */
import { NO_NUMBER, OWN_FROM } from "../controls/numbers.js";
import { controlsOf } from "../controls/ownControls.js";
import type { CheckedPlan } from "../plan/checked.js";
import { Clock } from "./clock.js";
import { COMMAND_KINDS } from "./commands.js";
import { Bits, DriveBits, EventField, EventKind } from "./queue.js";
import type { SeatBuffer } from "./seatBuffer.js";
import { FOCUS_LOST } from "./meanings.js";
import { DEVICES, type Tables } from "./tables.js";

/** Writes the present values of controls that are bound only now. */
type Fill<Seat> = (seat: Seat, before: Tables) => void;

/** Writes what a seat keeps into its new buffer. */
type Carry = (before: Tables, from: Uint8Array, after: Tables, to: Uint8Array) => void;

/** Switches to other tables at this moment, also from a callback: what is on and held stays so if it still can. */
export function useTables<Seat extends SeatBuffer>(
  seat: Seat,
  tables: Tables,
  fill: Fill<Seat>,
  carry: Carry,
): void {
  if (tables === seat.tables) return;
  partPairs(seat, tables);
  layOutAnew(seat, tables, fill, carry);
}

/** Both axes of a stick in one waiting event are two events again, unless the new tables know them as one stick as well. */
function partPairs(seat: SeatBuffer, tables: Tables): void {
  const { number, tables: before } = seat;
  const { events } = seat.scheduler;
  for (let at = events.first(number); at >= 0; at = events.after(at)) {
    const what = events.whatAt(at);
    if ((what & Bits.KindMask) !== EventKind.Control || Number.isNaN(events.otherAt(at))) continue;
    const { name, other } = before.channels[what >> (Bits.Kind + Bits.Place)]!;
    if (tables.find(name)?.other?.name !== other!.name)
      events.part(number, at, other!.what | (what & (Bits.PlaceMask << Bits.Kind)));
  }
}

function layOutAnew<Seat extends SeatBuffer>(
  seat: Seat,
  tables: Tables,
  fill: Fill<Seat>,
  carry: Carry,
): void {
  const { tables: before, b, f } = seat;
  seat.dropMarks();
  seat.layOut(tables);
  carry(before, b, tables, seat.b);
  seat.i[tables.printAt] = tables.print;
  if (before.plan.controls !== tables.plan.controls) renumber(seat, before);
  fill(seat, before);
  if (seat.b[tables.started] === 0) return;
  for (const one of tables.recounts) one.recount(seat);
  releaseHeldBack(seat, before, f);
}

/** Own controls and their devices have other numbers in another plan; one of another kind there is at rest. */
function renumber(seat: SeatBuffer, { plan: before, devices }: Tables): void {
  const { tables, i } = seat;
  const deviceOf = (number: number) => Math.max(0, tables.devices.indexOf(devices[number] ?? null));
  i[tables.lastDevice] = deviceOf(i[tables.lastDevice]!);
  for (const movement of tables.movements) movement.renumber(seat, deviceOf);
  for (const { pressedBy } of tables.signals)
    if (pressedBy >= 0) i[pressedBy] = ownNumber(before, tables.plan, i[pressedBy]!);
}

/**
 * Switches to the tables of another plan: waiting events keep their names, a plan with none of its modes on begins with its
 * start modes, and new switches begin as at the start.
 */
export function usePlan<Seat extends SeatBuffer>(
  seat: Seat,
  tables: Tables,
  fill: Fill<Seat>,
  carry: Carry,
): void {
  const before = seat.tables;
  partPairs(seat, tables);
  const rename = (what: number) => renamed(before.plan, tables.plan, what);
  seat.scheduler.events.rename(seat.number, rename);
  seat.scheduler.commands.rename(seat.number, rename);
  const hasLeftAll = before.situation?.hasLeftAll(seat) === true;
  if (tables !== before) layOutAnew(seat, tables, fill, carry);
  if (seat.b[tables.started] === 0 || tables === before) return;
  if (!hasLeftAll) tables.situation?.startModes(seat);
  const known = new Set(before.switches.map(({ name }) => name));
  for (const rule of tables.switches) if (!known.has(rule.name)) rule.reset(seat);
}

/** Applies releases held back for a worn key that nothing holds back any more. */
function releaseHeldBack(seat: SeatBuffer, { bound }: Tables, f: Float64Array): void {
  const { scheduler, tables } = seat;
  for (const { name, filter, padCount } of bound) {
    const own = tables.find(name);
    if (filter === null || filter.isHolding === undefined || own === undefined || own.filter !== null)
      continue;
    for (let padIndex = 0; padIndex < padCount; padIndex++) {
      if (!filter.isHolding(f, padIndex)) continue;
      scheduler.scratchEvent[EventField.T] = seat.clock[Clock.Now]!;
      scheduler.scratchEvent[EventField.Value] = 0;
      scheduler.addEvent(seat.number, own.what | (padIndex << Bits.Kind));
    }
  }
}

/** Translates an event from one plan to another; one whose name is missing there does nothing. */
function renamed(before: CheckedPlan, after: CheckedPlan, what: number): number {
  const kind = (what & Bits.KindMask) as EventKind;
  if (kind === EventKind.Control || kind === EventKind.Press)
    return renamedControl(before, after, kind, what);
  if (kind === EventKind.Lose) return renamedLoss(before, after, what);
  const list = COMMAND_KINDS[kind]?.names;
  if (list === undefined) return what;
  const bits = Bits.Kind + (kind === EventKind.Drive ? DriveBits.Action : 0);
  const { name } = before[list][what >> bits]!;
  const index = after[list].findIndex((one) => one.name === name);
  return index < 0 ? EventKind.Nothing : (index << bits) | (what & ((1 << bits) - 1));
}

/** The loss of a device of own controls. */
function renamedLoss(before: CheckedPlan, after: CheckedPlan, what: number): number {
  const index = what >> Bits.Kind;
  if (index >= FOCUS_LOST) return what;
  const place = controlsOf(after).devices.indexOf(controlsOf(before).devices[-index - DEVICES.length]!);
  return place < 0 ? EventKind.Nothing : (-(place + DEVICES.length) << Bits.Kind) | EventKind.Lose;
}

/** A control of the catalogue has one number in all plans; one that the plan names itself goes by its name, where it is of the same kind. */
function renamedControl(before: CheckedPlan, after: CheckedPlan, kind: EventKind, what: number): number {
  const bits = kind === EventKind.Control ? Bits.Kind + Bits.Place : Bits.Kind;
  const number = ownNumber(before, after, what >> bits);
  return number === NO_NUMBER ? EventKind.Nothing : (number << bits) | (what & ((1 << bits) - 1));
}

/** The number that a control has in another plan; `NO_NUMBER` if it is another control there. */
function ownNumber(before: CheckedPlan, after: CheckedPlan, number: number): number {
  if (number < OWN_FROM) return number;
  const [known, other] = [controlsOf(before), controlsOf(after)];
  const name = known.nameOf(number);
  return known.ownOf(name)!.kind === other.ownOf(name)?.kind ? other.numberOf(name) : NO_NUMBER;
}
