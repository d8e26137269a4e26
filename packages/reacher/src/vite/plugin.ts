/**
 * A Vite plugin: `import plan from "./game.plan.json"` is checked, typed, and reloads while playing. In: Vite's calls. Out: modules,
 * findings in Vite's own places. May change: the declaration files beside the plans.
 *
 * @module reacher/vite
 */
import { readFileSync, writeFileSync } from "node:fs";
import { basename, join } from "node:path";
import { fileURLToPath } from "node:url";
import { findNodeAtLocation, parseTree, printParseErrorCode, type Node, type ParseError } from "jsonc-parser";
import { findingText } from "../plan/errors.js";
import { checkPlan, ownSchema, planTypesBeside } from "../plan/check.js";
import { resolvePlan } from "../plan/resolve.js";
import type { Plan } from "../plan/types.js";
import { ALL_CALLS, CALLS, callsLeftOut, callsNamedIn, mustBeCalls, type Call } from "../built/calls.js";
import { builtModule, mappedModule, openSettingsIn } from "../make/module.js";
import { calledIn, SCRIPT } from "./calledIn.js";
import { madeBefore } from "./madeBefore.js";
import { FROM_LIBRARY, liveTextOf, ownPlansIn, type OwnPlan } from "./ownPlans.js";
import { RELOAD } from "./reload.js";
import { runningIn } from "./runningIn.js";
import { readSettled } from "./settled.js";

/** The options of the plugin. */
export interface ReacherPluginOptions {
  /** Which modules are plans, by their path; a `.jsonc` may have comments. @default /\.plan\.jsonc?$/ */
  readonly include?: RegExp;
  /**
   * How a production build treats plans. `true`: as modules checked ahead, with only the features that they use, so that the game ships neither the
   * plan reader nor a schema library. `"fixed-keys"`: players cannot change anything, which is smaller still. `false`: as JSON, read
   * in the game; for games that also make plans of their own (`definePlan`, `parsePlan`). @default true
   */
  readonly ahead?: boolean | "fixed-keys";
  /**
   * What the game calls of a layer beyond `feed`, `step`, `now`, `seat`, `uses` and `lose`; a production build leaves the others out. @default those whose
   * names stand anywhere in the project's own scripts
   */
  readonly calls?: readonly string[];
  /** Whether a declaration file (`game.plan.d.json.ts`) is kept beside each plan. @default true */
  readonly types?: boolean;
}

/** The parts of Vite's plugin interface that this one uses. */
export interface ReacherPlugin {
  readonly name: "reacher";
  readonly enforce: "pre";
  configResolved(config: {
    readonly command: string;
    readonly mode?: string;
    readonly root?: string;
    readonly cacheDir?: string;
    readonly build?: { readonly outDir?: string; readonly sourcemap?: boolean | string };
    readonly env?: Readonly<Record<string, unknown>>;
  }): void;
  resolveId(this: ResolveContext, source: string, importer?: string): Promise<string | undefined>;
  load(this: LoadContext, id: string): Promise<string | { code: string; map: object } | undefined>;
  readonly transform: {
    readonly order: "post";
    handler(this: ModuleContext, code: string, id: string): { code: string; map: null } | undefined;
  };
  buildEnd(this: LoadContext, error?: unknown): void;
  hotUpdate(this: HotContext, change: { readonly file: string }): unknown[] | undefined;
  handleHotUpdate(change: OldChange): unknown[] | undefined;
}

/** What Vite gives a call that resolves. */
export interface ResolveContext {
  resolve(
    source: string,
    importer?: string,
    options?: { readonly skipSelf: boolean },
  ): Promise<{ readonly id: string } | null>;
}

/** What Vite gives a call when a file has changed. */
export interface HotContext {
  readonly environment: { readonly moduleGraph: { getModuleById(id: string): unknown } };
}

/** What Vite 5 gives instead. */
export interface OldChange {
  readonly file: string;
  readonly server: { readonly moduleGraph: { getModuleById(id: string): unknown } };
}

/** A place in a file: lines from 1, columns from 0, as Rollup counts. */
export interface Located {
  readonly message: string;
  readonly id: string;
  readonly loc: { readonly file: string; readonly line: number; readonly column: number };
  readonly frame: string;
}

/** What Vite gives a call that loads. */
export interface LoadContext {
  error(fault: Located | { readonly message: string }): never;
  warn(fault: Located | { readonly message: string }): void;
  addWatchFile(file: string): void;
}

/** What Vite gives a call that looks at a module, which is JavaScript by then. */
export interface ModuleContext extends LoadContext {
  parse(code: string): unknown;
}

const RELOAD_ID = "virtual:reacher/reload";
const INNER_ID = `\0${RELOAD_ID}`;
/** A plan's module has an id of its own: Vite's server does not send updates for ids that end in .json. */
const PLAN_ID = "\0reacher-plan:";
/** A plan that stands in a module as a constant. */
const OWN_PLAN = "virtual:reacher/plan/";
const idOf = (file: string) => `${PLAN_ID}${slashed(file)}.js`;
/** Vite's own form of a path, on every system. */
const slashed = (path: string) => path.replaceAll("\\", "/");

/**
 * Makes the plugin. Errors of a plan stop its module and appear in the terminal and in Vite's overlay with file, line, column and mend;
 * warnings appear in the terminal. While the server runs, layers made from the plan switch to the changed one (`setPlan`): what is held
 * stays held. A plan that cannot run leaves the last good one playing.
 */
export function reacher(options: ReacherPluginOptions = {}): ReacherPlugin {
  const { include = /\.plan\.jsonc?$/, types = true, ahead = true } = options;
  const told = options.calls === undefined ? undefined : mustBeCalls(options.calls);
  /** Only what was said by hand is refused while developing, too. */
  const leftOut = (plan: object) =>
    told === undefined || ahead === false ? [] : callsLeftOut(told, Object.hasOwn(plan, "seats"));
  /** The calls that a build brings; all where nobody knows the project. */
  let calls = told ?? ALL_CALLS;
  /** Where made modules are kept. */
  let keeping: string | undefined;
  let isServing = false;
  let isTesting = false;
  let isDeveloping = false;
  let isMapped = false;
  /** Whether a plan was built ahead, and whether the reader was left out, as it then must be. */
  let isBuilt = false;
  let isReplaced = false;
  let isReaderIn = false;
  /** Plans that stand in a module as constants, by the ids of the modules that are made of them. */
  const constants = new Map<string, OwnPlan>();
  /** A module whose own plans are made ahead: each is imported in its place, and no line moves. */
  const replaced = (code: string, id: string, all: readonly OwnPlan[]) => {
    const names = all.map((one, n) => {
      const source = `${OWN_PLAN}${slashed(id)}#${n}`;
      constants.set(`\0${source}`, one);
      return { name: `reacherPlan${n}`, source, at: one.at! };
    });
    let text = code;
    for (const { name, at } of [...names].reverse()) {
      const lines = text.slice(...at).replace(/[^\n]+/g, "");
      text = `${text.slice(0, at[0])}${name}${lines}${text.slice(at[1])}`;
    }
    const imports = names.map(({ name, source }) => `import ${name} from ${JSON.stringify(source)};`);
    return { code: imports.join("") + text, map: null };
  };
  /** The scripts that name a call, where the project was searched; and the calls that modules of the build name. */
  let namedBy: ReturnType<typeof calledIn> = new Map();
  const inBuild = new Set<Call>();
  /** Notes what a module calls, and finds a call that was left out. */
  const missingIn = (code: string, context: ModuleContext) => {
    const live = isDeveloping ? code : liveTextOf(code, context.parse(code));
    // What asks for DEV is out of it already, or is to stay.
    const named = callsNamedIn(runningIn(live, { isDeveloping: true }));
    for (const call of named) inBuild.add(call);
    return named.find((call) => !calls.includes(call));
  };
  /** What comes along for scripts that are no part of the build, where that is much. */
  const idleCalls = (): string | undefined => {
    const idle = [...namedBy].filter(
      ([call]) => !inBuild.has(call) && ["rules", "whole"].includes(CALLS[call]),
    );
    if (idle.length === 0) return undefined;
    const files = [...new Set(idle.flatMap(([, files]) => files))];
    const what = idle.some(([call]) => CALLS[call] === "rules") ? "the rules themselves" : "a whole layer";
    return `${files.join(", ")}: no part of this build, and what it calls brings ${what} along (${idle.map(([call]) => call).join(", ")}); reacher({ calls: ${JSON.stringify([...inBuild])} }) leaves that out`;
  };
  const isAhead = () => !isServing && ahead !== false;
  /** A bundler leaves modules with such a zero out of its source map. */
  const seen = (id: string) => (isMapped && isAhead() ? id.slice(1) : id);
  const planOf = async (file: string, context: LoadContext) => {
    context.addWatchFile(file);
    const raw = checked(await readSettled(file), file, context);
    if (types) keepTypes(raw, file, context);
    // Whoever has named a schema of this plan's own has it current.
    const own = basename(file).replace(/\.jsonc?$/, ".schema.json");
    if ((raw as { $schema?: unknown }).$schema === `./${own}`) keepSchema(raw, file, context);
    return raw;
  };
  return {
    name: "reacher",
    enforce: "pre",
    configResolved({ command, mode, root, build, env, cacheDir }) {
      keeping = cacheDir && join(cacheDir, "reacher");
      isServing = command === "serve";
      isTesting = mode === "test";
      isMapped = Boolean(build?.sourcemap);
      if (told === undefined && root !== undefined && ahead !== false)
        calls = [
          ...(namedBy = calledIn(
            root,
            build?.outDir ?? "dist",
            (isDeveloping = env?.["DEV"] === true),
          )).keys(),
        ];
    },
    async resolveId(source, importer) {
      if (source === RELOAD_ID) return INNER_ID;
      if (source.startsWith(OWN_PLAN)) return seen(`\0${source}`);
      if (source.startsWith("#") && isOwn(importer)) {
        isReplaced ||= isAhead();
        return isAhead() ? builtOf(source) : undefined;
      }
      // `?raw` and `?url` ask for the file itself.
      if (!include.test(source)) return undefined;
      const found = await this.resolve(source, importer, { skipSelf: true });
      return found === null || !include.test(found.id) ? undefined : seen(idOf(found.id));
    },
    async load(given) {
      const id = given.startsWith("\0") ? given : `\0${given}`;
      if (id === INNER_ID) return RELOAD;
      const constant = constants.get(id);
      if (constant === undefined && !id.startsWith(PLAN_ID)) return undefined;
      const file =
        constant === undefined
          ? id.slice(PLAN_ID.length, -".js".length)
          : id.slice(OWN_PLAN.length + 1, id.lastIndexOf("#"));
      const raw = constant === undefined ? await planOf(file, this) : checkedConstant(constant, file, this);
      if (!isAhead()) {
        const waits = ahead === true && calls.includes("bringKeys") && calls.includes("setOverrides");
        const open = waits ? openSettingsIn(raw as Plan) : null;
        return moduleOf(raw, isServing, leftOut(raw), open);
      }
      isBuilt = true;
      const rebinding = ahead !== "fixed-keys";
      const how = { file: basename(file), types: false, rebinding, calls };
      const make = () =>
        isMapped ? mappedModule(raw as Plan, how) : { code: builtModule(raw as Plan, how), map: null };
      const { code, map } =
        keeping === undefined ? make() : madeBefore(keeping, { raw, how, isMapped }, make);
      return map === null ? code : { code, map: { ...(JSON.parse(map) as object), sourceRoot: OWN } };
    },
    buildEnd(error) {
      if (error === undefined && isBuilt && isReaderIn && !isReplaced)
        this.error({
          message:
            "the plans were built ahead, and the plan reader would ship all the same: another plugin resolves the library's own modules before this one; put reacher() first",
        });
      const idle = error === undefined && isBuilt ? idleCalls() : undefined;
      if (idle !== undefined) this.warn({ message: idle });
    },
    transform: {
      // After the compilers: what is read here is JavaScript, whatever the module was written in.
      order: "post",
      handler(code, id) {
        isReaderIn ||= isOwn(id) && /\/plan\/read\.js$/.test(slashed(id));
        const left = told === undefined && isAhead() && isGames(id, code) ? missingIn(code, this) : undefined;
        if (left !== undefined)
          this.error({
            message: `it ${left === "plan" ? "reads its plan's fields, which were" : `calls ${left}, which was`} left out, since no script of the project does; say reacher({ calls: ${JSON.stringify([...calls, left])} })`,
            id,
            ...placeIn(originalOf(id) ?? code, id, 0),
          });
        // Also while the server runs, so that nothing works there that a build refuses; tests may make plans of their own.
        if (ahead === false || isTesting || isOwn(id) || !FROM_LIBRARY.test(code)) return undefined;
        const all = ownPlansIn(this.parse(code), include);
        const own = all.find(({ plan }) => plan === undefined);
        if (own === undefined) return isServing || all.length === 0 ? undefined : replaced(code, id, all);
        const text = originalOf(id) ?? code;
        const at = callIn(text, own.call);
        this.error({
          message: `${own.what}, and in a game that is built ahead no plan is read: put the plan into a .plan.json file and import it, or say reacher({ ahead: false })`,
          id,
          ...placeIn(text, id, at),
        });
      },
    },
    hotUpdate({ file }) {
      const own = this.environment.moduleGraph.getModuleById(idOf(file));
      return own === undefined ? undefined : [own];
    },
    // Vite calls this only where it does not know the other.
    handleHotUpdate({ file, server }) {
      const own = server.moduleGraph.getModuleById(idOf(file));
      return own === undefined ? undefined : [own];
    },
  };
}

/** The library's folder, and the files that are replaced in a game built ahead, from its package's `imports`. */
const OWN = slashed(fileURLToPath(new URL("..", import.meta.url)));
const PACKAGE = fileURLToPath(new URL("../..", import.meta.url));
const isOwn = (id: string | undefined) => id !== undefined && slashed(id).startsWith(OWN);
/** Whether a module is the game's, and no library's, but of one that is made for games with this one. */
const isGames = (id: string, code: string) =>
  !id.startsWith("\0") &&
  !id.startsWith(OWN_PLAN) &&
  !id.startsWith(PLAN_ID.slice(1)) &&
  !isOwn(id) &&
  SCRIPT.test(id.split("?")[0]!) &&
  (!/[\\/]node_modules[\\/]/.test(id) || /["']reacher(?:\/[\w/]+)?["']/.test(code));
const CONDITION = "reacher-built";

function builtOf(source: string): string | undefined {
  const { imports } = JSON.parse(readFileSync(`${PACKAGE}package.json`, "utf8")) as {
    readonly imports: Readonly<Record<string, Readonly<Record<string, string>>>>;
  };
  return Object.hasOwn(imports, source) ? slashed(join(PACKAGE, imports[source]![CONDITION]!)) : undefined;
}

/** The module as it was written. */
function originalOf(id: string): string | undefined {
  try {
    return readFileSync(id.split("?")[0]!, "utf8");
  } catch {
    return undefined;
  }
}

/** Where a call stands in a text, comments and strings aside. */
function callIn(text: string, call: string): number {
  const bare = text.replace(/\/\*[^]*?\*\/|\/\/.*|"(?:[^"\\\n]|\\.)*"|'(?:[^'\\\n]|\\.)*'/g, (part) =>
    " ".repeat(part.length),
  );
  return Math.max(0, bare.search(new RegExp(`\\b${call.replace(/\$/g, "\\$&")}\\s*[<(]`)));
}

/** The plan, or Vite's own error. */
function checked(text: string, file: string, context: LoadContext): object {
  const errors: ParseError[] = [];
  const tree = parseTree(text, errors, { disallowComments: true, allowTrailingComma: false });
  const located = (message: string, offset: number): Located => ({
    message,
    id: file,
    ...placeIn(text, file, offset),
  });
  const [first] = errors;
  if (first !== undefined || tree === undefined)
    return context.error(
      located(
        `not JSON: ${first === undefined ? "nothing readable" : sentence(printParseErrorCode(first.error))}`,
        first?.offset ?? 0,
      ),
    );
  const raw = JSON.parse(text) as object;
  const { plan, findings } = checkPlan(raw);
  if (plan === undefined) {
    const offset = offsetOf(tree, findings[0]!.place);
    const message = findings.map((found) => findingText(found)).join("\n");
    return context.error(located(message, offset));
  }
  for (const found of findings)
    if (found.severity === "warning") context.warn(located(findingText(found), offsetOf(tree, found.place)));
  return raw;
}

/** A plan that stands in a module, or Vite's own error at its call. */
function checkedConstant({ plan: raw, call }: OwnPlan, file: string, context: LoadContext): object {
  const text = originalOf(file) ?? "";
  const located = (message: string): Located => ({
    message,
    id: file,
    ...placeIn(text, file, callIn(text, call)),
  });
  const { plan, findings } = checkPlan(raw);
  if (plan === undefined)
    return context.error(located(findings.map((found) => findingText(found)).join("\n")));
  for (const found of findings) if (found.severity === "warning") context.warn(located(findingText(found)));
  return raw as object;
}

function placeIn(text: string, file: string, offset: number): Pick<Located, "loc" | "frame"> {
  const before = text.slice(0, offset);
  const line = before.split("\n").length;
  const column = offset - before.lastIndexOf("\n") - 1;
  return { loc: { file, line, column }, frame: frameOf(text, line, column) };
}

/** The lines around a place, as Vite's overlay shows them. */
function frameOf(text: string, line: number, column: number): string {
  const lines = text.split("\n");
  const first = Math.max(0, line - 3);
  return lines
    .slice(first, line + 2)
    .flatMap((one, n) => {
      const number = first + n + 1;
      const shown = `${String(number).padStart(4)} | ${one}`;
      return number === line ? [shown, `     | ${" ".repeat(column)}^`] : [shown];
    })
    .join("\n");
}

/** The offset of a place of the plan, or of the nearest above it. */
function offsetOf(tree: Node, place: string): number {
  const path = place === "" ? [] : place.split(".").map((part) => (/^\d+$/.test(part) ? Number(part) : part));
  for (; path.length > 0; path.pop()) {
    const node = findNodeAtLocation(tree, path);
    if (node !== undefined) return node.parent?.type === "property" ? node.parent.offset : node.offset;
  }
  return tree.offset;
}

const sentence = (code: string) => code.replace(/([a-z])([A-Z])/g, "$1 $2").toLowerCase();

function keepTypes(raw: object, file: string, context: LoadContext): void {
  const text = planTypesBeside(resolvePlan(raw as never), basename(file));
  const maker = `reacher types ${basename(file)} --beside`;
  keep(file.replace(/\.(jsonc?)$/, ".d.$1.ts"), text, maker, file, context, "; types: false keeps none");
}

function keepSchema(raw: object, file: string, context: LoadContext): void {
  const all = JSON.parse(readFileSync(`${PACKAGE}dist/plan.schema.json`, "utf8")) as object;
  const text = `${JSON.stringify(ownSchema(all, raw as Plan), undefined, 2)}\n`;
  const maker = `reacher schema ${basename(file)} --beside`;
  keep(file.replace(/\.jsonc?$/, ".schema.json"), text, maker, file, context);
}

/** Written only when it changes, so that a changed number recompiles nothing. Where nothing can be written, it is a warning. */
function keep(
  beside: string,
  text: string,
  maker: string,
  file: string,
  context: LoadContext,
  more = "",
): void {
  try {
    if (readFileSync(beside, "utf8") === text) return;
  } catch {
    // There is none yet.
  }
  try {
    writeFileSync(beside, text);
  } catch (error) {
    const message = `${beside} could not be written (${(error as Error).message}); \`${maker}\` makes it${more}`;
    context.warn({ message, id: file, ...placeIn("", file, 0) });
  }
}

/** `left`: the calls that a build leaves out; `open`: where it loads later what players' keys need, the settings that need nothing. */
function moduleOf(
  raw: object,
  isServing: boolean,
  left: readonly string[],
  open: readonly string[] | null,
): string {
  // As text: JSON may have a key that means something else in a script (`__proto__`), and is read faster.
  const plan = `const plan = JSON.parse(${JSON.stringify(JSON.stringify(raw))});\n`;
  if (!isServing) return `${plan}export default plan;\n`;
  // A change in place would do nothing: whoever tries is told while the game is made.
  const frozen = plan.replace(/\);\n$/, ", (_, value) => Object.freeze(value));\n");
  return `import { follow } from ${JSON.stringify(RELOAD_ID)};
${frozen}export default plan;
if (import.meta.hot) {
  const playOn = follow(plan, import.meta.hot, ${JSON.stringify(left)}, ${JSON.stringify(open)});
  import.meta.hot.accept((next) => next && playOn(next.default));
}
`;
}
