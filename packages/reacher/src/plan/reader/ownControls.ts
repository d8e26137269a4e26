/** Reads the controls that a plan names itself, and the devices that slots name. In: a plan. Out: own controls; what is wrong is reported. */
import { findControl } from "../../controls/catalogue.js";
import { didYouMean } from "../../controls/nearest.js";
import {
  DEVICE_NAMES,
  MOST_OWN,
  namesOfOwn,
  type OwnControl,
  type OwnKind,
} from "../../controls/ownControls.js";
import type { Report } from "../findings.js";
import type { OwnControlFields, Plan } from "../types.js";

/** What the names of the catalogue begin with; an own name that did would be taken for a misspelt one of these. */
const TAKEN = /^(Pad|Mouse|Key|Wheel)/;
/** The device of an own control that names none. */
const OWN = "own";

export function readOwnControls(plan: Plan, report: Report): readonly OwnControl[] {
  const written = Object.entries(plan.controls ?? {});
  if (written.length > MOST_OWN)
    report("wrong-value", "controls", `has ${written.length} controls; it has ${MOST_OWN} at most`);
  const owner = new Map<string, string>();
  return written.slice(0, MOST_OWN).map(([name, given]): OwnControl => {
    const fields: OwnControlFields = typeof given === "string" ? { kind: given as OwnKind } : given;
    const { kind, label = name, device = OWN, keepsFocus = false } = fields;
    const place = `controls.${name}`;
    const own = { name, kind, label, device, keepsFocus };
    if (!/^[A-Za-z][A-Za-z0-9]*$/.test(name))
      report("bad-name", place, `${name} is no name of a control: letters and digits alone`);
    else if (TAKEN.test(name))
      report("bad-name", place, `${name} begins like a control of a device; take another name`);
    if (["focus", ...DEVICE_NAMES].includes(device))
      report(
        "wrong-value",
        `${place}.device`,
        `${device} is taken; name a device of the game's own, such as touch`,
      );
    for (const part of namesOfOwn(own)) {
      const other = owner.get(part.name);
      const what =
        findControl(part.name) !== undefined
          ? "a control has that name"
          : Object.hasOwn(plan.actions, part.name)
            ? "an action has that name"
            : [...DEVICE_NAMES, device].includes(part.name)
              ? "a device has that name"
              : other !== undefined
                ? `${other} has a part of that name`
                : undefined;
      if (what !== undefined)
        report(
          "same-name",
          place,
          `${part.name === name ? name : `its part ${part.name}`}: ${what}; take another name`,
        );
      owner.set(part.name, name);
    }
    return own;
  });
}

/** A device that a slot is for: one of the catalogue's, or one of own controls. */
export function checkDevice(
  device: string | undefined,
  own: readonly string[],
  place: string,
  report: Report,
): void {
  if (device === undefined) return;
  const known = [...DEVICE_NAMES, ...own];
  if (known.includes(device)) return;
  report(
    "wrong-value",
    place,
    `is ${JSON.stringify(device)}; it is ${known.slice(0, -1).join(", ")} or ${known.at(-1)}${didYouMean(device, known)}`,
  );
}
