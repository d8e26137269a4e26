/** A plan as text. In: JSON. Out: the plan, its findings and where they are, and the same text with one number changed. Pure. */
import {
  applyEdits,
  findNodeAtLocation,
  modify,
  parseTree,
  printParseErrorCode,
  type Node,
  type ParseError,
} from "jsonc-parser";
import type { Plan } from "reacher";
import { checkPlan, type Severity } from "reacher/check";

/** A finding, and the range of the text that it concerns. */
export interface TextFinding {
  readonly severity: Severity;
  readonly place: string;
  readonly message: string;
  readonly from: number;
  readonly to: number;
  /** From 1. */
  readonly line: number;
}

export interface ReadText {
  /** Absent if the plan cannot run. */
  readonly plan?: Plan;
  readonly findings: readonly TextFinding[];
}

/** Reads and checks a plan's text, as `reacher check` does. */
export function readText(text: string): ReadText {
  const errors: ParseError[] = [];
  const tree = parseTree(text, errors, { disallowComments: true, allowTrailingComma: false });
  const [first] = errors;
  if (first !== undefined || tree === undefined) {
    const from = first?.offset ?? 0;
    const to = Math.min(text.length, from + Math.max(1, first?.length ?? 1));
    const message = first === undefined ? "nothing readable" : sentence(printParseErrorCode(first.error));
    return {
      findings: [
        { severity: "error", place: "", message: `not JSON: ${message}`, from, to, line: lineOf(text, from) },
      ],
    };
  }
  const { plan, findings } = checkPlan(JSON.parse(text));
  const placed = findings.map(({ severity, place, message }) => {
    const { offset: from, length } = nodeAt(tree, place);
    return { severity, place, message, from, to: from + length, line: lineOf(text, from) };
  });
  return plan === undefined ? { findings: placed } : { plan, findings: placed };
}

/** The same text with one value changed; everything else is kept, spaces and order too. */
export function withValue(text: string, path: readonly (string | number)[], value: unknown): string {
  const indent = /\n( +|\t+)"/.exec(text)?.[1] ?? "  ";
  const formattingOptions = { insertSpaces: !indent.startsWith("\t"), tabSize: indent.length, eol: "\n" };
  return applyEdits(text, modify(text, [...path], value, { formattingOptions }));
}

/** Where a place of the plan (`actions.kick.from.main`) stands in the text, or the nearest above it. */
export function spanOf(
  text: string,
  place: string,
): { readonly from: number; readonly to: number } | undefined {
  const tree = parseTree(text);
  if (tree === undefined) return undefined;
  const { offset, length } = nodeAt(tree, place);
  return { from: offset, to: offset + length };
}

function nodeAt(tree: Node, place: string): Node {
  const path = place === "" ? [] : place.split(".").map((part) => (/^\d+$/.test(part) ? Number(part) : part));
  for (; path.length > 0; path.pop()) {
    const node = findNodeAtLocation(tree, path);
    if (node === undefined) continue;
    // Underlines the field's name rather than a long value.
    return node.type === "object" || node.type === "array" ? (node.parent?.children?.[0] ?? node) : node;
  }
  return { ...tree, length: 1 };
}

const lineOf = (text: string, offset: number) => text.slice(0, offset).split("\n").length;
const sentence = (code: string) => code.replace(/([a-z])([A-Z])/g, "$1 $2").toLowerCase();
