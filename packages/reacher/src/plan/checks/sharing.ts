/** What goes wrong where one control serves two: two actions, or two players. In: a plan. Out: findings. */
import type { Control } from "../../controls/catalogue.js";
import type { CheckedAction, CheckedPlan } from "../checked.js";
import { areStages, beginApart, canBeLiveTogether, type Binding } from "./bindings.js";
import type { Report } from "../findings.js";
import type { PlanIndex } from "./planIndex.js";

/** Who uses a part of a control. */
interface User {
  readonly action: CheckedAction;
  readonly place: string;
  readonly slot: string;
  readonly press: number | undefined;
}

export function checkSharing({ plan, bindings }: PlanIndex, report: Report): void {
  const users = new Map<string, User[]>();
  const together = (one: string, other: string) =>
    plan.seats.some(({ slots }) => slots.includes(one) && slots.includes(other));
  for (const { action, all } of bindings) {
    for (const { control, place, plain, slot, press } of all) {
      if (!plain) continue;
      const own: User = { action, place, slot, press };
      const user = control.parts
        .map((part) =>
          users
            .get(part)
            ?.find(
              (one) =>
                one.action !== action &&
                canBeLiveTogether(one.action, action) &&
                together(one.slot, slot) &&
                !areStages(one, own) &&
                !beginApart(plan, one.action, action),
            ),
        )
        .find((one) => one !== undefined);
      if (user !== undefined) reportShared(plan, user, { action, place, control }, report);
      for (const part of control.parts) {
        const known = users.get(part);
        if (known === undefined) users.set(part, [own]);
        else known.push(own);
      }
    }
  }
}

/** What goes wrong between players: keys that two share, slots that none has. */
export function checkSeats({ plan, bindings }: PlanIndex, report: Report): void {
  if (!plan.seated) return;
  const seatsOf = (slot: string) => plan.seats.filter(({ slots }) => slots.includes(slot));
  for (const { name } of plan.slots)
    if (seatsOf(name).length === 0) report("unused-slot", `slots.${name}`, "no seat has this slot");
  const keys = new Map<string, Binding>();
  for (const binding of bindings.flatMap(({ all }) => all)) {
    if (binding.control.device === "pad") continue;
    const { name } = binding.control;
    const other = keys.get(name);
    const seats = seatsOf(binding.slot);
    const also = other === undefined ? [] : seatsOf(other.slot).filter((seat) => !seats.includes(seat));
    if (also.length > 0)
      report(
        "two-seats",
        binding.place,
        `${name} is ${also.map((seat) => seat.name).join(" and ")}'s too, at ${other!.place}; one press moves both players`,
      );
    else if (seats.length > 1)
      report(
        "two-seats",
        binding.place,
        `${name} is in a slot of ${seats.map((seat) => seat.name).join(" and ")}; one press moves both players`,
      );
    keys.set(name, binding);
  }
}

function reportShared(
  plan: CheckedPlan,
  user: { action: CheckedAction; place: string },
  { action, place, control }: { action: CheckedAction; place: string; control: Control },
  report: Report,
): void {
  const [always, within] = user.action.in.length === 0 ? [user.action, action] : [action, user.action];
  const trap = plan.modes.find(({ name, covers }) => covers === "all" && within.in.includes(name));
  if (trap !== undefined && always.in.length === 0) {
    report(
      "way-out-fires",
      place,
      `${control.name} does ${within.name} in ${trap.name} and ${always.name} in every mode; the press that ends one begins the other: give ${always.name} its modes ("in")`,
    );
  } else {
    report(
      "same-control",
      place,
      `${control.name} does ${user.action.name} too, at ${user.place}; one press does both`,
    );
  }
}
