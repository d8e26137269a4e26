/**
 * The times that a plan counts by, as they were open. In: a plan, what its controls did and what became of it. Out: for each switch the windows of taps and
 * series, long presses that fill, rests, presses that are kept. Pure.
 */
import type { Plan } from "reacher";
import { resolvePlan, type CheckedPlan, type CheckedSwitch, type Source } from "reacher/check";
import type { ActionLane, ControlLane } from "./timeline";

/** One such time. `place` is the number that makes it as long as it is. */
export interface Window {
  readonly from: number;
  readonly to: number;
  readonly kind: "taps" | "series" | "long" | "short" | "kept" | "rests";
  readonly place: string;
}

/** Those of one action, by when they open. */
export function windowsOf(
  written: Plan,
  { seat, action: name, bars }: Pick<ActionLane, "seat" | "action" | "bars">,
  controls: readonly ControlLane[],
): readonly Window[] {
  const plan = resolvePlan(written);
  const action = plan.actions.find((one) => one.name === name);
  const slots = plan.seats.find((one) => one.name === seat)?.slots ?? [];
  if (action?.kind !== "switch") return [];
  const { restMs } = action;
  const place = `actions.${name}.restMs`;
  const rests = bars.map(({ from }): Window => ({ from, to: from + restMs, kind: "rests", place }));
  return [...(restMs > 0 ? rests : []), ...switchWindows(plan, action, controls, slots)];
}

function switchWindows(
  plan: CheckedPlan,
  action: CheckedSwitch,
  controls: readonly ControlLane[],
  slots: readonly string[],
): Window[] {
  const found: Window[] = [];
  for (const entry of action.entries.filter(({ slot }) => slots.includes(slot))) {
    const place = (field: string) =>
      `actions.${action.name}.from.${entry.address.split(".").slice(1).join(".")}.${field}`;
    const presses = entry.of.flatMap((source) => pressesOf(plan, source, controls));
    for (const { from, to } of presses) {
      if (entry.kind === "taps" || entry.kind === "series")
        found.push({ from, to: from + entry.gapMs, kind: entry.kind, place: place("gapMs") });
      else if (entry.kind === "long")
        // It fills for as long as the press is held.
        found.push({ from, to: Math.min(to, from + entry.afterMs), kind: "long", place: place("afterMs") });
      else if (entry.kind === "short")
        found.push({
          from,
          to: Math.min(to, from + entry.beforeMs),
          kind: "short",
          place: place("beforeMs"),
        });
      if (action.keepMs > 0)
        found.push({ from, to: from + action.keepMs, kind: "kept", place: `actions.${action.name}.keepMs` });
    }
  }
  return found.sort((one, other) => one.from - other.from);
}

/** When a control, or any control of a direction, was pressed. */
function pressesOf(plan: CheckedPlan, source: Source, controls: readonly ControlLane[]) {
  const names = "control" in source ? [source.control.name] : controlsOf(plan, source);
  return controls.filter(({ control }) => names.includes(control)).flatMap(({ bars }) => bars);
}

function controlsOf(plan: CheckedPlan, source: Extract<Source, { readonly end: string }>): string[] {
  const movement = plan.actions.find(({ name }) => name === source.action);
  if (movement === undefined || movement.kind === "switch" || movement.kind === "turn") return [];
  return movement.ends.filter(({ way }) => way === source.end).map(({ control }) => control.name);
}
