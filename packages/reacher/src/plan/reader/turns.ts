/** Reads turns: degrees by the mouse or by a stick. */
import type { CheckedPaceRule, CheckedTurn } from "../checked.js";
import type { Shape, TurnEntry, TurnFields } from "../types.js";
import type { Reader } from "./reader.js";
import { combined, readShape } from "./shapes.js";

type Unit = "perPixel" | "perSecond" | "perUnit";
const UNITS: readonly Unit[] = ["perSecond", "perPixel", "perUnit"];
const WHY: Readonly<Record<Unit, (name: string) => string>> = {
  perPixel: () => "a mouse moves by pixels",
  perSecond: (name) => `${name} turns as long as it is held`,
  perUnit: (name) => `${name} is an amount, which adds up`,
};

/** Degrees by the mouse or by a stick. */
export function readTurn(reader: Reader, name: string, action: TurnFields): CheckedTurn {
  const mice: CheckedTurn["mice"][number][] = [];
  const sticks: CheckedTurn["sticks"][number][] = [];
  for (const { slot, entry, place, address } of reader.entries<TurnEntry>(name, action.from)) {
    const control = reader.control(entry.use, `${place}.use`, "turn");
    if (control === undefined) continue;
    const given = entry as Readonly<Partial<Record<Unit, number>>>;
    const isMouse = control.family === "motion";
    const unit: Unit = !isMouse ? "perSecond" : control.device === "mouse" ? "perPixel" : "perUnit";
    const amount = given[unit];
    const wrong = UNITS.find((one) => one !== unit && given[one] !== undefined);
    if (amount === undefined || wrong !== undefined) {
      const no = wrong === undefined ? "" : `, and no ${wrong}`;
      reader.report("turn-unit", place, `${WHY[unit](control.name)}: give ${unit}${no}`);
      continue;
    }
    const own = (entry as { shape?: Shape }).shape;
    if (isMouse) {
      const feel = combined(action.shape, own);
      const perPixel = amount * feel.gain;
      mice.push({
        address,
        slot,
        control,
        perPixel: amount,
        perPixelX: feel.invertX ? -perPixel : perPixel,
        perPixelY: feel.invertY ? -perPixel : perPixel,
      });
    } else {
      sticks.push({
        address,
        slot,
        control,
        shape: readShape(reader, action.shape, control, place, own),
        perSecond: amount,
      });
    }
  }
  return {
    kind: "turn",
    name,
    label: action.label ?? name,
    in: reader.modeNames(action.in ?? [], `actions.${name}.in`),
    rules: readFactors(reader, name, action),
    mice,
    sticks,
  };
}

/** What multiplies a turn while it holds. */
function readFactors(reader: Reader, name: string, { pace }: TurnFields): CheckedPaceRule[] {
  return (pace?.rules ?? []).map(({ when, times }, n) => {
    const place = `actions.${name}.pace.rules.${n}`;
    reader.amount(times, `${place}.times`);
    return { when: reader.words(when, `${place}.when`), set: undefined, times };
  });
}
