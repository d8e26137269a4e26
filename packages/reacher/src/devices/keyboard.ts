/**
 * The keyboard, by `code` (W3C UI Events, section 3.7). In: key events. Out: 1 and 0 for each key, at the event's stamp.
 * May change: the set of keys that it has reported as down.
 *
 * Some releases never reach a page. Those of other keys while Meta is held, and that of one of two Shift keys, are inferred here
 * from the modifier state of later events; that of a dead key, which waits for a letter, by the next press or soon after.
 */
import { stampOf, targetOf, type Fed, type Listen } from "./listening.js";
import { pageTakesKey } from "./pageKeys.js";

export interface Keyboard {
  /** Whether a key was reported as down. */
  readonly isHeld: boolean;
  /** Checks an event's modifiers for keys whose release was lost. */
  repair(event: ModifierEvent): void;
  /** The layer has put all keys to rest. */
  forget(): void;
}

/** The modifiers that keyboard and mouse events both report. */
export type ModifierEvent = Event & Pick<KeyboardEvent, "shiftKey" | "metaKey" | "ctrlKey" | "altKey">;

const SHIFTS = ["ShiftLeft", "ShiftRight"];
const METAS = ["MetaLeft", "MetaRight"];
/** Full screen, reload, the browser's tools: never prevented. */
const SYSTEM_KEY = /^(F\d+|Meta|Alt|PrintScreen|Power|Sleep|WakeUp|Browser|Launch|Media|AudioVolume)/;

/** Keys by which one browser opens its menu, which then takes the keys that follow. */
const OPENS_MENU = /^(Alt(Left|Right)|F10)$/;
/** A dead key is released after this at the latest, in ms: its own release may never come. */
const DEAD_MS = 500;

export function attachKeyboard(view: Window, input: Fed, listen: Listen): Keyboard {
  const down = new Set<string>();

  /** A dead key that is down, and what ends it. */
  let dead = "";
  let deadTimer: ReturnType<typeof setTimeout> | undefined;
  const endDead = (t: number) => {
    clearTimeout(deadTimer);
    if (dead !== "") release(dead, t);
    dead = "";
  };

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
    // The release of one Shift says nothing about the other: some systems report that none is held.
    const isShift = event.type === "keyup" && SHIFTS.includes((event as Event as KeyboardEvent).code);
    if (!event.shiftKey && !isShift) for (const code of SHIFTS) release(code, t);
    if (!event.metaKey && METAS.some((code) => down.has(code)))
      for (const code of [...down]) release(code, t);
  };

  listen<KeyboardEvent>(view, "keydown", (event) => {
    repair(event);
    const code = codeOf(event);
    if (code !== dead) endDead(stampOf(view, event));
    // A key that is being captured reaches neither the page nor the game, wherever the focus is.
    if (input.intercepted === true && code !== "") {
      if (mayPrevent(event)) event.preventDefault();
      event.stopImmediatePropagation();
      if (!event.repeat) press(code, event);
      return;
    }
    if (code === "" || event.isComposing || event.keyCode === 229 || pageTakesKey(targetOf(event), code))
      return;
    if ((mayPrevent(event) || OPENS_MENU.test(code)) && input.uses(code)) event.preventDefault();
    // The operating system's repeat is not a press.
    if (event.repeat) return;
    press(code, event);
    if (event.key !== "Dead") return;
    dead = code;
    deadTimer = setTimeout(() => endDead(view.performance.now()), DEAD_MS);
  });

  listen<KeyboardEvent>(view, "keyup", (event) => {
    if (input.intercepted === true) {
      event.preventDefault();
      event.stopImmediatePropagation();
    }
    // One browser opens its menu by the release.
    if (OPENS_MENU.test(event.code) && down.has(event.code)) event.preventDefault();
    // A release counts wherever the focus is: a key let go in a text field must not stay down in the game.
    const t = stampOf(view, event);
    const own = codeOf(event);
    if (METAS.includes(own) && down.has(own)) for (const code of [...down]) release(code, t);
    release(own, t);
    if (own === dead) endDead(t);
    repair(event);
  });

  listen.ends(() => clearTimeout(deadTimer));
  return {
    get isHeld() {
      return down.size > 0;
    },
    repair,
    forget: () => down.clear(),
  };
}

/** The code of the standard: one engine has another name for Meta, and one for keys that it does not know. */
function codeOf({ code }: KeyboardEvent): string {
  if (code === "OSLeft" || code === "OSRight") return `Meta${code.slice(2)}`;
  return code === "Unidentified" ? "" : code;
}

function mayPrevent(event: KeyboardEvent): boolean {
  return !event.ctrlKey && !event.metaKey && !event.altKey && !SYSTEM_KEY.test(event.code);
}
