/**
 * What all readings share. A reading is made once; every field is read off the seat's cells as they are at the moment, by whatever
 * tables the seat has then. So a restored snapshot shows at once, and a step writes no reading that nobody reads.
 */
import type { SeatState } from "./state.js";

/** A seat, as readings see it. */
export interface ReadSeat extends SeatState {
  readonly tables: { readonly actions: readonly object[] };
}

const INSPECT = Symbol.for("nodejs.util.inspect.custom");

export abstract class ActionReading {
  /** @internal */
  declare protected readonly s: ReadSeat;
  /** @internal */
  declare private readonly action: number;

  /** @internal */
  constructor(s: ReadSeat, action: number) {
    Object.defineProperties(this, { s: { value: s }, action: { value: action } });
    // A reading that is spread, cloned or compared gives its values.
    for (
      let kind = new.target.prototype as object;
      kind !== ActionReading.prototype;
      kind = Object.getPrototypeOf(kind)
    )
      for (const [name, field] of Object.entries(Object.getOwnPropertyDescriptors(kind)))
        if (field.get !== undefined && name !== "rule" && !Object.hasOwn(this, name))
          Object.defineProperty(this, name, { get: field.get, enumerable: true });
  }

  /** @internal */
  protected ruleNow(): object {
    return this.s.tables.actions[this.action]!;
  }

  [INSPECT](): object {
    return { ...this };
  }
}
