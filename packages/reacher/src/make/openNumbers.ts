/** The numbers that made code reads in a list, since a player's settings change them. May change: which formulas are in use. */
import type { StickOwner } from "../engine/movement/stick.js";
import type { Formula } from "../made/formula.js";
import { Choice, name, type Value } from "./values.js";
import type { OpenFields } from "./openFields.js";
import { Unmakeable } from "./specialiser/frames.js";

/** The list's name in made code. */
const LIST = "o";

export class OpenNumbers {
  /** In the order of the list. */
  readonly formulas: Formula[] = [];
  private readonly fields: OpenFields;

  /** `seats`: of each seat that the code is made for. */
  constructor(seats: readonly OpenFields[]) {
    this.fields = new Map(seats.flatMap((fields) => [...fields]));
  }

  has(rule: object, field: string): boolean {
    return this.fields.get(rule)?.has(field) === true;
  }

  /** Whether a setting may turn a stick around that presses directions: what these press is counted anew. */
  get turnsDirections(): boolean {
    return [...this.fields].some(
      ([rule, fields]) =>
        (fields.has("signX") || fields.has("signY")) &&
        (rule as { readonly owner?: StickOwner }).owner?.hasDirections === true,
    );
  }

  /** The value of a field; `undefined` if no setting changes it. */
  read(rule: object, field: string): Value | undefined {
    const open = this.fields.get(rule)?.get(field);
    if (open === undefined) return undefined;
    const number = name(`${LIST}[${this.placeOf(rule, field)}]`);
    return open.choice === undefined ? number : new Choice(open.choice, number, undefined);
  }

  /** Where an open field stands in the list. @throws Unmakeable */
  placeOf(rule: object, field: string): number {
    const { formula } = this.fields.get(rule)!.get(field)!;
    if (formula === undefined) throw new Unmakeable(`${field} follows from a setting, and nobody knows how`);
    const known = this.formulas.findIndex((one) => one.join() === formula.join());
    return known >= 0 ? known : this.formulas.push(formula) - 1;
  }
}
