/** The variables that a piece of a method sees while code is made of it. May change: what each is worth. */
import type { Value } from "./values.js";

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
