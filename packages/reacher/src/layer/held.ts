/** What is held. In: a seat, all controls, and which pad is at which place of it. Out: controls away from rest. Pure. */
import type { Controls } from "../controls/ownControls.js";
import { Bits, EventKind } from "../engine/queue.js";
import type { SeatEngine } from "../engine/seat.js";
import type { Channel } from "../engine/signals.js";
import type { Held } from "./types.js";
import { isMotion, type Unbound } from "./unbound.js";

type PadOf = (control: string, padIndex: number) => number;

/** The bound controls that are away from rest at this moment. `byDevice`: without those whose release is held back, as a worn key's is. */
export function heldNow(
  { tables, f }: SeatEngine,
  controls: Controls,
  padOf: PadOf,
  byDevice = false,
): Held[] {
  const held = tables.bound.filter(({ name }) => !isMotion(controls, name));
  return held.flatMap((channel) =>
    Array.from({ length: channel.padCount }, (_, padIndex) => ({
      control: channel.name,
      pad: padOf(channel.name, padIndex),
      value: byDevice ? deviceValue(channel, f, padIndex) : f[channel.value + padIndex]!,
    })).filter(({ value }) => value !== 0),
  );
}

/** What a control's device has: 0 where its release is held back. */
export const deviceValue = ({ filter, value }: Channel, f: Float64Array, padIndex: number): number =>
  filter?.isHolding?.(f, padIndex) === true ? 0 : f[value + padIndex]!;

/** The same, then those that waiting events change (0: to rest). */
export function heldSoon(engine: SeatEngine, controls: Controls, padOf: PadOf): Held[] {
  const { tables, number } = engine;
  const { events } = engine.scheduler;
  const held = heldNow(engine, controls, padOf);
  const note = (control: string, padIndex: number, value: number) =>
    held.push({ control, pad: padOf(control, padIndex), value });
  for (let at = events.first(number); at >= 0; at = events.after(at)) {
    const what = events.whatAt(at);
    if ((what & Bits.KindMask) !== EventKind.Control) continue;
    const control = what >> (Bits.Kind + Bits.Place);
    const name = controls.nameOf(control);
    const padIndex = (what >> Bits.Kind) & Bits.PlaceMask;
    if (isMotion(controls, name)) continue;
    note(name, padIndex, events.valueAt(at));
    const second = events.otherAt(at);
    const other = tables.channels[control]?.other;
    if (second === second && other != null) note(other.name, padIndex, second);
  }
  return held;
}

/** What is held of controls that nobody binds, then of each seat's. */
export function allHeld(unbound: Unbound, seats: readonly (readonly Held[])[]): readonly Held[] {
  const all = new Map<string, Held>();
  for (const one of unbound.held()) all.set(`${one.control} ${one.pad}`, { ...one });
  for (const one of seats.flat()) {
    const key = `${one.control} ${one.pad}`;
    if (one.value === 0) all.delete(key);
    else all.set(key, one);
  }
  return [...all.values()];
}
