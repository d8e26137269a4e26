/** How a button, or one side of a direction pad, is read off an axis: odd pads have them so. In: an axis's value. Out: 0..1. Pure. */

/** Which axis of a pad, and which way of it. */
export interface AxisWay {
  readonly axis: number;
  readonly sign: 1 | -1;
  /** Where the axis rests, where that is not 0: a trigger that is an axis rests at -1. @default 0 */
  readonly rest?: number;
  /** Of a direction pad that is one axis: its value for this side. It turns by two sevenths from side to side, and rests beyond 1. */
  readonly hat?: number;
}

/** From one of the eight places of a direction pad that is one axis to the next. */
const HAT_STEP = 2 / 7;
/** Such an axis rests beyond its own range. */
const HAT_RESTS_FROM = 1.05;

/** How far this way the axis is. */
export function amountOf({ sign, rest = 0, hat }: AxisWay, value: number): number {
  if (hat !== undefined) return isBeside(hat, value) ? 1 : 0;
  const most = sign - rest;
  const amount = (value - rest) / most;
  return amount > 0 ? Math.min(1, amount) : 0;
}

/** Whether an axis that rests here is a direction pad. */
export function isHat(rest: number): boolean {
  return Math.abs(rest) > HAT_RESTS_FROM;
}

/** This side itself, or one of the two diagonals beside it: the eight places go round. */
function isBeside(side: number, value: number): boolean {
  if (Math.abs(value) > HAT_RESTS_FROM) return false;
  const steps = Math.abs(Math.round((value - side) / HAT_STEP));
  return Math.min(steps, 8 - steps) <= 1;
}
