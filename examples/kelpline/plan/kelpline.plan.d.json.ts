// Made by `reacher types kelpline.plan.json --beside`. Make it anew when the plan's names change.
/* eslint-disable */
import type { InputLayer, Plan, Reading, Seat } from "reacher";

/** The kind of each action. */
export type KelplineKinds = {
  readonly swim: "vector";
  readonly depth: "axis";
  readonly along: "axis";
  readonly aim: "vector";
  readonly sweep: "turn";
  readonly kick: "switch";
  readonly tuck: "switch";
  readonly surge: "switch";
  readonly snip: "switch";
  readonly grab: "switch";
  readonly haul: "switch";
  readonly cast: "switch";
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

/** The numbers that the game may set. */
export type KelplineNumbers = "easy" | "fast" | "creep";

/** Slots, modes and seats; gaits and ends by action; switches that stay on by themselves. */
export type KelplineNames = {
  slots: "main" | "spare" | "pad" | "touch";
  modes: "dive" | "bank" | "menu";
  seats: "amber" | "teal";
  gaits: { swim: "drift" | "cruise" | "race"; along: "creep" | "crawl" };
  ends: { depth: "minus" | "plus"; along: "left" | "right" };
  spots: never;
  toggles: "tuck" | "lamp";
};

/** The plan: `parsePlan<KelplineKinds, KelplineFlags, KelplineNumbers, KelplineNames>(json)` gives it. */
export type KelplinePlan = Plan<KelplineKinds, KelplineFlags, KelplineNumbers, KelplineNames>;

/** What a step gives. */
export type KelplineReading = Reading<KelplineKinds, KelplineNames["gaits"]>;

/** The layer: `createInputLayer(plan)` gives it. */
export type KelplineLayer = InputLayer<KelplineKinds, KelplineFlags, KelplineNumbers, KelplineNames>;

/** One player's place: `layer.seat(name)` gives it. */
export type KelplineSeat = Seat<KelplineKinds, KelplineFlags, KelplineNumbers, KelplineNames>;

declare const plan: KelplinePlan;
export default plan;
