/** Layers of made code that take a player's settings without the rules. In: what the build tells of them. Out: what such a layer does otherwise. */
import { mustBeBare } from "../layer/fixed.js";
import type { Growing } from "../lean/untilKeys.js";
import { adopt, tune } from "../made/adopt.js";
import type { Formula } from "../made/formula.js";
import { areOpen, withSettings, type Feel, type OpenSettings } from "../made/openSettings.js";
import type { CheckedPlan } from "../plan/checked.js";
import { parseOverrides, type Overrides } from "../plan/players/overrides.js";
import { knownPlan, noteResolved } from "../plan/resolve.js";
import type { Plan } from "../plan/types.js";
import type { Layers } from "./layers.js";

/** Which settings stay open, and the numbers of the code that follow from them. */
export interface OpenNumbers extends OpenSettings {
  readonly formulas: readonly Formula[];
}

export function openLayers(layers: Layers, open: OpenNumbers, feel?: Feel): Partial<Layers> {
  const { formulas } = open;
  const opens = (overrides: Overrides) => areOpen(open, overrides);
  const changed = (written: Plan, overrides: Overrides) => {
    const base = knownPlan(written)!;
    if (!opens(parseOverrides(overrides))) mustBeBare(overrides);
    const { checked, faults } = withSettings(base, open, overrides, feel);
    // Who asks for the player's plan reads it as it was checked.
    const own = { ...written };
    noteResolved(own, checked);
    return { written: own, checked, faults };
  };
  const shared: Pick<Layers, "tune"> = {
    tune: (tables, plan, slots) => tune(tables, plan, slots, formulas),
  };
  if (layers.changes !== undefined)
    return {
      ...shared,
      changes: {
        ...layers.changes,
        override: changed,
        opens,
        ...(layers.changes.change === undefined && {
          adopt: (seat, plan, slots) => adopt(seat, plan, slots, formulas),
        }),
      },
    };
  const applies = (lean: Growing, overrides: Overrides | null) => {
    const { plan, engine, slots } = lean;
    const { written, checked, faults } =
      overrides === null
        ? { written: plan, checked: knownPlan(plan)!, faults: [] }
        : changed(plan, overrides);
    lean.overrides = overrides;
    lean.own = written;
    lean.checked = checked;
    adopt(engine, checked, slots, formulas);
    return faults;
  };
  return {
    ...shared,
    layerOf: (plan: Plan, checked: CheckedPlan, tables) =>
      Object.assign(layers.layerOf(plan, checked, tables), { applies, opens }),
  };
}
