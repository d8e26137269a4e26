/** Calls: of methods that are made, of lists and numbers, and of what stays a call. In: a call of the source. Out: its value. May change: the functions made. */
import type { CallExpression, Expression } from "acorn";
import { areIdle, type Line } from "../lines.js";
import type { FunctionNode, SourceModule } from "../source.js";
import {
  Choice,
  Closure,
  Code,
  Fields,
  isPure,
  isStable,
  Known,
  name,
  Rank,
  Scope,
  UNDEFINED,
  type Value,
} from "../values.js";
import { AnySeat, Met, Unmakeable, type Made, type Run, type Frame, type Ends, allLines } from "./frames.js";
import { VIEWS, orNone, known, isObject, isThing, isSameList, seenBy, isFixed, isGiven } from "./kinds.js";
import { Expressions } from "./expressions.js";

/** Longer expressions and statements are not repeated where a function is called. */
const SHORT_EXPRESSION = 60;
const SHORT_STATEMENTS = 40;

export abstract class Calls extends Expressions {
  protected abstract effect(value: Value, frame: Frame): void;
  protected abstract body(args: readonly Value[], frame: Frame): Ends;

  protected callOf(node: CallExpression, frame: Frame, isStatement: boolean): Value {
    const callee = node.callee.type === "ChainExpression" ? node.callee.expression : node.callee;
    const args = () => node.arguments.map((one) => this.value(one, frame));
    if (callee.type === "MemberExpression") {
      const method = () =>
        callee.computed
          ? String(known(this.value(callee.property as Expression, frame)))
          : (callee.property as { name: string }).name;
      if (callee.object.type === "Super") {
        const above = this.around.sources.methodAbove(
          known(frame.run.self) as object,
          frame.run.node,
          method(),
        );
        if (above === undefined) throw new Unmakeable(`super.${method()} is not known`);
        return this.call(
          above.node,
          above.module,
          null,
          frame.run.self,
          args(),
          frame,
          isStatement,
          above.name,
        );
      }
      const of = this.value(callee.object, frame);
      if (of instanceof Known && of.value == null && (callee.optional || node.optional)) return UNDEFINED;
      return this.callMethod(
        callee.optional ? orNone(of) : of,
        method(),
        args(),
        frame,
        isStatement,
        node.optional === true,
      );
    }
    const of = this.value(callee as Expression, frame);
    if (of instanceof Closure) {
      const named = (of.node as { id?: { name: string } | null }).id?.name ?? "inner";
      return this.call(of.node, of.module, of.scope, of.self, args(), frame, isStatement, named);
    }
    throw new Unmakeable("a value is called");
  }

  protected callMethod(
    of: Value,
    method: string,
    args: readonly Value[],
    frame: Frame,
    isStatement: boolean,
    isOptional = false,
  ): Value {
    if (of instanceof Choice) return this.dispatch(of, method, args, frame, isOptional);
    if (of instanceof Code) return this.callOfCode(of, method, args);
    if (!(of instanceof Known)) throw new Unmakeable(`${method} of an object that is made here`);
    const object = of.value as object;
    const argText = () => args.map((one) => this.text(one)).join(", ");
    if (object instanceof AnySeat)
      return this.around.seatCall(method, args) ?? new Code(`s.${method}(${argText()})`, Rank.Primary);
    if (object === Math) {
      const isKnown = args.every((one) => one instanceof Known);
      if (isKnown)
        return new Known(
          (Math[method as "max"] as (...all: number[]) => number)(...args.map((one) => known(one) as number)),
        );
      return new Code(`Math.${method}(${argText()})`, Rank.Primary, args.every(isPure));
    }
    const named = this.around.named.get(object);
    if (named !== undefined) {
      if (!this.around.namedCall(object, method, args)) return UNDEFINED;
      return new Code(`${named}.${method}(${argText()})`, Rank.Primary);
    }
    if (ArrayBuffer.isView(object)) {
      this.noteWritten(object);
      return new Code(`${this.table(object)}.${method}(${argText()})`, Rank.Primary);
    }
    if (Array.isArray(object)) return this.callOfArray(object, method, args, frame);
    if (object instanceof Map)
      return new Known(
        (object as unknown as Record<string, (...all: unknown[]) => unknown>)[method]!(...args.map(known)),
      );
    const found = this.around.sources.methodOf(object, method);
    if (found === undefined) {
      const own = (object as Record<string, unknown>)[method];
      if (own === undefined && isOptional) return UNDEFINED;
      throw new Unmakeable(
        own === undefined
          ? `${object.constructor.name} has no ${method}`
          : `${method} is kept in a field: write it as a method`,
      );
    }
    return this.call(found.node, found.module, null, of, args, frame, isStatement, found.name);
  }

  /** `fill` and `copyWithin` of a view, above all. */
  protected callOfCode(of: Code, method: string, args: readonly Value[]): Value {
    if (VIEWS.has(of.text)) {
      const [from, to] = method === "fill" ? [args[1], args[2]] : [undefined, undefined];
      if (from instanceof Known && to instanceof Known) {
        let isWritten = false;
        for (let at = from.value as number; at < (to.value as number); at++)
          isWritten = this.writesTo(of.text + at, args[0]) || isWritten;
        if (!isWritten) return UNDEFINED;
      } else {
        const at = args[0];
        const length =
          args.length === 3 && args[1] instanceof Known && args[2] instanceof Known
            ? (args[2].value as number) - (args[1].value as number)
            : -1;
        if (method === "copyWithin" && at instanceof Known && length >= 0)
          for (let n = 0; n < length; n++) this.met.note("writes", of.text + ((at.value as number) + n));
        else this.met.note("wild", of.text);
      }
    }
    return new Code(
      `${of.in(Rank.Primary)}.${method}(${args.map((one) => this.text(one)).join(", ")})`,
      Rank.Primary,
    );
  }

  protected callOfArray(
    list: readonly unknown[],
    method: string,
    args: readonly Value[],
    frame: Frame,
  ): Value {
    const [given] = args;
    if (given instanceof Closure) {
      const each = (one: unknown, n: number, inner = frame) =>
        this.inlined(
          given.node,
          given.module,
          given.scope,
          given.self,
          [new Known(one), new Known(n)],
          inner,
          false,
        );
      if (method === "some" || method === "every") {
        const isSome = method === "some";
        const parts: Code[] = [];
        for (const [n, one] of list.entries()) {
          const part = each(one, n, { ...frame, depth: frame.depth + 1 });
          if (!(part instanceof Known)) parts.push(this.lift(part));
          else if (Boolean(part.value) === isSome) {
            if (parts.every((code) => code.isPure)) return new Known(isSome);
            parts.push(name(String(isSome)));
            break;
          }
        }
        if (parts.length === 0) return new Known(!isSome);
        const rank = isSome ? Rank.Or : Rank.And;
        return parts.length === 1
          ? parts[0]!
          : new Code(
              parts.map((code) => code.in(rank)).join(isSome ? " || " : " && "),
              rank,
              parts.every((code) => code.isPure),
            );
      }
      if (method === "forEach") {
        list.forEach((one, n) =>
          this.effect(
            this.inlined(
              given.node,
              given.module,
              given.scope,
              given.self,
              [new Known(one), new Known(n)],
              frame,
              true,
            ),
            frame,
          ),
        );
        return UNDEFINED;
      }
      if (
        method === "map" ||
        method === "filter" ||
        method === "find" ||
        method === "flatMap" ||
        method === "findIndex"
      )
        return new Known(list[method as "map"]((one, n) => known(each(one, n))));
    }
    if (method === "indexOf" && given instanceof Choice && isSameList(given.list, list)) return given.index;
    if (given instanceof Choice && (method === "includes" || method === "indexOf"))
      return this.simplest(
        new Choice(
          given.list.map((one) => list[method as "includes"](one)),
          given.index,
          list[method as "includes"](given.other),
        ),
      );
    // What code computes is a number, a truth or nothing, and no object.
    if (given instanceof Code && list.every(isObject)) {
      if (method === "includes") return new Known(false);
      if (method === "indexOf") return new Known(-1);
    }
    if (["includes", "indexOf", "slice", "concat"].includes(method))
      return new Known(
        (list as never as Record<string, (...all: unknown[]) => unknown>)[method]!(...args.map(known)),
      );
    throw new Unmakeable(`${method} of a list`);
  }

  /** A method of one of several objects: a function that branches. */
  protected dispatch(
    of: Choice,
    method: string,
    args: readonly Value[],
    frame: Frame,
    isOptional: boolean,
  ): Value {
    const all = of.list.flatMap((object, at) => (object == null ? [] : [{ object: object as object, at }]));
    if (all.length === 1 && of.other === undefined && of.list.length === 1)
      return this.callMethod(new Known(all[0]!.object), method, args, frame, false, isOptional);
    const key = `one of ${all.map(({ object, at }) => this.id(object) + "@" + at).join()} ${method} ${args.map((one) => this.keyOfArg(one)).join(" ")}`;
    const made =
      this.known(key) ??
      this.making(key, `any_${method}`, "", "", (made) => {
        const index = this.newName("n");
        made.params.push(index);
        const inner = args.map((one) => this.paramFor(one, made));
        const run: Run = {
          ...frame.run,
          made,
          isInlined: false,
          returned: [],
          hasEarlyReturn: true,
          depth: 0,
        };
        const cases = all.map(({ object, at }) => {
          const lines: Line[] = [];
          const value = this.callMethod(
            new Known(object),
            method,
            inner,
            { run, scope: new Scope(null), lines, depth: 1 },
            false,
            isOptional,
          );
          run.returned.push(value);
          lines.push({ kind: "return", value });
          return { at, body: lines };
        });
        made.lines.push({ kind: "switch", of: index, cases });
        this.close(made, run);
        made.hasEarlyReturn = true;
      });
    frame.run.made.calls.push(key);
    return this.callTo(made, [of.index, ...args.filter((one) => !isGiven(one))]);
  }

  /** A function of the engine's with these values. */
  protected call(
    node: FunctionNode,
    module: SourceModule,
    scope: Scope | null,
    self: Value,
    args: readonly Value[],
    frame: Frame,
    isStatement: boolean,
    base: string,
  ): Value {
    if (
      scope !== null ||
      args.some((one) => (one instanceof Closure ? !isFixed(one) : one instanceof Fields))
    )
      return this.inlined(node, module, scope, self, args, frame, isStatement);
    const key = `${this.id(module)} ${node.start} ${self instanceof Known ? this.id(self.value) : ""} ${args.map((one) => this.keyOfArg(one)).join(" ")}`;
    const of = self instanceof Known ? (self.value as { readonly key?: unknown } | null)?.key : undefined;
    const rule = typeof of === "string" ? of : "";
    const made =
      this.known(key) ??
      this.making(key, base, rule, module.file, (made) => {
        const inner = args.map((one) => this.paramFor(one, made));
        const run: Run = {
          node,
          module,
          self,
          made,
          isInlined: false,
          depth: 0,
          returned: [],
          hasEarlyReturn: false,
        };
        if (!this.body(inner, { run, scope: new Scope(null), lines: made.lines, depth: 0 }))
          run.returned.push(UNDEFINED);
        this.close(made, run);
      });
    if (!made.isBusy) {
      if (made.returns !== null && made.lines.every(({ kind }) => kind === "return")) return made.returns;
      const areSimple = args.every((one) => isStable(one instanceof Choice ? one.index : one));
      const size = made.lines.length === 1 ? this.sizeOf(made) : Infinity;
      const isExpression =
        made.returns === null && made.lines.length === 1 && made.lines[0]!.kind === "return";
      if (isExpression && areSimple && (size < SHORT_EXPRESSION || this.onlyOnce.has(key)))
        return this.inlined(node, module, null, self, args, frame, false);
      if (
        isStatement &&
        !made.hasEarlyReturn &&
        (this.onlyOnce.has(key) || this.sizeOf(made) < SHORT_STATEMENTS)
      )
        return this.inlined(node, module, null, self, args, frame, true);
    }
    frame.run.made.calls.push(key);
    const call = this.callTo(
      made,
      args.filter((one) => !isGiven(one)),
    );
    if (made.isBusy || made.returns === null) return call;
    // It has an effect, and what it returns is known.
    if (isStatement) {
      this.effect(call, frame);
      return made.returns;
    }
    if (made.returns.value === undefined) return call;
    return new Code(`(${(call as Code).text}, ${this.text(made.returns)})`, Rank.Primary);
  }

  protected callTo(made: Made, args: readonly Value[]): Value {
    const code = new Code(
      `${made.name}(${args.map((one) => (one instanceof Choice && one.list.some(isObject) ? one.index.in(Rank.Assignment) : this.text(one))).join(", ")})`,
      Rank.Primary,
    );
    const { list } = made;
    return list === null ? code : new Choice(list.list, code, list.other);
  }

  protected sizeOf(made: Made): number {
    // Whatever number a name has.
    return this.bodyOf(made).replace(/\$\d+/g, "$$").length;
  }

  /** What is made already. */
  protected known(key: string): Made | undefined {
    this.met.note("made", key);
    return this.made.get(key) ?? this.kept.take(key, this.made);
  }

  /** Makes a function: its lines by `fill`. What cannot be made has not been begun. */
  protected making(key: string, base: string, rule: string, file: string, fill: (made: Made) => void): Made {
    const outer = this.met;
    const made: Made = {
      key,
      name: this.newName(base),
      rule,
      file,
      params: [],
      calls: [],
      met: (this.met = new Met()),
      lines: [],
      returns: null,
      list: null,
      hasEarlyReturn: false,
      isBusy: true,
    };
    this.made.set(key, made);
    try {
      fill(made);
    } catch (error) {
      this.made.delete(key);
      // That it cannot be made rests on this.
      outer.add(made.met);
      throw error;
    } finally {
      this.met = outer;
    }
    return made;
  }

  protected close(made: Made, run: Run): void {
    const [first] = run.returned;
    const isConstant =
      run.returned.every((one) => one instanceof Known && Object.is(one.value, (first as Known).value)) &&
      !(first instanceof Known && isObject(first.value));
    made.returns = isConstant ? (first as Known) : null;
    if (isConstant && areIdle(made.lines)) made.lines = [{ kind: "return", value: first! }];
    const things = isConstant
      ? []
      : run.returned.filter((one) => isThing(one) && !(one instanceof Known && one.value == null));
    if (things.length > 0) {
      const chosen = things.find((one) => one instanceof Choice) as Choice | undefined;
      const list = chosen?.list ?? [...new Set(things.map((one) => (one as Known).value))];
      const nothing = run.returned.find((one) => one instanceof Known && one.value == null) as
        Known | undefined;
      made.list = { list, other: nothing === undefined ? chosen?.other : nothing.value };
      for (const line of allLines(made.lines))
        if (line.kind === "return") line.value = this.indexIn({ list }, line.value);
    }
    made.hasEarlyReturn ||= run.hasEarlyReturn;
    made.isBusy = false;
  }

  protected keyOfArg(value: Value): string {
    if (value instanceof Known) return `k${this.id(value.value)}`;
    if (value instanceof Choice && value.list.some(isObject))
      return `c${value.list.map((one) => this.id(one)).join()}/${this.id(value.other)}`;
    if (value instanceof Closure)
      return `f${value.module.file}${value.node.start}${value.self instanceof Known ? this.id(value.self.value) : ""}${this.keyOfScope(value)}`;
    return value instanceof Code && isGiven(value) ? value.text : "code";
  }

  /** What a function within a method sees, which is all known. */
  protected keyOfScope(closure: Closure): string {
    return seenBy(closure)
      .map(([text, { value }]) => `${text}=${this.keyOfArg(value)}`)
      .join();
  }

  protected paramFor(value: Value, made: Made): Value {
    if (isGiven(value)) return value;
    const param = this.newName("p");
    made.params.push(param);
    return value instanceof Choice && value.list.some(isObject)
      ? new Choice(value.list, name(param), value.other)
      : name(param);
  }

  protected inlined(
    node: FunctionNode,
    module: SourceModule,
    scope: Scope | null,
    self: Value,
    args: readonly Value[],
    frame: Frame,
    isStatement: boolean,
  ): Value {
    const lines = frame.lines.length;
    const run: Run = {
      node,
      module,
      self,
      made: frame.run.made,
      isInlined: true,
      depth: frame.depth,
      returned: [],
      hasEarlyReturn: false,
    };
    const given = args.map((one) => {
      if (!(one instanceof Code) || one.isStable || !isStatement) return one;
      const own = this.newName("t");
      frame.lines.push({ kind: "let", name: own, init: one.text, isConst: true, isPure: one.isPure });
      return name(own);
    });
    const ends = this.body(given, { run, scope: new Scope(scope), lines: frame.lines, depth: frame.depth });
    if (!isStatement && frame.lines.length > lines)
      throw new Unmakeable("statements stand within an expression");
    if (run.hasEarlyReturn) throw new Unmakeable("it returns from within a branch");
    return ends ? run.returned[0]! : UNDEFINED;
  }
}
