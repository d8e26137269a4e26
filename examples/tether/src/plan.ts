/** What two divers on one rope do. */
import { definePlan } from "reacher";

export const plan = definePlan({
  reacherPlan: 1,
  name: "tether",
  slots: {
    main: { label: "Left hand", device: "keyboard" },
    spare: { label: "Right hand", device: "keyboard" },
    pad: { label: "Pad", device: "pad" },
  },
  seats: { amber: { slots: ["main", "pad"] }, teal: { slots: ["spare", "pad"] } },
  actions: {
    swim: {
      kind: "vector",
      from: {
        main: { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyD" },
        spare: { up: "ArrowUp", left: "ArrowLeft", down: "ArrowDown", right: "ArrowRight" },
        pad: "PadLeftStick",
      },
      ease: { riseMs: 120, fallMs: 200 },
      pace: { unit: "m/s", base: 2.2, rules: [{ when: "kick", set: 4 }], easeMs: 150 },
    },
    kick: { kind: "switch", from: { main: "ShiftLeft", spare: "ShiftRight", pad: "PadRightTrigger" } },
    surge: {
      kind: "switch",
      cooldownMs: 700,
      from: {
        main: { taps: 2, of: "swim.each", gapMs: 250 },
        spare: { taps: 2, of: "swim.each", gapMs: 250 },
        pad: "PadSouth",
      },
    },
  },
});

export type Seat = "amber" | "teal";
export const SEATS: readonly Seat[] = ["amber", "teal"];
