/**
 * The controls' names as types, so that an editor completes them and the compiler knows a wrong one. The catalogue has the same names;
 * a test holds the two together.
 */

/** A key (W3C UI Events KeyboardEvent code Values, section 3). */
export type KeyName =
  | `Key${
      | "A"
      | "B"
      | "C"
      | "D"
      | "E"
      | "F"
      | "G"
      | "H"
      | "I"
      | "J"
      | "K"
      | "L"
      | "M"
      | "N"
      | "O"
      | "P"
      | "Q"
      | "R"
      | "S"
      | "T"
      | "U"
      | "V"
      | "W"
      | "X"
      | "Y"
      | "Z"}`
  | `Digit${0 | 1 | 2 | 3 | 4 | 5 | 6 | 7 | 8 | 9}`
  | (
      | "Backquote"
      | "Backslash"
      | "BracketLeft"
      | "BracketRight"
      | "Comma"
      | "Equal"
      | "IntlBackslash"
      | "IntlRo"
      | "IntlYen"
      | "Minus"
      | "Period"
      | "Quote"
      | "Semicolon"
      | "Slash"
    )
  | (
      | "AltLeft"
      | "AltRight"
      | "Backspace"
      | "CapsLock"
      | "ContextMenu"
      | "ControlLeft"
      | "ControlRight"
      | "Enter"
      | "MetaLeft"
      | "MetaRight"
      | "ShiftLeft"
      | "ShiftRight"
      | "Space"
      | "Tab"
      | "Convert"
      | "KanaMode"
      | "Lang1"
      | "Lang2"
      | "Lang3"
      | "Lang4"
      | "Lang5"
      | "NonConvert"
      | "Delete"
      | "End"
      | "Help"
      | "Home"
      | "Insert"
      | "PageDown"
      | "PageUp"
      | "ArrowDown"
      | "ArrowLeft"
      | "ArrowRight"
      | "ArrowUp"
      | "NumLock"
      | "Escape"
      | "Fn"
      | "FnLock"
      | "PrintScreen"
      | "ScrollLock"
      | "Pause"
      | "Eject"
      | "Power"
      | "Sleep"
      | "WakeUp"
      | "LaunchApp1"
      | "LaunchApp2"
      | "LaunchMail"
      | "Hyper"
      | "Super"
      | "Turbo"
      | "Abort"
      | "Resume"
      | "Suspend"
      | "Again"
      | "Copy"
      | "Cut"
      | "Find"
      | "Open"
      | "Paste"
      | "Props"
      | "Select"
      | "Undo"
      | "Hiragana"
      | "Katakana"
    )
  | `Browser${"Back" | "Favorites" | "Forward" | "Home" | "Refresh" | "Search" | "Stop"}`
  | (
      | `Media${"PlayPause" | "Select" | "Stop" | "TrackNext" | "TrackPrevious"}`
      | `AudioVolume${"Down" | "Mute" | "Up"}`
    )
  | `Numpad${
      | (0 | 1 | 2 | 3 | 4 | 5 | 6 | 7 | 8 | 9)
      | "Add"
      | "Backspace"
      | "Clear"
      | "ClearEntry"
      | "Comma"
      | "Decimal"
      | "Divide"
      | "Enter"
      | "Equal"
      | "Hash"
      | "MemoryAdd"
      | "MemoryClear"
      | "MemoryRecall"
      | "MemoryStore"
      | "MemorySubtract"
      | "Multiply"
      | "ParenLeft"
      | "ParenRight"
      | "Star"
      | "Subtract"}`
  | (
      | `F${Exclude<0 | 1 | 2 | 3 | 4 | 5 | 6 | 7 | 8 | 9, 0>}`
      | `F1${0 | 1 | 2 | 3 | 4 | 5 | 6 | 7 | 8 | 9}`
      | "F20"
      | "F21"
      | "F22"
      | "F23"
      | "F24"
    );
/** A mouse button, or one way of the wheel. */
export type MouseButtonName =
  `Mouse${"Main" | "Middle" | "Secondary" | "Back" | "Forward"}` | "WheelUp" | "WheelDown";
/** A button of a pad (W3C Gamepad, section 7). */
export type PadButtonName =
  | "PadSouth"
  | "PadEast"
  | "PadWest"
  | "PadNorth"
  | "PadLeftBumper"
  | "PadRightBumper"
  | "PadCenterLeft"
  | "PadCenterRight"
  | "PadCenter"
  | "PadLeftStickPress"
  | "PadRightStickPress"
  | `PadDpad${"Up" | "Down" | "Left" | "Right"}`
  | ("PadLeftTrigger" | "PadRightTrigger")
  | `PadButton${number}`;

/** What can be pressed, and be an end of a movement: a key, a button, a trigger, one side of a stick. */
export type PressName =
  | KeyName
  | MouseButtonName
  | PadButtonName
  | `${"PadLeftStick" | "PadRightStick"}${"Up" | "Down" | "Left" | "Right"}`
  | `PadAxis${number}`;
/** What moves an axis by itself. */
export type AxisControlName =
  | `${"PadLeftStick" | "PadRightStick"}${"X" | "Y"}`
  | ("PadLeftTrigger" | "PadRightTrigger")
  | "PadDpadX"
  | "PadDpadY"
  | `PadAxis${number}`;
/** What moves a vector by itself. */
export type VectorControlName = ("PadLeftStick" | "PadRightStick") | "PadDpad" | "MousePoint";
/** What turns the view. */
export type TurnControlName = "MouseMove" | ("PadLeftStick" | "PadRightStick");
/** Any control of the catalogue. */
export type ControlName =
  | PressName
  | AxisControlName
  | VectorControlName
  | TurnControlName
  | "MouseMoveX"
  | "MouseMoveY"
  | "MousePointX"
  | "MousePointY";
