/** What an expression is worth while code is made: known, or to be computed when the game runs; and the variables that a piece of a method sees. */
import type { FunctionNode, SourceModule } from "./source.js";

/** Known now. */
export class Known {
  constructor(readonly value: unknown) {}
}

/** How tightly an operator binds; what binds less is put in parentheses. */
export const enum Rank {
  Comma,
  Assignment,
  Conditional,
  Or,
  And,
  BitOr,
  BitXor,
  BitAnd,
  Equality,
  Relation,
  Shift,
  Sum,
  Product,
  Power,
  Unary,
  Primary,
}

/** Code that computes it. */
export class Code {
  constructor(
    readonly text: string,
    readonly rank: Rank,
    /** Whether it changes nothing. */
    readonly isPure = false,
    /** Whether it stays the same while it is used: a constant, or a literal. */
    readonly isStable = false,
    /** Of a comparison: when it is false. */
    readonly opposite?: string,
  ) {}

  /** As an operand of something that binds this tightly. */
  in(rank: Rank): string {
    return this.rank < rank ? `(${this.text})` : this.text;
  }
}

/** One of these, by an index that is computed; `other` where the index is none of theirs. */
export class Choice {
  constructor(
    readonly list: readonly unknown[],
    readonly index: Code,
    readonly other: unknown,
  ) {}
}

/** A function within a method, with what it sees. */
export class Closure {
  constructor(
    readonly node: FunctionNode,
    readonly scope: Scope | null,
    readonly self: Value,
    readonly module: SourceModule,
  ) {}
}

/** An object of which some fields are computed. */
export class Fields {
  constructor(readonly all: ReadonlyMap<string, Value>) {}
}

export type Value = Known | Code | Choice | Closure | Fields;

export const UNDEFINED = new Known(undefined);

export const name = (text: string) => new Code(text, Rank.Primary, true, true);

/** What is not known: a name and a literal can be used again. */
export const isStable = (value: Value) => !(value instanceof Code) || value.isStable;
export const isPure = (value: Value) => !(value instanceof Code) || value.isPure;

/** A variable of a method. */
export interface Variable {
  /** In the made code. */
  readonly name: string;
  /** What it is worth, unless the made code has a variable for it. */
  value: Value;
  isMade: boolean;
  /** Whether the made code assigns it. */
  isAssigned: boolean;
  /** How deep in branches that are taken or not when the game runs. */
  readonly depth: number;
  /** Of a choice: among what. */
  list: readonly unknown[] | undefined;
  other: unknown;
}

export class Scope {
  readonly own = new Map<string, Variable>();

  constructor(private readonly outer: Scope | null) {}

  find(name: string): Variable | undefined {
    return this.own.get(name) ?? this.outer?.find(name);
  }

  /** All variables, the outer ones as well. */
  all(): Variable[] {
    return [...this.own.values(), ...(this.outer?.all() ?? [])];
  }

  get names(): readonly [string, Variable][] {
    return [...this.own, ...(this.outer?.names ?? [])];
  }
}
