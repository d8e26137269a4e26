/**
 * Plans by which it shows what in the rules follows from which number of a checked plan: each number that settings change is another one in each of them, and no
 * two change alike. In: a checked plan and its open settings. Out: checked plans, which no player need ever have. Pure.
 */
import type { CheckedPlan } from "../plan/checked.js";
import { STYLES } from "../plan/options/style.js";
import { at, withValue } from "../made/formula.js";
import type { OpenSettings } from "../made/openSettings.js";

export function plansApart(plan: CheckedPlan, open: OpenSettings): CheckedPlan[] {
  const groups = [...groupsIn(plan, open).values()];
  // What is on or off tells its number in bits; one more, so that nothing is what another one is not.
  const bits = Math.max(6, Math.ceil(Math.log2(groups.length + 2)) + 1);
  const valueOf = (path: string, group: number, n: number) => {
    const value = at(plan, path);
    if (!path.endsWith(".style")) return valueIn(path, value, group, n);
    const styles = STYLES.filter((one) => one === value || isAllowed(open, path, one));
    // In bits too; and then all of them in turn.
    return styles[n < bits ? (group >> n) & 1 : n % styles.length];
  };
  return Array.from({ length: bits + STYLES.length }, (_, n) =>
    groups.reduce(
      (own, paths, group) =>
        paths.reduce(
          (changed, path) => withValue(changed, path.split("."), valueOf(path, group + 1, n)),
          own,
        ),
      plan,
    ),
  );
}

/** Whether a setting of this name is open for an action, or for a slot of it. */
export const isSet = (settings: OpenSettings["settings"], of: readonly string[], name: string): boolean =>
  of.some((one) => `${one}.${name}` in settings);

/** Where settings stand, as far as these always come out alike. */
function groupsIn(plan: CheckedPlan, { settings, felt }: OpenSettings): Map<string, string[]> {
  const by = new Map<string, unknown[]>();
  const note = (path: string, what: unknown) => by.set(path, [...(by.get(path) ?? []), what]);
  for (const [address, [, ...paths]] of Object.entries(settings))
    for (const path of paths) note(path, address);
  for (const { at, ...how } of felt) {
    const shape = [
      ...(isSet(settings, how.of, "gain") ? ["gain"] : []),
      ...(isSet(settings, how.of, "invert") ? ["invertX", "invertY"] : []),
    ];
    for (const name of at.endsWith(".shape") ? shape : ["perPixelX", "perPixelY"])
      note(`${at}.${name}`, [name, how]);
  }
  const groups = new Map<string, string[]>();
  for (const [path, what] of by) {
    const key = JSON.stringify([what, at(plan, path)]);
    groups.set(key, [...(groups.get(key) ?? []), path]);
  }
  return groups;
}

function isAllowed({ settings }: OpenSettings, path: string, style: string): boolean {
  return Object.values(settings).some(
    ([allowed, ...paths]) => paths.includes(path) && (allowed as readonly unknown[]).includes(style),
  );
}

/** Of what is on or off, the bits of its number; of a number, a part that no other one has. */
function valueIn(path: string, value: unknown, group: number, n: number): unknown {
  const isOn = ((group >> n) & 1) === 1;
  if (typeof value === "boolean") return isOn;
  const share = (group * 0.618_034 + n * 0.414_214) % 1;
  // Small enough for a dead zone and for a gain that is cut nowhere.
  return /\.(?:inner|outer|gain)$/.test(path) ? 0.05 + 0.3 * share : 10 + 90 * share;
}
