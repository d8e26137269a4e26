/**
 * A plan as a module that was checked ahead, for tools that write one. In: a plan. Out: the text of a module. Pure.
 *
 * @module reacher/build
 */
import { mustBeObject, mustBeText } from "../plan/arguments.js";
import type { CheckedPlan } from "../plan/checked.js";
import { madeBy, planTypeName, typesOf } from "../plan/planTypes.js";
import { resolvePlan } from "../plan/resolve.js";
import type { Plan } from "../plan/types.js";
import { ALL_CALLS, mustBeCalls } from "./calls.js";
import { neededFeatures } from "./needed.js";

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
  const { rebinding = true, file, types = true } = options;
  mustBeText(file, "file's name");
  const plan = resolvePlan(written);
  const calls = options.calls === undefined ? ALL_CALLS : mustBeCalls(options.calls);
  const features = neededFeatures(written, rebinding, calls);
  const imported = ["builtPlan", ...features, ...(rebinding ? ["rebinding"] : [])];
  const by = rebinding ? "rebinding" : JSON.stringify(checkedText(plan));
  const named = options.calls === undefined ? "" : ` --calls ${calls.join(",") || "none"}`;
  const maker = `reacher build ${file}${rebinding ? "" : " --fixed-keys"}${named}`;
  const head = madeBy(maker, "anything in the plan changes");
  const typed = types ? `${typesOf(plan, file)}\n` : "";
  const made = types ? `builtPlan<${planTypeName(plan, file)}Plan>` : "builtPlan";
  return `${head}${typed}import { ${imported.join(", ")} } from "reacher/internal";

/** Checked ahead, with what it uses of the library: \`createInputLayer(plan)\` makes a layer of it. */
const plan = ${made}(
  ${JSON.stringify(JSON.stringify(written))},
  [${features.join(", ")}],
  ${by},
);
export default plan;
`;
}

/** A checked plan as text: its controls by their names. */
function checkedText(plan: CheckedPlan): string {
  return JSON.stringify(plan, (field, value: unknown) =>
    field === "control" ? (value as { readonly name: string }).name : value,
  );
}
