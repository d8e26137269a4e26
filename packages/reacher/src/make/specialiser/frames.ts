/** What is made, and what is being made of it. Types, and errors. */
import type { Line } from "../lines.js";
import type { FunctionNode, SourceModule, Sources } from "../source.js";
import type { Known } from "../values.js";
import { Scope, type Value } from "../values.js";

/** A rule cannot be made into code; the message says which line of it. */
export class Unmakeable extends Error {
  place = "";
}

/** Why there is no code where the rules themselves are less. */
export const TOO_LONG = "these are shorter";

/** The seat that the code will run in, while code is made for it. */
export class AnySeat {
  readonly readings: unknown[] = [];

  constructor(readonly tables: object) {}
}

/** What a function may meet while it is made. */
type Meeting =
  | "reads"
  | "writes"
  /** Cells that are given what they have from the beginning: that makes no variable of them. */
  | "restarts"
  /** Views that are written at computed places. */
  | "wild"
  /** Fields of rules that are taken as they are. */
  | "fields"
  /** The keys of other functions, called or not. */
  | "made";

/** What a function rests on, and what it does to cells. Most meet little. */
export class Met {
  private readonly all: { [what in Meeting]?: Set<string> } = {};

  of(what: Meeting): ReadonlySet<string> {
    return this.all[what] ?? NONE;
  }

  note(what: Meeting, one: string): void {
    (this.all[what] ??= new Set()).add(one);
  }

  /** Adds what another function met. */
  add(other: Met): void {
    for (const what of Object.keys(other.all) as Meeting[])
      for (const one of other.of(what)) this.note(what, one);
  }
}

const NONE: ReadonlySet<string> = new Set();

/** A function that is made. */
export interface Made {
  readonly key: string;
  readonly name: string;
  /** The rule that it is made of, by the names that its cells have, and the file in which that stands; empty if it is of none. */
  readonly rule: string;
  readonly file: string;
  readonly params: string[];
  /** The keys of the functions that it calls, once for each place. */
  readonly calls: string[];
  readonly met: Met;
  lines: Line[];
  /** What it always returns; `null` if that is computed. */
  returns: Known | null;
  /** Of a choice. */
  list: { readonly list: readonly unknown[]; readonly other: unknown } | null;
  hasEarlyReturn: boolean;
  isBusy: boolean;
}

/** A method while code is made of it. */
export interface Run {
  readonly node: FunctionNode;
  readonly module: SourceModule;
  readonly self: Value;
  readonly made: Made;
  readonly isInlined: boolean;
  readonly depth: number;
  readonly returned: Value[];
  hasEarlyReturn: boolean;
}

export interface Frame {
  readonly run: Run;
  readonly scope: Scope;
  readonly lines: Line[];
  readonly depth: number;
}

/** Whether a statement ends what follows it. */
export type Ends = boolean;

export interface Surroundings {
  readonly sources: Sources;
  /** Objects that the made code has a name for, and calls as they are. */
  readonly named: ReadonlyMap<object, string>;
  /** What a seat's call is worth; `undefined` for the call itself. */
  seatCall(call: string, args: readonly Value[]): Value | undefined;
  /** Notes a call of a named object; false if it does nothing. */
  namedCall(object: object, call: string, args: readonly Value[]): boolean;
  /** A field of a rule that follows from a player's settings. */
  openField(object: object, field: string): Value | undefined;
  /** The cell of a view at its start. */
  initial(cell: string): number;
  /** Whether a cell may change by other hands than the made code's. */
  isOpen(cell: string): boolean;
  /** Cells that a write at a computed place may mean. */
  isList(cell: string): boolean;
}

export function within(frame: Frame): Frame {
  return { ...frame, scope: new Scope(frame.scope) };
}

export function branch(frame: Frame): Frame {
  return { ...frame, scope: new Scope(frame.scope), lines: [], depth: frame.depth + 1 };
}

export function* allLines(lines: readonly Line[]): Generator<Line> {
  for (const line of lines) {
    yield line;
    if (line.kind === "if") yield* allLines([...line.then, ...line.otherwise]);
    else if (line.kind === "for") yield* allLines(line.body);
    else if (line.kind === "switch") for (const { body } of line.cases) yield* allLines(body);
  }
}

export const NO_NODE = { params: [] } as unknown as FunctionNode;
export const NO_MODULE: SourceModule = { file: "", text: "", names: new Map() };
export const NOTHING: Made = {
  key: "",
  name: "",
  rule: "",
  file: "",
  params: [],
  calls: [],
  met: new Met(),
  lines: [],
  returns: null,
  list: null,
  hasEarlyReturn: false,
  isBusy: false,
};
