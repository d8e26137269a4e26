/** All features, by name. */
import type { GestureKind } from "../plan/gestures/gesture.js";
import type { OptionName } from "../plan/options/option.js";
import type { Feature } from "./compile.js";
import { bounce } from "./bounce.js";
import { all } from "./gestures/all.js";
import { flick } from "./gestures/flick.js";
import { long, short } from "./gestures/longAndShort.js";
import { series } from "./gestures/series.js";
import { taps } from "./gestures/taps.js";
import { movements } from "./movement/make.js";
import { pointer } from "./movement/makePointer.js";
import { results } from "./movement/results.js";
import { lasting } from "./lasting.js";
import { ease, gaits, pace, speedGaits, sticks } from "./movement/options.js";
import { drives } from "./drives.js";
import { flags } from "./situations/flags.js";
import { numbers } from "./situations/numbers.js";
import { losses } from "./situations/losses.js";
import { modes } from "./situations/modes.js";
import { buffer } from "./switches/buffer.js";
import { beginsIf } from "./switches/beginsIf.js";
import { switches } from "./switches/make.js";
import { needs } from "./switches/needs.js";
import { anew } from "./switches/anew.js";
import { oneOf } from "./switches/oneOf.js";
import { repeat } from "./switches/repeat.js";
import { cooldown } from "./switches/cooldown.js";
import { spends } from "./switches/spends.js";
import { styles } from "./switches/styles.js";
import { waits } from "./switches/waits.js";
import { turns } from "./turns/make.js";

/** In linking order. */
export const FEATURES = {
  flags,
  numbers,
  modes,
  losses,
  drives,
  movements,
  sticks,
  pointer,
  ease,
  pace,
  gaits,
  speedGaits,
  results,
  lasting,
  turns,
  switches,
  styles,
  needs,
  buffer,
  beginsIf,
  cooldown,
  spends,
  anew,
  oneOf,
  repeat,
  taps,
  long,
  short,
  all,
  series,
  flick,
  waits,
  bounce,
} as const satisfies Readonly<Record<string, Feature>> & RulesOfGestures & RulesOfOptions;

/** Every kind of entry has its rule; a plain press is the switch's own. */
type RulesOfGestures = { readonly [K in Exclude<GestureKind, "plain">]: Feature };
/** Every option has its rule, or is one of the switch's own fields. */
type RulesOfOptions = { readonly [K in RuleOfOption[OptionName]]: Feature };

/** The name of the rule behind each option. A new option of the language stands here, with its rule above. */
interface RuleOfOption {
  style: "styles";
  tapMs: "styles";
  startsOn: "switches";
  needs: "needs";
  resume: "needs";
  anew: "anew";
  oneOf: "oneOf";
  repeat: "repeat";
  cooldownMs: "cooldown";
  beginsIf: "beginsIf";
  spends: "spends";
  bufferMs: "buffer";
  carry: "switches";
  comesBack: "switches";
}

export type FeatureName = keyof typeof FEATURES;

export const EVERY: readonly Feature[] = Object.values(FEATURES);
