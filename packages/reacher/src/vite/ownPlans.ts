/**
 * Finds where a module of the game has a plan of its own: a constant is built ahead as a file is, and what else is read in the game cannot be. In: a
 * module's syntax tree (ESTree). Out: the calls and what they do. It follows the module's bindings: a name in a comment, in a text or in a branch that
 * never runs is none.
 */
import { literalOf, type Syntax } from "./literals.js";

/** The library by its name; while serving, by the file that Vite has put in its place: the package's own, or one made of it. */
const LIBRARY = String.raw`(?:reacher|[^"']*/(?:reacher/dist/index|deps/reacher)\.js(?:\?[^"']*)?)`;
const IS_LIBRARY = new RegExp(`^${LIBRARY}$`);

/** Whether it is worth a look. */
export const FROM_LIBRARY = new RegExp(`["']${LIBRARY}["']`);

const MAKERS: readonly string[] = ["definePlan", "parsePlan"];
const TAKERS: readonly string[] = ["createInputLayer"];

/** A call that reads a plan, as it is written, and what it does. */
export interface OwnPlan {
  readonly call: string;
  readonly what: string;
  /** The plan, where it is a constant, and from where to where it stands in the text. */
  readonly plan?: unknown;
  readonly at?: readonly [from: number, to: number];
}

/** The calls that read a plan of the game's own. `include`: which files are plans. */
export function ownPlansIn(module: unknown, include: RegExp): readonly OwnPlan[] {
  const names = new Map<string, string>();
  const wholes = new Set<string>();
  const files = new Map<string, string>();
  const plain = new Set<string>();
  for (const one of (module as { readonly body: readonly Syntax[] }).body) {
    for (const made of madeIn(one)) plain.add(made);
    if (one.type !== "ImportDeclaration") continue;
    const from = String((one["source"] as Syntax)["value"]);
    for (const part of one["specifiers"] as readonly Syntax[]) {
      const local = nameOf(part["local"]);
      const [file] = from.split("?") as [string];
      if (file.endsWith(".json") && !include.test(file)) files.set(local, file);
      if (!IS_LIBRARY.test(from)) continue;
      if (part.type === "ImportNamespaceSpecifier") wholes.add(local);
      else if (part.type === "ImportSpecifier") names.set(local, nameOf(part["imported"]));
    }
  }
  const meant = (callee: Syntax): string | undefined => {
    if (callee.type === "Identifier") return names.get(nameOf(callee));
    const isMember = callee.type === "MemberExpression" && callee["computed"] !== true;
    return isMember && wholes.has(nameOf(callee["object"])) ? nameOf(callee["property"]) : undefined;
  };
  const look = (call: Syntax): OwnPlan | undefined => {
    const callee = call["callee"] as Syntax;
    const name = meant(callee);
    if (name === undefined) return undefined;
    const written = callee.type === "Identifier" ? nameOf(callee) : nameOf(callee["property"]);
    const [plan] = call["arguments"] as readonly Syntax[];
    if (MAKERS.includes(name))
      return { call: written, what: `calls ${name}`, ...(name === "definePlan" && constant(plan, call)) };
    if (!TAKERS.includes(name) || plan === undefined) return undefined;
    const file = files.get(nameOf(plan));
    if (file !== undefined) return { call: written, what: `gives ${name} the plan of ${file}` };
    const isOwn = plan.type === "ObjectExpression" || plain.has(nameOf(plan));
    return isOwn
      ? { call: written, what: `gives ${name} a plan of its own`, ...constant(plan, plan) }
      : undefined;
  };
  const found: OwnPlan[] = [];
  eachCall(module, (call) => {
    const own = look(call);
    if (own !== undefined) found.push(own);
  });
  return found;
}

/** A plan that is a constant object, and what in the text it stands for. */
function constant(plan: Syntax | undefined, whole: Syntax): Pick<OwnPlan, "plan" | "at"> {
  const [value] = plan?.type === "ObjectExpression" ? literalOf(plan) : [];
  return value === undefined ? {} : { plan: value, at: [Number(whole["start"]), Number(whole["end"])] };
}

/** The names of a module's own objects: `const plan = { ... }`. */
function madeIn(statement: Syntax): string[] {
  const declared = statement.type === "ExportNamedDeclaration" ? statement["declaration"] : statement;
  if ((declared as Syntax | null)?.type !== "VariableDeclaration") return [];
  return ((declared as Syntax)["declarations"] as readonly Syntax[])
    .filter(({ init }) => (init as Syntax | null)?.type === "ObjectExpression")
    .map(({ id }) => nameOf(id));
}

function nameOf(node: unknown): string {
  const { name, value } = (node ?? {}) as { readonly name?: unknown; readonly value?: unknown };
  return typeof name === "string" ? name : typeof value === "string" ? value : "";
}

/** A module's text without what never runs in a production build. */
export function liveTextOf(text: string, module: unknown): string {
  let live = text;
  const visit = (node: unknown): void => {
    if (Array.isArray(node)) node.forEach(visit);
    else if (typeof node === "object" && node !== null && "type" in node) {
      const syntax = node as Syntax;
      const left = branchesOf(syntax);
      if (left === undefined) return Object.values(syntax).forEach(visit);
      const [from, to] = [Number(syntax["start"]), Number(syntax["end"])];
      const kept = left.flatMap((one) => (one === null ? [] : [one as Syntax]));
      let blank = " ".repeat(to - from);
      for (const { start, end } of kept as unknown as readonly { start: number; end: number }[])
        blank = blank.slice(0, start - from) + live.slice(start, end) + blank.slice(end - from);
      live = live.slice(0, from) + blank + live.slice(to);
      visit(kept);
    }
  };
  visit(module);
  return live;
}

/** All calls, without those in branches that never run. */
function eachCall(node: unknown, look: (call: Syntax) => void): void {
  if (Array.isArray(node)) for (const one of node) eachCall(one, look);
  if (typeof node !== "object" || node === null || !("type" in node)) return;
  const syntax = node as Syntax;
  if (syntax.type === "CallExpression") look(syntax);
  eachCall(branchesOf(syntax) ?? Object.values(syntax), look);
}

/** Of a choice by `true` or `false`: what runs. */
function branchesOf(syntax: Syntax): unknown[] | undefined {
  const { type, test, left, operator } = syntax as Syntax & {
    test?: Syntax;
    left?: Syntax;
    operator?: string;
  };
  const isChoice = type === "IfStatement" || type === "ConditionalExpression";
  const known = truthOf(isChoice ? test : type === "LogicalExpression" ? left : undefined);
  if (known === undefined) return undefined;
  if (isChoice) return [known ? syntax["consequent"] : syntax["alternate"]];
  return (operator === "&&") === known ? [syntax["right"]] : [];
}

function truthOf(node: Syntax | undefined): boolean | undefined {
  if (node?.type === "Literal" && typeof node["value"] === "boolean") return node["value"];
  if (node?.type === "MemberExpression") return builtFlag(node);
  if (node?.type === "LogicalExpression" && node["operator"] === "&&")
    return truthOf(node["left"] as Syntax) === false ? false : undefined;
  if (node?.type !== "UnaryExpression" || node["operator"] !== "!") return undefined;
  const argument = node["argument"] as Syntax;
  const known = typeof argument["value"] === "number" ? argument["value"] !== 0 : truthOf(argument);
  return known === undefined ? undefined : !known;
}

/** `import.meta.env.DEV` and `PROD`, as a production build has them. */
function builtFlag({ object, property }: Syntax): boolean | undefined {
  const env = object as Syntax;
  if (env.type !== "MemberExpression" || nameOf(env["property"]) !== "env") return undefined;
  if ((env["object"] as Syntax).type !== "MetaProperty") return undefined;
  const name = nameOf(property);
  return name === "PROD" ? true : name === "DEV" ? false : undefined;
}
