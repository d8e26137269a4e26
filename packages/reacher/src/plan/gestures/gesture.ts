/** What the language says of a kind of entry: a gesture, or a plain press. Each kind has a file of its own. */
import type { CheckedEntry, CheckedGestures, CheckedSwitch, Source } from "../checked.js";
import type { Report } from "../findings.js";
import { GAP_MS } from "../language/defaults.js";
import { either, list, ms, type Fields } from "../language/fields.js";
import { SOURCE } from "../language/shapes.js";
import { SANE_TAP_GAP } from "../language/saneRanges.js";
import type { Reader } from "../reader/reader.js";
import type { Gestures, SourceFields } from "../types.js";

export type GestureKind = keyof CheckedGestures;

/** What is pressed, as it is written. */
export type PressSource = string | SourceFields;

/** An entry of this kind, as it runs. */
export type Checked<K extends GestureKind> = CheckedEntry & { readonly kind: K };

/** What an entry of this kind has besides its place. */
export type EntryParts<K extends GestureKind> = Omit<Checked<K>, "address" | "slot">;

/** An entry of this kind, as it is written. */
export type WrittenEntry<K extends GestureKind> = Gestures[K & keyof Gestures];

/** What every game with players' own keys needs to know of a kind. */
export interface Language<K extends GestureKind> {
  /** Of an entry that is written out; the first is the one that tells the kind. */
  readonly fields: Fields;
  /** The field that holds its source, or the list of its members. */
  readonly source: string;
  /** Reads one; `undefined` where a name in it means nothing, which the reader has reported. */
  read(reader: Reader, entry: WrittenEntry<K>, place: string): EntryParts<K> | undefined;
  /** What the hand does. Two of one pattern on one control fire together. */
  pattern(entry: Checked<K>): string;
  /** Whether its control is pressed several times in a row. */
  readonly isTapped?: true;
  /** How prompts say it. */
  readonly words: GestureWords<K>;
}

/** `verb`: before its control ("double tap"); `joint`: between its members. */
export type GestureWords<K extends GestureKind> =
  | { readonly verb: (entry: Checked<K>) => string; readonly joint?: undefined }
  | { readonly joint: "+" | "then"; readonly sign: string; readonly spoken: string };

/** What tools show of a kind: the command's table, the timeline, the findings of `check`. No game needs it. */
export interface Shown<K extends GestureKind> {
  /** For a table of controls: what one of its controls has to do ("2 taps within 250 ms"); empty for a plain press. */
  use(entry: Checked<K>, control: string): string;
  /** For a table of actions ("2x KeyD"). */
  brief(entry: Checked<K>): string;
  /** The time that each press begins, on the timeline; whether it ends with the press. */
  readonly window?: { readonly field: string; readonly endsWithPress: boolean };
  /** The fields that decide each rule of an explanation, most likely first. */
  readonly decides: Readonly<Record<string, readonly string[]>>;
  /** What goes wrong with it in practice. */
  check?(entry: Checked<K>, place: string, context: EntryContext): void;
}

/** What `check` knows about an entry's surroundings. */
export interface EntryContext {
  readonly action: CheckedSwitch;
  readonly bounceMs: number;
  readonly report: Report;
  /** Entries of a kind on any source of this entry, of actions that can be live with its own. */
  beside<B extends GestureKind>(
    kind: B,
  ): readonly { readonly action: CheckedSwitch; readonly entry: Checked<B> }[];
  /** Other switches that the last press of these sources begins too, each with its plain entry. */
  twinsOf(
    last: readonly Source[],
  ): readonly { readonly action: CheckedSwitch; readonly entry: CheckedEntry }[];
}

/** Its sources read; `undefined` if one of them is invalid. */
export function sourcesOf(
  reader: Reader,
  given: readonly PressSource[],
  placeOf: (n: number) => string,
): readonly Source[] | undefined {
  const of = given.map((source, n) => reader.source(source, placeOf(n)));
  return of.every((source) => source !== undefined) ? of : undefined;
}

/** Of presses in a row: the longest time from one to the next. */
export function gap(has: string) {
  return ms(600, {
    default: GAP_MS,
    sane: SANE_TAP_GAP,
    felt: true,
    player: { about: "Double-tap time", has },
  });
}

/** Of presses in a row: the time for all of them, and what is held meanwhile. */
export const TOGETHER = {
  withinMs: ms(2000),
  with: either(SOURCE, list(SOURCE, 1, 8)),
} as const satisfies Fields;

/** What is held meanwhile, read; `undefined` if one of them is invalid. */
export function heldSources(reader: Reader, given: PressSource | readonly PressSource[] = [], place: string) {
  return sourcesOf(reader, [given].flat(), (n) => (Array.isArray(given) ? `${place}.${n}` : place));
}

/** The name in a source. */
export function nameOf(source: PressSource): string {
  return typeof source === "string" ? source : source.use;
}

/** For a table: what is held meanwhile. */
export function withHeld({ with: held }: { readonly with: readonly Source[] }): string {
  return held.length === 0 ? "" : ` with ${held.map(({ name }) => name).join(" and ")}`;
}

/** Its last press does something else at once as well. */
export function reportTwins(last: readonly Source[], place: string, { report, twinsOf }: EntryContext): void {
  for (const { action, entry } of twinsOf(last))
    report(
      "fires-twice",
      place,
      `its last press does ${action.name} too; let that entry wait: { "use": "${entry.of[0]!.name}", "waits": true }`,
    );
}
