/**
 * Players' settings in a browser's database (Indexed Database API), and word of them to other tabs (HTML, broadcast channels).
 * Needs the package `idb-keyval` beside this one.
 *
 * @module reacher/stores/browser
 */
import { mustBeText } from "../plan/arguments.js";
import { createStore, entries, get, update, type UseStore } from "idb-keyval";
import type { TextStore } from "../rebind/store.js";

/**
 * The texts of one game. Two tabs of it see each other's changes, and a change is never lost between them.
 * @param game names the database: the plan's name
 */
export function browserStore(game: string): TextStore {
  mustBeText(game, "game's name");
  const place = `reacher ${game}`;
  // Opened at the first use: where the browser refuses, that use fails, and not the start of the game.
  let opened: UseStore | undefined;
  const store: UseStore = (mode, use) => {
    opened ??= createStore(place, "settings");
    const done = opened(mode, use);
    // What was refused once is asked for anew the next time.
    done.catch(() => (opened = undefined));
    return done;
  };
  const channel = typeof BroadcastChannel === "undefined" ? undefined : new BroadcastChannel(place);
  // A test run by Node would never end.
  (channel as { unref?: () => void } | undefined)?.unref?.();
  const asText = (value: unknown) => (typeof value === "string" ? value : undefined);
  return {
    read: async (name) => asText(await get(name, store)),
    change: async (name, change) => {
      await update(name, (before) => change(asText(before)), store);
      channel?.postMessage(name);
    },
    names: async () =>
      (await entries<string, unknown>(store))
        .flatMap(([name, text]) => (asText(text) === undefined ? [] : [name]))
        .sort(),
    watch: (fn) => {
      const hear = ({ data }: MessageEvent<unknown>) => typeof data === "string" && fn(data);
      channel?.addEventListener("message", hear);
      return () => channel?.removeEventListener("message", hear);
    },
  };
}
