/** What goes wrong with axes and vectors: directions, dead zones. In: a movement. Out: findings. */
import type { CheckedMovement } from "../checked.js";
import { SANE_DEAD_ZONE } from "../language/saneRanges.js";
import type { Report } from "../findings.js";
import { checkEnds } from "./ends.js";

export function checkMovement(action: CheckedMovement, report: Report): void {
  checkEnds(action, report);
  const place = `actions.${action.name}`;
  const zones = new Map(
    // The pointer is never quite at rest, and where it is is no noise.
    action.sticks.flatMap(({ shape, control, pointer }) =>
      pointer === undefined ? [[`${shape.inner} ${shape.outer}`, { shape, control }] as const] : [],
    ),
  );
  for (const { shape, control } of zones.values()) {
    const zone = `${place}.shape.deadZone`;
    if (shape.inner + shape.outer > SANE_DEAD_ZONE.most) {
      report(
        "dead-zone-wide",
        zone,
        `inner ${shape.inner} and outer ${shape.outer} cut most of the travel of ${control.name}; players will find it dull`,
      );
    } else if (shape.inner < SANE_DEAD_ZONE.least && control.family !== "trigger") {
      report(
        "dead-zone-none",
        `${zone}.inner`,
        `${shape.inner} is less than the noise of a stick at rest, so it will creep; 0.12 suits most`,
      );
    }
  }
}
