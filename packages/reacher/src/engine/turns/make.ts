/** Makes the turns of a plan: the mouse and the sticks that turn the view. */
import type { CheckedTurn } from "../../plan/checked.js";
import type { Compiler, Feature } from "../compile.js";
import { makePace } from "../movement/options.js";
import { addSticks } from "../movement/makeSticks.js";
import { MouseMotion, MousePart } from "./mouse.js";
import { TurnReading } from "./reading.js";
import { Turn } from "./turn.js";

function make(compiler: Compiler, action: CheckedTurn, number: number): void {
  const cells = compiler.cells.rule(`turn ${action.name}`);
  const up = compiler.plan.yAxis === "up" ? 1 : -1;
  const turn = new Turn(cells, compiler.turns.length, number, action, up, compiler.live(cells));
  compiler.turns.push(turn);
  compiler.addAction(turn, (s, action) => new TurnReading(s, action));
  if (action.rules.length > 0) {
    turn.pacedId = compiler.paced.push(turn) - 1;
    turn.pace = makePace(compiler, turn, { unit: "", base: 1, rules: action.rules, easeMs: 0 });
    compiler.resets.push(turn);
  }
  for (const { perSecond, ...stick } of action.sticks)
    addSticks(compiler, turn, [stick], "vector", (own) => {
      turn.sticks.push({ stick: own, perMs: perSecond / 1000 });
      turn.parts.push(own);
    });
  action.mice.forEach(({ control, perPixelX, perPixelY }, n) => {
    const channels = control.parts.map((part) => compiler.channel(part, control));
    const hiddenAt = compiler.hidden(compiler.cells.rule(`${action.name} mouse ${n}`));
    turn.parts.push(
      new MousePart(
        hiddenAt,
        channels.map(({ id }) => id),
      ),
    );
    [channels[0]!.other, channels[1]!.other] = [channels[1]!, channels[0]!];
    // Pixels count downwards.
    [perPixelX, -perPixelY * up].forEach((perPixel, way) => {
      const channel = channels[way]!;
      channel.filter ??= new MouseMotion(channel.device, compiler.lastDevice);
      (channel.filter as MouseMotion).add({ turn: turn, way, perPixel, hiddenAt });
    });
  });
}

export const turns: Feature = { actions: { turn: make } };
