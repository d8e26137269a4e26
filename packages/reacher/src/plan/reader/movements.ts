/** Reads axes and vectors: their directions and sticks, gaits and pace. */
import { findControl, type Control } from "../../controls/catalogue.js";
import type { CheckedEnd, CheckedMovement, CheckedPace, CheckedStick } from "../checked.js";
import type { AxisFields, EndEntry, MovementFields, UsedEnd, VectorEntry, VectorFields } from "../types.js";
import type { Reader } from "./reader.js";
import { readShape, readThreshold } from "./shapes.js";

/** The default of an ease. */
const EASE = { riseMs: 90, fallMs: 60 };

/** An axis has none of a vector's own fields, so that these come out as their defaults. */
export function readMovement(
  reader: Reader,
  name: string,
  kind: "axis" | "vector",
  action: VectorFields | (AxisFields & VectorFields),
): CheckedMovement {
  const ends: CheckedEnd[] = [];
  const sticks: CheckedStick[] = [];
  for (const { slot, entry, place, address } of reader.entries<VectorEntry>(
    name,
    action.from as Readonly<Record<string, VectorEntry>>,
  )) {
    if (typeof entry === "string" || "use" in entry) {
      const [source, own] = typeof entry === "string" ? [entry, undefined] : [entry.use, entry.shape];
      const control = reader.control(source, typeof entry === "string" ? place : `${place}.use`, kind);
      if (control === undefined) continue;
      if (control.family === "dpad") {
        // A direction pad is four buttons: it follows the rules for opposite and diagonal keys.
        for (const part of control.parts) {
          const end = part.slice("PadDpad".length).toLowerCase() as CheckedEnd["end"];
          ends.push({ address, slot, end, ...readEnd(reader, findControl(part)!, action, place) });
        }
      } else
        sticks.push({ address, slot, control, shape: readShape(reader, action.shape, control, place, own) });
      continue;
    }
    const given = Object.entries(entry as Record<string, EndEntry>);
    if (given.length === 0) reader.report("missing-field", place, `no direction has a control`);
    for (const [end, source] of given) {
      const used = typeof source === "string" ? { use: source } : source;
      const at = typeof source === "string" ? `${place}.${end}` : `${place}.${end}.use`;
      const control = reader.control(used.use, at, "end");
      if (control === undefined) continue;
      ends.push({
        address: `${address}.${end}`,
        slot,
        end: end as CheckedEnd["end"],
        ...readEnd(reader, control, action, `${place}.${end}`, used),
      });
    }
  }
  return {
    kind,
    name,
    label: action.label ?? name,
    in: reader.modeNames(action.in ?? [], `actions.${name}.in`),
    opposed: action.opposed ?? "latest",
    directions: action.directions ?? "free",
    diagonal: action.diagonal ?? "round",
    faces: action.faces ?? "down",
    facingFrom: action.facingFrom ?? 0.25,
    settleMs: action.settleMs ?? 60,
    gaits: readGaits(reader, name, action),
    gaitMargin: action.gaitMargin ?? 0.04,
    pace: readPace(reader, name, action),
    ease: action.ease && { ...EASE, ...action.ease, through: action.ease.turn === "through" },
    combine: action.combine ?? "longest",
    ends,
    sticks,
  };
}

function readEnd(
  reader: Reader,
  control: Control,
  action: MovementFields,
  place: string,
  used: Partial<UsedEnd> = {},
) {
  const shape = readShape(reader, action.shape, control, place, used.shape);
  return { control, shape, ...readThreshold(reader, used.threshold, control, place) };
}

function readGaits(reader: Reader, name: string, action: VectorFields): CheckedMovement["gaits"] {
  const gaits = Object.entries(action.gaits ?? {}).map(([gait, from]) => ({ name: gait, from }));
  gaits.sort((a, b) => a.from - b.from);
  for (let i = 1; i < gaits.length; i++) {
    if (gaits[i]!.from === gaits[i - 1]!.from) {
      const place = `actions.${name}.gaits.${gaits[i]!.name}`;
      reader.report(
        "gaits-equal",
        place,
        `begins at ${gaits[i]!.from}, as ${gaits[i - 1]!.name} does; only one of them can be reached`,
      );
    }
  }
  return gaits;
}

function readPace(reader: Reader, name: string, action: VectorFields): CheckedPace | undefined {
  const { pace } = action;
  if (pace === undefined) return undefined;
  const rules = (pace.rules ?? []).map((rule, i) => {
    const place = `actions.${name}.pace.rules.${i}`;
    if ((rule.set === undefined) === (rule.times === undefined)) {
      reader.report("pace-rule", place, "a rule has either set (a speed) or times (a factor)");
    }
    return { when: reader.words(rule.when, `${place}.when`), set: rule.set, times: rule.times };
  });
  return { unit: pace.unit ?? "", base: pace.base, rules, easeMs: pace.easeMs ?? 0 };
}
