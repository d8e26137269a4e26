/** What the language says of an option of a switch, and how most of them are read. */
import type { CheckedOptions } from "../checked.js";
import { TRUTH, type Field, type NumberValue } from "../language/fields.js";
import type { Reader } from "../reader/reader.js";
import type { Finding } from "../findings.js";
import type { Style, SwitchFields } from "../types.js";

export type OptionName = keyof CheckedOptions;

export interface Option<K extends OptionName> {
  /** What the plan may say. */
  readonly field: Field;
  /** What counts: that, or the default. What is wrong with it is reported to the reader. */
  read(reader: Reader, action: SwitchFields, place: string): CheckedOptions[K];
  /** Whether a switch makes use of it even where the plan does not say it; missing where only what is said counts. */
  readonly appliesTo?: (action: Pick<SwitchFields, "style">) => boolean;
  /** What is wrong with it beside a style; a player who chooses that style goes without it. */
  readonly misfit?: (value: unknown, style: Style) => readonly [id: Finding["id"], text: string] | undefined;
  /** The rule of an explanation that its number decides. */
  readonly decides?: string;
}

type Of<T> = {
  [K in OptionName]: CheckedOptions[K] extends T ? (T extends CheckedOptions[K] ? K : never) : never;
}[OptionName];

/** An option that is true or false. */
export function truth<K extends Of<boolean>>(name: K, byDefault: boolean): Option<K> {
  return { field: TRUTH, read: (_, action) => (action[name] ?? byDefault) as CheckedOptions[K] };
}

/** An option that is a number, with the default of its field. */
export function numeric<K extends Of<number>>(
  name: K,
  field: NumberValue,
  more: Pick<Option<K>, "appliesTo" | "decides">,
): Option<K> {
  return { field, read: (_, action) => (action[name] ?? field.default!) as CheckedOptions[K], ...more };
}
