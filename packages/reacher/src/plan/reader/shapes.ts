/** Reads shapes: dead zone, curve, gain, and thresholds. */
import type { Control } from "../../controls/catalogue.js";
import { PRESS_FROM, RELEASE_BELOW } from "../../controls/thresholds.js";
import type { CheckedShape } from "../checked.js";
import { ZONES } from "../language/defaults.js";
import type { Curve, Shape, Threshold } from "../types.js";
import type { Finding, Report } from "../findings.js";

/** What is read here is reported to the reader. */
interface Reporting {
  readonly findings: readonly Finding[];
  readonly report: Report;
}

/** The default release threshold, as a share of the press threshold. */
const RELEASE_SHARE = RELEASE_BELOW / PRESS_FROM;

/** Gain and inversion of an action and its entry, multiplied. A one-dimensional control is inverted by any axis. */
export function combined(common: Shape | undefined, own: Shape | undefined, one = false) {
  const turns = (way: "x" | "y") =>
    [common?.invert, own?.invert].filter((invert) =>
      one ? invert !== undefined : invert === way || invert === "both" || invert === true,
    ).length === 1;
  return { gain: (common?.gain ?? 1) * (own?.gain ?? 1), invertX: turns("x"), invertY: !one && turns("y") };
}

/** The action's shape for this control, with the entry's own laid over it; gain and invert multiply. */
export function readShape(
  reader: Reporting,
  common: Shape | undefined,
  control: Control,
  place: string,
  own?: Shape,
): CheckedShape {
  const shape = { ...common, ...own, deadZone: { ...common?.deadZone, ...own?.deadZone } };
  const zone = control.family === "trigger" ? ZONES.trigger : ZONES.stick;
  const inner = shape.deadZone.inner ?? zone.inner;
  const outer = shape.deadZone.outer ?? zone.outer;
  // At least a hundredth of the travel must remain to steer in.
  if (inner + outer > 0.99) {
    const action = place.split(".").slice(0, 2).join(".");
    const already = reader.findings.some(
      (found) => found.id === "dead-zone-full" && found.place.startsWith(action + "."),
    );
    if (!already) {
      reader.report(
        "dead-zone-full",
        `${action}.shape.deadZone`,
        `inner ${inner} and outer ${outer} leave no travel between them`,
      );
    }
  }
  const curve = shape.curve ?? {};
  checkCurve(reader, curve, own?.curve === undefined ? place.split(".").slice(0, 2).join(".") : place);
  const one = control.family !== "stick";
  return {
    kind: one ? "round" : (shape.deadZone.kind ?? "round"),
    inner,
    outer,
    power: curve.power ?? 1,
    points: curve.points,
    ...combined(common, own, one),
  };
}

function checkCurve(reader: Reporting, { power, points }: Curve, owner: string): void {
  const place = `${owner}.shape.curve`;
  const told = reader.findings.some((found) => found.id === "curve-points" && found.place.startsWith(place));
  if (points === undefined || told) return;
  const report = (at: string, message: string) => reader.report("curve-points", at, message);
  if (power !== undefined) report(place, "has a power and points; a curve is one or the other");
  if (points[0]![0] !== 0 || points[0]![1] !== 0)
    report(`${place}.points.0`, `begins at [${points[0]!.join(", ")}]; a curve begins at [0, 0]`);
  if (points.at(-1)![0] !== 1)
    report(
      `${place}.points.${points.length - 1}`,
      `ends at a travel of ${points.at(-1)![0]}; it has to reach 1`,
    );
  for (let n = 1; n < points.length; n++) {
    const [x, y] = points[n]!;
    const [beforeX, beforeY] = points[n - 1]!;
    if (x <= beforeX)
      report(
        `${place}.points.${n}`,
        `a travel of ${x} does not come after ${beforeX}; put the points in order`,
      );
    else if (y < beforeY)
      report(`${place}.points.${n}`, `falls from ${beforeY} to ${y}: more tilt would give less movement`);
  }
}

export function readThreshold(
  reader: Reporting,
  given: Threshold | undefined,
  control: Control | undefined,
  place: string,
) {
  const press = given?.press ?? PRESS_FROM;
  const release = given?.release ?? Math.round(press * RELEASE_SHARE * 1e6) / 1e6;
  if (release > press) {
    reader.report(
      "threshold-order",
      `${place}.threshold`,
      `is released below ${release} and pressed only from ${press}; the release has to be the lower`,
    );
  }
  if (given !== undefined && control?.family === "key")
    reader.report(
      "threshold-none",
      `${place}.threshold`,
      `${control.name} is down or up, and nothing between`,
    );
  return { press, release };
}
