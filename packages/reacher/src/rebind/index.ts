/**
 * The player's own keys: capturing, changes and clashes, labels and prompts, settings and where they are kept.
 *
 * @module reacher/rebind
 */
export {
  capture,
  CANCEL_WITH,
  type Capture,
  type Captured,
  type CaptureOptions,
  type CaptureProgress,
} from "./capture.js";
export { choicesFor, controlAt, rebind, resetTo, type Choice, type Clash, type Rebinding } from "./rebind.js";
export { editOverrides, upToDate, type OverridesEditor } from "./editor.js";
export { bindingRows, type Cell, type Row } from "./rows.js";
export type { Setting } from "./setting.js";
export { settingsOf, settingValue } from "./settings.js";
export {
  runTapTest,
  tapTest,
  type RunningTapTest,
  type TapPair,
  type TapTest,
  type TapTestOptions,
  type TapTestResult,
} from "./tapTest.js";
export { createKeyLabels, type KeyLabels } from "./keyLabels.js";
export { prompt, type Prompt } from "./prompts.js";
export type { LabelOf, WordPart } from "./words.js";
export { padSign } from "./signs.js";
export { memoryStore, type TextStore } from "./store.js";
export {
  openProfiles,
  overridesText,
  readOverrides,
  type ProfileFault,
  type ProfileOptions,
  type Profiles,
} from "./profiles.js";
