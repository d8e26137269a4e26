/**
 * A player's settings while a game plays by code that was made for its plan: numbers and styles stay open. In: a checked plan, what
 * the build tells of it, and overrides. Out: the player's own plan, checked, and what did not fit. Pure.
 */
import type { CheckedPlan } from "../plan/checked.js";
import { NO_NUMBER, nearest, noneOf, ofAnother, outside } from "../plan/players/faults.js";
import { parseOverrides, type OverrideFault, type Overrides } from "../plan/players/overrides.js";
import type { Range } from "../plan/types.js";
import type { feel, Felt } from "./feel.js";
import { withValue } from "./formula.js";

/** What the build tells of a plan whose settings stay open. */
export interface OpenSettings {
  /** By address: the least and the most of a number, or what may be chosen; and where in the checked plan it stands. */
  readonly settings: Readonly<Record<string, readonly [Range | readonly string[], ...paths: string[]]>>;
  /** How sticks and the mouse feel. */
  readonly felt: readonly Felt[];
  /** What is said of the plan whatever is set. */
  readonly warned: readonly OverrideFault[];
}

export type Feel = typeof feel;

/** Whether these change nothing but what stays open. */
export function areOpen(
  { settings: open }: OpenSettings,
  { controls = {}, settings = {} }: Overrides,
): boolean {
  return (
    Object.keys(controls).length === 0 &&
    Object.keys(settings).every((address) => Object.hasOwn(open, address))
  );
}

/** @throws ReacherError if these are no overrides */
export function withSettings(
  base: CheckedPlan,
  open: OpenSettings,
  raw: Overrides,
  feel?: Feel,
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
      if (Object.hasOwn(own, address)) for (const path of paths) put(path, asPlaced(path, own[address]));
    }
    for (const one of open.felt) checked = feel!(one, own, checked);
  }
  faults.push(...open.warned);
  return { checked, faults };
}

/** What a setting makes of a place of the checked plan: a hold alone carries a key over. */
export const asPlaced = (path: string, value: unknown): unknown =>
  path.endsWith(".carry") ? value === "hold" : value;

/** Settings of the whole plan come first, then those of actions, then those of slots: the narrower override the wider. */
function inOrder({ slots }: CheckedPlan, all: readonly (readonly [string, unknown])[]) {
  const widthOf = ([address]: readonly [string, unknown]) => {
    const [, second, ...rest] = address.split(".");
    return rest.length > 0 && slots.some(({ name }) => name === second) ? 2 : second === undefined ? 0 : 1;
  };
  return [...all].sort((a, b) => widthOf(a) - widthOf(b));
}
