/**
 * What of a module's text runs, for names to be looked up in: without comments, and without what a production build leaves out because it asks for
 * `import.meta.env.DEV`. In: a text in any language that has scripts in it. Out: a text, which need not be a script any more: where it is not clear, it keeps too much. Pure.
 */
import jsTokens from "js-tokens";

interface Part {
  readonly type: string;
  readonly value: string;
}

/** `isTagged`: whether elements stand in it (JSX). `keepsComments`: where what looks like a comment may be none, as in HTML. */
export function runningIn(
  text: string,
  { isTagged = false, keepsComments = false, isDeveloping = false } = {},
): string {
  const all: Iterable<Part> = jsTokens(text, { jsx: isTagged as true });
  const parts = Array.from(all, (part) => (keepsComments || !/Comment$/.test(part.type) ? part : bare(part)));
  let running = "";
  for (let n = 0; n < parts.length;) {
    const end = isDeveloping ? n : endOfDeveloping(parts, n);
    if (end === n) running += parts[n++]!.value;
    else n = end;
  }
  return running;
}

const bare = ({ value }: Part): Part =>
  value.includes("\n") ? { type: BREAK, value: "\n" } : { type: SPACE, value: " " };

const BREAK = "LineTerminatorSequence";
const SPACE = "WhiteSpace";
const ASKING = ["import", ".", "meta", ".", "env", ".", "DEV"];
/** What comes before a value of its own. */
const FRESH = /^(?:[;{}([,=?:]|=>|&&|\|\||return|else)$/;
/** What a false value before `&&` says nothing about. */
const BEYOND = /^(?:[;,:]|\?|\|\||\?\?)$/;
const OPENS = /^[([{]$|^TemplateHead$/;
const CLOSES = /^[)\]}]$|^TemplateTail$/;

const isBlank = (part: Part | undefined) => part?.type === SPACE || part?.type === BREAK;
const signOf = ({ type, value }: Part) => (type.startsWith("Template") ? type : value);
/** Whether it can be told from a text or an element's content. */
const isSign = ({ type }: Part) => /Punctuator$|^Template/.test(type);

function after(parts: readonly Part[], at: number): number {
  for (at++; isBlank(parts[at]); at++);
  return at;
}

function before(parts: readonly Part[], at: number): number {
  for (at--; isBlank(parts[at]); at--);
  return at;
}

/** Where it goes on behind what never runs in production; the same place if it runs. */
function endOfDeveloping(parts: readonly Part[], at: number): number {
  let last = at;
  for (const [n, word] of ASKING.entries()) {
    if (n > 0) last = after(parts, last);
    if (parts[last]?.value !== word) return at;
  }
  const [previous, next] = [before(parts, at), after(parts, last)];
  if (parts[previous]?.value === "(" && parts[before(parts, previous)]?.value === "if") {
    const close = endOf(parts, last + 1, BEYOND) ?? at;
    if (parts[close]?.value !== ")") return at;
    const first = after(parts, close);
    if (parts[first]?.value !== "{") return endOf(parts, first, /^;$/) ?? at;
    const end = endOf(parts, first + 1, /(?!)/);
    return end === undefined ? at : end + 1;
  }
  const isFresh =
    previous < 0 ||
    FRESH.test(signOf(parts[previous]!)) ||
    (hasBreak(parts, previous, at) && endsValue(parts[previous]!));
  return isFresh && parts[next]?.value === "&&" ? (endOf(parts, next + 1, BEYOND) ?? at) : at;
}

/** What is longer does not end: a bracket was taken for one that is none. */
const MOST_PARTS = 20_000;

/** The first sign of these that is in no brackets, the bracket that closes these, or the end of a statement that has none. */
function endOf(parts: readonly Part[], from: number, signs: RegExp): number | undefined {
  let depth = 0;
  let last = from - 1;
  const end = Math.min(parts.length, from + MOST_PARTS);
  for (let at = from; at < end; at++) {
    const part = parts[at]!;
    if (isBlank(part)) continue;
    const sign = isSign(part) ? signOf(part) : "";
    if (depth === 0 && (signs.test(sign) || CLOSES.test(sign))) return at;
    const isNext = at > from && depth === 0 && endsValue(parts[last]!) && hasBreak(parts, last, at);
    if (isNext && signs.test(";") && /^(?:[{!~]|\+\+|--)?$/.test(sign)) return at;
    depth += OPENS.test(sign) ? 1 : CLOSES.test(sign) ? -1 : 0;
    last = at;
  }
  return depth === 0 && end === parts.length ? end : undefined;
}

const endsValue = (part: Part) => !isSign(part) || CLOSES.test(signOf(part));

const hasBreak = (parts: readonly Part[], from: number, to: number) =>
  parts.slice(from + 1, to).some(({ type }) => type === BREAK);
