/** The options of a switch. A new one stands here, and with its rule in the engine's list. */
import type { CheckedOptions } from "../checked.js";
import type { Reader } from "../reader/reader.js";
import type { SwitchFields } from "../types.js";
import { beginsIf, comesBack, needs, oneOf, resume, spends } from "./needs.js";
import type { Option, OptionName } from "./option.js";
import { carry, startsOn, style, tapMs } from "./style.js";
import { bufferMs, repeat, cooldownMs } from "./times.js";

export const OPTIONS: { readonly [K in OptionName]: Option<K> } = {
  style,
  tapMs,
  startsOn,
  needs,
  resume,
  oneOf,
  repeat,
  cooldownMs,
  beginsIf,
  spends,
  bufferMs,
  carry,
  comesBack,
};

export function readOptions(reader: Reader, action: SwitchFields, place: string): CheckedOptions {
  const read = Object.entries(OPTIONS).map(([name, option]) => [
    name,
    option.read(reader, action, `${place}.${name}`),
  ]);
  return Object.fromEntries(read) as CheckedOptions;
}
