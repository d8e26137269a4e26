/** What goes wrong with switches: their gestures, what they need, how they end. In: a plan. Out: findings. */
import type { CheckedEntry, CheckedSwitch } from "../checked.js";
import { isUnbound, meet, type Report } from "./bindings.js";
import { SANE_TAP_GAP } from "../saneRanges.js";
import type { PlanIndex } from "./planIndex.js";

export function checkSwitch(action: CheckedSwitch, report: Report): void {
  if (action.startsOn && action.style === "hold") {
    report(
      "starts-on-hold",
      `actions.${action.name}.startsOn`,
      "a hold is on while it is held, and nothing is held at the start; make it a toggle or either",
    );
  }
}

/** A series, or taps of a direction, whose last press does something else at once as well. */
function checkLastPress(
  index: PlanIndex,
  action: CheckedSwitch,
  entry: CheckedEntry,
  place: string,
  report: Report,
): void {
  const last = entry.kind === "series" ? entry.of.slice(-1) : entry.of;
  // Taps and a plain press on one control are told of already.
  if (entry.kind === "taps" && "control" in last[0]!) return;
  const pressed = new Set(last.flatMap((source) => index.controlsOf(source)));
  for (const other of index.plan.actions) {
    if (other === action || other.kind !== "switch" || !meet(action, other)) continue;
    const twin = other.entries.find(
      (one) =>
        one.kind === "plain" &&
        !one.waits &&
        one.of.some((source) => index.controlsOf(source).some((control) => pressed.has(control))),
    );
    if (twin === undefined) continue;
    report(
      "fires-twice",
      place,
      `its last press does ${other.name} too; let that entry wait: { "use": "${twin.of[0]!.name}", "waits": true }`,
    );
  }
}

/** The flag that a switch spends and needs, by itself or by what else it needs. */
function spentNeeds(index: PlanIndex, { needs, spends }: CheckedSwitch): string | undefined {
  if (spends.length === 0) return undefined;
  const seen = new Set<string>();
  const open = [...needs];
  for (let word = open.pop(); word !== undefined; word = open.pop()) {
    if (word.not || seen.has(word.name)) continue;
    seen.add(word.name);
    if (spends.includes(word.name)) return word.name;
    const needed = index.action(word.name);
    if (needed?.kind === "switch") open.push(...needed.needs);
  }
  return undefined;
}

export function checkEntries(index: PlanIndex, action: CheckedSwitch, report: Report): void {
  const { plan } = index;
  for (const entry of action.entries) {
    const [, ...rest] = entry.address.split(".");
    const place = `actions.${action.name}.from.${rest.join(".")}`;
    if (entry.kind === "taps") {
      if (entry.gapMs < SANE_TAP_GAP.least)
        report(
          "tap-window",
          `${place}.gapMs`,
          `${entry.gapMs} ms is too short for most hands; from 200 on most can do it`,
        );
      if (entry.gapMs > SANE_TAP_GAP.most)
        report(
          "tap-window",
          `${place}.gapMs`,
          `${entry.gapMs} ms is so long that plain movement will set it off; up to 300 it rarely does`,
        );
      if (plan.bounceMs >= entry.gapMs)
        report(
          "tap-window",
          `${place}.gapMs`,
          `with bounceMs ${plan.bounceMs} the key is never up between two presses within ${entry.gapMs} ms`,
        );
      for (const { action: other, entry: one } of index.beside(action, entry, "plain")) {
        if (one.kind !== "plain" || one.waits || !one.of.some((source) => "control" in source)) continue;
        report(
          "tap-and-press",
          place,
          `its first tap does ${other.name} too; let that entry wait: { "use": "${one.of[0]!.name}", "waits": true }`,
        );
      }
    }
    if (entry.kind === "series" || entry.kind === "taps") checkLastPress(index, action, entry, place, report);
    if (entry.kind === "short") {
      for (const { entry: one } of index.beside(action, entry, "long")) {
        if (one.kind !== "long" || one.afterMs <= entry.beforeMs) continue;
        report(
          "short-long-hole",
          place,
          `a press between ${entry.beforeMs} and ${one.afterMs} ms is neither short nor long`,
        );
      }
    }
  }
  const undone = spentNeeds(index, action);
  if (undone !== undefined)
    report(
      "undoes-itself",
      `actions.${action.name}.spends`,
      `needs ${undone} as well, so it goes off at the moment at which it begins; ask for that in beginsIf`,
    );
  const impossible = action.needs.find(({ name, not }) =>
    action.needs.some((other) => other.name === name && other.not !== not),
  );
  if (impossible !== undefined)
    report(
      "never-holds",
      `actions.${action.name}.needs`,
      `${impossible.name} and not ${impossible.name} can never both be so`,
    );
  const needed = action.needs.flatMap(({ name, not }) => (not ? [] : (index.action(name) ?? [])));
  const idle = needed.find(isUnbound);
  if (idle !== undefined)
    report("never-holds", `actions.${action.name}.needs`, `needs ${idle.name}, which has no control`);
  const sibling = needed.find(
    (other) => other.kind === "switch" && other.oneOf !== undefined && other.oneOf === action.oneOf,
  );
  if (sibling !== undefined) {
    report(
      "never-holds",
      `actions.${action.name}.needs`,
      `needs ${sibling.name}, which its oneOf ${action.oneOf} turns off; it can never stay on`,
    );
  }
  if (
    action.style === "toggle" &&
    action.oneOf === undefined &&
    action.needs.length === 0 &&
    action.comesBack
  ) {
    report(
      "lonely-toggle",
      `actions.${action.name}`,
      "only the player's own press turns it off; where it should end by itself, give it needs, oneOf or comesBack: false",
    );
  }
}
