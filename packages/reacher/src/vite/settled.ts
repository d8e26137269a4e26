/** Reads a plan's file that an editor may be writing. In: a path. Out: its text, once that is whole; comments of a `.jsonc` are blanks. */
import { readFile } from "node:fs/promises";
import { stripComments } from "jsonc-parser";

/** An incomplete file is read again after this time, in ms, and at most this often. */
const SETTLE_MS = 30;
const MOST_READINGS = 10;

/** A file's text. An editor may empty a file before writing it, and Vite may report only that: invalid JSON is read again until it is stable. */
export async function readSettled(file: string): Promise<string> {
  let text = await textOf(file);
  for (let n = 1; n < MOST_READINGS && !isJson(text); n++) {
    await new Promise((done) => setTimeout(done, SETTLE_MS));
    const again = await textOf(file);
    if (again === text && again.trim() !== "") break;
    text = again;
  }
  return text;
}

async function textOf(file: string): Promise<string> {
  const text = (await readFile(file, "utf8")).replace(/^\uFEFF/, "");
  // As blanks, so that every place stays where it is.
  return file.endsWith(".jsonc") ? stripComments(text, " ") : text;
}

function isJson(text: string): boolean {
  try {
    JSON.parse(text);
    return true;
  } catch {
    return false;
  }
}
