/** Reads axes and vectors: their directions and sticks, gaits and pace. */
import type { Control } from "../../controls/catalogue.js";
import type { CheckedEnd, CheckedMovement, CheckedPace, CheckedStick } from "../checked.js";
import type {
  Direction,
  EndEntry,
  MovementFields,
  Shape,
  UsedEnd,
  UsedVector,
  VectorEntry,
  VectorFields,
} from "../types.js";
import { didYouMean } from "../../controls/nearest.js";
import { EASE, FACING_FROM, FULL_FROM, SETTLE_MS } from "../language/defaults.js";
import { ORDINALS } from "../names.js";
import type { Reader } from "./reader.js";
import { readShape, readThreshold } from "./shapes.js";

/** The length of a square diagonal, the longest movement. */
const LONGEST = Math.SQRT2;

/** An axis has none of a vector's own fields, so that these come out as their defaults. */
export function readMovement(
  reader: Reader,
  name: string,
  kind: "axis" | "vector",
  action: VectorFields,
): CheckedMovement {
  const endNames = reader.endsOf(name)!;
  if (kind === "axis") checkEnds(reader, name, endNames);
  const ends: CheckedEnd[] = [];
  const sticks: CheckedStick[] = [];
  for (const { slot, entry, place, address } of reader.entries<VectorEntry>(
    name,
    action.from as Readonly<Record<string, VectorEntry>>,
  )) {
    if (typeof entry === "string" || "use" in entry) {
      const source = typeof entry === "string" ? entry : entry.use;
      const control = reader.control(source, typeof entry === "string" ? place : `${place}.use`, kind);
      if (control === undefined) continue;
      if (control.family === "dpad" || control.family === "dpadAxis") {
        // A direction pad is four buttons: it follows the rules for opposite and diagonal keys.
        control.parts.forEach((part, n) => {
          const way = kind === "axis" ? axisWay(reader, control, n) : wayOfPart(part);
          const end = kind === "axis" ? endNames[way === "left" ? 0 : 1]! : way;
          ends.push({
            address,
            slot,
            end,
            way,
            ...readEnd(reader, reader.controls.find(part)!, action, place),
          });
        });
      } else sticks.push({ address, slot, control, ...readStick(reader, action, control, place, entry) });
      continue;
    }
    // In one order, whatever that of the file: a seat's layout and its fingerprint follow it.
    const given = Object.entries(entry as Record<string, EndEntry>).sort(
      ([one], [other]) => endNames.indexOf(one) - endNames.indexOf(other),
    );
    if (given.length === 0) reader.report("missing-field", place, `no direction has a control`);
    for (const [end, source] of given) {
      const way = reader.wayOf(name, end);
      if (way === undefined) {
        const fix = didYouMean(end, endNames) || `; its ends are ${endNames.join(" and ")}`;
        reader.report("unknown-field", `${place}.${end}`, `${end} is no end of ${name}${fix}`);
        continue;
      }
      const used = typeof source === "string" ? { use: source } : source;
      const at = typeof source === "string" ? `${place}.${end}` : `${place}.${end}.use`;
      const control = reader.control(used.use, at, "end");
      if (control === undefined) continue;
      ends.push({
        address: `${address}.${end}`,
        slot,
        end,
        way,
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
    faces: kind === "vector" ? (action.faces ?? "down") : axisFaces(reader, name, action.faces, endNames),
    facingFrom: action.facingFrom ?? FACING_FROM,
    settleMs: action.settleMs ?? SETTLE_MS,
    gaits: readGaits(reader, name, action),
    gaitsBy: action.gaitsBy ?? "length",
    gaitMargin: action.gaitMargin,
    pace: readPace(reader, name, action),
    ease: action.ease && { ...EASE, ...action.ease, through: action.ease.turn === "through" },
    combine: action.combine ?? "longest",
    lingerMs: action.lingerMs ?? 0,
    endNames,
    ends,
    sticks,
  };
}

/** A stick with its shape; or the pointer, which has no dead zone of its own. */
function readStick(
  reader: Reader,
  { shape }: MovementFields,
  control: Control,
  place: string,
  entry: VectorEntry,
): Pick<CheckedStick, "shape" | "pointer"> {
  const { around, fullFrom, shape: own } = (typeof entry === "string" ? {} : entry) as Partial<UsedVector>;
  if (control.family !== "pointer") {
    for (const [name, given] of Object.entries({ around, fullFrom }))
      if (given !== undefined)
        reader.report(
          "unknown-field",
          `${place}.${name}`,
          `${name} is for MousePoint; ${control.name} has no place`,
        );
    return { shape: readShape(reader, shape, control, place, own) };
  }
  const known = Object.keys(reader.plan.spots ?? {});
  if (around !== undefined && !known.includes(around))
    reader.report(
      "unknown-word",
      `${place}.around`,
      `${JSON.stringify(around)} is none of the plan's spots${didYouMean(around, known)}`,
    );
  const free: Shape = { ...own, deadZone: { inner: 0, outer: 0, ...own?.deadZone } };
  return {
    shape: readShape(reader, undefined, control, place, free),
    pointer: { ...(around !== undefined && { around }), fullFrom: fullFrom ?? FULL_FROM },
  };
}

/** The direction that a part of a direction pad is named after. */
function wayOfPart(part: string): Direction {
  return part.slice("PadDpad".length).toLowerCase() as Direction;
}

/** The end of an axis that a part of half a direction pad presses; up and down by the plan's \`yAxis\`. */
function axisWay({ plan }: Reader, { name }: Control, part: number): Direction {
  const isTurned = name === "PadDpadY" && plan.yAxis === "down";
  return (part === 0) === isTurned ? "right" : "left";
}

/** The names of an axis's ends must be two, and none of the words that stand beside them. */
function checkEnds(reader: Reader, name: string, ends: readonly string[]): void {
  const place = `actions.${name}.ends`;
  if (ends[0] === ends[1])
    reader.report("same-name", place, `both ends are named ${ends[0]}; give each a name of its own`);
  for (const end of ends)
    if (end === "use" || ORDINALS.includes(end))
      reader.report("bad-name", place, `${end} stands for something else beside the ends; take another name`);
}

/** The end that an axis faces at first. */
function axisFaces(
  reader: Reader,
  name: string,
  faces: string | undefined,
  ends: readonly string[],
): Direction {
  const way = faces === undefined ? "right" : reader.wayOf(name, faces);
  if (way === undefined)
    reader.report("wrong-value", `actions.${name}.faces`, `${faces} is no end; it is ${ends.join(" or ")}`);
  return way ?? "right";
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
  if (action.gaitsBy !== "speed") {
    const by = 'by length; for bands of a speed say "gaitsBy": "speed"';
    for (const { name: gait, from } of gaits)
      if (from > LONGEST)
        reader.report(
          "wrong-value",
          `actions.${name}.gaits.${gait}`,
          `is ${from}; it is above 0 and at most 1.414214 ${by}`,
        );
    if (action.gaitMargin !== undefined && action.gaitMargin > 1)
      reader.report(
        "wrong-value",
        `actions.${name}.gaitMargin`,
        `is ${action.gaitMargin}; it is at most 1 ${by}`,
      );
  }
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
  reader.amount(pace.base, `actions.${name}.pace.base`);
  const rules = (pace.rules ?? []).map((rule, i) => {
    const place = `actions.${name}.pace.rules.${i}`;
    if ((rule.set === undefined) === (rule.times === undefined)) {
      reader.report("pace-rule", place, "a rule has either set (a speed) or times (a factor)");
    }
    reader.amount(rule.set, `${place}.set`);
    reader.amount(rule.times, `${place}.times`);
    return { when: reader.words(rule.when, `${place}.when`), set: rule.set, times: rule.times };
  });
  return { unit: pace.unit ?? "", base: pace.base, rules, easeMs: pace.easeMs ?? 0 };
}
