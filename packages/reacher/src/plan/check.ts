/** What goes wrong in practice with plans that do run. In: a plan. Out: findings, errors first, then warnings, then hints. */
import { PAD_BUTTONS, type Control, type Device } from "../controls/catalogue.js";
import type { CheckedAction, CheckedEntry, CheckedMovement, CheckedPlan, CheckedSwitch } from "./checked.js";
import { finding, type Finding, type FindingId, type Severity } from "./findings.js";
import { readPlan } from "./read.js";

export { didYouMean } from "../controls/nearest.js";
export { FINDINGS, type Finding, type FindingId, type Severity } from "./findings.js";

/** A dead zone that leaves less than this share of the travel cuts most of it. */
const LEAST_TRAVEL = 0.5;
/** Sticks at rest wander by about this much. */
const REST_NOISE = 0.03;

const ORDER: readonly Severity[] = ["error", "warning", "hint"];

/** Checks a plan. Where it has errors, these are all that is told; else the plan comes with warnings and hints. */
export function checkPlan(raw: unknown): { plan: CheckedPlan | undefined; findings: readonly Finding[] } {
  const read = readPlan(raw);
  if (!read.ok) return { plan: undefined, findings: read.findings };
  const { plan } = read;
  const found: Finding[] = [];
  const report = (id: FindingId, place: string, message: string) =>
    void found.push(finding(id, place, message));
  for (const action of plan.actions) {
    if (isUnbound(action)) {
      report(
        "unbound-action",
        `actions.${action.name}`,
        "no slot has a control for it, so it can never happen",
      );
    }
    if (action.kind === "switch") {
      checkSwitch(action, report);
      checkEntries(plan, action, report);
    }
    if (action.kind === "axis" || action.kind === "vector") checkMovement(action, report);
  }
  checkModes(plan, report);
  checkSharing(plan, report);
  checkSeats(plan, report);
  checkDevices(plan, report);
  checkBrowserKeys(plan, report);
  checkRollover(plan, report);
  found.sort((a, b) => ORDER.indexOf(a.severity) - ORDER.indexOf(b.severity));
  return { plan, findings: found };
}

type Report = (id: FindingId, place: string, message: string) => void;

/** One control in its place. */
interface Binding {
  /** Whether every press of it counts at once: no gesture, and nothing that waits for one. */
  readonly plain: boolean;
  /** Whether it is to be pressed several times in a row. */
  readonly tapped?: boolean;
  readonly place: string;
  readonly slot: string;
  readonly control: Control;
  /** Which end of a movement it is, where it is one. */
  readonly end?: string;
}

function bindingsOf(action: CheckedAction): Binding[] {
  const bind = (address: string, slot: string, control: Control, plain: boolean, end?: string): Binding => {
    const [, ...rest] = address.split(".");
    const place = `actions.${action.name}.from.${rest.join(".")}`;
    return { place, slot, control, plain, ...(end === undefined ? {} : { end }) };
  };
  if (action.kind === "switch") {
    return action.entries.flatMap((entry) => {
      const plain = entry.kind === "plain" && !entry.waits;
      const tapped = entry.kind === "taps" || entry.kind === "series";
      return entry.of.flatMap((source) =>
        "control" in source ? [{ ...bind(entry.address, entry.slot, source.control, plain), tapped }] : [],
      );
    });
  }
  if (action.kind === "turn")
    return [...action.mice, ...action.sticks].map(({ address, slot, control }) =>
      bind(address, slot, control, true),
    );
  return [
    ...action.ends.map(({ address, slot, control, end }) => bind(address, slot, control, true, end)),
    ...action.sticks.map(({ address, slot, control }) => bind(address, slot, control, true)),
  ];
}

function isUnbound(action: CheckedAction): boolean {
  if (action.kind === "switch") return action.entries.length === 0;
  const others = action.kind === "turn" ? action.mice : action.ends;
  return others.length === 0 && action.sticks.length === 0;
}

function checkSwitch(action: CheckedSwitch, report: Report): void {
  if (action.startsOn && action.style === "hold") {
    report(
      "starts-on-hold",
      `actions.${action.name}.startsOn`,
      "a hold is on while it is held, and nothing is held at the start; make it a toggle or either",
    );
  }
}

/** Few hands tap twice in less; in more, plain movement does. */
const TAP_GAP = { least: 160, most: 400 };

function checkEntries(plan: CheckedPlan, action: CheckedSwitch, report: Report): void {
  for (const entry of action.entries) {
    const [, ...rest] = entry.address.split(".");
    const place = `actions.${action.name}.from.${rest.join(".")}`;
    const names = entry.of.map(({ name }) => name);
    const on = (kind: CheckedEntry["kind"]) =>
      plan.actions.flatMap((other) =>
        other.kind === "switch" && meet(action, other)
          ? other.entries.flatMap((one) =>
              one.kind === kind && one.of.some(({ name }) => names.includes(name)) ? [{ other, one }] : [],
            )
          : [],
      );
    if (entry.kind === "taps") {
      if (entry.gapMs < TAP_GAP.least)
        report(
          "tap-window",
          `${place}.gapMs`,
          `${entry.gapMs} ms is too short for most hands; from 200 on most can do it`,
        );
      if (entry.gapMs > TAP_GAP.most)
        report(
          "tap-window",
          `${place}.gapMs`,
          `${entry.gapMs} ms is so long that plain movement will set it off; up to 300 it rarely does`,
        );
      for (const { other, one } of on("plain")) {
        if (one.kind !== "plain" || one.waits || !one.of.some((source) => "control" in source)) continue;
        report(
          "tap-and-press",
          place,
          `its first tap does ${other.name} too; let that entry wait: { "use": "${one.of[0]!.name}", "waits": true }`,
        );
      }
    }
    if (entry.kind === "short") {
      for (const { one } of on("long")) {
        if (one.kind !== "long" || one.afterMs <= entry.beforeMs) continue;
        report(
          "short-long-hole",
          place,
          `a press between ${entry.beforeMs} and ${one.afterMs} ms is neither short nor long`,
        );
      }
    }
  }
  const impossible = action.needs.find(({ name, not }) =>
    action.needs.some((other) => other.name === name && other.not !== not),
  );
  if (impossible !== undefined)
    report(
      "never-holds",
      `actions.${action.name}.needs`,
      `${impossible.name} and not ${impossible.name} can never both be so`,
    );
  const idle = plan.actions.find(
    (other) => isUnbound(other) && action.needs.some(({ name, not }) => !not && name === other.name),
  );
  if (idle !== undefined)
    report("never-holds", `actions.${action.name}.needs`, `needs ${idle.name}, which has no control`);
  const sibling = plan.actions.find(
    (other) =>
      other.kind === "switch" &&
      other.oneOf !== undefined &&
      other.oneOf === action.oneOf &&
      action.needs.some(({ name, not }) => !not && name === other.name),
  );
  if (sibling !== undefined) {
    report(
      "never-holds",
      `actions.${action.name}.needs`,
      `needs ${sibling.name}, which its oneOf ${action.oneOf} turns off; it can never stay on`,
    );
  }
  if (action.style === "toggle" && action.oneOf === undefined && action.needs.length === 0 && action.keeps) {
    report(
      "lonely-toggle",
      `actions.${action.name}`,
      "only the player's own press turns it off; where it should end by itself, give it needs, oneOf or keeps: false",
    );
  }
}

/** What modes make of a plan: those that trap the player, and actions that they keep apart. */
function checkModes(plan: CheckedPlan, report: Report): void {
  const covers = new Map(plan.modes.map((mode) => [mode.name, mode.covers]));
  for (const { name } of plan.modes) {
    const place = `modes.${name}`;
    const own = plan.actions.filter((action) => action.in.includes(name));
    if (covers.get(name) === "all") {
      const ways = plan.actions.some(
        (action) => action.kind === "switch" && (action.in.length === 0 || action.in.includes(name)),
      );
      if (!ways)
        report(
          "no-way-out",
          place,
          "covers all, and no switch is live in it, so the player cannot ask to leave it",
        );
    } else if (own.length === 0) {
      report("unused-mode", place, "no action is in it, so entering it does nothing");
    }
  }
  for (const action of plan.actions) {
    if (action.kind !== "switch") continue;
    for (const { name, not } of action.needs) {
      const needed = plan.actions.find((other) => other.name === name);
      if (not || needed === undefined || meet(action, needed)) continue;
      const apart = action.in.every((one) =>
        needed.in.every((other) => covers.get(one) === "all" && covers.get(other) === "all"),
      );
      if (apart)
        report(
          "unreachable",
          `actions.${action.name}`,
          `needs ${name}, which is live in ${needed.in.join(" and ")} alone, and one of them always covers the other`,
        );
    }
  }
}

/** Whether two actions can be live at one time. A mode that covers all is above or below, never beside. */
function meet(one: CheckedAction, other: CheckedAction): boolean {
  return one.in.length === 0 || other.in.length === 0 || one.in.some((mode) => other.in.includes(mode));
}

function checkMovement(action: CheckedMovement, report: Report): void {
  const place = `actions.${action.name}`;
  if (action.kind === "vector") {
    for (const slot of new Set(action.ends.map((end) => end.slot))) {
      const given = action.ends.filter((end) => end.slot === slot).map(({ end }) => end as string);
      const missing = ["up", "left", "down", "right"].filter((way) => !given.includes(way));
      if (missing.length > 0)
        report("missing-direction", `${place}.from.${slot}`, `has no ${missing.join(" and no ")}`);
    }
  }
  const ends = new Map<string, Binding>();
  for (const binding of bindingsOf(action)) {
    if (binding.end === undefined) continue;
    const other = ends.get(binding.control.name);
    if (other === undefined) ends.set(binding.control.name, binding);
    else if (other.end !== binding.end) {
      report(
        "same-direction",
        binding.place,
        `${binding.control.name} is ${other.end} already, at ${other.place}; one press would do both`,
      );
    }
  }
  const zones = new Map(
    action.sticks.map(({ shape, control }) => [`${shape.inner} ${shape.outer}`, { shape, control }]),
  );
  for (const { shape, control } of zones.values()) {
    const zone = `${place}.shape.deadZone`;
    if (1 - shape.inner - shape.outer < LEAST_TRAVEL) {
      report(
        "dead-zone-wide",
        zone,
        `inner ${shape.inner} and outer ${shape.outer} cut most of the travel of ${control.name}; players will find it dull`,
      );
    } else if (shape.inner < REST_NOISE && control.family !== "trigger") {
      report(
        "dead-zone-none",
        `${zone}.inner`,
        `${shape.inner} is less than the noise of a stick at rest, so it will creep; 0.12 suits most`,
      );
    }
  }
}

function checkSharing(plan: CheckedPlan, report: Report): void {
  const users: { action: CheckedAction; part: string; place: string; slot: string }[] = [];
  const together = (one: string, other: string) =>
    plan.seats.some(({ slots }) => slots.includes(one) && slots.includes(other));
  for (const action of plan.actions) {
    for (const { control, place, plain, slot } of bindingsOf(action)) {
      if (!plain) continue;
      const user = users.find(
        (one) =>
          control.parts.includes(one.part) &&
          one.action !== action &&
          meet(one.action, action) &&
          together(one.slot, slot),
      );
      if (user !== undefined) reportShared(plan, user, { action, place, control }, report);
      for (const part of control.parts) users.push({ action, part, place, slot });
    }
  }
}

/** What goes wrong between players: keys that two share, slots that none has. */
function checkSeats(plan: CheckedPlan, report: Report): void {
  if (!plan.seated) return;
  const seatsOf = (slot: string) => plan.seats.filter(({ slots }) => slots.includes(slot));
  for (const { name } of plan.slots)
    if (seatsOf(name).length === 0) report("unused-slot", `slots.${name}`, "no seat has this slot");
  const keys = new Map<string, Binding>();
  for (const binding of plan.actions.flatMap(bindingsOf)) {
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

const SLOT_TAKES: Record<"keyboard" | "mouse" | "pad", readonly Device[]> = {
  keyboard: ["keyboard", "mouse"],
  mouse: ["mouse"],
  pad: ["pad"],
};

function checkDevices(plan: CheckedPlan, report: Report): void {
  const devices = new Map(plan.slots.map(({ name, device }) => [name, device]));
  const hasPadSlot = plan.slots.some(({ device }) => device === "pad");
  for (const action of plan.actions) {
    const bindings = bindingsOf(action);
    for (const { slot, control, place } of bindings) {
      const device = devices.get(slot);
      if (device !== undefined && !SLOT_TAKES[device].includes(control.device)) {
        report(
          "slot-device",
          place,
          `${control.name} is on the ${control.device}, and the slot ${slot} is for the ${device}`,
        );
      }
    }
    // A direction is on whatever the vector is on.
    if (action.kind === "switch" && action.entries.some(({ of }) => of.some((source) => "end" in source)))
      continue;
    const onPad = bindings.some(({ control }) => control.device === "pad");
    const place = `actions.${action.name}`;
    if (onPad && bindings.every(({ control }) => control.device === "pad"))
      report("no-key", place, "has a pad control and no key");
    if (hasPadSlot && bindings.length > 0 && !onPad)
      report("no-pad", place, `has a key and no pad control; ${freePadButton(plan)} is free`);
  }
}

function freePadButton(plan: CheckedPlan): string {
  const used = new Set(
    plan.actions.flatMap(bindingsOf).flatMap(({ control }) => [control.name, ...control.parts]),
  );
  return PAD_BUTTONS.find((name) => !used.has(name)) ?? "no button";
}

function checkBrowserKeys(plan: CheckedPlan, report: Report): void {
  const all = plan.actions.flatMap((action) => bindingsOf(action).map((binding) => ({ action, ...binding })));
  const hasW = all.some(({ control }) => control.name === "KeyW");
  for (const { action, control, place, tapped } of all) {
    const { name } = control;
    if (/^Control/.test(name) && hasW) {
      report(
        "browser-key",
        place,
        `${name} held with KeyW is Control+W, which closes the tab, and no page can prevent it; take another key`,
      );
    } else if (/^(Alt|Meta)/.test(name)) {
      report(
        "browser-key",
        place,
        `${name} opens menus of the browser or the system and takes the focus away; take another key`,
      );
    } else if (name === "Tab" || /^F\d+$/.test(name)) {
      report(
        "browser-key",
        place,
        `${name} belongs to the browser (focus, reload, full screen); take another key`,
      );
    } else if (/^Shift/.test(name) && action.kind === "switch" && (action.style !== "hold" || tapped)) {
      report(
        "browser-key",
        place,
        `${name} tapped five times opens an accessibility dialog on some systems; for ${tapped ? "taps" : `a ${action.style}`} take another key`,
      );
    }
  }
}

/** Common keyboards cannot tell the program of these three at once. */
const LOST_TOGETHER = ["ArrowUp", "ArrowLeft", "Space"];

function checkRollover(plan: CheckedPlan, report: Report): void {
  const all = plan.actions.flatMap((action) => bindingsOf(action));
  const meant = LOST_TOGETHER.map((name) => all.find(({ control }) => control.name === name));
  if (meant.every((binding) => binding !== undefined)) {
    report(
      "rollover",
      meant[2]!.place,
      `many keyboards cannot report ${LOST_TOGETHER.join(", ")} held together; offer another key beside Space`,
    );
  }
}
