/**
 * The keyboard, by `code` (W3C UI Events, section 3.7). In: key events. Out: 1 and 0 for each key, at the event's stamp.
 * May change: the set of keys that it has told the layer are down.
 *
 * Two releases never reach a page, and are made good here from the modifier state of later events: those of other keys
 * while Meta is held, and that of one of two Shift keys.
 */
import { stampOf, type Fed, type Listen } from "./listening.js";
import { pageTakesKey } from "./pageKeys.js";

export interface Keyboard {
  /** Looks at an event's modifiers for keys whose release was lost. */
  repair(event: ModifierEvent): void;
  /** The layer has put all keys to rest. */
  forget(): void;
}

/** What keyboard and mouse events both tell of modifiers. */
export type ModifierEvent = Event & Pick<KeyboardEvent, "shiftKey" | "metaKey" | "ctrlKey" | "altKey">;

const SHIFTS = ["ShiftLeft", "ShiftRight"];
const METAS = ["MetaLeft", "MetaRight"];
/** Full screen, reload, the browser's tools: never the game's to prevent. */
const SYSTEM_KEY = /^(F\d+|Meta|Alt|PrintScreen|Power|Sleep|WakeUp|Browser|Launch|Media|AudioVolume)/;

export function attachKeyboard(view: Window, input: Fed, listen: Listen): Keyboard {
  const down = new Set<string>();

  const release = (code: string, t: number) => {
    if (down.delete(code)) input.feed({ t, control: code, value: 0 });
  };
  const press = (code: string, event: Event) => {
    if (down.has(code)) return;
    down.add(code);
    input.feed({ t: stampOf(view, event), control: code, value: 1 });
  };
  const repair = (event: ModifierEvent) => {
    if (down.size === 0) return;
    const t = stampOf(view, event);
    if (!event.shiftKey) for (const code of SHIFTS) release(code, t);
    if (!event.metaKey && METAS.some((code) => down.has(code)))
      for (const code of [...down]) release(code, t);
  };

  listen<KeyboardEvent>(view, "keydown", (event) => {
    repair(event);
    const { code } = event;
    // A key that is being caught works neither the page nor the game, wherever the focus is.
    if (input.intercepted === true && code !== "") {
      if (mayPrevent(event)) event.preventDefault();
      event.stopImmediatePropagation();
      if (!event.repeat) press(code, event);
      return;
    }
    if (code === "" || event.isComposing || event.keyCode === 229 || pageTakesKey(event.target, code)) return;
    if (mayPrevent(event) && input.uses(code)) event.preventDefault();
    // The operating system's repeat is not a press.
    if (!event.repeat) press(code, event);
  });

  listen<KeyboardEvent>(view, "keyup", (event) => {
    if (input.intercepted === true) {
      event.preventDefault();
      event.stopImmediatePropagation();
    }
    // A release counts wherever the focus is: a key let go in a text field must not stay down in the game.
    const t = stampOf(view, event);
    if (METAS.includes(event.code) && down.has(event.code)) for (const code of [...down]) release(code, t);
    release(event.code, t);
    repair(event);
  });

  return { repair, forget: () => down.clear() };
}

function mayPrevent(event: KeyboardEvent): boolean {
  return !event.ctrlKey && !event.metaKey && !event.altKey && !SYSTEM_KEY.test(event.code);
}
