/**
 * Makes code of the engine's rules for one plan. In: the rules of a compiled plan, which are known, and the sources of their methods. Out:
 * functions with all folded that does not depend on the cells of a seat. Each rule is run as far as it can be, and what is left is written down.
 */
import { Choice, Code, Known, Scope, UNDEFINED, type Value } from "../values.js";
import { Unmakeable, type Made, type Run, type Frame, NO_MODULE, NO_NODE } from "./frames.js";
import { Statements } from "./statements.js";

export class Specialiser extends Statements {
  /** A function that nothing calls but the library: its body by `fill`. */
  root(base: string, params: readonly string[], fill: (frame: Frame) => Value | null): Made {
    const key = `root ${base}`;
    if (this.made.has(key)) throw new Unmakeable(`two functions by the name of ${base}`);
    return (
      this.known(key) ??
      this.making(key, base, "", "", (made) => {
        made.params.push(...params);
        const run: Run = {
          node: NO_NODE,
          module: NO_MODULE,
          self: UNDEFINED,
          made,
          isInlined: false,
          depth: 0,
          returned: [],
          hasEarlyReturn: false,
        };
        const frame: Frame = { run, scope: new Scope(null), lines: made.lines, depth: 0 };
        const value = fill(frame);
        if (value === null || value === UNDEFINED) made.returns = UNDEFINED;
        else made.lines.push({ kind: "return", value });
        made.isBusy = false;
      })
    );
  }

  /** Calls a method for its effects. */
  perform(object: object, method: string, args: readonly Value[], frame: Frame): void {
    this.effect(this.callMethod(new Known(object), method, args, frame, true), frame);
  }

  ask(object: object, method: string, args: readonly Value[], frame: Frame): Value {
    return this.callMethod(new Known(object), method, args, frame, false);
  }

  field(object: object, field: string, frame: Frame): Value {
    return this.get(new Known(object), new Known(field), frame);
  }

  effect(value: Value, frame: Frame): void {
    const code = value instanceof Choice ? value.index : value;
    if (code instanceof Code && !code.isPure) frame.lines.push({ kind: "do", text: code.text });
  }
}
