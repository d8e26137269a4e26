/**
 * Labels of controls as this player's own keyboard has them. In: what the browser tells of the layout, and what keys produce
 * when pressed. Out: a label for each control. May change: what is known of the layout.
 */
import { ReacherError } from "../plan/errors.js";
import { placeLabel } from "../controls/labels.js";
import { mustCall } from "../plan/arguments.js";
import { shown } from "../plan/depth.js";

/** Keys that write, and so differ from layout to layout (W3C UI Events KeyboardEvent code Values, section 3.1.1). */
const WRITING =
  /^(Key[A-Z]|Digit\d|Backquote|Backslash|Bracket(Left|Right)|Comma|Equal|Intl(Backslash|Ro|Yen)|Minus|Period|Quote|Semicolon|Slash)$/;

/** Labels that know the player's keyboard. */
export interface KeyLabels {
  /** What a control is called: by the layout, else by its place (`placeLabel`). */
  label(control: string): string;
  /** A key, by its code, was pressed without modifiers and wrote this (W3C UI Events, `key`). Tells `onChange` where that is new. */
  learn(code: string, key: string): void;
  /** A whole layout, as `navigator.keyboard.getLayoutMap` gives it. */
  use(layout: Iterable<readonly [code: string, key: string]>): void;
  /** Calls `fn` when labels have changed. Returns a function that stops it. */
  onChange(fn: () => void): () => void;
}

/** Makes labels that know no layout yet. */
export function createKeyLabels(): KeyLabels {
  const known = new Map<string, string>();
  const listeners = new Set<() => void>();
  const take = (code: string, key: string): boolean => {
    const sign = signOf(code, key);
    if (sign === undefined || known.get(code) === sign) return false;
    known.set(code, sign);
    return true;
  };
  const tell = () => {
    for (const fn of listeners) fn();
  };
  return {
    label: (control) => known.get(control) ?? placeLabel(control),
    learn: (code, key) => {
      if (typeof code !== "string" || typeof key !== "string") return;
      // A key that writes what its label says already is no change.
      if (signOf(code, key) !== (known.get(code) ?? placeLabel(code)) && take(code, key)) tell();
    },
    use: (layout) => {
      let isNew = false;
      for (const [code, key] of pairsOf(layout)) isNew = take(code, key) || isNew;
      if (isNew) tell();
    },
    onChange: (fn) => {
      mustCall(fn, "onChange(fn)");
      listeners.add(fn);
      return () => void listeners.delete(fn);
    },
  };
}

/** @throws ReacherError if this is no layout */
function pairsOf(layout: Iterable<readonly [string, string]>): (readonly [string, string])[] {
  const list = Symbol.iterator in Object(layout) ? [...layout] : undefined;
  if (list?.every((pair) => Array.isArray(pair) && pair.every((one) => typeof one === "string")) === true)
    return list;
  throw new ReacherError(`${shown(layout)} is no layout; it is a map from codes to what the keys write`);
}

/** The label of a key that writes this; `undefined` for dead keys, named keys and keys that write nothing. */
function signOf(code: string, key: string): string | undefined {
  if (!WRITING.test(code) || [...key].length !== 1 || key.trim() === "" || /\p{C}/u.test(key))
    return undefined;
  const capital = key.toUpperCase();
  return [...capital].length === 1 ? capital : key;
}
