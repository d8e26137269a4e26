/** A game that plays a recording of each plan, and tells all that it reads. */
import { createInputLayer, type InputLayer, type Plan } from "reacher";
import type { TraceEntry } from "reacher/trace";
import firstPerson from "../../first-person.plan.json";
import platformer from "../../platformer.plan.json";
import shooter from "../../shooter.plan.json";
import twoPlayers from "../../two-players.plan.json";

const layers: Record<string, () => InputLayer> = {
  "first-person": () => createInputLayer(firstPerson as unknown as Plan),
  platformer: () => createInputLayer(platformer as unknown as Plan),
  shooter: () => createInputLayer(shooter as unknown as Plan),
  "two-players": () => createInputLayer(twoPlayers as unknown as Plan),
};

function give(input: InputLayer, entry: TraceEntry): void {
  const { t } = entry;
  const seat = "seat" in entry ? input.seat(entry.seat!) : input;
  if ("control" in entry) input.feed(entry);
  else if ("lost" in entry && entry.pad !== undefined) input.lose("pad", entry.pad, t);
  else if ("lost" in entry) input.lose("focus", t);
  else if ("seatPad" in entry) input.assignPad(entry.seatPad, entry.pad, t);
  else if ("flag" in entry) seat.setFlag(entry.flag, entry.value, { t, linger: entry.linger });
  else if ("number" in entry) seat.setNumber(entry.number, entry.value, t);
  else if ("enter" in entry) seat.enter(entry.enter, t);
  else if ("leave" in entry) seat.leave(entry.leave, t);
  else if ("mute" in entry) seat.mute(entry.mute, entry.reason, t);
  else if ("unmute" in entry) seat.unmute(entry.unmute, entry.reason, t);
}

const exact = (_: string, value: unknown) => (Object.is(value, -0) ? "-0" : value);

/** All readings of all seats, and the bytes of a snapshot, after each line. */
export function play(name: string, entries: readonly TraceEntry[]): string[] {
  const input = layers[name]!();
  return entries.map((entry) => {
    give(input, entry);
    input.step(entry.t);
    const readings = input.seats.map((seat) =>
      Object.entries(input.seat(seat).now).map(([action, reading]) => [action, { ...reading }, reading]),
    );
    return `${JSON.stringify(readings, exact)} ${input.snapshot().join()}`;
  });
}

Object.assign(globalThis, { play });
