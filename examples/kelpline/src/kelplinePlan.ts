// Made by `reacher types kelpline.plan.json`. Make it anew when the plan's actions change.
import type { InputLayer, Plan, Reading } from "reacher";

/** The kind of each action. */
export type KelplineKinds = {
  readonly swim: "vector";
  readonly depth: "axis";
  readonly aim: "vector";
  readonly sweep: "turn";
  readonly kick: "switch";
  readonly tuck: "switch";
  readonly surge: "switch";
  readonly snip: "switch";
  readonly grab: "switch";
  readonly haul: "switch";
  readonly flash: "switch";
  readonly lamp: "switch";
  readonly choose: "switch";
  readonly go: "vector";
  readonly walk: "switch";
  readonly back: "switch";
  readonly pause: "switch";
};

/** The flags that the game may set. */
export type KelplineFlags = "hasAir" | "inCurrent";

/** The plan: `parsePlan<KelplineKinds, KelplineFlags>(json)` gives it. */
export type KelplinePlan = Plan<KelplineKinds, KelplineFlags>;

/** What a step gives. */
export type KelplineReading = Reading<KelplineKinds>;

/** The layer: `createInputLayer(plan)` gives it. */
export type KelplineLayer = InputLayer<KelplineKinds, KelplineFlags>;
