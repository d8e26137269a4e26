/** Operators, folded exactly as the engine would compute them. In: an operator and values. Out: a value. */
import type { Expression, Node, SpreadElement } from "acorn";
import { Choice, Code, isPure, Known, Rank, type Value } from "../values.js";
import { Unmakeable, AnySeat, type Frame } from "./frames.js";
import type { ClassName } from "./kinds.js";
import { isInstance, known, isObject, isThing, isSameList } from "./kinds.js";
import { Reading } from "./reading.js";

const BINARY: Readonly<Record<string, Rank>> = {
  "===": Rank.Equality,
  "!==": Rank.Equality,
  "==": Rank.Equality,
  "!=": Rank.Equality,
  "<": Rank.Relation,
  ">": Rank.Relation,
  "<=": Rank.Relation,
  ">=": Rank.Relation,
  "+": Rank.Sum,
  "-": Rank.Sum,
  "*": Rank.Product,
  "/": Rank.Product,
  "%": Rank.Product,
  "|": Rank.BitOr,
  "&": Rank.BitAnd,
  "^": Rank.BitXor,
  "<<": Rank.Shift,
  ">>": Rank.Shift,
  ">>>": Rank.Shift,
};

export abstract class Operators extends Reading {
  protected abstract value(
    node: Expression | SpreadElement | Node,
    frame: Frame,
    isStatement?: boolean,
  ): Value;

  protected unary(operator: string, of: Value): Value {
    if (of instanceof Known && !(of.value instanceof AnySeat)) {
      const value = of.value as number;
      if (operator === "-") return new Known(-value);
      if (operator === "+") return new Known(+value);
      if (operator === "!") return new Known(!value);
      if (operator === "~") return new Known(~value);
      if (operator === "typeof") return new Known(typeof of.value);
    }
    if (of instanceof Choice && operator === "!")
      return this.simplest(
        new Choice(
          of.list.map((one) => !one),
          of.index,
          of.other === undefined ? undefined : !of.other,
        ),
      );
    const code = this.lift(of);
    if (operator === "!" && code.opposite !== undefined)
      return new Code(code.opposite, Rank.Equality, code.isPure, false, code.text);
    return new Code(`${operator}${code.in(Rank.Primary)}`, Rank.Unary, code.isPure);
  }

  protected binary(operator: string, a: Value, b: Value): Value {
    if (operator === "instanceof") return new Known(isInstance(known(a), (known(b) as ClassName).text));
    if (a instanceof Known && b instanceof Known) return new Known(folded(operator, a.value, b.value));
    const both = this.binaryOfChoice(operator, a, b);
    if (both !== undefined) return both;
    const isEquality = operator.startsWith("==") || operator.startsWith("!=");
    // Code is a number or a boolean: never null, nothing or an object.
    for (const [one, other] of [
      [a, b],
      [b, a],
    ] as const)
      if (
        isEquality &&
        one instanceof Code &&
        other instanceof Known &&
        (other.value == null || isObject(other.value))
      )
        return new Known(operator.startsWith("!"));
    if (operator === "*" && b instanceof Known && b.value === 1) return a;
    if (operator === "*" && a instanceof Known && a.value === 1) return b;
    if (operator === "*" && b instanceof Known && b.value === -1) return this.unary("-", a);
    if (
      operator === "&" &&
      [a, b].some((one) => one instanceof Known && one.value === 0) &&
      isPure(a) &&
      isPure(b)
    )
      return new Known(0);
    const rank = BINARY[operator];
    if (rank === undefined) throw new Unmakeable(`${operator} is not understood`);
    const [left, right] = [this.lift(a), this.lift(b)];
    const textBy = (by: string) => `${left.in(rank)} ${by} ${right.in(rank + 1)}`;
    const opposite = operator === "===" ? "!==" : operator === "!==" ? "===" : undefined;
    return new Code(textBy(operator), rank, left.isPure && right.isPure, false, opposite && textBy(opposite));
  }

  /** An operation on what is chosen, choice by choice. */
  protected binaryOfChoice(operator: string, a: Value, b: Value): Value | undefined {
    const [choice, other] = a instanceof Choice ? [a, b] : [b, a];
    if (!(choice instanceof Choice)) return undefined;
    const apply = (one: unknown, two: unknown) =>
      choice === a ? folded(operator, one, two) : folded(operator, two, one);
    if (other instanceof Choice) {
      if (other.index.text === choice.index.text && other.list.length === choice.list.length)
        return this.simplest(
          new Choice(
            choice.list.map((one, n) => apply(one, other.list[n])),
            choice.index,
            apply(choice.other, other.other),
          ),
        );
      if (!isSameList(choice.list, other.list)) {
        if (choice.list.some(isObject) || other.list.some(isObject))
          throw new Unmakeable("two kinds of choice are compared");
        return undefined;
      }
      if (!choice.list.some(isObject)) return undefined;
      return new Code(
        `${choice.index.in(BINARY[operator]!)} ${operator} ${other.index.in(BINARY[operator]! + 1)}`,
        BINARY[operator]!,
        true,
      );
    }
    if (!(other instanceof Known)) return undefined;
    const isEquality = operator.startsWith("==") || operator.startsWith("!=");
    if (!isEquality && choice.list.some(isObject)) throw new Unmakeable(`${operator} of a choice`);
    // Out of its range it is equal to nothing but what stands for that.
    const outside = choice.other === undefined && !isEquality ? undefined : apply(choice.other, other.value);
    if (isEquality && choice.other === undefined && other.value !== undefined && other.value !== null) {
      const list = choice.list.map((one) => apply(one, other.value));
      const never = operator.startsWith("!");
      return list.every((one) => one === never) ? new Known(never) : new Choice(list, choice.index, never);
    }
    return this.simplest(
      new Choice(
        choice.list.map((one) => apply(one, other.value)),
        choice.index,
        outside,
      ),
    );
  }

  protected logical(operator: string, a: Value, otherwise: Expression, frame: Frame): Value {
    if (operator === "??") {
      if (a instanceof Known) return a.value == null ? this.value(otherwise, frame) : a;
      if (a instanceof Choice) {
        if (a.other !== undefined && a.list.every((one) => one != null)) return a;
        const b = known(this.value(otherwise, frame));
        return this.simplest(
          new Choice(
            a.list.map((one) => one ?? b),
            a.index,
            a.other ?? b,
          ),
        );
      }
      return a;
    }
    if (a instanceof Known)
      return (operator === "&&") === Boolean(a.value) ? this.value(otherwise, frame) : a;
    const b = this.value(otherwise, { ...frame, depth: frame.depth + 1 });
    if (b instanceof Known && isPure(a) && Boolean(b.value) === (operator === "||"))
      return new Known(b.value);
    if (b instanceof Known && b.value === (operator === "&&")) return a;
    if (
      a instanceof Choice &&
      b instanceof Choice &&
      a.index.text === b.index.text &&
      a.list.length === b.list.length
    ) {
      const both = (one: unknown, other: unknown) => (operator === "&&" ? one && other : one || other);
      return this.simplest(
        new Choice(
          a.list.map((one, n) => both(one, b.list[n])),
          a.index,
          both(a.other, b.other),
        ),
      );
    }
    const rank = operator === "&&" ? Rank.And : Rank.Or;
    const [left, right] = [this.lift(a), this.lift(b)];
    return new Code(`${left.in(rank)} ${operator} ${right.in(rank)}`, rank, left.isPure && right.isPure);
  }

  protected conditional(node: Expression & { type: "ConditionalExpression" }, frame: Frame): Value {
    const test = this.value(node.test, frame);
    if (test instanceof Known) return this.value(test.value ? node.consequent : node.alternate, frame);
    const inner = { ...frame, depth: frame.depth + 1 };
    const a = this.value(node.consequent, inner);
    const b = this.value(node.alternate, inner);
    if (a instanceof Known && b instanceof Known && Object.is(a.value, b.value) && isPure(test)) return a;
    if (isThing(a) && isThing(b)) return this.chooses(this.lift(test), a, b);
    const [yes, no] = [this.lift(a), this.lift(b)];
    return new Code(
      `${this.text(test, Rank.Or)} ? ${yes.in(Rank.Assignment)} : ${no.in(Rank.Assignment)}`,
      Rank.Conditional,
      isPure(test) && yes.isPure && no.isPure,
    );
  }

  /** One of two things, as a choice: -1 stands for none. */
  protected chooses(test: Code, a: Value, b: Value): Value {
    const list: unknown[] = [];
    const indexOf = (value: Value): string => {
      if (value instanceof Choice) {
        if (list.length === 0 || isSameList(list, value.list)) {
          if (list.length === 0) list.push(...value.list);
          return value.index.in(Rank.Assignment);
        }
        throw new Unmakeable("a choice of two lists");
      }
      const thing = (value as Known).value;
      if (thing == null) return "-1";
      const at = list.indexOf(thing);
      return String(at < 0 ? list.push(thing) - 1 : at);
    };
    const isFirst = a instanceof Choice || !(b instanceof Choice);
    const first = indexOf(isFirst ? a : b);
    const second = indexOf(isFirst ? b : a);
    const nothing = [a, b].find((one) => one instanceof Known && one.value == null) as Known | undefined;
    const [yes, no] = isFirst ? [first, second] : [second, first];
    return new Choice(
      list,
      new Code(`${test.in(Rank.Or)} ? ${yes} : ${no}`, Rank.Conditional, test.isPure),
      nothing?.value,
    );
  }
}

/** Exactly as the engine would compute it. */
function folded(operator: string, a: unknown, b: unknown): unknown {
  const [x, y] = [a as number, b as number];
  switch (operator) {
    case "===":
      return a === b;
    case "!==":
      return a !== b;
    case "==":
      return a == null ? b == null : a === b;
    case "!=":
      return a == null ? b != null : a !== b;
    case "<":
      return x < y;
    case ">":
      return x > y;
    case "<=":
      return x <= y;
    case ">=":
      return x >= y;
    case "+":
      return x + y;
    case "-":
      return x - y;
    case "*":
      return x * y;
    case "/":
      return x / y;
    case "%":
      return x % y;
    case "|":
      return x | y;
    case "&":
      return x & y;
    case "^":
      return x ^ y;
    case "<<":
      return x << y;
    case ">>":
      return x >> y;
    case ">>>":
      return x >>> y;
  }
  throw new Unmakeable(`${operator} is not understood`);
}
