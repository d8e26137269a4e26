/** Watches a file. In: its path. Out: a call soon after each write, until it is closed. */
import { watch } from "node:fs";
import { basename, dirname, resolve } from "node:path";
import { fileFault } from "./faults.js";

/** A file that is written in pieces has settled by then, in ms. */
const SETTLE_MS = 60;

/** Returns what ends it. @throws UseError if the file's folder cannot be watched */
export function watchSettled(file: string, look: () => void): () => void {
  let settling: NodeJS.Timeout | undefined;
  const folder = dirname(resolve(file));
  try {
    // The folder, since an editor that saves by renaming detaches a file's own watcher.
    const watcher = watch(folder, (_, name) => {
      if (name !== null && name !== basename(file)) return;
      clearTimeout(settling);
      settling = setTimeout(look, SETTLE_MS);
    });
    return () => {
      clearTimeout(settling);
      watcher.close();
    };
  } catch (error) {
    throw fileFault(folder, error);
  }
}
