/**
 * The keyboard, by `code` (W3C UI Events, section 3.7). In: key events. Out: 1 and 0 for each key, at the event's stamp.
 * May change: the set of keys that it has reported as down.
 *
 * Some releases never reach a page. Those of other keys while Meta is held, and that of one of two Shift keys, are inferred here
 * from the modifier state of later events; that of a dead key, which waits for a letter, by the next press or soon after.
 */
import { nowIn, stampOf, targetOf, type Fed, type Listen } from "./listening.js";
import { isSomethingOpen, pageTakesKey, takesText } from "./pageKeys.js";

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
/** A dead key is released after this at the latest, in ms: its own release may never come. While it repeats, it is down. */
const DEAD_MS = 750;
const DEAD_REPEAT_MS = 150;
/** Modifiers whose release a window manager or a browser may keep: that of other keys with them. Right Alt may be another modifier. */
const KEPT = [
  ["altKey", ["AltLeft"]],
  ["ctrlKey", ["ControlLeft", "ControlRight"]],
] as const;

export function attachKeyboard(view: Window, input: Fed, listen: Listen): Keyboard {
  const down = new Set<string>();
  /** Keys that the game has heard and that are held since, also where everything was lost meanwhile. */
  const heard = new Set<string>();

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
    heard.add(code);
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
    const own = event.type.startsWith("key") ? (event as Event as KeyboardEvent).code : "";
    for (const [modifier, codes] of KEPT)
      if (!event[modifier] && codes.some((code) => code !== own && down.has(code)))
        for (const code of [...down]) if (code !== own) release(code, t);
  };
  const waitForDead = (ms: number) => {
    clearTimeout(deadTimer);
    deadTimer = setTimeout(() => endDead(nowIn(view)), ms);
  };

  listen<KeyboardEvent>(view, "keydown", (event) => {
    repair(event);
    // A browser computes each field when it is asked for.
    const { repeat } = event;
    const code = codeOf(event);
    if (dead !== "")
      if (code === dead && repeat) waitForDead(DEAD_REPEAT_MS);
      else endDead(stampOf(view, event));
    // A key that is being captured reaches neither the page nor the game, wherever the focus is.
    if (input.intercepted === true && code !== "") {
      if (mayPrevent(event, code)) event.preventDefault();
      event.stopImmediatePropagation();
      if (!repeat) press(code, event);
      return;
    }
    // The key that opened a text field does not type its repeats into it.
    if (repeat && heard.has(code) && takesText(targetOf(event)) && mayPrevent(event, code)) {
      event.preventDefault();
      return;
    }
    if (!repeat) heard.delete(code);
    if (code === "" || event.isComposing || event.keyCode === 229 || pageTakesKey(targetOf(event), code))
      return;
    if (
      input.uses(code) &&
      (mayPrevent(event, code) || OPENS_MENU.test(code)) &&
      !(code === "Escape" && isSomethingOpen(view.document))
    )
      event.preventDefault();
    // The operating system's repeat is not a press.
    if (repeat) return;
    press(code, event);
    if (event.key !== "Dead") return;
    dead = code;
    waitForDead(DEAD_MS);
  });

  listen<KeyboardEvent>(view, "keyup", (event) => {
    if (input.intercepted === true) {
      event.preventDefault();
      event.stopImmediatePropagation();
    }
    const own = codeOf(event);
    // One browser opens its menu by the release.
    if (down.has(own) && OPENS_MENU.test(own)) event.preventDefault();
    // A release counts wherever the focus is: a key let go in a text field must not stay down in the game.
    const t = stampOf(view, event);
    heard.delete(own);
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

function mayPrevent(event: KeyboardEvent, code: string): boolean {
  return !event.ctrlKey && !event.metaKey && !event.altKey && !SYSTEM_KEY.test(code);
}
