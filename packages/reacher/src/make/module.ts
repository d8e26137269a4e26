/**
 * A plan as a module that was checked ahead, for tools that write one. In: a plan. Out: the text of a module, with straight code for the plan where
 * its keys are fixed. Reads the engine's own modules.
 *
 * @module reacher/build
 */
import { mustBeObject, mustBeText } from "../plan/arguments.js";
import type { CheckedPlan } from "../plan/checked.js";
import { madeBy, planTypeName, typesOf } from "../plan/planTypes.js";
import { resolvePlan } from "../plan/resolve.js";
import type { Plan } from "../plan/types.js";
import { ALL_CALLS, mustBeCalls, type Call } from "../built/calls.js";
import { neededFeatures } from "../built/needed.js";
import { compile } from "../engine/compile.js";
import { FEATURES } from "../engine/every.js";
import { makeSeat } from "./making.js";
import { seatText, type SeatText } from "./seatText.js";
import { ENGINE, Sources } from "./source.js";
import { Unmakeable } from "./specialiser.js";

/** How a module is made of a plan. */
export interface BuildOptions {
  /** Whether players may change their keys and settings; without, the game is smaller. @default true */
  readonly rebinding?: boolean;
  /** Which of `drive`, `mute` and `unmute` the game calls; what it does not call is left out. @default all */
  readonly calls?: readonly string[];
  /** The plan's file, for the first line and the names of types. */
  readonly file: string;
  /** Whether the module is TypeScript. @default true */
  readonly types?: boolean;
}

/** A module whose default export is the plan, ready for `createInputLayer`. @throws PlanError */
export function builtModule(written: Plan, options: BuildOptions): string {
  mustBeObject(options, "object of options; a file is the least");
  const { rebinding = true, file } = options;
  mustBeText(file, "file's name");
  const plan = resolvePlan(written);
  const calls = options.calls === undefined ? ALL_CALLS : mustBeCalls(options.calls);
  const made = rebinding ? undefined : codeOf(plan, written, calls);
  return made === undefined
    ? interpreted(plan, written, calls, options)
    : `${headOf(plan, options, ["madePlan", ...made.imports])}${made.code.tables}
/** The plan's own code, over the cells of a seat. */
const create = ${made.code.create};

/** Checked ahead, with the code that was made for it: \`createInputLayer(plan)\` makes a layer of it. */
const plan = ${callOf("madePlan", plan, options)}(
  ${JSON.stringify(JSON.stringify(written))},
  ${JSON.stringify(checkedText(plan))},
  ${JSON.stringify(JSON.stringify(made.numbers))},
  create,
);
export default plan;
`;
}

/** A module that brings the rules that the plan uses, and compiles it in the game. */
function interpreted(plan: CheckedPlan, written: Plan, calls: readonly Call[], options: BuildOptions): string {
  const { rebinding = true } = options;
  const features = neededFeatures(written, rebinding, calls);
  const imported = ["builtPlan", ...features, ...(rebinding ? ["rebinding"] : [])];
  return `${headOf(plan, options, imported)}
/** Checked ahead, with what it uses of the library: \`createInputLayer(plan)\` makes a layer of it. */
const plan = ${callOf("builtPlan", plan, options)}(
  ${JSON.stringify(JSON.stringify(written))},
  [${features.join(", ")}],
  ${rebinding ? "rebinding" : JSON.stringify(checkedText(plan))},
);
export default plan;
`;
}

function headOf(plan: CheckedPlan, { rebinding = true, file, calls, types = true }: BuildOptions, imported: readonly string[]): string {
  const named = calls === undefined ? "" : ` --calls ${calls.join(",") || "none"}`;
  const maker = `reacher build ${file}${rebinding ? "" : " --fixed-keys"}${named}`;
  const typed = types ? `${typesOf(plan, file)}\n` : "";
  return `${madeBy(maker, "anything in the plan changes")}${typed}import { ${imported.join(", ")} } from "reacher/internal";
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

/** Code that is longer than this, without spaces and long names, is more than the rules themselves. */
const MOST_CODE = 75_000;

let sources: Sources | undefined;

/** Straight code for a plan; `undefined` where the rules themselves are shorter, or seats change their slots. */
function codeOf(plan: CheckedPlan, written: Plan, calls: readonly Call[]) {
  // A seat that plays alone has other slots than beside others.
  if (plan.seated) return undefined;
  sources ??= new Sources(ENGINE);
  // With all calls, whatever is left out: so the cells lie as everywhere.
  const features = neededFeatures(written, false).map((name) => FEATURES[name]);
  try {
    const seat = makeSeat(compile(plan, plan.seats[0]!.slots, features), sources, calls);
    const code = seatText(seat);
    if (code.length > MOST_CODE) return undefined;
    return { code, numbers: seat.numbers, imports: code.tables.includes("powerCurve(") ? ["powerCurve"] : [] };
  } catch (error) {
    if (error instanceof Unmakeable) return undefined;
    throw error;
  }
}

export type { SeatText };
