/**
 * Players' settings as files of a folder, one for each name, for games that run in Node. Each is written whole or not at all.
 * Needs the package `write-file-atomic` beside this one.
 */
import { mkdir, readdir, readFile, rm } from "node:fs/promises";
import { join } from "node:path";
import writeFileAtomic from "write-file-atomic";
import type { TextStore } from "../rebind/store.js";

const ENDING = ".overrides.json";

/**
 * The texts in a folder, which is made when it is first written to. Names become file names with all that a file system may
 * not like written as `%` and numbers.
 */
export function fileStore(folder: string): TextStore {
  const fileOf = (name: string) => join(folder, safe(name) + ENDING);
  const read = async (name: string) => {
    try {
      return await readFile(fileOf(name), "utf8");
    } catch (error) {
      if (isMissing(error)) return undefined;
      throw error;
    }
  };
  // One change after another: two at once would not see each other.
  let last: Promise<unknown> = Promise.resolve();
  return {
    read,
    change: (name, change) => {
      const next = last.then(async () => {
        const after = change(await read(name));
        if (after === undefined) {
          await rm(fileOf(name), { force: true });
          return;
        }
        await mkdir(folder, { recursive: true });
        await writeFileAtomic(fileOf(name), after);
      });
      last = next.catch(() => undefined);
      return next;
    },
    names: async () => {
      const files = await readdir(folder).catch((error: unknown) => {
        if (isMissing(error)) return [];
        throw error;
      });
      return files
        .filter((file) => file.endsWith(ENDING))
        .map((file) => decodeURIComponent(file.slice(0, -ENDING.length)))
        .sort();
    },
  };
}

/** `encodeURIComponent` leaves a few characters that lead out of a folder or that some systems refuse. */
function safe(name: string): string {
  return encodeURIComponent(name).replace(
    /[.!'()*~]/g,
    (character) => `%${character.charCodeAt(0).toString(16).toUpperCase().padStart(2, "0")}`,
  );
}

function isMissing(error: unknown): boolean {
  return typeof error === "object" && error !== null && "code" in error && error.code === "ENOENT";
}
