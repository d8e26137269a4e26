/** What the language says of an option of a switch. Types alone. */
import type { CheckedOptions } from "../checked.js";
import type { Field } from "../language/fields.js";
import type { Reader } from "../reader/reader.js";
import type { SwitchFields } from "../types.js";

export type OptionName = keyof CheckedOptions;

export interface Option<K extends OptionName> {
  /** What the plan may say. */
  readonly field: Field;
  /** What counts: that, or the default. What is wrong with it is reported to the reader. */
  read(reader: Reader, action: SwitchFields, place: string): CheckedOptions[K];
  /** Whether a switch makes use of it; missing where every switch that names it does. */
  readonly counts?: (action: Pick<CheckedOptions, "style">) => boolean;
  /** The rule of an explanation that its number decides. */
  readonly decides?: string;
}
