/** Where an action's controls stand, as a player changes them: one place for each address. In: an action. Out: bindings. Pure. */
import { findControl } from "../controls/catalogue.js";
import type { CheckedAction } from "../plan/checked.js";
import { bindingsOf, type Binding } from "../plan/checks/bindings.js";

/** A direction pad that drives a whole vector is four ends for the engine, and one place for its player. */
export function placesOf(action: CheckedAction): Binding[] {
  const seen = new Set<string>();
  return bindingsOf(action).flatMap((binding) => {
    if (!isWholePad(binding)) return [binding];
    if (seen.has(binding.address)) return [];
    seen.add(binding.address);
    const { place, address, slot, plain, pattern } = binding;
    return [{ place, address, slot, plain, pattern, control: wholeOf(action, binding) }];
  });
}

/** Of an axis two sides of the pad are one place. */
function wholeOf({ kind }: CheckedAction, { control }: Binding) {
  const sides = /(Left|Right)$/.test(control.name) ? "PadDpadX" : "PadDpadY";
  return findControl(kind === "axis" ? sides : "PadDpad")!;
}

function isWholePad({ end, address, control }: Binding): boolean {
  return end !== undefined && control.name.startsWith("PadDpad") && !address.endsWith(`.${end}`);
}
