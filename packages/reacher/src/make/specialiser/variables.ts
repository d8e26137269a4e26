/** Variables of a method, while it is known what they hold and when they become variables of the code. May change: the variables of a frame. */
import type { Expression, MemberExpression, Node, Pattern } from "acorn";
import { assignedIn } from "../analysis.js";
import {} from "../source.js";
import { Choice, Closure, Code, Fields, Known, name, Rank, type Value, type Variable } from "../values.js";
import { Unmakeable, AnySeat, type Frame } from "./frames.js";
import { VIEWS, known, isObject, isSameList } from "./kinds.js";
import { Operators } from "./operators.js";

export abstract class Variables extends Operators {
  protected abstract keyOf(node: MemberExpression, frame: Frame): Value;
  protected abstract heldBy(variable: Variable): Value;

  protected assign(node: Expression & { type: "AssignmentExpression" }, frame: Frame): Value {
    const { left, operator } = node;
    const arithmetic = operator.slice(0, -1);
    if (left.type === "Identifier") {
      const variable = frame.scope.find(left.name)!;
      const isLogical = ["||", "&&", "??"].includes(arithmetic);
      const value = isLogical
        ? this.logical(arithmetic, this.heldBy(variable), node.right, frame)
        : this.value(node.right, frame);
      this.setVariable(
        variable,
        operator === "=" || isLogical ? value : this.binary(arithmetic, this.heldBy(variable), value),
        frame,
      );
      return this.heldBy(variable);
    }
    if (left.type !== "MemberExpression") throw new Unmakeable("a pattern is assigned");
    const place = this.placeOf(left, frame, operator !== "=");
    const value = this.value(node.right, frame);
    if (place.cell !== null && !this.writesTo(place.cell, operator === "=" ? value : undefined)) return value;
    return new Code(`${place.text} ${operator} ${this.text(value)}`, Rank.Assignment);
  }

  protected update(node: Expression & { type: "UpdateExpression" }, frame: Frame): Value {
    const { argument, operator, prefix } = node;
    if (argument.type === "Identifier") {
      const variable = frame.scope.find(argument.name)!;
      const before = this.heldBy(variable);
      if (before instanceof Known && frame.depth === variable.depth) {
        const after = new Known((before.value as number) + (operator === "++" ? 1 : -1));
        this.setVariable(variable, after, frame);
        return prefix ? after : before;
      }
      return new Code(prefix ? operator + variable.name : variable.name + operator, Rank.Unary);
    }
    const { text, cell } = this.placeOf(argument as MemberExpression, frame, true);
    if (cell !== null) this.met.note("writes", cell);
    return new Code(prefix ? operator + text : text + operator, Rank.Unary);
  }

  /** What an assignment writes to: its text, and the cell if that is known. */
  protected placeOf(
    node: MemberExpression,
    frame: Frame,
    isRead: boolean,
  ): { readonly text: string; readonly cell: string | null } {
    const of = this.value(node.object as Expression, frame);
    const key = this.keyOf(node, frame);
    if (of instanceof Code) {
      const text = `${of.in(Rank.Primary)}[${this.text(key)}]`;
      if (!VIEWS.has(of.text)) return { text, cell: null };
      if (!(key instanceof Known)) {
        this.met.note("wild", of.text);
        return { text, cell: null };
      }
      const cell = `${of.text}${String(key.value)}`;
      if (isRead) this.met.note("reads", cell);
      return { text, cell };
    }
    return { text: this.fieldPlace(of, key), cell: null };
  }

  private fieldPlace(of: Value, key: Value): string {
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
      this.kept.news.note("fields", id);
    }
    return this.variables.get(id)!.name;
  }

  protected noteWritten(array: object): void {
    if (this.writtenArrays.has(array)) return;
    this.writtenArrays.add(array);
    this.isStale = true;
    this.kept.none();
  }

  protected setVariable(variable: Variable, value: Value, frame: Frame): void {
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

  protected noteList(variable: Variable, value: Value): void {
    const isThingOf = value instanceof Choice && value.list.some(isObject);
    if (!isThingOf) return;
    if (variable.list !== undefined && !isSameList(variable.list, value.list))
      throw new Unmakeable("two kinds of choice in one variable");
    variable.list = value.list;
    variable.other = value.other;
  }

  /** A thing as its index in the list of a variable. */
  protected indexIn({ list }: Pick<Variable, "list">, value: Value): Code {
    if (value instanceof Choice) return value.index;
    const thing = known(value);
    if (thing == null) return new Code("-1", Rank.Unary, true, true);
    const at = list!.indexOf(thing);
    if (at < 0) throw new Unmakeable("a thing that is none of the choice");
    return name(String(at));
  }

  /** What a branch assigns has to be a variable of the code from here on. */
  protected makeAssigned(nodes: readonly (Node | null | undefined)[], frame: Frame): void {
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

  protected declare(text: string, value: Value, frame: Frame, isConst: boolean): void {
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

  protected bind(pattern: Pattern, value: Value, frame: Frame, isConst: boolean): void {
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
}
