/** The texts of the panel. In: a layer. Out: rows of text. Pure. */
import type { AxisReading, SwitchReading, TurnReading, VectorReading } from "../engine/readings.js";
import type { InputLayer, Seat } from "../layer/types.js";

/** One action of one seat. */
export interface PanelRow {
  readonly name: string;
  readonly text: string;
  readonly isOn: boolean;
}

/** The reading of any action. */
export type AnyReading = SwitchReading | AxisReading | VectorReading | TurnReading;

export function heldText(input: InputLayer): string {
  return (
    input
      .held()
      .map(({ control }) => control)
      .join(", ") || "nothing"
  );
}

/** Modes, flags and mutes, by their headings; empty where there are none. */
export function situationText(input: InputLayer): [string, string][] {
  const told = (of: (seat: Seat) => string) =>
    seatsOf(input)
      .flatMap((seat) => {
        const text = of(seat);
        return text === "" ? [] : [named(input, seat, text)];
      })
      .join("; ");
  return [
    ["modes", told(({ modes }) => modes.join(" < "))],
    [
      "flags",
      told(({ flags }) =>
        Object.keys(flags)
          .filter((name) => flags[name])
          .join(", "),
      ),
    ],
    [
      "mutes",
      told(({ mutes }) =>
        Object.entries(mutes)
          .map(([name, reasons]) => `${name} (${reasons!.join(", ")})`)
          .join(", "),
      ),
    ],
  ];
}

export function actionRows(input: InputLayer): PanelRow[] {
  return seatsOf(input).flatMap((seat) =>
    Object.entries(seat.now as Readonly<Record<string, AnyReading>>).map(([action, reading]) => {
      const { text, isOn } = readingText(reading);
      return { name: named(input, seat, action), text: seat.live(action) ? text : `${text}, not live`, isOn };
    }),
  );
}

const seatsOf = (input: InputLayer) => input.open.map((name) => input.seat(name));
const named = (input: InputLayer, { name }: Seat, text: string) =>
  input.open.length > 1 ? `${name} ${text}` : text;

/** A reading in a few words, and whether the action is on or moves. */
export function readingText(reading: AnyReading): { readonly text: string; readonly isOn: boolean } {
  if ("on" in reading)
    return {
      text: reading.on
        ? `on ${(reading.onMs / 1000).toFixed(1)} s`
        : reading.progress > 0
          ? `${Math.round(reading.progress * 100)} %`
          : "off",
      isOn: reading.on,
    };
  if ("dx" in reading)
    return {
      text: `${reading.dx.toFixed(2)}, ${reading.dy.toFixed(2)}`,
      isOn: reading.dx !== 0 || reading.dy !== 0,
    };
  const value =
    "x" in reading ? `${reading.x.toFixed(2)}, ${reading.y.toFixed(2)}` : reading.value.toFixed(2);
  const parts = [value, reading.gait ?? "", reading.length > 0 ? `pace ${reading.pace.toFixed(2)}` : ""];
  return { text: parts.filter((part) => part !== "").join(" · "), isOn: reading.length > 0 };
}
