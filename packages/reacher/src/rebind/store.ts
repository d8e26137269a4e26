/**
 * Where texts are kept by name: the port that players' settings are stored through. A browser's and a folder's are entries of
 * their own (`reacher/stores/browser`, `reacher/stores/file`); here is the one that forgets.
 */

import { mustBeObject, mustCall } from "../plan/arguments.js";

/** A place for texts. Any call may reject: the place may be refused, full, or gone. */
export interface TextStore {
  /** The text of this name, `undefined` where there is none. */
  read(name: string): Promise<string | undefined>;
  /**
   * Changes a text atomically: nobody else changes it between reading and writing. `change` gets the present text and
   * returns the new one, `undefined` for none. If it throws, nothing changes.
   */
  change(name: string, change: (before: string | undefined) => string | undefined): Promise<void>;
  /** The names of all texts, in order. */
  names(): Promise<readonly string[]>;
  /** Calls `fn` when a text was changed elsewhere: in another tab, say. Returns a function that stops it. */
  watch?(fn: (name: string) => void): () => void;
}

/** A store that lasts as long as the program: for tests, and where nothing else is allowed. */
export function memoryStore(texts: Readonly<Record<string, string>> = {}): TextStore {
  mustBeObject(texts, "object of texts by name");

  const kept = new Map(Object.entries(texts));
  return {
    read: (name) => Promise.resolve(kept.get(name)),
    change: (name, change) => {
      mustCall(change, "change(name, change)");
      return Promise.resolve().then(() => {
        const after = change(kept.get(name));
        if (after === undefined) kept.delete(name);
        else kept.set(name, after);
      });
    },
    names: () => Promise.resolve([...kept.keys()].sort()),
  };
}
