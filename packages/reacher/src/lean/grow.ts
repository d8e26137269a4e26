/** A lean layer becomes a whole one. In: a lean layer, and rules. May change: the lean layer, whose calls are the whole one's from then on. */
import { exchange } from "../engine/exchange.js";
import type { Rules } from "../layer/builtParts.js";
import { createCheckedLayer, takePresses } from "../layer/layer.js";
import type { LayerParts, LayerSeats } from "../layer/layerSeats.js";
import type { CheckedPlan } from "../plan/checked.js";
import type { Plan } from "../plan/types.js";
import type { Growing } from "./untilKeys.js";

/** `read`: the plan as it was checked. */
export async function grow(lean: Growing, rules: Rules, read: (plan: Plan) => CheckedPlan): Promise<void> {
  if (lean.isWhole) return;
  const { plan: written, slots } = lean;
  const plan = read(written);
  const known = rules.ownPlans(written, plan);
  await rules.prepare(known.of(lean.overrides).checked, slots);
  const parts: LayerParts = {
    written,
    change: rules.change,
    tablesOf: (_, checked, slots) => rules.tablesOf(checked, slots),
    override: rules.override,
    resolve: read,
  };
  // A layer that nobody plays comes first: see `rehearse`.
  await rules.pause();
  become({}, seatAndLayer(createCheckedLayer(plan, parts)));
  await rules.pause();
  if (lean.isWhole) return;
  lean.isWhole = true;
  const { unbound, waiting, presses, ...taken } = lean.handOver();
  const { overrides } = lean;
  const own = known.of(overrides);
  exchange(taken.engine, rules.tablesOf(own.checked, slots), taken.now);
  const whole = createCheckedLayer(plan, { ...parts, taken: { ...taken, own: { overrides, ...own } } });
  const { hub } = whole as unknown as { readonly hub: LayerSeats };
  if (presses !== null) takePresses(whole, presses);
  hub.first.hear();
  for (const { control, pad, value } of unbound)
    if (hub.controls.isRaw(control)) hub.unbound.note(hub.controls, control, pad, value);
  for (const event of waiting) if (hub.controls.isRaw(event.control)) whole.feed(event);
  become(lean, seatAndLayer(whole));
}

const seatAndLayer = (whole: object) => [whole, (whole as { readonly hub: LayerSeats }).hub.first];

/** Whatever is asked of it is asked of the first of these that has it. */
function become(lean: object, others: readonly object[]): void {
  for (const name of Object.keys(lean)) delete lean[name as keyof typeof lean];
  const calls: object = {};
  for (const other of others)
    for (let own = other; own !== Object.prototype; own = Object.getPrototypeOf(own) as object)
      for (const [name, { value, writable, set }] of Object.entries(Object.getOwnPropertyDescriptors(own))) {
        if (name in calls) continue;
        if (typeof value === "function" && own !== other)
          Object.defineProperty(calls, name, { value: (value as () => void).bind(other) });
        else
          Object.defineProperty(calls, name, {
            get: () => Reflect.get(other, name) as unknown,
            ...((writable === true || set !== undefined) && {
              set: (given: unknown) => void Reflect.set(other, name, given),
            }),
          });
      }
  Object.setPrototypeOf(lean, calls);
}
