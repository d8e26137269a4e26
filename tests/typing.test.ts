/** What must and what must not compile: the compiler itself is asked. */
import { complaints } from "./support/compiler";

const GAME = (more: { swim?: string; kick?: string; use?: string }) => `
import { createInputLayer, definePlan } from "reacher";
const plan = definePlan({
  reacherPlan: 1,
  flags: { hasAir: true },
  actions: {
    swim: { kind: "vector", from: { main: { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyD" } } ${more.swim ?? ""} },
    depth: { kind: "axis", from: { main: { minus: "KeyQ", plus: "KeyE" } } },
    kick: { kind: "switch", from: { main: "ShiftLeft" } ${more.kick ?? ""} },
  },
});
const input = createInputLayer(plan);
const { swim, depth, kick } = input.step(0);
export const used: [number, number, boolean, string | null] = [swim.x, depth.value, kick.on, swim.gait];
${more.use ?? ""}
`;

test.each<[Parameters<typeof GAME>[0], RegExp | undefined]>([
  [{}, undefined],
  [{ use: `input.setFlag("hasAir", false); input.on("kick", "on", (t: number) => t);` }, undefined],
  [{ use: `input.step(1).swmi;` }, /'swmi' does not exist/],
  [{ use: `swim.on;` }, /'on' does not exist on type 'VectorReading'/],
  [{ use: `kick.x;` }, /'x' does not exist on type 'SwitchReading'/],
  [{ use: `input.setFlag("hasAri", true);` }, /"hasAri"' is not assignable to parameter of type '"hasAir"'/],
  [{ use: `input.on("swim", "on", () => {});` }, /"swim"' is not assignable to parameter of type '"kick"'/],
  [{ kick: `, stlye: "hold"` }, /'stlye' does not exist/],
  [{ kick: `, style: "holds"` }, /"holds"' is not assignable/],
  [{ kick: `, gaits: {}` }, /'gaits' does not exist/],
  [{ swim: `, pace: { unit: "m/s" }` }, /'base' is missing/],
])("%j", (more, complaint) => {
  const found = complaints(GAME(more)).join("\n");
  if (complaint === undefined) expect(found).toBe("");
  else expect(found).toMatch(complaint);
});
