/**
 * Finds where a module of the game reads a plan of its own, which a game that is built ahead cannot do. In: a module's syntax tree
 * (ESTree). Out: the call and what it does. It follows the module's bindings: a name in a comment, in a text or in a branch that
 * never runs is none.
 */

/** Whether it is worth a look. */
export const FROM_LIBRARY = /["']reacher["']/;

const MAKERS: readonly string[] = ["definePlan", "parsePlan"];
const TAKERS: readonly string[] = ["createInputLayer"];

/** A call that reads a plan, as it is written, and what it does. */
export interface OwnPlan {
  readonly call: string;
  readonly what: string;
}

interface Syntax {
  readonly type: string;
  readonly [field: string]: unknown;
}

/** The first call that reads a plan of the game's own; `undefined` if there is none. `include`: which files are plans. */
export function ownPlanIn(module: unknown, include: RegExp): OwnPlan | undefined {
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
      if (from.split("?")[0]!.endsWith(".json") && !include.test(from)) files.set(local, from);
      if (from !== "reacher") continue;
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
    if (MAKERS.includes(name)) return { call: written, what: `calls ${name}` };
    const [plan] = call["arguments"] as readonly Syntax[];
    if (!TAKERS.includes(name) || plan === undefined) return undefined;
    const file = files.get(nameOf(plan));
    if (file !== undefined) return { call: written, what: `gives ${name} the plan of ${file}` };
    const isOwn = plan.type === "ObjectExpression" || plain.has(nameOf(plan));
    return isOwn ? { call: written, what: `gives ${name} a plan of its own` } : undefined;
  };
  return firstCall(module, look);
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

/** The first call of which `look` tells something, without branches that never run. */
function firstCall(node: unknown, look: (call: Syntax) => OwnPlan | undefined): OwnPlan | undefined {
  if (Array.isArray(node)) {
    for (const one of node) {
      const found = firstCall(one, look);
      if (found !== undefined) return found;
    }
    return undefined;
  }
  if (typeof node !== "object" || node === null || !("type" in node)) return undefined;
  const syntax = node as Syntax;
  const found = syntax.type === "CallExpression" ? look(syntax) : undefined;
  if (found !== undefined) return found;
  const branches = branchesOf(syntax);
  return firstCall(branches ?? Object.values(syntax), look);
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
  if (node?.type !== "UnaryExpression" || node["operator"] !== "!") return undefined;
  const argument = node["argument"] as Syntax;
  const known = typeof argument["value"] === "number" ? argument["value"] !== 0 : truthOf(argument);
  return known === undefined ? undefined : !known;
}
