/** Settings of the whole plan, as a player has them: sticks exchanged, holds as toggles. In: a plan as it is written. Pure. */
import { withStyle } from "../options/index.js";
import type { Plan, PlayerFields } from "../types.js";

type Json = Record<string, unknown>;

/** Exchanges the left and right sticks; pressing them down stays where it is. */
export function withSticksSwapped(plan: Plan): Plan {
  const other = (name: string) =>
    /^Pad(Left|Right)Stick(X|Y|Up|Down|Left|Right)?$/.test(name)
      ? name.startsWith("PadLeft")
        ? name.replace("PadLeft", "PadRight")
        : name.replace("PadRight", "PadLeft")
      : name;
  const swap = (entry: unknown): unknown => {
    if (typeof entry === "string") return other(entry);
    if (Array.isArray(entry)) return entry.map(swap);
    if (!isObject(entry)) return entry;
    return Object.fromEntries(
      Object.entries(entry).map(([field, value]) => [field, field === "shape" ? value : swap(value)]),
    );
  };
  return withActions(plan, (action) => ({ ...action, from: swap(action["from"]) }));
}

/** All holds as toggles, if the plan lists toggle among the styles that a player may choose. */
export function withToggles(plan: Plan): Plan {
  return withActions(plan, (action) => {
    const { style } = (action["player"] ?? {}) as PlayerFields;
    const turns = (action["style"] ?? "hold") === "hold" && style?.includes("toggle") === true;
    return turns && action["locked"] !== true ? withStyle(action, "toggle") : action;
  });
}

function withActions(plan: Plan, change: (action: Json) => Json): Plan {
  const actions = Object.entries(plan.actions).map(([name, action]) => [
    name,
    change(action as unknown as Json),
  ]);
  return { ...plan, actions: Object.fromEntries(actions) } as Plan;
}

/** An object without one of its fields. */
export function without(object: Json, field: string): Json {
  return Object.fromEntries(Object.entries(object).filter(([key]) => key !== field));
}

function isObject(value: unknown): value is Json {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}
