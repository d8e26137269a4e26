/** Axes and vectors of a plan, as tables: their directions, their sticks, their pace. */
import type { CheckedMovement } from "../../plan/checked.js";
import { endBits, keyVectors, oneMore } from "../keys.js";
import { EndInt, MoverFloat, MoverInt } from "../layout.js";
import { listOf } from "../lists.js";
import { compileShape } from "../shape.js";
import {
  Due,
  Opposed,
  type AnalogEndTable,
  type EndTable,
  type PaceTable,
  type StickTable,
} from "../tables.js";
import { ENDS, FURTHEST, isDigital, type Draft } from "./draft.js";
import { addStick } from "./sticks.js";
import type { Growing } from "./ways.js";

const OPPOSED = { latest: Opposed.Latest, earliest: Opposed.Earliest, neutral: Opposed.Neutral };
const FACES = { right: 0, up: 2, left: 4, down: 6 };

export function addMover(draft: Draft, action: CheckedMovement, number: number, due: number): void {
  const id = draft.mover.length;
  draft.action[number]!.mover = id;
  const up = draft.plan.yAxis === "up" ? 1 : -1;
  const analogEnds: AnalogEndTable[][] = [listOf(), listOf(), listOf(), listOf()];
  const sticks: StickTable[] = listOf();
  const hasAnalogEnds = action.ends.some(({ control }) => !isDigital(control));
  const sums = action.combine === "sum";
  const plain = action.ease === undefined && (action.pace?.easeMs ?? 0) === 0;
  const keysAlone = action.ease === undefined && !sums && !hasAnalogEnds;
  const floats = plain && keysAlone ? MoverFloat.Plain : MoverFloat.Size;
  const f = draft.takeFloats(floats);
  const moverAt = draft.takeInts(MoverInt.Size);
  const directions = action.directions === "free" ? 0 : action.directions;
  for (const end of action.ends) {
    const place = ENDS[end.end];
    const analog = !isDigital(end.control);
    const signal = draft.signalOf({
      name: end.control.name,
      control: end.control,
      press: end.press,
      release: end.release,
    });
    if (signal.ends.some((other: EndTable) => other.mover === id && other.end === place)) continue;
    const table: Growing<EndTable> = {
      mover: id,
      end: place,
      moverAt,
      newestAt: moverAt + MoverInt.Newest + place,
      bits: endBits(place),
      key: analog ? 0 : oneMore(place),
      ordered: action.opposed === "earliest",
      i: draft.takeInts(EndInt.Size),
      direction: undefined,
    };
    signal.ends.push(table);
    draft.hideable(number, table.i + EndInt.Hidden, [signal.id], { end: table });
    if (!analog) continue;
    const channel = draft.channel[signal.channel]!;
    const { places } = channel;
    const shape = compileShape(end.shape);
    const source = {
      mover: id,
      end: place,
      f: channel.f,
      places,
      sign: end.control.sign,
      shape,
      hiddenAt: table.i + EndInt.Hidden,
    };
    channel.analogEnds.push(source);
    analogEnds[place]!.push(source);
  }
  for (const stick of action.sticks)
    addStick(draft, number, stick, action.kind, sticks, {
      mover: id,
      turn: -1,
      perMs: 0,
      directions,
      moverAt,
    });
  const round = action.diagonal === "round";
  draft.mover.push({
    id,
    name: action.name,
    action: number,
    isAxis: action.kind === "axis",
    fact: draft.facts.get(action.name)!,
    factAt: draft.factsAt + draft.facts.get(action.name)!,
    live: draft.liveAt + number,
    heard: false,
    opposed: OPPOSED[action.opposed],
    directions,
    round,
    up,
    faces: FACES[action.faces],
    facingFrom: action.facingFrom,
    settleMs: action.settleMs,
    settle: action.kind === "vector" ? draft.addDue(due, { kind: Due.Settle, target: id }) : -1,
    gaitNames: action.gaits.map((gait) => gait.name),
    gaitFrom: Float64Array.from(action.gaits, (gait) => gait.from),
    // Rounded, so that 0.45 less 0.04 is 0.41 and not a little more.
    gaitTop: action.gaits.at(-1)?.from ?? FURTHEST,
    gaitKept: Float64Array.from(
      action.gaits,
      (gait) => Math.round((gait.from - gaitMargin(action)) * 1e9) / 1e9,
    ),
    sums,
    ease: action.ease,
    easing:
      action.ease === undefined
        ? -1
        : draft.addDue(due + (action.kind === "vector" ? 1 : 0), { kind: Due.Ease, target: id }),
    pace: paceOf(draft, action, id),
    easeMs: action.pace?.easeMs ?? 0,
    plain,
    f,
    floats,
    i: moverAt,
    sticks,
    analogEnds,
    hasAnalogEnds,
    keyVectors: keysAlone ? keyVectors(round, up) : null,
  });
}

function paceOf(draft: Draft, action: CheckedMovement, mover: number): PaceTable | undefined {
  if (action.pace === undefined) return undefined;
  const rules = action.pace.rules.map((rule) => ({
    words: draft.words(rule.when, draft.pacedBy, mover),
    set: rule.set !== undefined,
    by: rule.set ?? rule.times!,
  }));
  return { base: action.pace.base, rules: listOf(rules) };
}

/** A ramp that falls has to get below the beginning of its gait before it can be seen to leave it. */
function gaitMargin({ gaitMargin: margin, ease }: CheckedMovement): number {
  return ease === undefined ? margin : Math.max(margin, 1e-6);
}
