/**
 * What a game's own modules call of a layer, by name, of the calls that need not be brought along. In: the project's folder. Out: the calls, each with
 * the scripts that name it, by their paths in the project. It reads every script below it but tests and configurations, so it may find too many and not
 * too few; what lies elsewhere is looked at when it is bundled.
 */
import { readdirSync, readFileSync } from "node:fs";
import { join, relative, resolve } from "node:path";
import { callsNamedIn, type Call } from "../built/calls.js";
import { runningIn } from "./runningIn.js";

/** What runs beside the game and is no part of it: a call there brings nothing along. Tools have their configurations in the project's folder itself. */
const BESIDE = /^(?:node_modules|tests?|__tests__|e2e|\..*)$|\.(?:test|spec)\.\w+$/;
const OF_TOOLS = /\.config\.\w+$/;
/** What may hold code. */
export const SCRIPT = /\.(?:[cm]?[jt]sx?|vue|svelte|astro|html)$/;
/** What holds code and other things: there, two slashes may be part of an address. */
const PAGE = /\.(?:vue|svelte|astro|html)$/;
const TAGGED = /\.(?:[jt]sx|[cm]?js)$/;

/** `developing`: whether what asks for `import.meta.env.DEV` is part of the build. */
export function calledIn(
  root: string,
  outDir: string,
  developing: boolean,
): ReadonlyMap<Call, readonly string[]> {
  const found = new Map<Call, string[]>();
  const out = resolve(root, outDir);
  const open = [root];
  const look = (path: string) => {
    const text = readable(() => readFileSync(path, "utf8"), "");
    if (isMinified(text)) return;
    const how = { isTagged: TAGGED.test(path), isDeveloping: developing };
    const named = (keepsComments: boolean) => callsNamedIn(runningIn(text, { ...how, keepsComments }));
    const file = relative(root, path).replaceAll("\\", "/");
    for (const call of new Set([...named(false), ...(PAGE.test(path) ? named(true) : [])]))
      found.set(call, [...(found.get(call) ?? []), file]);
  };
  for (let folder = open.pop(); folder !== undefined; folder = open.pop())
    for (const entry of readable(() => readdirSync(folder, { withFileTypes: true }), [])) {
      const path = join(folder, entry.name);
      if (BESIDE.test(entry.name) || (folder === root && OF_TOOLS.test(entry.name))) continue;
      if (entry.isDirectory()) {
        if (path !== out) open.push(path);
      } else if (SCRIPT.test(entry.name)) look(path);
    }
  return found;
}

/** A link to nowhere and what nobody may read are no part of a game; what is bundled after all is looked at then. */
function readable<T>(read: () => T, none: T): T {
  try {
    return read();
  } catch {
    return none;
  }
}

/** What a build left behind has the whole library in it. Where such a file is bundled after all, it is looked at then. */
const isMinified = (text: string) => text.length > MOST_LINE * text.split("\n").length;
const MOST_LINE = 400;
