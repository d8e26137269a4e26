/** What tools show of each kind of entry. */
import { mustBeObject } from "../arguments.js";
import type { CheckedEntry } from "../checked.js";
import { shown } from "../depth.js";
import { ReacherError } from "../errors.js";
import { allShown } from "./all.js";
import { flickShown } from "./flick.js";
import { OPTIONS } from "../options/index.js";
import type { GestureKind, Shown } from "./gesture.js";
import { longShown, shortShown } from "./longAndShort.js";
import { plainShown } from "./plain.js";
import { seriesShown } from "./series.js";
import { tapsShown } from "./taps.js";

export const SHOWN: { readonly [K in GestureKind]: Shown<K> } = {
  plain: plainShown,
  taps: tapsShown,
  short: shortShown,
  long: longShown,
  all: allShown,
  series: seriesShown,
  flick: flickShown,
};

/** How tools show an entry of a switch. */
export interface ShownEntry {
  /** In a table of actions: "2x KeyD". */
  readonly brief: string;
  /** The time that each press of it begins, in ms, by the field that sets it; whether the press ends it. */
  readonly window?: { readonly field: string; readonly ms: number; readonly endsWithPress: boolean };
  /** What one of its controls has to do: "2 taps within 250 ms"; empty for a plain press. */
  use(control: string): string;
}

/** How tools show an entry. @throws ReacherError for what is no entry of a checked plan */
export function shownOf(entry: CheckedEntry): ShownEntry {
  mustBeObject(entry, "entry of a checked plan");
  if (!Object.hasOwn(SHOWN, entry.kind)) throw new ReacherError(`${shown(entry.kind)} is no kind of entry`);
  const { brief, use, window } = kindShown(entry);
  const fields = entry as unknown as Readonly<Record<string, number>>;
  return {
    brief: brief(entry as never),
    use: (control) => use(entry as never, control),
    ...(window && { window: { ...window, ms: fields[window.field]! } }),
  };
}

/** What tools know of its kind. */
export function kindShown({ kind }: CheckedEntry): Shown<never> {
  return SHOWN[kind] as unknown as Shown<never>;
}

/** The fields of a switch and its entries that decide a rule of an explanation, most likely first. */
export function decidingFields(rule: string): readonly string[] {
  const byEntries = Object.values(SHOWN).map(({ decides }) => decides[rule] ?? []);
  const byOptions = Object.entries(OPTIONS).map(([name, { decides }]) => (decides === rule ? [name] : []));
  return [...new Set([...byEntries, ...byOptions].flat())];
}
