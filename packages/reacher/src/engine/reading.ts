/**
 * What all readings share. A reading is made once; every field is a getter on the seat's cells, through whatever
 * tables the seat has at that time. So a restored snapshot shows at once, and a step writes no reading that nobody reads.
 */
import { ReacherError } from "../plan/errors.js";
import type { SeatState } from "./state.js";

/** A seat, as readings see it. */
export interface ReadSeat extends SeatState {
  readonly tables: { readonly actions: readonly object[] };
  /** All readings: they have the rule of their action at hand, and are told when the tables change. */
  readonly readings: { bind(): void }[];
}

const INSPECT = Symbol.for("nodejs.util.inspect.custom");

function gone(): never {
  throw new ReacherError("the plan has no such action any more");
}

const known = new WeakMap<object, PropertyDescriptorMap>();

/** The getters of a kind of reading. */
function fieldsOf(prototype: object): PropertyDescriptorMap {
  let fields = known.get(prototype);
  if (fields === undefined) {
    known.set(prototype, (fields = {}));
    for (let kind = prototype; kind !== ActionReading.prototype; kind = Object.getPrototypeOf(kind) as object)
      for (const [name, { get }] of Object.entries(Object.getOwnPropertyDescriptors(kind)))
        if (get !== undefined && name !== "rule")
          fields[name] ??= { get, enumerable: true, configurable: true };
  }
  return fields;
}

/** What all readings share. */
export abstract class ActionReading {
  /** @internal */
  declare protected readonly s: ReadSeat;
  /** @internal */
  declare private action: number;
  /** @internal Of the present tables; `undefined` if these have no such action. */
  declare private known: object | undefined;

  /** @internal */
  constructor(s: ReadSeat, action: number) {
    Object.defineProperties(this, {
      s: { value: s },
      action: { value: action, writable: true },
      known: { value: s.tables.actions[action], writable: true },
    });
    s.readings.push(this);
    // A reading that is spread, cloned or compared gives its values.
    Object.defineProperties(this, fieldsOf(new.target.prototype as object));
  }

  /** @internal */
  protected ruleNow(): object {
    // Short enough to be inlined into a game's loop: as a call, it would box each number that it returns.
    return this.known ?? gone();
  }

  /** @internal The tables are others. */
  bind(): void {
    this.known = this.s.tables.actions[this.action];
  }

  /** @internal The action's place in another plan; -1 if that no longer has it. */
  moveTo(action: number): void {
    this.action = action;
    this.bind();
  }

  [INSPECT](): object {
    return { ...this };
  }
}
