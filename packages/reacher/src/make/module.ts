/**
 * A plan as a module that was checked ahead, for tools that write one. In: a plan. Out: the text of a module, with straight code for the plan where
 * its keys are fixed. Reads the engine's own modules.
 *
 * @module reacher/build
 */
import { gzipSync } from "node:zlib";
import { mustBeObject, mustBeText } from "../plan/arguments.js";
import type { CheckedPlan } from "../plan/checked.js";
import { madeBy, planTypeName, typesOf } from "../plan/planTypes.js";
import { resolvePlan } from "../plan/resolve.js";
import type { Plan } from "../plan/types.js";
import { ALL_CALLS, CALLS, FEATURE_OF, isWhole, mustBeCalls, need, type Call } from "../built/calls.js";
import { neededFeatures } from "../built/needed.js";
import { compile } from "../engine/compile.js";
import { FEATURES, type FeatureName } from "../engine/every.js";
import type { Tables } from "../engine/tables.js";
import type { OpenSettings } from "../made/openSettings.js";
import { fixedIn, makeSeats } from "./making.js";
import { minified } from "./merge.js";
import { mapOf } from "./map.js";
import { openFields, type OpenFields } from "./openFields.js";
import { OpenNumbers } from "./openNumbers.js";
import { openedIn, type Opened } from "./openSettings.js";
import { seatsText } from "./seatText.js";
import { BARE_BYTES, CALL_BYTES, FEATURE_BYTES } from "./bytes.js";
import { sharesOf, type CodeShare } from "./explain.js";
import { ENGINE, Sources } from "./source.js";
import { TOO_LONG, Unmakeable } from "./specialiser/frames.js";

/** How a module is made of a plan. */
export interface BuildOptions {
  /** Whether players may change their keys and settings; without, the game is smaller. @default whether the game calls `setOverrides` */
  readonly rebinding?: boolean;
  /** What the game calls of a layer; what it does not call is left out. @default all but `setPlan` */
  readonly calls?: readonly string[];
  /** The plan's file, for the first line and the names of types. */
  readonly file: string;
  /** Whether the module is TypeScript. @default true */
  readonly types?: boolean;
}

/**
 * What goes into the module that `builtModule` makes with the same options. `code`: what was made for the plan, by what needs it, in characters once it is
 * minified; `null` where the rules themselves come along, and `why`. `settings`: those of a player that need no second part. `brings`: the features of the rules, or the groups of calls beside the code.
 * `gzipped`: the module in all, minified, in bytes. `calls`: about what the calls that come along add to what a page loads, in bytes, largest first;
 * those that bring the same part stand together. @throws PlanError
 */
export function explainModule(
  written: Plan,
  options: BuildOptions,
): {
  readonly code:
    | readonly { readonly of: string; readonly kind: "action" | "call" | "part"; readonly length: number }[]
    | null;
  readonly why?: string;
  readonly settings?: readonly string[];
  readonly brings: readonly string[];
  readonly gzipped: number;
  readonly calls: readonly { readonly of: readonly string[]; readonly adds: number }[];
} {
  const { text, plan, calls, kind, made } = moduleOf(written, { ...options, types: false });
  const gzipped = gzipSync(minified(text)).length;
  const adds = addedBy(calls, plan.seated);
  if ("why" in made)
    return {
      code: null,
      why: made.why,
      brings: neededFeatures(written, kind.rebinding, calls),
      gzipped,
      calls: adds,
    };
  const names = plan.actions.map(({ name }) => name);
  const shares = new Map<string, CodeShare>();
  for (const one of made.seats.flatMap(({ seat }) => sharesOf(seat, names))) {
    const key = `${one.kind} ${one.of}`;
    // Most of it stands there once for all seats.
    shares.set(key, { ...one, length: Math.max(one.length, shares.get(key)?.length ?? 0) });
  }
  const code = [...shares.values()].sort((a, b) => b.length - a.length);
  const settings = made.open && { settings: Object.keys(made.open.settings) };
  return { code, ...settings, brings: kind.isLean ? kind.groups : ["all calls"], gzipped, calls: adds };
}

/** What a call adds. A plan with seats has a whole layer anyway: little more. */
function bytesOf(call: Call, isSeated: boolean): number {
  if (!isSeated || FEATURE_OF[call] !== undefined) return CALL_BYTES[call];
  if (call === "openSeats") return BARE_BYTES.opening - BARE_BYTES.whole;
  return Math.max(0, CALL_BYTES[call] - CALL_BYTES.openSeats);
}

/** What calls add, by the part that they bring. */
function addedBy(calls: readonly Call[], isSeated: boolean): { of: Call[]; adds: number }[] {
  const parts = new Map<string, { of: Call[]; adds: number }>();
  for (const call of new Set(calls)) {
    const adds = bytesOf(call, isSeated);
    if (adds === 0) continue;
    // `setOverrides` needs more than the whole layer.
    const key = CALLS[call] === "whole" ? `whole ${adds}` : CALLS[call];
    const part = parts.get(key);
    if (part === undefined) parts.set(key, { of: [call], adds });
    else {
      part.of.push(call);
      part.adds = Math.max(part.adds, adds);
    }
  }
  return [...parts.values()].sort((a, b) => b.adds - a.adds);
}

/** The addresses of a player's settings that stay open in such a module, where the game calls `bringKeys`. @throws PlanError */
export const openSettingsIn = (written: Plan): readonly string[] =>
  Object.keys(openedIn(written).open.settings);

/** A module whose default export is the plan, ready for `createInputLayer`. @throws PlanError */
export function builtModule(written: Plan, options: BuildOptions): string {
  return moduleOf(written, options).text;
}

/**
 * A module as `builtModule` makes it, and a source map of it (ECMA-426, as JSON), by which a debugger shows the rules that its code was made of; `null` where it
 * has no code of its own. @throws PlanError
 */
export function mappedModule(
  written: Plan,
  options: BuildOptions,
): { readonly code: string; readonly map: string | null } {
  const { text, made } = moduleOf(written, options);
  return { code: text, map: "why" in made ? null : mapOf(text, made.code, options.file) };
}

/** The text of a module, and what it was made of. */
interface Module {
  readonly text: string;
  readonly plan: CheckedPlan;
  readonly calls: readonly Call[];
  readonly kind: Kind;
  readonly made: ReturnType<typeof codeOf>;
}

function moduleOf(written: Plan, options: BuildOptions): Module {
  mustBeObject(options, "object of options; a file is the least");
  const { file } = options;
  mustBeText(file, "file's name");
  const plan = resolvePlan(written);
  const calls = options.calls === undefined ? ALL_CALLS : mustBeCalls(options.calls);
  // Nobody changes keys in a game that never calls for it.
  const rebinding = options.rebinding !== false && calls.includes("setOverrides");
  const kind = kindOf(plan, calls, rebinding);
  const made = codeOf(plan, written, calls, kind);
  const told = { plan, calls, kind, made };
  if ("why" in made) {
    const why = rebinding && !need(calls, "later") ? undefined : made.why;
    return { ...told, text: interpreted(plan, written, calls, { ...options, rebinding }, why) };
  }
  const hasAll = !kind.isLean;
  const imported = ["madePlan", kind.import, ...kind.groups, ...made.imports];
  const isFelt = made.open !== null && made.open.felt.length > 0;
  const kindText =
    made.open === null ? kind.made : `settings(${kind.made}, ${textOf(made.open)}${isFelt ? ", feel" : ""})`;
  if (made.open !== null) imported.push("settings", ...(isFelt ? ["feel"] : []));
  const { create } = made.code;
  const createOf = (n: number) => (made.seats.length === 1 ? "create" : `create(${n})`);
  const text = `${headOf(plan, options, imported, "reacher/internal/made")}
/** The plan's own code, over the cells of a seat. */
const create = ${create};

/** Checked ahead, with the code that was made for it: \`createInputLayer(plan)\` makes a layer of it. */
const plan = ${callOf("madePlan", plan, options)}(
  ${textOf(need(calls, "text") || hasAll || rebinding ? written : { reacherPlan: 1, actions: {} })},
  ${JSON.stringify(hasAll || rebinding ? checkedText(plan) : namesOf(plan))},
  [${made.seats.map(({ slots, numbers }, n) => `[${JSON.stringify(slots.join(" "))}, ${textOf(numbers)}, ${createOf(n)}]`).join(", ")}],
  ${kindText},
);
export default plan;
`;
  return { ...told, text };
}

/** A value as JSON in a text of its own: a script reads that faster, and a key in it can mean nothing else. */
const textOf = (value: object) => JSON.stringify(JSON.stringify(value));

/** A kind of layer: the name of what makes it, the call, and the groups of calls that it has beside the least. */
interface Kind {
  readonly import: "whole" | "ownKeys" | "lean" | "hearing" | "leanOwnKeys" | "hearingOwnKeys";
  readonly made: string;
  readonly groups: readonly string[];
  readonly isLean: boolean;
  readonly rebinding: boolean;
  /** Whether its seats open and close. */
  readonly opens: boolean;
}

/** The layer that a game needs: with everything, or with the groups of calls that it makes. */
function kindOf(plan: CheckedPlan, calls: readonly Call[], rebinding: boolean): Kind {
  const hears = need(calls, "hearing");
  const isLean = !isWhole(calls, plan.seated, rebinding);
  const groups = isLean ? groupsOf(plan, calls) : [];
  const opens = plan.seated && calls.includes("openSeats");
  const opening = (made: string) => (opens ? `opening(${made})` : made);
  const rest = { groups: opens ? ["opening"] : groups, isLean, rebinding, opens };
  if (!rebinding) {
    if (!isLean) return { import: "whole", made: opening("whole"), ...rest };
    const name = hears ? "hearing" : "lean";
    return { import: name, made: `${name}(${groups.join(", ")})`, ...rest };
  }
  const name = !isLean ? "ownKeys" : hears ? "hearingOwnKeys" : "leanOwnKeys";
  const bring = '() => import("reacher/internal/keys")';
  return { import: name, made: opening(`${name}(${[bring, ...groups].join(", ")})`), ...rest };
}

function groupsOf(plan: CheckedPlan, calls: readonly Call[]): readonly string[] {
  const groups = calls.map((call): string => CALLS[call]).filter((group) => group.endsWith("Calls"));
  // The page tells where the pointer is.
  const page = plan.spots.length > 0 ? ["spotCalls"] : [];
  return [...new Set([...groups, ...page])];
}

/** What a lean layer asks of its plan: names, and how they are used. */
function namesOf({
  name,
  seats,
  seated,
  slots,
  actions,
  modes,
  start,
  flags,
  numbers,
  spots,
  controls,
}: CheckedPlan): string {
  const named = (all: readonly { readonly name: string }[]) => all.map(({ name }) => ({ name }));
  return JSON.stringify({
    name,
    seats,
    seated,
    slots,
    actions: actions.map((action) => ({
      name: action.name,
      kind: action.kind,
      in: action.in,
      ...("combine" in action && { combine: action.combine }),
    })),
    modes: modes.map(({ name, covers }) => ({ name, covers })),
    start,
    flags: named(flags),
    numbers: named(numbers),
    spots: named(spots),
    controls,
  });
}

/** A module that brings the rules that the plan uses, and compiles it in the game. */
function interpreted(
  plan: CheckedPlan,
  written: Plan,
  calls: readonly Call[],
  options: BuildOptions,
  why?: string,
): string {
  const { rebinding = true } = options;
  const features = neededFeatures(written, rebinding, calls);
  const imported = ["builtPlan", ...features, ...(rebinding ? ["rebinding"] : [])];
  return `${headOf(plan, options, imported, "reacher/internal")}
/** ${why === undefined ? "" : `With the rules themselves in place of code made of them: ${why}. `}Checked ahead, with what it uses of the library: \`createInputLayer(plan)\` makes a layer of it. */
const plan = ${callOf("builtPlan", plan, options)}(
  ${JSON.stringify(JSON.stringify(written))},
  [${features.join(", ")}],
  ${rebinding ? "rebinding" : JSON.stringify(checkedText(plan))},
);
export default plan;
`;
}

function headOf(
  plan: CheckedPlan,
  { rebinding = true, file, calls, types = true }: BuildOptions,
  imported: readonly string[],
  from: string,
): string {
  const named = calls === undefined ? "" : ` --calls ${calls.join(",") || "none"}`;
  const maker = `reacher build ${file}${rebinding ? "" : " --fixed-keys"}${named}`;
  const typed = types ? `${typesOf(plan, file)}\n` : "";
  return `${madeBy(maker, "anything in the plan changes")}${typed}import { ${imported.join(", ")} } from "${from}";
`;
}

const callOf = (call: string, plan: CheckedPlan, { file, types = true }: BuildOptions) =>
  types ? `${call}<${planTypeName(plan, file)}Plan>` : call;

/** A checked plan as text: its controls by their names. */
function checkedText(plan: CheckedPlan): string {
  return JSON.stringify(plan, (field, value: unknown) =>
    field === "control" ? (value as { readonly name: string }).name : value,
  );
}

/** Code that is more than the rules themselves: bytes, minified and gzipped, with what it is told. A layer brings what it needs of them in any case. */
function mostBytes(features: readonly FeatureName[], kind: Kind): number {
  const rules = kind.rebinding ? BARE_BYTES.rebinding : BARE_BYTES.rules;
  const layer = BARE_BYTES[kind.import] + (kind.opens ? BARE_BYTES.opening - BARE_BYTES.whole : 0);
  const groups = kind.isLean ? kind.groups : [];
  const calls = (Object.keys(CALLS) as Call[]).filter((call) => groups.includes(CALLS[call]));
  const byGroup = new Map(calls.map((call) => [CALLS[call], CALL_BYTES[call]]));
  const sum = (all: Iterable<number>) => [...all].reduce((total, bytes) => total + bytes, 0);
  return rules - layer + sum(features.map((name) => FEATURE_BYTES[name])) - sum(byGroup.values());
}

/** Before anything is folded, code of so many lines is more than a byte: what has more lines is not made to its end. */
const LINES_A_BYTE = 1.2;

/** What open settings add to code. */
const OPEN_SHARE = 0.06;

let sources: Sources | undefined;

/** What code is made for: a whole layer has all calls, of which two groups may be left out. */
function codeCalls(calls: readonly Call[], kind: Kind): readonly Call[] {
  if (kind.isLean) return calls;
  return ALL_CALLS.filter((call) => FEATURE_OF[call] === undefined || calls.includes(call));
}

const namesIn = (all: readonly { readonly name: string }[]) => all.map(({ name }) => name);

/** The slots that seats may have: one that plays alone has all, and one that does not play none. */
function slotsIn({ seats, slots }: CheckedPlan, { opens }: Kind): (readonly string[])[] {
  return [...seats.map((seat) => seat.slots), ...(opens ? [namesIn(slots), []] : [])];
}

/** The settings that stay open, and the numbers that follow; `null` if there are none. */
function openNumbersOf(
  seats: readonly Tables[],
  { open, plans }: Opened,
  tablesOf: (plan: CheckedPlan) => readonly Tables[],
): { readonly settings: OpenSettings; readonly numbers: OpenNumbers } | null {
  if (Object.keys(open.settings).length === 0) return null;
  const others = plans.map(tablesOf);
  const fields = seats.map((tables, n) =>
    openFields(
      tables,
      others.map((all) => all[n]!),
      open,
    ),
  );
  if (fields.includes(null)) return null;
  return { settings: open, numbers: new OpenNumbers(fields as OpenFields[]) };
}

/** Straight code for a plan, or why there is none. */
function codeOf(plan: CheckedPlan, written: Plan, calls: readonly Call[], kind: Kind) {
  if (kind.rebinding && !need(calls, "later"))
    return { why: "players' own keys need them; with bringKeys they come later" };
  if (need(calls, "rules")) return { why: "setPlan, recordings and the panel need them" };
  sources ??= new Sources(ENGINE);
  // With all calls, whatever is left out: so the cells lie as everywhere.
  const features = neededFeatures(written, false).map((name) => FEATURES[name]);
  // A player may make one of a hold.
  if (kind.rebinding && !features.includes(FEATURES.styles)) features.push(FEATURES.styles);
  const most = mostBytes(neededFeatures(written, kind.rebinding, calls), kind);
  const all = compile(plan, namesIn(plan.slots), features);
  const tablesOf = (slots: readonly string[]) =>
    compile(plan, slots, features, slots.length === plan.slots.length ? null : all.cells);
  const lists = [...new Map(slotsIn(plan, kind).map((slots) => [slots.join(" "), slots])).values()];
  const each = lists.map(tablesOf);
  if (kind.opens && each.some(({ cells }) => !cells.areAsThere))
    return { why: "a cell would move when its seats open and close" };
  const opened = kind.rebinding ? openedIn(written) : null;
  const tablesOfPlan = (own: CheckedPlan) => {
    const all = compile(own, namesIn(own.slots), features);
    return lists.map((slots) =>
      compile(own, slots, features, slots.length === own.slots.length ? null : all.cells),
    );
  };
  try {
    const own = codeCalls(calls, kind);
    const open = opened && openNumbersOf(each, opened, tablesOfPlan);
    // What settings add is not held against code: they stay open whatever a plan's size.
    const bound = open === null ? most : most * (1 + OPEN_SHARE);
    const made = makeSeats(each, sources, own, kind.opens, bound * LINES_A_BYTE, open?.numbers);
    const isAll = own.length === ALL_CALLS.length || !calls.includes("restore");
    const whole = isAll ? made : makeSeats(each, sources, ALL_CALLS, kind.opens, Infinity, open?.numbers);
    const seats = made.map((seat, n) => {
      const fixed = fixedIn(seat, whole[n]!);
      return { slots: lists[n]!, seat, numbers: { ...seat.numbers, ...(fixed.length > 0 && { fixed }) } };
    });
    const code = seatsText(made);
    const texts = [minified(code.create), ...seats.map(({ numbers }) => textOf(numbers))];
    if (gzipSync(texts.join("")).length > bound) return { why: TOO_LONG };
    return {
      seats,
      code,
      imports: code.create.includes("powerCurve(") ? ["powerCurve"] : [],
      open: open && { ...open.settings, formulas: open.numbers.formulas },
    };
  } catch (error) {
    if (error instanceof Unmakeable) return { why: error.message };
    throw error;
  }
}
