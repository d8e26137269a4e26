// Made by `reacher types game.plan.json --beside`. Make it anew when the plan's names change.
/* eslint-disable */
import type { InputLayer, Plan, Reading, Seat } from "reacher";

/** The kind of each action. */
export type MyGameKinds = {
  readonly walk: "axis";
  readonly run: "switch";
  readonly jump: "switch";
  readonly menu: "switch";
};

/** The flags that the game may set. */
export type MyGameFlags = "grounded";

/** The numbers that the game may set. */
export type MyGameNumbers = "walking" | "running";

/** Slots, modes and seats; gaits and ends by action; switches that stay on by themselves. */
export type MyGameNames = {
  slots: "keys" | "other" | "pad";
  modes: "play" | "menu";
  seats: "solo";
  gaits: {};
  ends: { walk: "minus" | "plus" };
  spots: never;
  toggles: never;
};

/** The plan: `parsePlan<MyGameKinds, MyGameFlags, MyGameNumbers, MyGameNames>(json)` gives it. */
export type MyGamePlan = Plan<MyGameKinds, MyGameFlags, MyGameNumbers, MyGameNames>;

/** What a step gives. */
export type MyGameReading = Reading<MyGameKinds, MyGameNames["gaits"]>;

/** The layer: `createInputLayer(plan)` gives it. */
export type MyGameLayer = InputLayer<MyGameKinds, MyGameFlags, MyGameNumbers, MyGameNames>;

/** One player's place: `layer.seat(name)` gives it. */
export type MyGameSeat = Seat<MyGameKinds, MyGameFlags, MyGameNumbers, MyGameNames>;

declare const plan: MyGamePlan;
export default plan;
