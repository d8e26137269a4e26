/** The options of a switch. A new one stands here, and with its rule in the engine's list. */
import type { CheckedOptions } from "../checked.js";
import type { Reader } from "../reader/reader.js";
import type { Style, SwitchFields } from "../types.js";
import { beginsIf, comesBack, needs, oneOf, resume, spends } from "./needs.js";
import type { Option, OptionName } from "./option.js";
import { anew, carry, startsOn, style, tapMs } from "./style.js";
import { bufferMs, repeat, cooldownMs } from "./times.js";

export const OPTIONS: { readonly [K in OptionName]: Option<K> } = {
  style,
  tapMs,
  startsOn,
  needs,
  resume,
  anew,
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
  const { style = "hold" } = action;
  const read = Object.entries(OPTIONS).map(([name, option]: [string, Option<OptionName>]) => {
    const fault = misfitOf(name, action[name as OptionName], style);
    if (fault !== undefined) reader.report(fault[0], `${place}.${name}`, fault[1]);
    return [name, option.read(reader, action, `${place}.${name}`)];
  });
  return Object.fromEntries(read) as CheckedOptions;
}

function misfitOf(name: string, value: unknown, style: Style) {
  const option: Option<OptionName> | undefined = OPTIONS[name as OptionName];
  return value === undefined ? undefined : option?.misfit?.(value, style);
}

/** A switch with another style, without what does not go with it. */
export function withStyle(action: Readonly<Record<string, unknown>>, style: Style): Record<string, unknown> {
  const fits = Object.entries(action).filter(([name, value]) => misfitOf(name, value, style) === undefined);
  return { ...Object.fromEntries(fits), style };
}
