/**
 * Players' settings as files of a folder, one for each name, for games that run in Node. Each is written whole or not at all.
 * Needs the package `write-file-atomic` beside this one.
 *
 * @module reacher/stores/file
 */
import { mustBeText } from "../plan/arguments.js";
import { createHash } from "node:crypto";
import { mkdir, readdir, readFile, rm } from "node:fs/promises";
import { join } from "node:path";
import { ReacherError } from "../plan/errors.js";
import type { TextStore } from "../rebind/store.js";

const ENDING = ".overrides.json";
/** Beside a file whose name is a short form: the whole name. */
const NAME_ENDING = ".name.txt";
/** File systems take some 255 bytes; accents and kana take many each. */
const LONGEST = 120;

/**
 * The texts in a folder, which is made when it is first written to. Names become file names with all that a file system may
 * not like written as `%` and numbers.
 */
export function fileStore(folder: string): TextStore {
  mustBeText(folder, "folder");
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
          if (isShort(name)) await rm(join(folder, safe(name) + NAME_ENDING), { force: true });
          return;
        }
        const writeFileAtomic = await atomicWriter();
        await mkdir(folder, { recursive: true });
        if (isShort(name)) await writeFileAtomic(join(folder, safe(name) + NAME_ENDING), name);
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
      const bases = files
        .filter((file) => file.endsWith(ENDING))
        .map((file) => file.slice(0, -ENDING.length));
      const names = await Promise.all(bases.map((base) => nameOf(folder, base)));
      return names.filter((name) => name !== undefined).sort();
    },
  };
}

/** Loaded when something is written first: it is not installed with this package. @throws ReacherError saying how to install it */
async function atomicWriter(): Promise<(file: string, text: string) => Promise<void>> {
  try {
    return (await import("write-file-atomic")).default;
  } catch (error) {
    throw new ReacherError(
      `reacher/stores/file needs the package write-file-atomic: npm install write-file-atomic (${(error as Error).message.split("\n")[0]})`,
    );
  }
}

/** The file's name without its ending: short, and the same every time. */
function safe(name: string): string {
  const whole = escaped(name);
  if (whole.length <= LONGEST) return whole;
  const print = createHash("sha256").update(name).digest("hex").slice(0, 16);
  // Nothing that was escaped has this sign.
  return `${whole.slice(0, LONGEST).replace(/%[0-9A-F]?$/, "")}~${print}`;
}

function isShort(name: string): boolean {
  return escaped(name).length > LONGEST;
}

/** `encodeURIComponent` keeps a few characters that lead out of a folder or that some systems refuse, and throws on lone surrogates. */
function escaped(name: string): string {
  const whole = name.replace(
    /[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/g,
    "\uFFFD",
  );
  return encodeURIComponent(whole).replace(
    /[.!'()*~]/g,
    (character) => `%${character.charCodeAt(0).toString(16).toUpperCase().padStart(2, "0")}`,
  );
}

/** The name behind a file; `undefined` for a file that is not a profile. */
async function nameOf(folder: string, base: string): Promise<string | undefined> {
  try {
    const name = base.includes("~")
      ? await readFile(join(folder, base + NAME_ENDING), "utf8")
      : decodeURIComponent(base);
    return safe(name) === base ? name : undefined;
  } catch {
    return undefined;
  }
}

function isMissing(error: unknown): boolean {
  return typeof error === "object" && error !== null && "code" in error && error.code === "ENOENT";
}
