/** Reads turns: degrees by the mouse or by a stick. */
import type { CheckedPaceRule, CheckedTurn } from "../checked.js";
import type { Shape, TurnEntry, TurnFields } from "../types.js";
import type { Reader } from "./reader.js";
import { combined, readShape } from "./shapes.js";

/** Degrees by the mouse or by a stick. */
export function readTurn(reader: Reader, name: string, action: TurnFields): CheckedTurn {
  const mice: CheckedTurn["mice"][number][] = [];
  const sticks: CheckedTurn["sticks"][number][] = [];
  for (const { slot, entry, place, address } of reader.entries<TurnEntry>(name, action.from)) {
    const control = reader.control(entry.use, `${place}.use`, "turn");
    if (control === undefined) continue;
    const given = entry as { perPixel?: number; perSecond?: number };
    const isMouse = control.family === "motion";
    const amount = isMouse ? given.perPixel : given.perSecond;
    if (amount === undefined || (isMouse ? given.perSecond : given.perPixel) !== undefined) {
      reader.report(
        "turn-unit",
        place,
        isMouse
          ? "a mouse moves by pixels: give perPixel, and no perSecond"
          : `${control.name} turns as long as it is held: give perSecond, and no perPixel`,
      );
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
