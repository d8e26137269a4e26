/** What a piece of a method assigns, and loops without `continue`. Pure. */
import type { IfStatement, Node, Statement } from "acorn";

const known = new WeakMap<Node, ReadonlySet<string>>();

/** The variables that these assign and do not declare themselves. */
export function assignedIn(nodes: readonly (Node | null | undefined)[]): ReadonlySet<string> {
  return new Set(nodes.flatMap((node) => (node == null ? [] : [...assignedBy(node)])));
}

function assignedBy(node: Node): ReadonlySet<string> {
  let found = known.get(node);
  if (found !== undefined) return found;
  const assigned = new Set<string>();
  const declared = new Set<string>();
  const visit = (one: unknown): void => {
    if (Array.isArray(one)) one.forEach(visit);
    if (typeof one !== "object" || one === null || !("type" in one)) return;
    const { type, id, left, argument } = one as { type: string; id?: Named; left?: Named; argument?: Named };
    if (type === "VariableDeclarator" && id?.type === "Identifier") declared.add(id.name);
    if (type === "AssignmentExpression" && left?.type === "Identifier") assigned.add(left.name);
    if (type === "UpdateExpression" && argument?.type === "Identifier") assigned.add(argument.name);
    Object.values(one).forEach(visit);
  };
  visit(node);
  found = new Set([...assigned].filter((name) => !declared.has(name)));
  known.set(node, found);
  return found;
}

const mentioned = new WeakMap<Node, ReadonlySet<string>>();

/** All names that stand anywhere in a piece. */
export function namesIn(node: Node): ReadonlySet<string> {
  let found = mentioned.get(node);
  if (found !== undefined) return found;
  const names = new Set<string>();
  const visit = (one: unknown): void => {
    if (Array.isArray(one)) one.forEach(visit);
    if (typeof one !== "object" || one === null) return;
    if ("name" in one && (one as Named).type === "Identifier") names.add((one as Named).name);
    Object.values(one).forEach(visit);
  };
  visit(node);
  mentioned.set(node, (found = names));
  return found;
}

interface Named {
  readonly type: string;
  readonly name: string;
}

const rewritten = new WeakMap<Node, Statement>();

/** `if (a) continue; rest` as `if (!a) { rest }`, so that a loop can be written turn after turn. */
export function withoutContinue(body: Statement): Statement {
  if (body.type !== "BlockStatement") return body;
  let result = rewritten.get(body);
  if (result !== undefined) return result;
  const at = body.body.findIndex(
    (one) => one.type === "IfStatement" && one.alternate == null && isContinue(one.consequent),
  );
  result = body;
  if (at >= 0) {
    const { test, start, end } = body.body[at] as IfStatement;
    const place = { start, end };
    const rest = withoutContinue({ type: "BlockStatement", body: body.body.slice(at + 1), ...place });
    const negated = {
      type: "UnaryExpression" as const,
      operator: "!" as const,
      prefix: true,
      argument: test,
      ...place,
    };
    const last: IfStatement = {
      type: "IfStatement",
      test: negated,
      consequent: rest,
      alternate: null,
      ...place,
    };
    result = { type: "BlockStatement", body: [...body.body.slice(0, at), last], ...place };
  }
  rewritten.set(body, result);
  return result;
}

function isContinue(node: Statement): boolean {
  if (node.type === "ContinueStatement") return true;
  return node.type === "BlockStatement" && node.body.length === 1 && isContinue(node.body[0]!);
}
