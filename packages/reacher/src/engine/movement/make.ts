/** Makes the axes and vectors of a plan. */
import type { CheckedMovement } from "../../plan/checked.js";
import type { Compiler, Feature } from "../compile.js";
import { isDigital } from "../wiring.js";
import { Amounts } from "./amounts.js";
import { ENDS } from "./ends.js";
import { Facing } from "./facing.js";
import { Movement } from "./movement.js";
import { MovementEnd } from "./movementEnd.js";
import { AxisReading, VectorReading } from "./readings.js";
import { compileShape } from "./shape.js";

function make(compiler: Compiler, action: CheckedMovement, number: number): void {
  const { timers, movements } = compiler;
  const cells = compiler.cells.rule(`${action.kind} ${action.name}`);
  const up = compiler.plan.yAxis === "up" ? 1 : -1;
  const live = compiler.live(cells);
  const movement = new Movement(cells, movements.length, number, action, up, compiler.devices, live, timers);
  movements.push(movement);
  const Reading = action.kind === "axis" ? AxisReading : VectorReading;
  compiler.addAction(movement, (s, number) => new Reading(s, number));
  compiler.conditions.set(action.name, movement.condition);
  compiler.resets.push(movement);
  compiler.addDirections(action.name, (end, signal) => {
    movement.directionSignals[ENDS[end as "up"]] = signal;
    movement.hasDirections = true;
    wireDirection(compiler, action, end, movement, signal);
  });
  movement.facing = new Facing(cells, movement, action, timers, number);
  addEnds(compiler, movement, action);
  if (movement.amounts !== null || movement.sums || action.ease !== undefined) movement.keepParts();
  if (action.pace !== undefined || action.gaitsBy === "speed")
    movement.pacedId = compiler.paced.push(movement) - 1;
  compiler.makeMovementOptions(movement, action, number);
  compiler.recounts.push(movement);
}

/** A direction is pressed by its controls, and by the movement's sticks. */
function wireDirection(
  compiler: Compiler,
  action: CheckedMovement,
  end: string,
  movement: Movement,
  direction: Parameters<Compiler["addDirectionSource"]>[0],
): void {
  for (const { way: own, control, press, release } of action.ends)
    if (ENDS[own] === ENDS[end as "up"])
      compiler.addDirectionSource(
        direction,
        compiler.signal({ name: control.name, control, press, release }),
      );
  for (const stick of movement.sticks)
    compiler.addDirectionSource(direction, { stick, end: ENDS[end as "up"] });
}

function addEnds(compiler: Compiler, movement: Movement, action: CheckedMovement): void {
  const known = new Set<string>();
  for (const { control, press, release, way: name, shape } of action.ends) {
    const signal = compiler.signal({ name: control.name, control, press, release });
    const end = ENDS[name];
    const key = `${action.name}.${name} ${signal.key}`;
    // The same control in two slots is one source.
    if (known.has(key)) continue;
    known.add(key);
    const cells = compiler.cells.rule(key);
    const hiddenAt = compiler.hidden(cells);
    const isKey = isDigital(control);
    const own = new MovementEnd(cells, movement, end, signal, hiddenAt, compiler.eventNumber, isKey);
    compiler.addEnd(signal, own);
    compiler.recounts.push(own);
    movement.parts.push(own);
    if (isKey) continue;
    const channel = signal.channel!;
    movement.amounts ??= new Amounts(movement.cells);
    movement.amounts.add({ end, channel, sign: control.sign, shape: compileShape(shape), hiddenAt });
    if (!channel.movements.includes(movement.id)) channel.movements.push(movement.id);
  }
}

export const movements: Feature = { actions: { axis: make, vector: make } };
