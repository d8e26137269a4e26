/** Sticks and the mouse of a plan, as tables, for axes, vectors and turns. */
import type { Control } from "../../controls/catalogue.js";
import type { CheckedShape, CheckedStick, CheckedTurn } from "../../plan/checked.js";
import { StickFloat, StickInt, TurnFloat } from "../layout.js";
import { listOf } from "../lists.js";
import { compileShape } from "../shape.js";
import type { StickTable } from "../tables.js";
import type { Draft } from "./draft.js";

export function addTurn(draft: Draft, action: CheckedTurn, actionId: number): void {
  const id = draft.turn.length;
  draft.action[actionId]!.turn = id;
  const up = draft.plan.yAxis === "up" ? 1 : -1;
  const sticks: StickTable[] = listOf();
  for (const stick of action.sticks) {
    const perMs = stick.perSecond / 1000;
    addStick(draft, actionId, stick, "vector", sticks, {
      mover: -1,
      turn: id,
      perMs,
      directions: 0,
      moverAt: -1,
    });
  }
  for (const { control, perPixelX, perPixelY } of action.mice) {
    const channels = control.parts.map((part) => draft.channelOf(part, control));
    const hiddenAt = draft.takeInts(1);
    // Pixels count downwards.
    const each = [perPixelX, -perPixelY * up];
    channels.forEach((channel, n) =>
      draft.channel[channel]!.mice.push({ turn: id, vertical: n === 1, perPixel: each[n]!, hiddenAt }),
    );
    draft.hideChannels(actionId, hiddenAt, channels, -1);
  }
  draft.turn.push({ name: action.name, action: actionId, f: draft.takeFloats(TurnFloat.Size), sticks });
}

/** A stick, once for each pad that the seat takes. */
export function addStick(
  draft: Draft,
  action: number,
  { control, shape }: CheckedStick,
  kind: "axis" | "vector",
  sticks: StickTable[],
  owner: Pick<StickTable, "mover" | "turn" | "perMs" | "directions" | "moverAt">,
): void {
  const up = draft.plan.yAxis === "up" ? 1 : -1;
  const { x, y, signX, signY } = stickParts(control, kind, up, shape);
  const ids = [x!, ...(y === undefined ? [] : [y])].map((part) => draft.channelOf(part, control));
  const [channelX, channelY] = ids.map((channel) => draft.channel[channel]!);
  if (channelY !== undefined) {
    channelX!.other = ids[1]!;
    channelX!.otherWhat = channelY.what;
    channelX!.otherF = channelY.f;
    channelY.other = ids[0]!;
    channelY.otherWhat = channelX!.what;
    channelY.otherF = channelX!.f;
  }
  const table = compileShape(shape);
  for (let place = 0; place < channelX!.places; place++) {
    const id = draft.stick.length;
    for (const channel of ids) draft.channel[channel]!.sticks.push(id);
    const stick: StickTable = {
      ...owner,
      number: sticks.length,
      rawX: channelX!.f + place,
      rawY: channelY === undefined ? -1 : channelY.f + place,
      signX,
      signY,
      f: draft.takeFloats(StickFloat.Size),
      i: draft.takeInts(StickInt.Size),
      shape: table,
      unusual:
        channelY === undefined ||
        table.cross ||
        table.points !== null ||
        table.gain !== 1 ||
        owner.directions !== 0,
      directionSignals: undefined,
    };
    draft.stick.push(stick);
    sticks.push(stick);
    draft.hideChannels(action, stick.i + StickInt.Hidden, ids, id);
  }
}

/** Which raw axes a stick reads, and their signs: raw pads report down as +1 (W3C Gamepad, section 7). */
function stickParts(
  control: Control,
  kind: "axis" | "vector",
  up: number,
  { invertX, invertY }: CheckedShape,
) {
  const [first, second] = control.parts;
  const x = invertX ? -1 : 1;
  if (kind === "vector") return { x: first, y: second, signX: x, signY: invertY ? up : -up };
  const vertical = first!.endsWith("Y");
  return { x: first, y: undefined, signX: vertical ? -up * x : x, signY: 1 };
}
