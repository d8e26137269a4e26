/** Plans that tests share: the demo's own, and small ones to say one thing. */
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { definePlan, type Plan } from "reacher";

export const root = join(__dirname, "../../..");

/** The demo's plan. */
export function kelplineForTwo(): Plan {
  return JSON.parse(readFileSync(join(root, "examples/kelpline/plan/kelpline.plan.json"), "utf8")) as Plan;
}

/** The demo's plan for one player, without what only shows over time. */
export function kelpline(): Plan {
  const plan = kelplineForTwo() as unknown as { seats?: object; actions: Record<string, { ease?: object }> };
  delete plan.seats;
  delete plan.actions["depth"]!.ease;
  delete plan.actions["sweep"];
  return plan as unknown as Plan;
}

export function dive(name: string): string {
  return readFileSync(join(root, `examples/kelpline/dives/${name}.trace.jsonl`), "utf8");
}

export const WASD = { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyD" } as const;
export const ARROWS = { up: "ArrowUp", left: "ArrowLeft", down: "ArrowDown", right: "ArrowRight" } as const;

/** One vector on keys and a stick; what a test is about goes into `more`. */
export function swimPlan<const M extends object>(more: M) {
  return definePlan({
    reacherPlan: 1,
    actions: { swim: { kind: "vector", from: { main: WASD, spare: ARROWS, pad: "PadLeftStick" }, ...more } },
  });
}

/** One switch; what a test is about goes into `more`. */
export function kickPlan<const M extends object>(more: M) {
  return definePlan({
    reacherPlan: 1,
    actions: { kick: { kind: "switch", from: { main: "ShiftLeft", spare: "ShiftRight" }, ...more } },
  });
}
