/** How sticks and the mouse feel, as a player sets it while a game plays by made code. In: what the build tells of one, and settings. Out: the checked plan. Pure. */
import type { CheckedPlan } from "../plan/checked.js";
import { at, withValue } from "./formula.js";

/** A stick, a trigger, a key or a mouse, all of which have a gain and a sign. */
export interface Felt {
  /** Its shape in the checked plan; of a mouse, which has none, the mouse. */
  readonly at: string;
  /** What settings of its action begin with, and those of its slot. */
  readonly of: readonly [action: string, slot: string];
  /** The gain that the plan gives its action, and that of its entry. */
  readonly gain: readonly [common: number, own: number];
  /** Likewise which axes are inverted, one bit each; what has one axis is inverted by any. */
  readonly flips: readonly [common: number, own: number];
  readonly isOne: boolean;
}

type Given = Readonly<Record<string, unknown>>;

/** The axes that are inverted, one bit each. */
const AXES: Readonly<Record<string, number>> = { none: 0, x: 1, y: 2, both: 3 };

/** The checked plan with these settings: those of a slot multiply those of its action. */
export function feel(
  { at: path, of: [action, slot], gain, flips, isOne }: Felt,
  given: Given,
  checked: CheckedPlan,
): CheckedPlan {
  const [wide, narrow] = [`${action}.`, `${slot}.`];
  const turned = (invert: unknown) => (isOne ? Number(invert !== "none") : AXES[invert as string]!);
  const gains =
    ((given[`${wide}gain`] as number | undefined) ?? gain[0]) *
    (gain[1] * ((given[`${narrow}gain`] as number | undefined) ?? 1));
  const [common, narrower] = [given[`${wide}invert`], given[`${narrow}invert`]];
  const signs =
    (common === undefined ? flips[0] : turned(common)) ^
    flips[1] ^
    (narrower === undefined ? 0 : turned(narrower));
  const isX = (signs & 1) !== 0;
  const isY = (signs & 2) !== 0;
  const now = at(checked, path) as Given;
  const isMouse = "perPixel" in now;
  const perPixel = (now["perPixel"] as number) * gains;
  const own = isMouse
    ? { ...now, perPixelX: isX ? -perPixel : perPixel, perPixelY: isY ? -perPixel : perPixel }
    : { ...now, gain: gains, invertX: isX, invertY: isY };
  return withValue(checked, path.split("."), own);
}
