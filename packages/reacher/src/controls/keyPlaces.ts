/** Where keys lie on a keyboard: the places of the standard's drawings (W3C UI Events KeyboardEvent code Values, section 3.1). Pure. */

/** In keys from the left and rows from the top, within one block of keys. */
export interface KeyPlace {
  readonly block: string;
  readonly x: number;
  readonly y: number;
}

/** By block, the rows from the top: where each begins, in keys, and its keys from the left. */
const BLOCKS: Readonly<Record<string, readonly (readonly [x: number, keys: string])[]>> = {
  letters: [
    [
      0,
      "Backquote Digit1 Digit2 Digit3 Digit4 Digit5 Digit6 Digit7 Digit8 Digit9 Digit0 Minus Equal Backspace",
    ],
    [0.5, "Tab KeyQ KeyW KeyE KeyR KeyT KeyY KeyU KeyI KeyO KeyP BracketLeft BracketRight Backslash"],
    [0.75, "CapsLock KeyA KeyS KeyD KeyF KeyG KeyH KeyJ KeyK KeyL Semicolon Quote Enter"],
    [0.25, "ShiftLeft IntlBackslash KeyZ KeyX KeyC KeyV KeyB KeyN KeyM Comma Period Slash ShiftRight"],
    [0, "ControlLeft MetaLeft AltLeft"],
  ],
  arrows: [
    [1, "ArrowUp"],
    [0, "ArrowLeft ArrowDown ArrowRight"],
  ],
  editing: [
    [0, "Insert Home PageUp"],
    [0, "Delete End PageDown"],
  ],
  numbers: [
    [0, "NumLock NumpadDivide NumpadMultiply NumpadSubtract"],
    [0, "Numpad7 Numpad8 Numpad9 NumpadAdd"],
    [0, "Numpad4 Numpad5 Numpad6"],
    [0, "Numpad1 Numpad2 Numpad3 NumpadEnter"],
    [0, "Numpad0 NumpadDecimal"],
  ],
};

const places = /* @__PURE__ */ new Map(
  Object.entries(BLOCKS).flatMap(([block, rows]) =>
    rows.flatMap(([begin, keys], y) =>
      keys.split(" ").map((name, n) => [name, { block, x: begin + n, y }] as const),
    ),
  ),
);

/** The place of a key; `undefined` for what has none that all keyboards agree on. */
export function keyPlace(name: string): KeyPlace | undefined {
  return places.get(name);
}
