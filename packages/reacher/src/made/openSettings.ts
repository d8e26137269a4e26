/**
 * A player's settings while a game plays by code that was made for its plan: numbers stay open, and so does hold or toggle. In: a checked plan, what
 * the build tells of it, and overrides. Out: the player's own plan, checked, and what did not fit. Pure.
 */
import type { CheckedPlan } from "../plan/checked.js";
import { NO_NUMBER, nearest, noneOf, ofAnother, outside } from "../plan/players/faults.js";
import { parseOverrides, type OverrideFault, type Overrides } from "../plan/players/overrides.js";
import type { Range } from "../plan/types.js";
import { at, withValue } from "./formula.js";

/** What the build tells of a plan whose settings stay open. */
export interface OpenSettings {
  /** By address: the least and the most of a number, or what may be chosen; and where in the checked plan it stands as it is. */
  readonly settings: Readonly<Record<string, readonly [Range | readonly string[], ...paths: string[]]>>;
  /** How sticks and the mouse feel. */
  readonly felt: readonly Felt[];
  /** What is said of the plan whatever is set. */
  readonly warned: readonly OverrideFault[];
}

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

/** Whether these change nothing but what stays open. */
export function areOpen(
  { settings: open }: OpenSettings,
  { controls = {}, settings = {} }: Overrides,
): boolean {
  return (
    Object.keys(controls).length === 0 &&
    Object.entries(settings).every(([address, value]) => Object.hasOwn(open, address) && value !== "either")
  );
}

/** @throws ReacherError if these are no overrides */
export function withSettings(
  base: CheckedPlan,
  open: OpenSettings,
  raw: Overrides,
): { readonly checked: CheckedPlan; readonly faults: readonly OverrideFault[] } {
  const { plan = base.name, settings = {} } = parseOverrides(raw);
  const faults: OverrideFault[] = [];
  const fault = (what: OverrideFault["what"], place: string, message: string) =>
    void faults.push({ place, message, what });
  let checked = { ...base };
  const put = (path: string, value: unknown) => void (checked = withValue(checked, path.split("."), value));
  if (plan !== base.name) fault("rejected", "", ofAnother(plan, base.name));
  else {
    const own: Record<string, unknown> = {};
    for (const [address, value] of inOrder(base, Object.entries(settings))) {
      const [allowed, ...paths] = open.settings[address]!;
      const place = `settings.${address}`;
      if (typeof allowed[0] === "string") {
        if ((allowed as readonly unknown[]).includes(value)) own[address] = value;
        else fault("rejected", place, noneOf(allowed as readonly string[]));
      } else if (typeof value !== "number" || !Number.isFinite(value)) fault("rejected", place, NO_NUMBER);
      else {
        const range = allowed as Range;
        own[address] = nearest(value, range);
        if (own[address] !== value) fault("clamped", place, outside(value, range));
      }
      if (Object.hasOwn(own, address)) for (const path of paths) put(path, own[address]);
    }
    for (const one of open.felt) feel(one, own, checked, put);
  }
  faults.push(...open.warned);
  return { checked, faults };
}

/** Settings of the whole plan come first, then those of actions, then those of slots: the narrower override the wider. */
function inOrder({ slots }: CheckedPlan, all: readonly (readonly [string, unknown])[]) {
  const widthOf = ([address]: readonly [string, unknown]) => {
    const [, second, ...rest] = address.split(".");
    return rest.length > 0 && slots.some(({ name }) => name === second) ? 2 : second === undefined ? 0 : 1;
  };
  return [...all].sort((a, b) => widthOf(a) - widthOf(b));
}

function feel(
  { at: path, of: [action, slot], gain, flips, isOne }: Felt,
  given: Given,
  checked: CheckedPlan,
  put: (path: string, value: unknown) => void,
): void {
  const [wide, narrow] = [`${action}.`, `${slot}.`];
  const turned = (invert: unknown) => (isOne ? Number(invert !== "none") : AXES[invert as string]!);
  const gains =
    ((given[`${wide}gain`] as number | undefined) ?? gain[0]) *
    (gain[1] * ((given[`${narrow}gain`] as number | undefined) ?? 1));
  const [common, own] = [given[`${wide}invert`], given[`${narrow}invert`]];
  const signs =
    (common === undefined ? flips[0] : turned(common)) ^ flips[1] ^ (own === undefined ? 0 : turned(own));
  const isX = (signs & 1) !== 0;
  const isY = (signs & 2) !== 0;
  const now = at(checked, path) as Given;
  if ("perPixel" in now) {
    const perPixel = (now["perPixel"] as number) * gains;
    put(`${path}.perPixelX`, isX ? -perPixel : perPixel);
    put(`${path}.perPixelY`, isY ? -perPixel : perPixel);
    return;
  }
  put(`${path}.gain`, gains);
  put(`${path}.invertX`, isX);
  put(`${path}.invertY`, isY);
}
