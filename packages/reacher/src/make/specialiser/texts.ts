/** What is known, as text: values, constant tables and names. In: values. Out: JavaScript. May change: the tables and names of what is made. */
import { originsOf, render, withoutUnused, type Line } from "../lines.js";
import type { Origin } from "../source.js";
import { Choice, Closure, Code, Fields, Known, name, Rank, type Value } from "../values.js";
import { AnySeat, Met, Unmakeable, type Made, type Surroundings } from "./frames.js";
import { Kept } from "./kept.js";
import { isObject } from "./kinds.js";

/** More comparisons than these are a table. */
const FEW = 3;

export abstract class Texts {
  /** Fields of rules that their methods assign, which are variables of the made code. */
  readonly variables = new Map<string, { readonly name: string; readonly initial: unknown }>();
  /** Arrays that methods write. */
  readonly writtenArrays = new Set<object>();
  readonly tables = new Map<string, string>();
  readonly constants = new Map<string, number>();
  readonly onlyOnce = new Set<string>();
  made = new Map<string, Made>();
  /** Whether something was met that changes what was made before. */
  isStale = false;
  /** What the function that is being made has met. */
  met = new Met();
  /** What was made before, and is as it would be made now. */
  protected kept = new Kept();
  private counter: number;
  /** Of what is made to its end: the lines without those that nothing needs. */
  private readonly used = new WeakMap<Made, readonly Line[]>();
  private readonly ids = new Map<unknown, number>();
  private readonly tableNames = new Map<string, string>();

  /** `firstName`: names are numbered from there. */
  constructor(
    protected readonly around: Surroundings,
    firstName: number,
  ) {
    this.counter = firstName;
  }

  /** Begins anew, with what is known by now. */
  begin(): void {
    this.kept.keep(this.made);
    this.made = new Map();
    this.isStale = false;
  }

  /** From now on a cell is a constant. */
  fold(cell: string, value: number): void {
    this.constants.set(cell, value);
    this.kept.news.note("reads", cell);
  }

  /** From now on a function stands where it is called. */
  inline(key: string): void {
    this.onlyOnce.add(key);
    this.kept.news.note("made", key);
  }

  /** What all functions have met. */
  whole(): Met {
    const whole = new Met();
    for (const { met } of this.made.values()) whole.add(met);
    return whole;
  }

  newName(base: string): string {
    return `${base.replace(/\W/g, "")}$${++this.counter}`;
  }

  textOfReturn(made: Made): (value: Value) => string {
    return (value) => (made.returns === null ? this.lift(value).text : "");
  }

  bodyOf(made: Made): string {
    return render(this.linesOf(made), this.textOfReturn(made), "  ");
  }

  private linesOf(made: Made): readonly Line[] {
    const known = this.used.get(made);
    if (known !== undefined) return known;
    const lines = withoutUnused(made.lines, this.textOfReturn(made));
    if (!made.isBusy) this.used.set(made, lines);
    return lines;
  }

  /** Where each line of its body comes from. */
  originsIn(made: Made): readonly (Origin | undefined)[] {
    return originsOf(this.linesOf(made));
  }

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

  protected liftChoice({ list, index, other }: Choice): Code {
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
      if (other === null && list.every((one) => one !== undefined))
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
  protected table(list: object): string {
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

  protected id(value: unknown): string {
    if (!isObject(value)) return Object.is(value, -0) ? "-0" : `${typeof value} ${String(value)}`;
    let id = this.ids.get(value);
    if (id === undefined) this.ids.set(value, (id = this.ids.size));
    return `#${id}`;
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
