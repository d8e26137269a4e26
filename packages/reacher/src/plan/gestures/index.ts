/** The kinds of entries of a switch. A new one stands here, in `shown.ts`, and with its rule in the engine's two lists. */
import type { CheckedEntry } from "../checked.js";
import { all } from "./all.js";
import { flick } from "./flick.js";
import type { GestureKind, Language } from "./gesture.js";
import { long, short } from "./longAndShort.js";
import { plain } from "./plain.js";
import { series } from "./series.js";
import { taps } from "./taps.js";

/** By the kind that an entry has when it is read. */
export const GESTURES: { readonly [K in GestureKind]: Language<K> } = {
  plain,
  taps,
  short,
  long,
  all,
  series,
  flick,
};

/** What the language says of an entry. */
export function languageOf({ kind }: Pick<CheckedEntry, "kind">): Language<never> {
  return GESTURES[kind] as unknown as Language<never>;
}

/** The kind of an entry that is written out, by the field that tells it; `undefined` for what is no entry. */
export function writtenKind(entry: object): GestureKind | undefined {
  return KINDS.find((kind) => Object.hasOwn(entry, signOf(kind)));
}

const KINDS = Object.keys(GESTURES) as readonly GestureKind[];

function signOf(kind: GestureKind): string {
  for (const name in GESTURES[kind].fields) return name;
  return "";
}
