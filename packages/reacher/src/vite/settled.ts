/** Reads a plan's file that an editor may be writing. In: a path. Out: its text, once that is whole. */
import { readFile } from "node:fs/promises";
import { stripComments } from "jsonc-parser";

/** An incomplete file is read again after this time, in ms, and at most this often. */
const SETTLE_MS = 30;
const MOST_READINGS = 10;

/** A file's text. An editor may empty a file before writing it, and Vite may report only that: invalid JSON is read again until it is stable. */
export async function readSettled(file: string): Promise<string> {
  let text = await readFile(file, "utf8");
  for (let n = 1; n < MOST_READINGS && !isJson(text); n++) {
    await new Promise((done) => setTimeout(done, SETTLE_MS));
    const again = await readFile(file, "utf8");
    if (again === text && again.trim() !== "") break;
    text = again;
  }
  return text.replace(/^\uFEFF/, "");
}

function isJson(text: string): boolean {
  try {
    JSON.parse(stripComments(text.replace(/^\uFEFF/, "")));
    return true;
  } catch {
    return false;
  }
}
