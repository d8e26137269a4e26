/**
 * Modules that were made before are not made again. In: a folder for such files, and what a module is made of. Out: the module. May change: the folder, of which
 * nothing is needed and which may be deleted at any time.
 */
import { createHash } from "node:crypto";
import { mkdirSync, readdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";

/** Files that are kept, the newest. */
const MOST_KEPT = 30;

let ownHash: string | undefined;

/** The same for the same library. */
function hashOfLibrary(): string {
  if (ownHash !== undefined) return ownHash;
  const hash = createHash("sha256");
  const own = fileURLToPath(new URL("..", import.meta.url));
  for (const file of readdirSync(own, { recursive: true, encoding: "utf8" }).sort())
    if (file.endsWith(".js")) hash.update(file).update(readFileSync(join(own, file)));
  return (ownHash = hash.digest("hex"));
}

/** The JSON that `make` gives for `of`, from the folder where it was made before. */
export function madeBefore<Made>(folder: string, of: object, make: () => Made): Made {
  const key = createHash("sha256").update(hashOfLibrary()).update(JSON.stringify(of));
  const file = join(folder, `${key.digest("hex").slice(0, 32)}.json`);
  const known = read<Made>(file);
  if (known !== undefined) return known;
  const made = make();
  try {
    mkdirSync(folder, { recursive: true });
    // Two builds at a time write each its own.
    writeFileSync(`${file}.${process.pid}`, JSON.stringify(made));
    renameSync(`${file}.${process.pid}`, file);
    forgetOld(folder);
  } catch {
    // A folder that cannot be written: it is made again next time.
  }
  return made;
}

function read<Made>(file: string): Made | undefined {
  try {
    return JSON.parse(readFileSync(file, "utf8")) as Made;
  } catch {
    return undefined;
  }
}

function forgetOld(folder: string): void {
  const files = readdirSync(folder).map((name) => join(folder, name));
  const byAge = files.map((file) => ({ file, at: statSync(file).mtimeMs })).sort((a, b) => b.at - a.at);
  for (const { file } of byAge.slice(MOST_KEPT)) rmSync(file, { force: true });
}
