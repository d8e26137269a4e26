/**
 * Where texts are kept by name: the port that players' settings are stored through. A browser's and a folder's are entries of
 * their own (`reacher/stores/browser`, `reacher/stores/file`); here is the one that forgets.
 */

/** A place for texts. Any call may reject: the place may be refused, full, or gone. */
export interface TextStore {
  /** The text of this name, `undefined` where there is none. */
  read(name: string): Promise<string | undefined>;
  /**
   * Changes a text in one go: nobody else changes it between the reading and the writing. `change` gets the text as it is and
   * gives the one that is to be, `undefined` for none. What it throws changes nothing.
   */
  change(name: string, change: (before: string | undefined) => string | undefined): Promise<void>;
  /** The names of all texts, in order. */
  names(): Promise<readonly string[]>;
  /** Calls `fn` when a text was changed elsewhere: in another tab, say. Returns a function that stops it. */
  watch?(fn: (name: string) => void): () => void;
}

/** A store that lasts as long as the program: for tests, and where nothing else is allowed. */
export function memoryStore(texts: Readonly<Record<string, string>> = {}): TextStore {
  const kept = new Map(Object.entries(texts));
  return {
    read: (name) => Promise.resolve(kept.get(name)),
    change: (name, change) =>
      Promise.resolve().then(() => {
        const after = change(kept.get(name));
        if (after === undefined) kept.delete(name);
        else kept.set(name, after);
      }),
    names: () => Promise.resolve([...kept.keys()].sort()),
  };
}
