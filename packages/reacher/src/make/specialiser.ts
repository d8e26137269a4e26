/**
 * Makes code of the engine's rules for one plan. In: the rules of a compiled plan, which are known, and the sources of their methods. Out:
 * functions with all folded that does not depend on the cells of a seat. Each rule is run as far as it can be, and what is left is written down.
 */
import type {
  CallExpression,
  Expression,
  MemberExpression,
  Node,
  Pattern,
  Statement,
  SpreadElement,
} from "acorn";
import { assignedIn, namesIn, withoutContinue } from "./analysis.js";
import { render, withoutUnused, type Line } from "./lines.js";
import { placeOf, type FunctionNode, type Method, type SourceModule, type Sources } from "./source.js";
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
  type Variable,
} from "./values.js";

/** A rule cannot be made into code; the message says which line of it. */
export class Unmakeable extends Error {
  place = "";
}

/** The seat that the code will run in, while code is made for it. */
export class AnySeat {
  readonly readings: unknown[] = [];

  constructor(readonly tables: object) {}
}

/** A function that is made. */
export interface Made {
  readonly key: string;
  readonly name: string;
  readonly params: string[];
  /** The keys of the functions that it calls, once for each place. */
  readonly calls: string[];
  lines: Line[];
  /** What it always returns; `null` if that is computed. */
  returns: Known | null;
  /** Of a choice. */
  list: { readonly list: readonly unknown[]; readonly other: unknown } | null;
  hasEarlyReturn: boolean;
  isBusy: boolean;
}

/** A method while code is made of it. */
interface Run {
  readonly node: FunctionNode;
  readonly module: SourceModule;
  readonly self: Value;
  readonly made: Made;
  readonly isInlined: boolean;
  readonly depth: number;
  readonly returned: Value[];
  hasEarlyReturn: boolean;
}

interface Frame {
  readonly run: Run;
  readonly scope: Scope;
  readonly lines: Line[];
  readonly depth: number;
}

/** Whether a statement ends what follows it. */
type Ends = boolean;

/** Longer expressions and statements are not repeated where a function is called. */
const SHORT_EXPRESSION = 60;
const SHORT_STATEMENTS = 40;

export interface Surroundings {
  readonly sources: Sources;
  /** Objects that the made code has a name for, and calls as they are. */
  readonly named: ReadonlyMap<object, string>;
  /** What a seat's call is worth; `undefined` for the call itself. */
  seatCall(call: string, args: readonly Value[]): Value | undefined;
  /** Notes a call of a named object; false if it does nothing. */
  namedCall(object: object, call: string, args: readonly Value[]): boolean;
  /** The cell of a view at its start. */
  initial(cell: string): number;
  /** Whether a cell may change by other hands than the made code's. */
  isOpen(cell: string): boolean;
  /** Cells that a write at a computed place may mean. */
  isList(cell: string): boolean;
}

/** The views of a seat's buffer, by their names in the code. */
const VIEWS = new Set(["f", "i", "b"]);

export class Specialiser {
  /** Fields of rules that their methods assign, which are variables of the made code. */
  readonly variables = new Map<string, { readonly name: string; readonly initial: unknown }>();
  /** Arrays that methods write. */
  readonly writtenArrays = new Set<object>();
  readonly tables = new Map<string, string>();
  readonly constants = new Map<string, number>();
  readonly onlyOnce = new Set<string>();
  made = new Map<string, Made>();
  reads = new Set<string>();
  writes = new Set<string>();
  /** Views that are written at computed places. */
  wild = new Set<string>();
  /** Whether something was met that changes what was made before. */
  isStale = false;
  private counter = 0;
  private readonly ids = new Map<unknown, number>();
  private readonly tableNames = new Map<string, string>();

  constructor(private readonly around: Surroundings) {}

  /** Begins anew, with what is known by now. */
  begin(): void {
    this.made = new Map();
    this.reads = new Set();
    this.writes = new Set();
    this.wild = new Set();
    this.isStale = false;
    this.tables.clear();
    this.tableNames.clear();
    this.counter = 0;
  }

  newName(base: string): string {
    return `${base.replace(/\W/g, "")}$${++this.counter}`;
  }

  /* What is asked from outside. */

  /** A function that nothing calls but the library: its body by `fill`. */
  root(base: string, params: readonly string[], fill: (frame: Frame) => Value | null): Made {
    const made = this.open(`root ${base}`, base);
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
    return made;
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

  textOfReturn(made: Made): (value: Value) => string {
    return (value) => (made.returns === null ? this.lift(value).text : "");
  }

  bodyOf(made: Made): string {
    const textOf = this.textOfReturn(made);
    return render(withoutUnused(made.lines, textOf), textOf, "  ");
  }

  /* Known values as code. */

  lift(value: Value): Code {
    if (value instanceof Code) return value;
    if (value instanceof Choice) return this.liftChoice(value);
    if (value instanceof Closure) throw new Unmakeable("a function is kept as a value");
    if (value instanceof Fields) throw new Unmakeable("an object is kept as a value");
    const known = value.value;
    if (typeof known === "object" && known !== null) {
      if (known instanceof AnySeat) return name("s");
      const named = this.around.named.get(known);
      if (named !== undefined) return name(named);
      if (ArrayBuffer.isView(known) || Array.isArray(known)) return name(this.table(known));
      throw new Unmakeable(`a ${known.constructor.name} is kept as a value`);
    }
    if (typeof known === "number" && (known < 0 || Object.is(known, -0)))
      return new Code(`-${-known}`, Rank.Unary, true, true);
    if (typeof known === "string") return name(JSON.stringify(known));
    return name(String(known));
  }

  text(value: Value, rank: Rank = Rank.Assignment): string {
    return this.lift(value).in(rank);
  }

  private liftChoice({ list, index, other }: Choice): Code {
    if (!list.some(isObject)) {
      const all = list.every((one) => one === list[0]);
      const isBare = other === undefined;
      if (list.every((one) => typeof one === "boolean") && (isBare || typeof other === "boolean")) {
        const wanted = other !== true;
        const at = list.flatMap((one, n) => (one === wanted ? [n] : []));
        if (at.length === list.length && isBare && all) return name(String(list[0]));
        if (at.length === 0) return name(String(!wanted));
        if (at.length > FEW)
          return new Code(
            `${this.table(list.map(Number))}[${index.text}] ${wanted ? "=== 1" : "!== 0"}`,
            Rank.Equality,
            true,
          );
        const tests = at.map((n) => `${index.in(Rank.Relation)} ${wanted ? "===" : "!=="} ${n}`);
        return new Code(
          tests.join(wanted ? " || " : " && "),
          tests.length > 1 ? (wanted ? Rank.Or : Rank.And) : Rank.Equality,
          true,
        );
      }
      if (isBare && list.every((one, n) => one === n)) return index;
      const step = Number(list[1]) - Number(list[0]);
      if (
        isBare &&
        list.length > 1 &&
        list.every((one, n) => typeof one === "number" && one === Number(list[0]) + n * step) &&
        Number.isInteger(step)
      ) {
        if (step === 0) return name(String(list[0]));
        const scaled = step === 1 ? index.in(Rank.Sum) : `${index.in(Rank.Product)} * ${step}`;
        return list[0] === 0
          ? new Code(scaled, Rank.Product, true)
          : new Code(`${scaled} + ${String(list[0])}`, Rank.Sum, true);
      }
      const looked = `${this.table(list)}[${index.text}]`;
      if (isBare) return new Code(looked, Rank.Primary, true);
      if (other === null && list.every((one) => one != null))
        return new Code(`${looked} ?? null`, Rank.Or, true);
      return new Code(
        `${index.in(Rank.Relation)} >= 0 && ${index.in(Rank.Relation)} < ${list.length} ? ${looked} : ${this.text(new Known(other))}`,
        Rank.Conditional,
        true,
      );
    }
    return index;
  }

  /** A constant array of the module. */
  private table(list: object): string {
    const isWritten = this.writtenArrays.has(list);
    const text = isWritten ? `written ${this.id(list)}` : tableText(list);
    let own = this.tableNames.get(text);
    if (own === undefined) {
      own = this.newName("T");
      this.tableNames.set(text, own);
      this.tables.set(
        own,
        isWritten ? `new ${list.constructor.name}(${(list as Float64Array).length})` : text,
      );
    }
    return own;
  }

  private id(value: unknown): string {
    if (!isObject(value)) return Object.is(value, -0) ? "-0" : `${typeof value} ${String(value)}`;
    let id = this.ids.get(value);
    if (id === undefined) this.ids.set(value, (id = this.ids.size));
    return `#${id}`;
  }

  /* Fields and cells. */

  private get(of: Value, key: Value, frame: Frame): Value {
    if (of instanceof Fields) return of.all.get(String(known(key))) ?? UNDEFINED;
    if (of instanceof Known) return this.getOfKnown(of, key, frame);
    if (of instanceof Choice) return this.getOfChoice(of, key, frame);
    if (of instanceof Closure) throw new Unmakeable("a function has no fields");
    if (VIEWS.has(of.text)) return this.cell(of.text, key);
    if (key instanceof Known && typeof key.value === "string")
      return new Code(`${of.in(Rank.Primary)}.${key.value}`, Rank.Primary, true);
    return new Code(`${of.in(Rank.Primary)}[${this.text(key)}]`, Rank.Primary, true);
  }

  private getOfKnown(of: Known, key: Value, frame: Frame): Value {
    const object = of.value;
    if (object instanceof AnySeat) return this.seatField(String(known(key)));
    if (object == null) throw new Unmakeable(`${String((key as Known).value)} of ${String(object)}`);
    if (key instanceof Choice) {
      if (!Array.isArray(object) && !ArrayBuffer.isView(object)) throw new Unmakeable("a choice of fields");
      const list = object as readonly unknown[];
      if (this.writtenArrays.has(object))
        return new Code(`${this.table(object)}[${this.text(key)}]`, Rank.Primary, true);
      return this.simplest(
        new Choice(
          key.list.map((n) => list[n as number]),
          key.index,
          list[key.other as number],
        ),
      );
    }
    if (key instanceof Code) {
      const list = listIn(object);
      if (list !== undefined) return new Choice(list, key, undefined);
      return new Code(`${this.text(of, Rank.Primary)}[${key.text}]`, Rank.Primary, true);
    }
    const field = known(key) as string;
    if (typeof object !== "object" && typeof object !== "function")
      return new Known((object as never)[field]);
    if (this.writtenArrays.has(object) && typeof field === "number")
      return new Code(`${this.table(object)}[${field}]`, Rank.Primary, true);
    const variable = this.variables.get(`${this.id(object)}.${field}`);
    if (variable !== undefined) return new Code(variable.name, Rank.Primary, true);
    const getter = this.getterOf(object, field);
    if (getter !== undefined)
      return this.call(getter.node, getter.module, null, of, [], frame, false, getter.name);
    return new Known((object as never)[field]);
  }

  private getterOf(object: object, field: string): Method | undefined {
    for (let at: object | null = object; at !== null; at = Object.getPrototypeOf(at) as object | null) {
      const found = Object.getOwnPropertyDescriptor(at, field);
      if (found === undefined) continue;
      return found.get === undefined ? undefined : this.around.sources.methodOf(object, field, "get");
    }
    return undefined;
  }

  private getOfChoice(of: Choice, key: Value, frame: Frame): Value {
    const partOf = (one: unknown, of: Value): unknown => {
      const value = this.get(new Known(one), of, frame);
      if (value instanceof Known) return value.value;
      throw new Unmakeable("a computed field of a choice");
    };
    if (key instanceof Choice) {
      if (key.index.text !== of.index.text || key.list.length !== of.list.length)
        throw new Unmakeable("a choice of a choice");
      return this.simplest(
        new Choice(
          of.list.map((one, n) => (one == null ? undefined : partOf(one, new Known(key.list[n])))),
          of.index,
          undefined,
        ),
      );
    }
    if (key instanceof Code) throw new Unmakeable("a computed place in a choice");
    return this.simplest(
      new Choice(
        of.list.map((one) => (one == null ? undefined : partOf(one, key))),
        of.index,
        of.other == null ? undefined : partOf(of.other, key),
      ),
    );
  }

  /** A choice among equal things is no choice: what is not there has no fields. */
  private simplest(choice: Choice): Value {
    const { list } = choice;
    const isSame = list.length > 0 && list.every((one) => Object.is(one, list[0]));
    return isSame && (choice.other === undefined || Object.is(choice.other, list[0]))
      ? new Known(list[0])
      : choice;
  }

  private seatField(field: string): Value {
    if (VIEWS.has(field) || field === "clock") return name(field);
    return new Code(`s.${field}`, Rank.Primary, true);
  }

  private cell(view: string, key: Value): Value {
    if (!(key instanceof Known)) return new Code(`${view}[${this.text(key)}]`, Rank.Primary, true);
    if (typeof key.value === "string") return new Code(`${view}.${key.value}`, Rank.Primary, true);
    const at = key.value as number;
    if (!(at >= 0)) throw new Unmakeable(`the cell ${view}[${at}]`);
    const constant = this.constants.get(view + at);
    if (constant !== undefined) return new Known(constant);
    this.reads.add(view + at);
    return new Code(`${view}[${at}]`, Rank.Primary, true);
  }

  private wrote(view: string, key: Value): void {
    if (key instanceof Known) this.writes.add(`${view}${String(key.value)}`);
    else this.wild.add(view);
  }

  /* Expressions. */

  private value(node: Expression | SpreadElement | Node, frame: Frame, isStatement = false): Value {
    const one = node as Expression;
    switch (one.type) {
      case "Literal":
        return new Known(one.value);
      case "ParenthesizedExpression":
        return this.value(one.expression, frame);
      case "ThisExpression":
        return frame.run.self;
      case "Identifier":
        return this.named(one.name, frame);
      case "TemplateLiteral": {
        const parts = one.quasis.map((part, n) =>
          n < one.expressions.length
            ? `${part.value.cooked ?? ""}${String(known(this.value(one.expressions[n]!, frame)))}`
            : (part.value.cooked ?? ""),
        );
        return new Known(parts.join(""));
      }
      case "ChainExpression":
        return this.value(one.expression, frame, isStatement);
      case "MemberExpression": {
        const of = this.value(one.object, frame);
        if (one.optional && of instanceof Known && of.value == null) return UNDEFINED;
        return this.get(one.optional ? orNone(of) : of, this.keyOf(one, frame), frame);
      }
      case "CallExpression":
        return this.callOf(one, frame, isStatement);
      case "UnaryExpression":
        return this.unary(one.operator, this.value(one.argument, frame));
      case "BinaryExpression":
        return this.binary(one.operator, this.value(one.left, frame), this.value(one.right, frame));
      case "LogicalExpression":
        return this.logical(one.operator, this.value(one.left, frame), one.right, frame);
      case "ConditionalExpression":
        return this.conditional(one, frame);
      case "AssignmentExpression":
        return this.assign(one, frame);
      case "UpdateExpression":
        return this.update(one, frame);
      case "ArrowFunctionExpression":
      case "FunctionExpression":
        return new Closure(one as FunctionNode, frame.scope, frame.run.self, frame.run.module);
      case "NewExpression": {
        const array = ARRAYS.get((one.callee as { name?: string }).name ?? "");
        if (array === undefined) throw new Unmakeable("an object is made");
        return new Known(new array(known(this.value(one.arguments[0]!, frame)) as number));
      }
      case "ArrayExpression":
        return new Known(
          one.elements.flatMap((element) =>
            element!.type === "SpreadElement"
              ? [...(known(this.value(element!.argument, frame)) as Iterable<unknown>)]
              : [known(this.value(element!, frame))],
          ),
        );
      case "ObjectExpression": {
        const all = new Map<string, Value>();
        for (const property of one.properties) {
          if (property.type !== "Property") throw new Unmakeable("an object that is spread");
          const key = property.computed
            ? String(known(this.value(property.key, frame)))
            : ((property.key as { name?: string }).name ??
              String((property.key as { value: unknown }).value));
          all.set(key, this.value(property.value, frame));
        }
        if ([...all.values()].every((value) => value instanceof Known))
          return new Known(Object.fromEntries([...all].map(([key, value]) => [key, (value as Known).value])));
        return new Fields(all);
      }
    }
    throw new Unmakeable(`${one.type} is not understood`);
  }

  private keyOf(node: MemberExpression, frame: Frame): Value {
    return node.computed
      ? this.value(node.property as Expression, frame)
      : new Known((node.property as { name: string }).name);
  }

  private named(text: string, frame: Frame): Value {
    const variable = frame.scope.find(text);
    return variable === undefined ? this.global(text, frame.run.module) : this.valueOf(variable);
  }

  private valueOf(variable: Variable): Value {
    if (!variable.isMade) return variable.value;
    const code = new Code(variable.name, Rank.Primary, true, !variable.isAssigned);
    return variable.list === undefined ? code : new Choice(variable.list, code, variable.other);
  }

  private global(text: string, module: SourceModule): Value {
    if (text === "undefined") return UNDEFINED;
    if (text === "Infinity") return new Known(Infinity);
    if (text === "NaN") return new Known(NaN);
    if (text === "Math" || text === "Number") return new Known(text === "Math" ? Math : Number);
    const found = module.names.get(text);
    if (found === undefined) throw new Unmakeable(`${text} is not known`);
    if (found.kind === "import") return this.global(found.name, this.around.sources.moduleOf(found.file));
    if (found.kind === "function") return new Closure(found.node, null, UNDEFINED, module);
    if (found.kind === "class") return new Known(new ClassName(text));
    found.known ??= this.value(found.node, {
      run: {
        node: NO_NODE,
        module,
        self: UNDEFINED,
        made: NOTHING,
        isInlined: true,
        depth: 0,
        returned: [],
        hasEarlyReturn: false,
      },
      scope: new Scope(null),
      lines: [],
      depth: 0,
    });
    return found.known as Value;
  }

  private unary(operator: string, of: Value): Value {
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

  private binary(operator: string, a: Value, b: Value): Value {
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
  private binaryOfChoice(operator: string, a: Value, b: Value): Value | undefined {
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

  private logical(operator: string, a: Value, otherwise: Expression, frame: Frame): Value {
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

  private conditional(node: Expression & { type: "ConditionalExpression" }, frame: Frame): Value {
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
  private chooses(test: Code, a: Value, b: Value): Value {
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

  /* Assignments. */

  private assign(node: Expression & { type: "AssignmentExpression" }, frame: Frame): Value {
    const { left, operator } = node;
    const arithmetic = operator.slice(0, -1);
    if (left.type === "Identifier") {
      const variable = frame.scope.find(left.name)!;
      const isLogical = ["||", "&&", "??"].includes(arithmetic);
      const value = isLogical
        ? this.logical(arithmetic, this.valueOf(variable), node.right, frame)
        : this.value(node.right, frame);
      this.setVariable(
        variable,
        operator === "=" || isLogical ? value : this.binary(arithmetic, this.valueOf(variable), value),
        frame,
      );
      return this.valueOf(variable);
    }
    if (left.type !== "MemberExpression") throw new Unmakeable("a pattern is assigned");
    const place = this.placeOf(left, frame, operator !== "=");
    const value = this.lift(this.value(node.right, frame));
    return new Code(`${place} ${operator} ${value.in(Rank.Assignment)}`, Rank.Assignment);
  }

  private update(node: Expression & { type: "UpdateExpression" }, frame: Frame): Value {
    const { argument, operator, prefix } = node;
    if (argument.type === "Identifier") {
      const variable = frame.scope.find(argument.name)!;
      const before = this.valueOf(variable);
      if (before instanceof Known && frame.depth === variable.depth) {
        const after = new Known((before.value as number) + (operator === "++" ? 1 : -1));
        this.setVariable(variable, after, frame);
        return prefix ? after : before;
      }
      return new Code(prefix ? operator + variable.name : variable.name + operator, Rank.Unary);
    }
    const place = this.placeOf(argument as MemberExpression, frame, true);
    return new Code(prefix ? operator + place : place + operator, Rank.Unary);
  }

  /** What an assignment writes to. */
  private placeOf(node: MemberExpression, frame: Frame, isRead: boolean): string {
    const of = this.value(node.object as Expression, frame);
    const key = this.keyOf(node, frame);
    if (of instanceof Code) {
      if (VIEWS.has(of.text)) {
        this.wrote(of.text, key);
        if (isRead && key instanceof Known) this.reads.add(of.text + String(key.value));
      }
      return `${of.in(Rank.Primary)}[${this.text(key)}]`;
    }
    if (!(of instanceof Known)) throw new Unmakeable("a field of a choice is assigned");
    const object = of.value as object;
    if (ArrayBuffer.isView(object)) {
      this.noteWritten(object);
      return `${this.table(object)}[${this.text(key)}]`;
    }
    if (object instanceof AnySeat) return `s.${String(known(key))}`;
    const field = String(known(key));
    const id = `${this.id(object)}.${field}`;
    if (!this.variables.has(id)) {
      this.variables.set(id, {
        name: `m[${this.variables.size}]`,
        initial: (object as Record<string, unknown>)[field],
      });
      this.isStale = true;
    }
    return this.variables.get(id)!.name;
  }

  private noteWritten(array: object): void {
    if (this.writtenArrays.has(array)) return;
    this.writtenArrays.add(array);
    this.isStale = true;
  }

  private setVariable(variable: Variable, value: Value, frame: Frame): void {
    if (value instanceof Closure || value instanceof Fields) {
      variable.value = value;
      return;
    }
    if (
      value instanceof Known &&
      !(value.value instanceof AnySeat) &&
      frame.depth === variable.depth &&
      !variable.isMade
    ) {
      variable.value = value;
      return;
    }
    this.noteList(variable, value);
    const { text } = variable.list === undefined ? this.lift(value) : this.indexIn(variable, value);
    if (variable.isMade) frame.lines.push({ kind: "do", text: `${variable.name} = ${text}` });
    else frame.lines.push({ kind: "let", name: variable.name, init: text, isConst: false, isPure: false });
    variable.isMade = variable.isAssigned = true;
  }

  private noteList(variable: Variable, value: Value): void {
    const isThingOf = value instanceof Choice && value.list.some(isObject);
    if (!isThingOf) return;
    if (variable.list !== undefined && !isSameList(variable.list, value.list))
      throw new Unmakeable("two kinds of choice in one variable");
    variable.list = value.list;
    variable.other = value.other;
  }

  /** A thing as its index in the list of a variable. */
  private indexIn({ list }: Pick<Variable, "list">, value: Value): Code {
    if (value instanceof Choice) return value.index;
    const thing = known(value);
    if (thing == null) return new Code("-1", Rank.Unary, true, true);
    const at = list!.indexOf(thing);
    if (at < 0) throw new Unmakeable("a thing that is none of the choice");
    return name(String(at));
  }

  /** What a branch assigns has to be a variable of the code from here on. */
  private makeAssigned(nodes: readonly (Node | null | undefined)[], frame: Frame): void {
    for (const assigned of assignedIn(nodes)) {
      const variable = frame.scope.find(assigned);
      if (variable === undefined) continue;
      if (variable.isMade) {
        variable.isAssigned = true;
        continue;
      }
      if (variable.depth !== frame.depth)
        throw new Unmakeable(`${assigned} is assigned in a branch of a branch`);
      const { value } = variable;
      this.noteList(variable, value);
      const isEmpty = value instanceof Known && value.value === undefined;
      frame.lines.push({
        kind: "let",
        name: variable.name,
        init: isEmpty ? null : this.lift(value).text,
        isConst: false,
        isPure: false,
      });
      variable.isMade = variable.isAssigned = true;
    }
  }

  private declare(text: string, value: Value, frame: Frame, isConst: boolean): void {
    const variable: Variable = {
      name: this.newName(text),
      value,
      isMade: false,
      isAssigned: false,
      depth: frame.depth,
      list: undefined,
      other: undefined,
    };
    frame.scope.own.set(text, variable);
    if (!(value instanceof Code) && !(value instanceof Choice)) return;
    const code = value instanceof Code ? value : value.index;
    if (isConst && code.isStable) return;
    if (value instanceof Choice) {
      if (value.list.some(isObject)) {
        variable.list = value.list;
        variable.other = value.other;
      }
    }
    const init = variable.list === undefined ? this.lift(value) : code;
    variable.isMade = true;
    variable.isAssigned = !isConst;
    frame.lines.push({ kind: "let", name: variable.name, init: init.text, isConst, isPure: init.isPure });
  }

  private bind(pattern: Pattern, value: Value, frame: Frame, isConst: boolean): void {
    switch (pattern.type) {
      case "Identifier":
        return this.declare(pattern.name, value, frame, isConst);
      case "ObjectPattern":
        for (const property of pattern.properties) {
          if (property.type !== "Property") throw new Unmakeable("a pattern with a rest");
          const key = property.computed
            ? this.value(property.key, frame)
            : new Known((property.key as { name: string }).name);
          this.bind(property.value, this.get(value, key, frame), frame, isConst);
        }
        return;
      case "AssignmentPattern":
        return this.bind(
          pattern.left,
          value instanceof Known && value.value === undefined ? this.value(pattern.right, frame) : value,
          frame,
          isConst,
        );
      case "ArrayPattern":
        pattern.elements.forEach(
          (element, n) => element && this.bind(element, this.get(value, new Known(n), frame), frame, isConst),
        );
        return;
    }
    throw new Unmakeable(`the pattern ${pattern.type} is not understood`);
  }

  /* Calls. */

  private callOf(node: CallExpression, frame: Frame, isStatement: boolean): Value {
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

  private callMethod(
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
  private callOfCode(of: Code, method: string, args: readonly Value[]): Value {
    if (VIEWS.has(of.text)) {
      const [from, to] = method === "fill" ? [args[1], args[2]] : [undefined, undefined];
      if (from instanceof Known && to instanceof Known)
        for (let at = from.value as number; at < (to.value as number); at++) this.writes.add(of.text + at);
      else {
        const at = args[0];
        const length =
          args.length === 3 && args[1] instanceof Known && args[2] instanceof Known
            ? (args[2].value as number) - (args[1].value as number)
            : -1;
        if (method === "copyWithin" && at instanceof Known && length >= 0)
          for (let n = 0; n < length; n++) this.writes.add(of.text + ((at.value as number) + n));
        else this.wild.add(of.text);
      }
    }
    return new Code(
      `${of.in(Rank.Primary)}.${method}(${args.map((one) => this.text(one)).join(", ")})`,
      Rank.Primary,
    );
  }

  private callOfArray(list: readonly unknown[], method: string, args: readonly Value[], frame: Frame): Value {
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
    if (["includes", "indexOf", "slice", "concat"].includes(method))
      return new Known(
        (list as never as Record<string, (...all: unknown[]) => unknown>)[method]!(...args.map(known)),
      );
    throw new Unmakeable(`${method} of a list`);
  }

  /** A method of one of several objects: a function that branches. */
  private dispatch(
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
    let made = this.made.get(key);
    if (made === undefined) {
      made = this.open(key, `any_${method}`);
      const index = this.newName("n");
      made.params.push(index);
      const inner = args.map((one) => this.paramFor(one, made!));
      const run: Run = { ...frame.run, made, isInlined: false, returned: [], hasEarlyReturn: true, depth: 0 };
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
    }
    frame.run.made.calls.push(key);
    return this.callTo(made, [of.index, ...args.filter((one) => !isGiven(one))]);
  }

  /** A function of the engine's with these values. */
  private call(
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
    const key = `${module.file} ${node.start} ${self instanceof Known ? this.id(self.value) : ""} ${args.map((one) => this.keyOfArg(one)).join(" ")}`;
    let made = this.made.get(key);
    if (made === undefined) {
      made = this.open(key, base);
      const inner = args.map((one) => this.paramFor(one, made!));
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
    }
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

  private callTo(made: Made, args: readonly Value[]): Value {
    const code = new Code(
      `${made.name}(${args.map((one) => (one instanceof Choice && one.list.some(isObject) ? one.index.in(Rank.Assignment) : this.text(one))).join(", ")})`,
      Rank.Primary,
    );
    const { list } = made;
    return list === null ? code : new Choice(list.list, code, list.other);
  }

  private sizeOf(made: Made): number {
    return this.bodyOf(made).length;
  }

  private open(key: string, base: string): Made {
    const made: Made = {
      key,
      name: this.newName(base),
      params: [],
      calls: [],
      lines: [],
      returns: null,
      list: null,
      hasEarlyReturn: false,
      isBusy: true,
    };
    this.made.set(key, made);
    return made;
  }

  private close(made: Made, run: Run): void {
    const [first] = run.returned;
    const isConstant =
      run.returned.every((one) => one instanceof Known && Object.is(one.value, (first as Known).value)) &&
      !(first instanceof Known && isObject(first.value));
    made.returns = isConstant ? (first as Known) : null;
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

  private keyOfArg(value: Value): string {
    if (value instanceof Known) return `k${this.id(value.value)}`;
    if (value instanceof Choice && value.list.some(isObject))
      return `c${value.list.map((one) => this.id(one)).join()}/${this.id(value.other)}`;
    if (value instanceof Closure)
      return `f${value.module.file}${value.node.start}${value.self instanceof Known ? this.id(value.self.value) : ""}${this.keyOfScope(value)}`;
    return value instanceof Code && isGiven(value) ? value.text : "code";
  }

  /** What a function within a method sees, which is all known. */
  private keyOfScope(closure: Closure): string {
    return seenBy(closure)
      .map(([text, { value }]) => `${text}=${this.keyOfArg(value)}`)
      .join();
  }

  private paramFor(value: Value, made: Made): Value {
    if (isGiven(value)) return value;
    const param = this.newName("p");
    made.params.push(param);
    return value instanceof Choice && value.list.some(isObject)
      ? new Choice(value.list, name(param), value.other)
      : name(param);
  }

  private inlined(
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

  private body(args: readonly Value[], frame: Frame): Ends {
    const { node } = frame.run;
    node.params.forEach((param, n) => this.bind(param, args[n] ?? UNDEFINED, frame, true));
    if (node.body.type === "BlockStatement") return this.block(node.body.body, frame);
    this.return(this.value(node.body, frame), frame);
    return true;
  }

  private return(value: Value, frame: Frame): void {
    const { run } = frame;
    if (frame.depth > run.depth) run.hasEarlyReturn = true;
    run.returned.push(value);
    if (!run.isInlined) frame.lines.push({ kind: "return", value });
  }

  /* Statements. */

  private block(list: readonly Statement[], frame: Frame): Ends {
    return list.some((node) => this.statement(node, frame));
  }

  private statement(node: Statement, frame: Frame): Ends {
    try {
      return this.statementOf(node, frame);
    } catch (error) {
      if (error instanceof Unmakeable && error.place === "" && frame.run.module !== NO_MODULE) {
        error.place = placeOf(frame.run.module, node);
        error.message = `${error.place}: ${error.message}`;
      }
      throw error;
    }
  }

  private statementOf(node: Statement, frame: Frame): Ends {
    switch (node.type) {
      case "EmptyStatement":
        return false;
      case "BlockStatement":
        return this.block(node.body, within(frame));
      case "ExpressionStatement":
        this.effect(this.value(node.expression, frame, true), frame);
        return false;
      case "VariableDeclaration":
        for (const { id, init } of node.declarations)
          this.bind(id, init == null ? UNDEFINED : this.before(init, frame), frame, node.kind === "const");
        return false;
      case "ReturnStatement":
        this.return(node.argument == null ? UNDEFINED : this.before(node.argument, frame), frame);
        return true;
      case "IfStatement":
        return this.branches(node, frame);
      case "ForStatement": {
        const inner = within(frame);
        if (node.init != null) {
          if (node.init.type === "VariableDeclaration") this.statement(node.init, inner);
          else this.effect(this.value(node.init, inner), inner);
        }
        return this.loop(node, inner);
      }
      case "WhileStatement":
        return this.loop(node, frame);
      case "ForOfStatement":
        return this.each(node, frame);
      case "ContinueStatement":
      case "BreakStatement":
        frame.lines.push({ kind: "do", text: node.type === "BreakStatement" ? "break" : "continue" });
        return true;
    }
    throw new Unmakeable(`${node.type} is not understood`);
  }

  /** An initial or returned value: statements may stand before it. */
  private before(node: Expression, frame: Frame): Value {
    return this.value(node, frame, node.type === "CallExpression");
  }

  private branches(node: Statement & { type: "IfStatement" }, frame: Frame): Ends {
    const test = this.before(node.test, frame);
    if (test instanceof Known) {
      const taken = test.value ? node.consequent : node.alternate;
      return taken != null && this.statement(taken, frame);
    }
    this.makeAssigned([node.consequent, node.alternate], frame);
    const [then, otherwise] = [branch(frame), branch(frame)];
    const ends = this.statement(node.consequent, then);
    const endsToo = node.alternate != null && this.statement(node.alternate, otherwise);
    if (then.lines.length + otherwise.lines.length === 0) this.effect(test, frame);
    else if (then.lines.length === 0)
      frame.lines.push({
        kind: "if",
        test: this.text(this.unary("!", test)),
        then: otherwise.lines,
        otherwise: [],
      });
    else
      frame.lines.push({ kind: "if", test: this.text(test), then: then.lines, otherwise: otherwise.lines });
    return ends && endsToo;
  }

  private each(node: Statement & { type: "ForOfStatement" }, frame: Frame): Ends {
    const list = known(this.value(node.right, frame)) as Iterable<unknown>;
    const pattern = node.left.type === "VariableDeclaration" ? node.left.declarations[0]!.id : undefined;
    if (pattern === undefined) throw new Unmakeable("a loop without a variable of its own");
    for (const item of list) {
      const inner = within(frame);
      this.bind(pattern, new Known(item), inner, true);
      if (this.statement(withoutContinue(node.body), inner)) return true;
    }
    return false;
  }

  private loop(node: Statement & { type: "ForStatement" | "WhileStatement" }, frame: Frame): Ends {
    const update = node.type === "ForStatement" ? node.update : null;
    const counts = node.type === "ForStatement" && this.counts(node, frame);
    if (counts) {
      const rolled = this.attempt(frame, () => this.unrolled(node, frame));
      if (rolled !== undefined) return rolled;
    }
    this.makeAssigned([node.test, update, node.body], frame);
    const inner = branch(frame);
    const test = node.test == null ? new Known(true) : this.value(node.test, inner);
    if (inner.lines.length > 0) throw new Unmakeable("statements stand in a loop's test");
    if (test instanceof Known && !test.value) return false;
    this.statement(node.body, inner);
    frame.lines.push({
      kind: "for",
      head: `; ${this.text(test)}; ${this.updateOf(update, inner)}`,
      body: inner.lines,
    });
    return false;
  }

  /** What a loop does after each turn, also after one that was cut short. */
  private updateOf(update: Expression | null | undefined, frame: Frame): string {
    if (update == null) return "";
    const own = branch(frame);
    const value = this.value(update, { ...own, depth: frame.depth });
    if (own.lines.length === 0) return this.text(value);
    return own.lines
      .map((line) => {
        if (line.kind !== "do") throw new Unmakeable("statements stand in a loop's update");
        return line.text;
      })
      .join(", ");
  }

  /** Whether a loop's own variables are known in each turn. */
  private counts(node: Statement & { type: "ForStatement" }, frame: Frame): boolean {
    if (node.init?.type !== "VariableDeclaration") return false;
    const inBody = assignedIn([node.body]);
    return node.init.declarations.every(({ id }) => {
      if (id.type !== "Identifier" || inBody.has(id.name)) return false;
      const variable = frame.scope.find(id.name)!;
      return !variable.isMade && variable.value instanceof Known;
    });
  }

  /** Turn after turn; where a test is computed, what follows stands within its branch. Throws where the turns cannot be counted. */
  private unrolled(node: Statement & { type: "ForStatement" }, outer: Frame): Ends {
    const body = withoutContinue(node.body);
    let frame = outer;
    let open = 0;
    for (let turn = 0; ; turn++) {
      const test = this.value(node.test!, frame);
      if (test instanceof Known && !test.value) return false;
      if (turn > MOST_TURNS || (!(test instanceof Known) && ++open > MOST_NESTED))
        throw new Unmakeable("a loop without a known end");
      if (!(test instanceof Known)) {
        if (open === 1) this.makeAssigned([node.body], frame);
        const inner = branch(frame);
        frame.lines.push({ kind: "if", test: this.text(test), then: inner.lines, otherwise: [] });
        frame = inner;
      }
      if (this.statement(body, frame)) return open === 0;
      this.step(node, outer, frame);
    }
  }

  /** The loop's own variables go on, at whatever depth the turn stands. */
  private step(node: Statement & { type: "ForStatement" }, outer: Frame, frame: Frame): void {
    if (node.update != null) this.value(node.update, { ...frame, depth: outer.depth, scope: outer.scope });
  }

  /** Tries a way of making code; where it cannot go that way, nothing has happened. */
  private attempt<T>(frame: Frame, way: () => T): T | undefined {
    const lines = frame.lines.length;
    const variables = frame.scope.all().map((variable) => ({ variable, was: { ...variable } }));
    try {
      return way();
    } catch (error) {
      if (!(error instanceof Unmakeable)) throw error;
      frame.lines.length = lines;
      for (const { variable, was } of variables) Object.assign(variable, was);
      return undefined;
    }
  }
}

/** Where it is asked whether there is one: an index outside the list is an answer, and not merely what never happens. */
function orNone(of: Value): Value {
  const isCertain = !(of instanceof Choice) || of.other != null || of.list.some((one) => one == null);
  return isCertain ? of : new Choice([...of.list, undefined], of.index, undefined);
}

/** What a rule may keep to work in, outside a seat's cells. */
const ARRAYS = new Map<string, Float64ArrayConstructor | Int32ArrayConstructor>([
  ["Float64Array", Float64Array],
  ["Int32Array", Int32Array],
]);

/** More comparisons than these are a table. */
const FEW = 3;

/** More turns than any list of rules has. */
const MOST_TURNS = 600;
/** Turns with a computed test are no more than these: each stands within the one before. */
const MOST_NESTED = 2;

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

class ClassName {
  constructor(readonly text: string) {}
}

function isInstance(value: unknown, className: string): boolean {
  if (!isObject(value)) return false;
  for (
    let proto = Object.getPrototypeOf(value) as object | null;
    proto !== null;
    proto = Object.getPrototypeOf(proto) as object | null
  )
    if (proto.constructor.name === className) return true;
  return false;
}

function known(value: Value): unknown {
  if (value instanceof Known) return value.value;
  throw new Unmakeable("something is computed that has to be known");
}

function isObject(value: unknown): value is object {
  return typeof value === "object" && value !== null;
}

/** Rules, or nothing: what is chosen by a number. */
function isThing(value: Value): boolean {
  if (value instanceof Choice) return value.list.some(isObject);
  return (
    value instanceof Known &&
    !(value.value instanceof AnySeat) &&
    (value.value == null || (isObject(value.value) && !ArrayBuffer.isView(value.value)))
  );
}

/** A list, also one that was written as an object with numbers for keys. */
function listIn(object: object): readonly unknown[] | undefined {
  if (Array.isArray(object)) return object;
  if (Object.getPrototypeOf(object) !== Object.prototype) return undefined;
  const keys = Object.keys(object);
  if (!keys.every((key) => /^\d+$/.test(key))) return undefined;
  const list: unknown[] = Array.from({ length: Math.max(...keys.map(Number)) + 1 });
  for (const key of keys) list[Number(key)] = (object as Record<string, unknown>)[key];
  return list;
}

function isSameList(a: readonly unknown[], b: readonly unknown[]): boolean {
  return a === b || (a.length === b.length && a.every((one, n) => one === b[n]));
}

/** The variables of its surroundings that a function within a method names. */
function seenBy({ node, scope }: Closure): [string, Variable][] {
  return [...namesIn(node)].flatMap((text): [string, Variable][] => {
    const found = scope?.find(text);
    return found === undefined ? [] : [[text, found]];
  });
}

/** Whether all that a function within a method sees is known. */
function isFixed(closure: Closure): boolean {
  return seenBy(closure).every(
    ([, { isMade, value }]) =>
      !isMade &&
      (value instanceof Known || (value instanceof Closure && value.node !== closure.node && isFixed(value))),
  );
}

/** What stands in the key of a function, and is no parameter. */
function isGiven(value: Value): boolean {
  return (
    value instanceof Known ||
    value instanceof Closure ||
    value instanceof Fields ||
    (value instanceof Code && (VIEWS.has(value.text) || value.text === "clock"))
  );
}

function within(frame: Frame): Frame {
  return { ...frame, scope: new Scope(frame.scope) };
}

function branch(frame: Frame): Frame {
  return { ...frame, scope: new Scope(frame.scope), lines: [], depth: frame.depth + 1 };
}

function* allLines(lines: readonly Line[]): Generator<Line> {
  for (const line of lines) {
    yield line;
    if (line.kind === "if") yield* allLines([...line.then, ...line.otherwise]);
    else if (line.kind === "for") yield* allLines(line.body);
    else if (line.kind === "switch") for (const { body } of line.cases) yield* allLines(body);
  }
}

/** A table as text; a power curve as the call that makes it. */
function tableText(list: object): string {
  const { power } = list as { readonly power?: number };
  if (power !== undefined) return `powerCurve(${power})`;
  const texts = Array.from(list as ArrayLike<unknown>, (one) =>
    typeof one === "string"
      ? JSON.stringify(one)
      : Object.is(one, -0)
        ? "-0"
        : one === undefined
          ? ""
          : String(one),
  );
  return ArrayBuffer.isView(list) ? `${list.constructor.name}.of(${texts.join()})` : `[${texts.join()}]`;
}

const NO_NODE = { params: [] } as unknown as FunctionNode;
const NO_MODULE: SourceModule = { file: "", text: "", names: new Map() };
const NOTHING: Made = {
  key: "",
  name: "",
  params: [],
  calls: [],
  lines: [],
  returns: null,
  list: null,
  hasEarlyReturn: false,
  isBusy: false,
};

export type { Frame };
