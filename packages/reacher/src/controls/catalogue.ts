/**
 * The catalogue of controls: every name that a plan or an event may use, and what kind of thing it is.
 *
 * Keys are the `code` values of W3C UI Events KeyboardEvent code Values, section 3; pad controls follow the standard
 * layout of W3C Gamepad, section 7. Raw pad axes report right and down as +1.
 */

/** The device a control sits on. */
export type Device = "keyboard" | "mouse" | "pad";

/**
 * What a control gives:
 * - `key`: down or up, and nothing between (keys, mouse buttons, wheel notches);
 * - `button`: 0..1, used as down or up (pad buttons);
 * - `trigger`: 0..1, used as an amount;
 * - `axis`: -1..1;
 * - `half`: one side of an axis, 0..1;
 * - `stick`: two axes;
 * - `dpad`: four buttons that make a direction;
 * - `dpadAxis`: two of them that are one way (`PadDpadX`, `PadDpadY`);
 * - `motion`: pixels moved by the mouse (`MouseMove`: both ways);
 * - `pointer`: where the mouse is: 1 at the nearer edges of its area, down +1 (`MousePoint`: both ways).
 */
export type ControlFamily =
  "key" | "button" | "trigger" | "axis" | "half" | "stick" | "dpad" | "dpadAxis" | "motion" | "pointer";

/** A control as the catalogue knows it. */
export interface Control {
  readonly name: string;
  /** Where the plan names the control itself, the device that it says. */
  readonly device: Device | (string & {});
  readonly family: ControlFamily;
  /** Raw controls report by themselves; the others (`half`, `stick`, `dpad`, `MouseMove`) are read off these. */
  readonly parts: readonly string[];
  /** Which side of its one part a `half` reads: +1 or -1 in raw values. */
  readonly sign: 1 | -1;
}

const LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ";
const NUMPAD =
  "Add Backspace Clear ClearEntry Comma Decimal Divide Enter Equal Hash MemoryAdd MemoryClear MemoryRecall MemoryStore MemorySubtract Multiply ParenLeft ParenRight Star Subtract";
const OTHER_KEYS =
  "Backquote Backslash BracketLeft BracketRight Comma Equal IntlBackslash IntlRo IntlYen Minus Period Quote Semicolon Slash " +
  "AltLeft AltRight Backspace CapsLock ContextMenu ControlLeft ControlRight Enter MetaLeft MetaRight ShiftLeft ShiftRight Space Tab " +
  "Convert KanaMode Lang1 Lang2 Lang3 Lang4 Lang5 NonConvert " +
  "Delete End Help Home Insert PageDown PageUp ArrowDown ArrowLeft ArrowRight ArrowUp NumLock " +
  "Escape Fn FnLock PrintScreen ScrollLock Pause " +
  "BrowserBack BrowserFavorites BrowserForward BrowserHome BrowserRefresh BrowserSearch BrowserStop Eject LaunchApp1 LaunchApp2 LaunchMail " +
  "MediaPlayPause MediaSelect MediaStop MediaTrackNext MediaTrackPrevious Power Sleep AudioVolumeDown AudioVolumeMute AudioVolumeUp WakeUp " +
  "Hyper Super Turbo Abort Resume Suspend Again Copy Cut Find Open Paste Props Select Undo Hiragana Katakana";

/** Pad buttons in the order of the standard layout (W3C Gamepad, section 7): the index is the button's number. */
export const PAD_BUTTONS: readonly string[] =
  "PadSouth PadEast PadWest PadNorth PadLeftBumper PadRightBumper PadLeftTrigger PadRightTrigger PadCenterLeft PadCenterRight PadLeftStickPress PadRightStickPress PadDpadUp PadDpadDown PadDpadLeft PadDpadRight PadCenter".split(
    " ",
  );

/** Pad axes in the order of the standard layout (W3C Gamepad, section 7): the index is the axis's number. */
export const PAD_AXES: readonly string[] = [
  "PadLeftStickX",
  "PadLeftStickY",
  "PadRightStickX",
  "PadRightStickY",
];

/** Mouse buttons in the order of `MouseEvent.button` (W3C UI Events, section 3.4). */
export const MOUSE_BUTTONS: readonly string[] = [
  "MouseMain",
  "MouseMiddle",
  "MouseSecondary",
  "MouseBack",
  "MouseForward",
];

/** What a pad has beyond the standard layout; bounded, so that no stream of made-up names grows anything. */
export const EXTRA = /^Pad(Button|Axis)(0|[1-9]\d?)$/;
/** How many of each kind. */
export const MOST_EXTRA = 100;

const catalogue = /* @__PURE__ */ buildCatalogue();

/** The control of this name, or `undefined` where there is none. */
export function findControl(name: string): Control | undefined {
  if (typeof name !== "string") return undefined;

  const known = catalogue.get(name);
  if (known !== undefined) return known;
  const extra = EXTRA.exec(name);
  if (extra === null) return undefined;
  return { name, device: "pad", family: extra[1] === "Axis" ? "axis" : "button", parts: [name], sign: 1 };
}

/** Every named control, in the catalogue's order (without the open-ended `PadButtonN` and `PadAxisN`). */
export function allControls(): Control[] {
  return [...catalogue.values()];
}

/** True for a control that devices report as it is (and so for what a trace may hold). */
export function isRaw(control: Control): boolean {
  return control.parts.length === 1 && control.parts[0] === control.name;
}

/** Whether devices report a control of this name. */
export function isRawName(name: unknown): boolean {
  const control = typeof name === "string" ? findControl(name) : undefined;
  return control !== undefined && isRaw(control);
}

/** True where the control has a value between off and on that is worth keeping. */
export function isAnalog(control: Control): boolean {
  return control.family === "trigger" || control.family === "axis" || control.family === "half";
}

function buildCatalogue(): Map<string, Control> {
  const all = new Map<string, Control>();
  const add = (name: string, device: Device, family: ControlFamily, parts = [name], sign: 1 | -1 = 1) =>
    all.set(name, { name, device, family, parts, sign });

  for (const letter of LETTERS) add("Key" + letter, "keyboard", "key");
  for (let digit = 0; digit < 10; digit++) {
    add("Digit" + digit, "keyboard", "key");
    add("Numpad" + digit, "keyboard", "key");
  }
  for (let number = 1; number <= 24; number++) add("F" + number, "keyboard", "key");
  for (const name of NUMPAD.split(" ")) add("Numpad" + name, "keyboard", "key");
  for (const name of OTHER_KEYS.split(" ")) add(name, "keyboard", "key");

  for (const name of MOUSE_BUTTONS) add(name, "mouse", "key");
  add("WheelUp", "mouse", "key");
  add("WheelDown", "mouse", "key");
  add("MouseMoveX", "mouse", "motion");
  add("MouseMoveY", "mouse", "motion");
  add("MouseMove", "mouse", "motion", ["MouseMoveX", "MouseMoveY"]);

  for (const name of PAD_BUTTONS) add(name, "pad", name.endsWith("Trigger") ? "trigger" : "button");
  for (const name of PAD_AXES) add(name, "pad", "axis");
  for (const stick of ["PadLeftStick", "PadRightStick"]) {
    add(stick, "pad", "stick", [stick + "X", stick + "Y"]);
    add(stick + "Up", "pad", "half", [stick + "Y"], -1);
    add(stick + "Down", "pad", "half", [stick + "Y"], 1);
    add(stick + "Left", "pad", "half", [stick + "X"], -1);
    add(stick + "Right", "pad", "half", [stick + "X"], 1);
  }
  add("PadDpad", "pad", "dpad", ["PadDpadUp", "PadDpadLeft", "PadDpadDown", "PadDpadRight"]);
  add("PadDpadX", "pad", "dpadAxis", ["PadDpadLeft", "PadDpadRight"]);
  add("PadDpadY", "pad", "dpadAxis", ["PadDpadDown", "PadDpadUp"]);
  add("MousePointX", "mouse", "pointer");
  add("MousePointY", "mouse", "pointer");
  add("MousePoint", "mouse", "pointer", ["MousePointX", "MousePointY"]);
  return all;
}
