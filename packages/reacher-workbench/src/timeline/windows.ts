/**
 * The time windows that a plan counts by. In: a plan, lanes of controls, and a switch's lane. Out: for each switch the windows of taps and
 * series, filling long presses, cooldowns, and kept presses. Pure.
 */
import type { Plan } from "reacher";
import {
  directionsIn,
  resolvePlan,
  shownOf,
  type CheckedPlan,
  type CheckedSwitch,
  type Source,
} from "reacher/internal";
import type { ActionLane, ControlLane, Window } from "./lanes";

/** The windows of one action, sorted by when they open. */
export function windowsOf(
  written: Plan,
  { seat, action: name, bars }: Pick<ActionLane, "seat" | "action" | "bars">,
  controls: readonly ControlLane[],
): readonly Window[] {
  const plan = resolvePlan(written);
  const action = plan.actions.find((one) => one.name === name);
  const slots = plan.seats.find((one) => one.name === seat)?.slots ?? [];
  if (action?.kind !== "switch") return [];
  const { cooldownMs } = action;
  const place = `actions.${name}.cooldownMs`;
  const cooldowns = bars.map(({ from }): Window => ({
    from,
    to: from + cooldownMs,
    kind: "cooldown",
    place,
  }));
  return [...(cooldownMs > 0 ? cooldowns : []), ...switchWindows(plan, action, controls, slots)];
}

function switchWindows(
  plan: CheckedPlan,
  action: CheckedSwitch,
  controls: readonly ControlLane[],
  slots: readonly string[],
): Window[] {
  const { bufferMs, name } = action;
  const found: Window[] = [];
  for (const entry of action.entries.filter(({ slot }) => slots.includes(slot))) {
    const { window } = shownOf(entry);
    const { kind } = entry;
    const place = `actions.${name}.from.${entry.address.split(".").slice(1).join(".")}.${window?.field}`;
    const keepPlace = `actions.${name}.bufferMs`;
    for (const { bars } of lanesOf(plan, entry.of, controls))
      for (const { from, to } of bars) {
        if (window !== undefined) {
          const end = from + window.ms;
          found.push({ from, to: window.endsWithPress && to < end ? to : end, kind, place });
        }
        if (bufferMs > 0) found.push({ from, to: from + bufferMs, kind: "kept", place: keepPlace });
      }
  }
  return found.sort((a, b) => a.from - b.from);
}

/** The lanes of the controls of these sources: a direction has several. */
function lanesOf(
  plan: CheckedPlan,
  sources: readonly Source[],
  controls: readonly ControlLane[],
): ControlLane[] {
  return sources.flatMap((source) => {
    const names = "control" in source ? [source.control.name] : controlsOf(plan, source);
    return controls.filter(({ control }) => names.includes(control));
  });
}

function controlsOf(plan: CheckedPlan, source: Extract<Source, { readonly action: string }>): string[] {
  const movement = plan.actions.find(({ name }) => name === source.action);
  if (movement === undefined || movement.kind === "switch" || movement.kind === "turn") return [];
  const ways = directionsIn(source);
  return movement.ends.filter(({ way }) => ways.includes(way)).map(({ control }) => control.name);
}
