/** What a constant expression of a module is worth. In: its syntax tree (ESTree). Out: its value, or nothing where it is known only when the game runs. Pure. */
export interface Syntax {
  readonly type: string;
  readonly [field: string]: unknown;
}

/** A constant's value, in a list of one; an empty list where it is none. */
export function literalOf(node: Syntax): readonly [] | readonly [unknown] {
  switch (node.type) {
    case "Literal":
      return isPlain(node["value"]) ? [node["value"]] : [];
    case "TemplateLiteral": {
      const [only, more] = node["quasis"] as readonly { readonly value: { readonly cooked: string } }[];
      return more === undefined ? [only!.value.cooked] : [];
    }
    case "UnaryExpression":
      return negated(node);
    case "ArrayExpression":
      return listOf(node["elements"] as readonly (Syntax | null)[]);
    case "ObjectExpression":
      return objectOf(node["properties"] as readonly Syntax[]);
    default:
      return [];
  }
}

const isPlain = (value: unknown) => value === null || ["string", "number", "boolean"].includes(typeof value);

function negated({ operator, argument }: Syntax): readonly [] | readonly [unknown] {
  const [value] = literalOf(argument as Syntax);
  if (operator === "!" && value !== undefined) return [!value];
  return operator === "-" && typeof value === "number" ? [-value] : [];
}

function listOf(elements: readonly (Syntax | null)[]): readonly [] | readonly [unknown[]] {
  const values: unknown[] = [];
  for (const one of elements) {
    const found = one === null ? [] : literalOf(one);
    if (found.length === 0) return [];
    values.push(found[0]);
  }
  return [values];
}

function objectOf(properties: readonly Syntax[]): readonly [] | readonly [object] {
  const entries: [string, unknown][] = [];
  for (const { type, key, value, computed, kind } of properties) {
    if (type !== "Property" || computed === true || kind !== "init") return [];
    const { name, value: text } = key as { readonly name?: string; readonly value?: unknown };
    const found = literalOf(value as Syntax);
    const field = name ?? String(text);
    // In a literal this would be the prototype.
    if (found.length === 0 || field === "__proto__") return [];
    entries.push([field, found[0]]);
  }
  return [Object.fromEntries(entries)];
}
