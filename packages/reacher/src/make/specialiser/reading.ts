/** Reads fields of rules and cells of a seat: what a plan decides is known, the rest is code. In: values. Out: a value. */
import type { FunctionNode, Method, SourceModule } from "../source.js";
import type { Scope } from "../values.js";
import { Choice, Closure, Code, Fields, Known, name, Rank, UNDEFINED, type Value } from "../values.js";
import { Unmakeable, AnySeat, type Frame } from "./frames.js";
import { VIEWS, known, listIn } from "./kinds.js";
import { Texts } from "./texts.js";

export abstract class Reading extends Texts {
  protected abstract call(
    node: FunctionNode,
    module: SourceModule,
    scope: Scope | null,
    self: Value,
    args: readonly Value[],
    frame: Frame,
    isStatement: boolean,
    base: string,
  ): Value;

  protected get(of: Value, key: Value, frame: Frame): Value {
    if (of instanceof Fields) return of.all.get(String(known(key))) ?? UNDEFINED;
    if (of instanceof Known) return this.getOfKnown(of, key, frame);
    if (of instanceof Choice) return this.getOfChoice(of, key, frame);
    if (of instanceof Closure) throw new Unmakeable("a function has no fields");
    if (VIEWS.has(of.text)) return this.cell(of.text, key);
    if (key instanceof Known && typeof key.value === "string")
      return new Code(`${of.in(Rank.Primary)}.${key.value}`, Rank.Primary, true);
    return new Code(`${of.in(Rank.Primary)}[${this.text(key)}]`, Rank.Primary, true);
  }

  protected getOfKnown(of: Known, key: Value, frame: Frame): Value {
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
    const open = this.around.openField(object, field);
    if (open !== undefined) return open;
    const id = `${this.id(object)}.${field}`;
    const variable = this.variables.get(id);
    if (variable !== undefined) return new Code(variable.name, Rank.Primary, true);
    const getter = this.getterOf(object, field);
    if (getter !== undefined)
      return this.call(getter.node, getter.module, null, of, [], frame, false, getter.name);
    this.met.note("fields", id);
    return new Known((object as never)[field]);
  }

  protected getterOf(object: object, field: string): Method | undefined {
    for (let at: object | null = object; at !== null; at = Object.getPrototypeOf(at) as object | null) {
      const found = Object.getOwnPropertyDescriptor(at, field);
      if (found === undefined) continue;
      return found.get === undefined ? undefined : this.around.sources.methodOf(object, field, "get");
    }
    return undefined;
  }

  protected getOfChoice(of: Choice, key: Value, frame: Frame): Value {
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
    const open = this.openOfChoice(of, new Known(known(key)), frame);
    if (open !== undefined) return open;
    return this.simplest(
      new Choice(
        of.list.map((one) => (one == null ? undefined : partOf(one, key))),
        of.index,
        of.other == null ? undefined : partOf(of.other, key),
      ),
    );
  }

  /** A number of each, some of which follow from settings. */
  private openOfChoice({ list, index }: Choice, key: Known, frame: Frame): Value | undefined {
    const isOpen = (one: unknown) =>
      typeof one === "object" &&
      one !== null &&
      this.around.openField(one, String(key.value)) instanceof Code;
    if (!list.some(isOpen)) return undefined;
    if (!index.isPure) throw new Unmakeable("an open number of something computed");
    const texts = list.map((one) => this.text(this.get(new Known(one), key, frame), Rank.Or));
    const chosen = texts.reduceRight(
      (rest, text, n) => `${index.in(Rank.Equality)} === ${n} ? ${text} : ${rest}`,
    );
    return new Code(chosen, list.length > 1 ? Rank.Conditional : Rank.Primary, true);
  }

  /** A choice among equal things is no choice: what is not there has no fields. */
  protected simplest(choice: Choice): Value {
    const { list } = choice;
    const isSame = list.length > 0 && list.every((one) => Object.is(one, list[0]));
    return isSame && (choice.other === undefined || Object.is(choice.other, list[0]))
      ? new Known(list[0])
      : choice;
  }

  protected seatField(field: string): Value {
    if (VIEWS.has(field) || field === "clock") return name(field);
    return new Code(`s.${field}`, Rank.Primary, true);
  }

  protected cell(view: string, key: Value): Value {
    if (!(key instanceof Known)) return new Code(`${view}[${this.text(key)}]`, Rank.Primary, true);
    if (typeof key.value === "string") return new Code(`${view}.${key.value}`, Rank.Primary, true);
    const at = key.value as number;
    if (!(at >= 0)) throw new Unmakeable(`the cell ${view}[${at}]`);
    const constant = this.constants.get(view + at);
    if (constant !== undefined) return new Known(constant);
    this.met.note("reads", view + at);
    return new Code(`${view}[${at}]`, Rank.Primary, true);
  }

  /** Notes that a cell is written. False if it is a constant and keeps its value. */
  protected writesTo(cell: string, value: Value | undefined): boolean {
    if (!(value instanceof Known) || !Object.is(value.value, this.around.initial(cell))) {
      this.met.note("writes", cell);
      return true;
    }
    this.met.note("restarts", cell);
    return !this.constants.has(cell);
  }
}
