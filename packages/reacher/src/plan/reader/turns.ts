/** Reads turns: degrees by the mouse or by a stick. */
import type { CheckedTurn } from "../checked.js";
import type { Shape, TurnEntry, TurnFields } from "../types.js";
import type { Reader } from "./reader.js";
import { readShape } from "./shapes.js";

/** Degrees by the mouse or by a stick. */
export function readTurn(reader: Reader, name: string, action: TurnFields): CheckedTurn {
  const mice: CheckedTurn["mice"][number][] = [];
  const sticks: CheckedTurn["sticks"][number][] = [];
  const given = action.shape?.invert;
  const invert = given === true ? "both" : given;
  for (const { slot, entry, place, address } of reader.entries<TurnEntry>(name, action.from)) {
    const control = reader.control(entry.use, `${place}.use`, "turn");
    if (control === undefined) continue;
    const { perPixel, perSecond } = entry as { perPixel?: number; perSecond?: number };
    const isMouse = control.family === "motion";
    const amount = isMouse ? perPixel : perSecond;
    if (amount === undefined || (isMouse ? perSecond : perPixel) !== undefined) {
      reader.report(
        "turn-unit",
        place,
        isMouse
          ? "a mouse moves by pixels: give perPixel, and no perSecond"
          : `${control.name} turns as long as it is held: give perSecond, and no perPixel`,
      );
      continue;
    }
    if (isMouse) {
      mice.push({
        address,
        slot,
        control,
        perPixelX: invert === "x" || invert === "both" ? -amount : amount,
        perPixelY: invert === "y" || invert === "both" ? -amount : amount,
      });
    } else {
      const own = (entry as { shape?: Shape }).shape;
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
    mice,
    sticks,
  };
}
