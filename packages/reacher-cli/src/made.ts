/** Files that commands make. In: a text, where it is to stand, what it was made from. May change: that file, and nothing that it was made from. */
import { accessSync, constants, readFileSync, statSync } from "node:fs";
import { readFile, writeFile } from "node:fs/promises";
import { dirname } from "node:path";
import { BadAnswer, fileFault, UseError } from "./faults.js";
import { watchSettled } from "./watching.js";

/** @throws UseError if it is one of these files, or write-protected: saving by replacing would go round that */
export function mayWrite(output: string, from: readonly string[] = []): void {
  const own = identity(output);
  if (own === undefined) return;
  const same = from.find((file) => identity(file) === own);
  if (same !== undefined)
    throw new UseError(`${output}: this is ${same} itself, which would be lost; name another file`);
  try {
    accessSync(output, constants.W_OK);
    // Whoever may do everything is still told what the file's owner meant.
    if ((statSync(output).mode & 0o222) === 0) throw new Error();
  } catch {
    throw new UseError(`${output}: it is write-protected; take that off, or name another file`);
  }
}

/** Of two names of one file the same; `undefined` where there is no file. */
function identity(file: string): string | undefined {
  try {
    const { dev, ino } = statSync(file);
    return `${dev} ${ino}`;
  } catch {
    return undefined;
  }
}

/**
 * Writes a made file, or checks that it is what would be written.
 * @throws UseError where it cannot be written, BadAnswer where the check finds another text
 */
export async function writeMade(
  output: string,
  text: string,
  { from, check = false, how }: { readonly from: string; readonly check?: boolean; readonly how: string },
): Promise<void> {
  if (check) {
    const found = await readFile(output, "utf8").catch(() => undefined);
    if (found === text) return;
    throw new BadAnswer(
      `${output}: ${found === undefined ? "is missing" : "is not what its plan makes now"}; ${how} makes it anew`,
    );
  }
  // A file that stays as it is makes nothing else compile again.
  if ((await readFile(output, "utf8").catch(() => undefined)) !== text) await write(output, text, [from]);
}

/** Writes what was made from these files. @throws UseError where it cannot be written */
export async function write(
  output: string,
  made: string | Uint8Array,
  from: readonly string[],
): Promise<void> {
  mayWrite(output, from);
  try {
    await writeFile(output, made);
  } catch (error) {
    const isFolder = (error as NodeJS.ErrnoException).code === "ENOENT";
    throw isFolder
      ? new UseError(`${output}: there is no folder ${dirname(output)}; make it first`)
      : fileFault(output, error);
  }
}

/** Calls at each change of a file, until the command is interrupted; the watch begins before the first call. */
export async function atEachChange(file: string, made: () => Promise<void>): Promise<void> {
  let text = readFileSync(file, "utf8");
  const look = () => {
    try {
      const now = readFileSync(file, "utf8");
      if (now === text) return;
      text = now;
    } catch {
      // It is being renamed; the next change tells.
      return;
    }
    void made();
  };
  const close = watchSettled(file, look);
  await made();
  await new Promise<void>((done) => {
    process.once("SIGINT", done);
    process.once("SIGTERM", done);
  });
  close();
}
