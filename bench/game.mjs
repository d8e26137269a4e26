/** The game that is measured, the same for our layer and those written by hand. */
const WASD = { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyD" };
const ARROWS = { up: "ArrowUp", left: "ArrowLeft", down: "ArrowDown", right: "ArrowRight" };
export const plan = {
  reacherPlan: 1,
  actions: {
    swim: {
      kind: "vector",
      from: { main: WASD, spare: ARROWS, pad: "PadLeftStick" },
      shape: { deadZone: { inner: 0.12, outer: 0.04 }, curve: { power: 1.6 } },
      pace: { base: 2.4, rules: [{ when: "kick", set: 4.8 }] },
    },
    kick: { kind: "switch", from: { main: "ShiftLeft" } },
    tuck: { kind: "switch", style: "toggle", from: { main: "KeyC" } },
    surge: { kind: "switch", from: { main: { taps: 2, of: "swim.each", gapMs: 220 } } },
  },
};
