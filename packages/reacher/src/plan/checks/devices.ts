/** What goes wrong with devices: slots for another one, keys that the browser takes, players without a pad. In: a plan. Out: findings. */
import { PAD_BUTTONS } from "../../controls/catalogue.js";
import { DEVICE_NAMES, namesOfOwn } from "../../controls/ownControls.js";
import type { CheckedPlan } from "../checked.js";
import type { Report } from "../findings.js";
import type { PlanIndex } from "./planIndex.js";

/** The devices that a slot takes: any where it does not say. `own`: those of own controls. */
export function devicesOf(device: string | undefined, own: readonly string[]): readonly string[] {
  if (device === undefined) return [...DEVICE_NAMES, ...own];
  return device === "keyboard" ? ["keyboard", "mouse"] : [device];
}

export function checkDevices({ plan, bindings: actions }: PlanIndex, report: Report): void {
  const devices = new Map(plan.slots.map(({ name, device }) => [name, device]));
  const hasPadSlot = plan.slots.some(({ device }) => device === "pad");
  const free = freePadButton(plan, actions);
  for (const { action, all: bindings } of actions) {
    for (const { slot, control, place } of bindings) {
      const device = devices.get(slot);
      if (device !== undefined && !devicesOf(device, []).includes(control.device)) {
        report(
          "slot-device",
          place,
          `${control.name} is on the ${control.device}, and the slot ${slot} is for the ${device}`,
        );
      }
    }
    // A direction is on whatever the vector is on.
    if (
      action.kind === "switch" &&
      action.entries.some(({ of }) => of.some((source) => !("control" in source)))
    )
      continue;
    const isOn = (...on: readonly string[]) => bindings.some(({ control }) => on.includes(control.device));
    const [onPad, hasKey] = [isOn("pad"), isOn("keyboard", "mouse")];
    const place = `actions.${action.name}`;
    if (onPad && !hasKey) report("no-key", place, "has a pad control and no key");
    if (hasPadSlot && hasKey && !onPad)
      report("no-pad", place, `has a key and no pad control; ${free} is free`);
  }
}

/** Own controls that nothing uses. */
export function checkOwnControls({ plan, bindings }: PlanIndex, report: Report): void {
  const used = new Set(
    bindings.flatMap(({ all }) => all.flatMap(({ control }) => [control.name, ...control.parts])),
  );
  const held = plan.actions.flatMap((action) =>
    action.kind !== "switch" ? [] : action.entries.flatMap((entry) => ("with" in entry ? entry.with : [])),
  );
  for (const { name } of held) used.add(name);
  for (const own of plan.controls)
    if (!namesOfOwn(own).some(({ name }) => used.has(name)))
      report("unused-control", `controls.${own.name}`, "no action uses it");
}

function freePadButton(plan: CheckedPlan, actions: PlanIndex["bindings"]): string {
  const used = new Set(
    actions.flatMap(({ all }) => all.flatMap(({ control }) => [control.name, ...control.parts])),
  );
  return PAD_BUTTONS.find((name) => !used.has(name) && !plan.protected.includes(name)) ?? "no button";
}

/** What the browser or the system does with a key whatever a page says; `undefined` where it leaves it alone. */
export function browserKey(name: string): string | undefined {
  if (/^(Alt|Meta)/.test(name)) return "opens menus of the browser or the system and takes the focus away";
  if (name === "Tab" || /^F\d+$/.test(name)) return "belongs to the browser (focus, reload, full screen)";
  return undefined;
}

export function checkBrowserKeys({ bindings }: PlanIndex, report: Report): void {
  const all = bindings.flatMap(({ action, all }) => all.map((binding) => ({ action, ...binding })));
  const hasW = all.some(({ control }) => control.name === "KeyW");
  for (const { action, control, place, tapped } of all) {
    const { name } = control;
    if (/^Control/.test(name) && hasW) {
      report(
        "browser-key",
        place,
        `${name} held with KeyW is Control+W, which closes the tab, and no page can prevent it; take another key`,
      );
    } else if (browserKey(name) !== undefined) {
      report("browser-key", place, `${name} ${browserKey(name)}; take another key`);
    } else if (/^Shift/.test(name) && action.kind === "switch" && (action.style !== "hold" || tapped)) {
      report(
        "browser-key",
        place,
        `${name} tapped five times opens an accessibility dialog on some systems; for ${tapped ? "taps" : action.style === "toggle" ? "a toggle" : "what a short press turns on"} take another key`,
      );
    }
  }
}

/** Common keyboards cannot tell the program of these three at once. */
const LOST_TOGETHER = ["ArrowUp", "ArrowLeft", "Space"];

export function checkRollover({ bindings }: PlanIndex, report: Report): void {
  const all = bindings.flatMap((one) => one.all);
  const meant = LOST_TOGETHER.map((name) => all.find(({ control }) => control.name === name));
  if (meant.every((binding) => binding !== undefined)) {
    report(
      "rollover",
      meant[2]!.place,
      `many keyboards cannot report ${LOST_TOGETHER.join(", ")} held together; offer another key beside Space`,
    );
  }
}
