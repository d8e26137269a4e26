/** Which controls an address accepts. In: a plan and an address. Out: the devices and kinds of controls. Pure. */
import { mustBeText } from "../plan/arguments.js";
import type { Control, ControlFamily } from "../controls/catalogue.js";
import type { CheckedPlan } from "../plan/checked.js";
import { browserKey, devicesOf } from "../plan/checks/devices.js";
import { controlsOf } from "../controls/ownControls.js";
import { ReacherError } from "../plan/errors.js";
import { ORDINALS } from "../plan/names.js";
import { resolvePlan } from "../plan/resolve.js";
import type { Plan } from "../plan/types.js";

/** What can be pressed, or be one end of a movement. */
const PRESSED: readonly ControlFamily[] = ["key", "button", "trigger", "half"];

/** The controls that an address accepts. */
export interface Acceptance {
  readonly families: readonly ControlFamily[];
  readonly devices: readonly string[];
}

/** The controls that an address accepts. @throws ReacherError if the plan has no such action or slot */
export function acceptedAt(written: Plan, address: string): Acceptance {
  mustBeText(address, "address");

  const plan = resolvePlan(written);
  const [name = "", slotName = "", ...parts] = address.split(".");
  const action = plan.actions.find((one) => one.name === name);
  const slot = plan.slots.find((one) => one.name === slotName);
  if (action === undefined || slot === undefined)
    throw new ReacherError(
      `${JSON.stringify(address.slice(0, 80))} is no address of the plan; one is ${plan.actions[0]?.name}.${plan.slots[0]?.name}`,
    );
  const devices = devicesOf(slot.device, controlsOf(plan).devices);
  const part = parts.at(-1);
  const whole = part === undefined || /^\d+$/.test(part) || ORDINALS.includes(part);
  if (action.kind === "switch" || !whole) return { families: PRESSED, devices };
  if (action.kind === "axis") return { families: ["axis", "trigger", "dpadAxis"], devices };
  return { families: action.kind === "turn" ? ["stick"] : ["stick", "dpad", "pointer"], devices };
}

/** Why an address does not accept a control, or `undefined` if it does. */
export function misfitAt(plan: Plan, address: string, name: string): string | undefined {
  const control = controlsOf(resolvePlan(plan)).find(name);
  if (control === undefined) return `${name} is no control`;
  const { families, devices } = acceptedAt(plan, address);
  if (!devices.includes(control.device)) return `it is for the ${devices.join(" or ")}`;
  if (!families.includes(control.family))
    return `it takes ${families.map((one) => FAMILY_WORDS[one]).join(" or ")}`;
  return keptAway(resolvePlan(plan), address, control);
}

function keptAway(plan: CheckedPlan, address: string, { name }: Control): string | undefined {
  const why = browserKey(name);
  if (why !== undefined) return `${name} ${why}`;
  const own = plan.actions.find((one) => one.name === address.split(".")[0]);
  const has =
    own?.kind === "switch" && own.entries.some(({ of }) => of.some((source) => source.name === name));
  return plan.protected.includes(name) && !has ? `${name} is kept for something else` : undefined;
}

const FAMILY_WORDS: Record<ControlFamily, string> = {
  key: "a key",
  button: "a button",
  trigger: "a trigger",
  axis: "one way of a stick",
  half: "one side of a stick",
  stick: "a stick",
  dpad: "a direction pad",
  dpadAxis: "two sides of a direction pad",
  motion: "an amount",
  pointer: "the pointer",
};
