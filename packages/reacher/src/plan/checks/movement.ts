/** What goes wrong with axes and vectors: directions, dead zones. In: a movement. Out: findings. */
import type { CheckedMovement } from "../checked.js";
import { bindingsOf, type Binding, type Report } from "./bindings.js";

/** A dead zone that leaves less than this share of the travel cuts most of it. */
const LEAST_TRAVEL = 0.5;
/** Sticks at rest wander by about this much. */
const REST_NOISE = 0.03;

export function checkMovement(action: CheckedMovement, report: Report): void {
  const place = `actions.${action.name}`;
  if (action.kind === "vector") {
    for (const slot of new Set(action.ends.map((end) => end.slot))) {
      const given = action.ends.filter((end) => end.slot === slot).map(({ end }) => end as string);
      const missing = ["up", "left", "down", "right"].filter((way) => !given.includes(way));
      if (missing.length > 0)
        report("missing-direction", `${place}.from.${slot}`, `has no ${missing.join(" and no ")}`);
    }
  }
  const ends = new Map<string, Binding>();
  for (const binding of bindingsOf(action)) {
    if (binding.end === undefined) continue;
    const other = ends.get(binding.control.name);
    if (other === undefined) ends.set(binding.control.name, binding);
    else if (other.end !== binding.end) {
      report(
        "same-direction",
        binding.place,
        `${binding.control.name} is ${other.end} already, at ${other.place}; one press would do both`,
      );
    }
  }
  const zones = new Map(
    action.sticks.map(({ shape, control }) => [`${shape.inner} ${shape.outer}`, { shape, control }]),
  );
  for (const { shape, control } of zones.values()) {
    const zone = `${place}.shape.deadZone`;
    if (1 - shape.inner - shape.outer < LEAST_TRAVEL) {
      report(
        "dead-zone-wide",
        zone,
        `inner ${shape.inner} and outer ${shape.outer} cut most of the travel of ${control.name}; players will find it dull`,
      );
    } else if (shape.inner < REST_NOISE && control.family !== "trigger") {
      report(
        "dead-zone-none",
        `${zone}.inner`,
        `${shape.inner} is less than the noise of a stick at rest, so it will creep; 0.12 suits most`,
      );
    }
  }
}
