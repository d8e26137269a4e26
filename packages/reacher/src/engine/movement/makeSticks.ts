/** Makes the sticks of a movement or a turn, one per pad that the seat takes. */
import type { CheckedShape, CheckedStick } from "../../plan/checked.js";
import type { Control } from "../../controls/catalogue.js";
import type { Compiler } from "../compile.js";
import { compileShape } from "./shape.js";
import { Stick, type StickOwner } from "./stick.js";

export function addSticks(
  compiler: Compiler,
  owner: StickOwner & { readonly name: string },
  sticks: readonly CheckedStick[],
  kind: "axis" | "vector",
  add: (stick: Stick) => void,
): void {
  let number = 0;
  for (const { control, shape } of sticks) {
    const parts = stickParts(control, kind, owner.up, shape);
    const x = compiler.channel(parts.x, control);
    const y = parts.y === undefined ? undefined : compiler.channel(parts.y, control);
    if (y !== undefined) [x.other, y.other] = [y, x];
    const table = compileShape(shape);
    for (let padIndex = 0; padIndex < x.padCount; padIndex++) {
      const cells = compiler.cells.rule(`${owner.name} ${control.name} ${padIndex}`);
      const { signX, signY } = parts;
      const hiddenAt = compiler.hidden(cells);
      const id = compiler.sticks.length;
      const stick = new Stick(cells, owner, hiddenAt, id, number++, x, y, padIndex, signX, signY, table);
      compiler.readBy(stick, stick.controls);
      compiler.sticks.push(stick);
      compiler.recounts.push(stick);
      add(stick);
    }
  }
}

/** Which raw axes a stick reads, and their signs: raw pads report down as +1 (W3C Gamepad, section 7). */
function stickParts(
  control: Control,
  kind: "axis" | "vector",
  up: number,
  { invertX, invertY }: CheckedShape,
) {
  const [x, y] = control.parts as [string, string | undefined];
  const sign = invertX ? -1 : 1;
  if (kind === "vector") return { x, y, signX: sign, signY: invertY ? up : -up };
  return { x, y: undefined, signX: x.endsWith("Y") ? -up * sign : sign, signY: 1 };
}
