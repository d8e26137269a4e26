/** Lines of made code, before they are text. */
import type { Origin } from "./source.js";
import type { Value } from "./values.js";

/** `origin`: the statement of a rule that it was made of. */
export type Line = { origin?: Origin } & (
  | { readonly kind: "do"; readonly text: string }
  | {
      readonly kind: "let";
      readonly name: string;
      readonly init: string | null;
      readonly isConst: boolean;
      readonly isPure: boolean;
    }
  | {
      readonly kind: "if";
      readonly test: string;
      /** Whether the test changes nothing. */
      readonly isPure: boolean;
      readonly then: Line[];
      readonly otherwise: Line[];
    }
  | { readonly kind: "for"; readonly head: string; readonly body: Line[] }
  | {
      readonly kind: "switch";
      readonly of: string;
      readonly cases: readonly { readonly at: number; readonly body: Line[] }[];
    }
  | { readonly kind: "return"; value: Value }
);

/** Names that making has given, which are used once each in the whole module. */
const MADE_NAME = /[A-Za-z_]\w*\$\d+/g;

/** Whether these change nothing, whatever they return. */
export function areIdle(lines: readonly Line[]): boolean {
  return lines.every((line) => {
    if (line.kind === "if") return line.isPure && areIdle(line.then) && areIdle(line.otherwise);
    return line.kind === "return" || (line.kind === "let" && line.isPure);
  });
}

/** Leaves out constants that nothing reads. `textOf`: what a return gives. */
export function withoutUnused(lines: readonly Line[], textOf: (value: Value) => string): Line[] {
  let left = [...lines];
  for (;;) {
    const uses = new Map<string, number>();
    for (const name of render(left, textOf).match(MADE_NAME) ?? []) uses.set(name, (uses.get(name) ?? 0) + 1);
    const isUnused = (line: Line) =>
      line.kind === "let" && line.isPure && line.isConst && uses.get(line.name) === 1;
    const count = { dropped: 0 };
    left = dropped(left, isUnused, count);
    if (count.dropped === 0) return left;
  }
}

function dropped(
  lines: readonly Line[],
  isUnused: (line: Line) => boolean,
  count: { dropped: number },
): Line[] {
  const inner = (own: readonly Line[]) => dropped(own, isUnused, count);
  return lines.flatMap((line): Line[] => {
    if (isUnused(line)) {
      count.dropped++;
      return [];
    }
    if (line.kind === "if") return [{ ...line, then: inner(line.then), otherwise: inner(line.otherwise) }];
    if (line.kind === "for") return [{ ...line, body: inner(line.body) }];
    if (line.kind === "switch")
      return [{ ...line, cases: line.cases.map(({ at, body }) => ({ at, body: inner(body) })) }];
    return [line];
  });
}

export function render(lines: readonly Line[], textOf: (value: Value) => string, indent = ""): string {
  const inner = (own: readonly Line[]) => `{\n${render(own, textOf, `${indent}  `)}${indent}}`;
  return lines.map((line) => `${indent}${textOfLine(line, textOf, inner, indent)}\n`).join("");
}

function textOfLine(
  line: Line,
  textOf: (value: Value) => string,
  inner: (own: readonly Line[]) => string,
  indent: string,
): string {
  switch (line.kind) {
    case "do":
      return `${line.text};`;
    case "let":
      return `${line.isConst ? "const" : "let"} ${line.name}${line.init === null ? "" : ` = ${line.init}`};`;
    case "if":
      return `if (${line.test}) ${inner(line.then)}${line.otherwise.length > 0 ? ` else ${inner(line.otherwise)}` : ""}`;
    case "for":
      return `for (${line.head}) ${inner(line.body)}`;
    case "switch":
      return `switch (${line.of}) {\n${line.cases
        .map(({ at, body }) => `${indent}  case ${at}: ${inner(body)}\n`)
        .join("")}${indent}}`;
    case "return": {
      const text = textOf(line.value);
      return text === "" ? "return;" : `return ${text};`;
    }
  }
}

/** Where each line of the text comes from that `render` gives. */
export function originsOf(lines: readonly Line[]): (Origin | undefined)[] {
  return lines.flatMap((line): (Origin | undefined)[] => {
    const { origin } = line;
    const block = (body: readonly Line[]) => [origin, ...originsOf(body)];
    if (line.kind === "if")
      return [...block(line.then), ...(line.otherwise.length > 0 ? block(line.otherwise) : []), origin];
    if (line.kind === "for") return [...block(line.body), origin];
    if (line.kind === "switch")
      return [origin, ...line.cases.flatMap(({ body }) => [...block(body), origin]), origin];
    return [origin];
  });
}

/** How many lines there are, the inner ones as well. */
export function countOf(lines: readonly Line[]): number {
  const inner = (line: Line): readonly (readonly Line[])[] => {
    if (line.kind === "if") return [line.then, line.otherwise];
    if (line.kind === "for") return [line.body];
    return line.kind === "switch" ? line.cases.map(({ body }) => body) : [];
  };
  return lines.reduce((sum, line) => inner(line).reduce((all, own) => all + countOf(own), sum + 1), 0);
}
