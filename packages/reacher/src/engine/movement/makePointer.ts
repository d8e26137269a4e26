/** Makes the pointer of a movement, and the spots that it may be measured from. */
import type { CheckedStick } from "../../plan/checked.js";
import type { Compiler, Feature } from "../compile.js";
import { EventKind } from "../queue.js";
import { Spots } from "../situations/spots.js";
import type { Movement } from "./movement.js";
import { Pointer } from "./pointer.js";
import { compileShape } from "./shape.js";

function make(compiler: Compiler, movement: Movement, { control, pointer, shape }: CheckedStick): void {
  const [nameX, nameY] = control.parts as [string, string];
  const x = compiler.channel(nameX, control);
  const y = compiler.channel(nameY, control);
  [x.other, y.other] = [y, x];
  const { around = "", fullFrom } = pointer!;
  const cells = compiler.cells.rule(`${movement.name} ${control.name} ${around}`);
  const own = new Pointer(
    cells,
    movement,
    movement.nextSource,
    compiler.hidden(cells),
    compiler.sticks.length,
    x,
    y,
    compiler.spots.get(around) ?? null,
    fullFrom,
    compileShape(shape),
    shape.invertX ? -1 : 1,
    shape.invertY ? movement.up : -movement.up,
    compiler.lastDevice,
  );
  compiler.readBy(own, own.controls);
  compiler.sticks.push(own);
  compiler.pointers.push(own);
  movement.addPointer(own);
}

export const pointer: Feature = {
  open: (compiler) => {
    const spots = new Spots(compiler);
    compiler.resets.push(spots);
    compiler.commands[EventKind.Spot] = spots;
  },
  movementOptions: [
    {
      name: "pointer",
      appliesTo: ({ sticks }) => sticks.some(({ pointer }) => pointer !== undefined),
      // One pointer, however many slots have it.
      make: (compiler, movement: Movement, { sticks }) =>
        make(
          compiler,
          movement,
          sticks.find(({ pointer }) => pointer !== undefined)!,
        ),
    },
  ],
};
