/**
 * Finds what in a plan's rules follows from a player's settings. In: the tables of the plan, and of the plans of players who have set something. Out: by
 * rule and field, how it follows from the checked plan; `null` if other rules would play. Pure.
 */
import { Cells } from "../engine/cells.js";
import { Compiler } from "../engine/compile.js";
import type { Tables } from "../engine/tables.js";
import { valueOf, type Formula } from "../made/formula.js";
import type { OpenSettings } from "../made/openSettings.js";
import type { CheckedPlan } from "../plan/checked.js";

/** A field that follows by a formula, or by none; or one of two rules, by a formula. */
export interface OpenField {
  readonly formula: Formula | undefined;
  readonly choice?: readonly [unknown, unknown];
}

export type OpenFields = ReadonlyMap<object, ReadonlyMap<string, OpenField>>;

const MEASURES = ["inner", "scale", "gain", "full"] as const;

export function openFields(base: Tables, others: readonly Tables[], open: OpenSettings): OpenFields | null {
  const walk = new Walk(Formulas.of([base.plan, ...others.map(({ plan }) => plan)], open));
  const isAlike = walk.visit(base, others);
  return isAlike && hasSameCells(base, others) ? walk.found : null;
}

/** Formulas that a setting may stand for, by what they give in each plan. */
class Formulas {
  private readonly byValues = new Map<string, Formula>();

  private constructor(
    private readonly plans: readonly CheckedPlan[],
    private readonly all: readonly Formula[],
  ) {
    for (const one of all) {
      const key = keyOf(plans.map((plan) => valueOf(plan, one)));
      if (!this.byValues.has(key)) this.byValues.set(key, one);
    }
  }

  /** Of some of the plans alone, which may tell less apart: what stands at this path is preferred. */
  where(isThere: (plan: number) => boolean, path: string): Formulas {
    return new Formulas(
      this.plans.filter((_, n) => isThere(n)),
      [...this.all.filter((one) => one[0] === path), ...this.all],
    );
  }

  static of(plans: readonly CheckedPlan[], { settings, felt }: OpenSettings): Formulas {
    const all: Formula[] = [];
    const paths = Object.values(settings).flatMap(([, ...paths]) => paths);
    const shapes = new Set(
      paths.map((path) => /^.*\.shape(?=\.)/.exec(path)?.[0]).filter((one) => one !== undefined),
    );
    for (const path of paths)
      if (path.endsWith(".style")) all.push([path, "latches"], [path, "style"]);
      else if (path.endsWith(".carry")) all.push([path, "is"]);
      else for (const by of [1, -1, 1000]) all.push([path, by]);
    for (const { at } of felt)
      if (at.endsWith(".shape")) shapes.add(at);
      else for (const way of ["X", "Y"]) for (const by of [1, -1]) all.push([`${at}.perPixel${way}`, by]);
    for (const shape of shapes) {
      for (const measure of MEASURES) all.push([shape, measure]);
      for (const way of ["X", "Y"]) for (const by of [1, -1]) all.push([`${shape}.invert${way}`, by]);
    }
    return new Formulas(plans, all);
  }

  /** What gives these values; also where they are cut at the largest. */
  find(values: readonly unknown[]): Formula | undefined {
    const found = this.byValues.get(keyOf(values));
    if (found !== undefined) return found;
    const most = Math.max(...(values as number[]));
    return this.all
      .filter(([, by]) => by === 1)
      .map(([path, by]): Formula => [path, by, most])
      .find((one) => keyOf(this.plans.map((plan) => valueOf(plan, one))) === keyOf(values));
  }
}

const keyOf = (values: readonly unknown[]) =>
  values
    .map((value) =>
      Object.is(value, -0) ? "-0" : String(typeof value === "boolean" ? Number(value) : value),
    )
    .join();

/** Goes through rules that are built alike. */
class Walk {
  readonly found = new Map<object, Map<string, OpenField>>();
  private readonly seen = new Set<object>();

  constructor(private readonly formulas: Formulas) {}

  /** False if they are built otherwise. */
  visit(one: object, others: readonly object[]): boolean {
    if (this.seen.has(one) || others.every((other) => other === one)) return true;
    this.seen.add(one);
    const proto: unknown = Object.getPrototypeOf(one);
    if (others.some((other) => Object.getPrototypeOf(other) !== proto)) return false;
    if (ArrayBuffer.isView(one)) return others.every((other) => String(other) === String(one));
    if (one instanceof Map || one instanceof Set)
      return this.visit(
        [...one],
        others.map((other) => [...(other as Set<unknown>)]),
      );
    const names = Object.keys(one);
    if (others.some((other) => Object.keys(other).join() !== names.join())) return false;
    return names.every((name) =>
      this.field(
        one,
        name,
        [one, ...others].map((object) => (object as Record<string, unknown>)[name]),
      ),
    );
  }

  private field(of: object, name: string, values: readonly unknown[]): boolean {
    const [one, ...others] = values;
    // The plan itself differs, and tells them apart.
    if ((of instanceof Compiler && (name === "plan" || name === "print")) || one instanceof Cells)
      return true;
    if (values.every(isRule)) return this.visit(one as object, others as object[]);
    if (values.every((value) => Object.is(value, one) || typeof value === "function")) return true;
    const known = this.found.get(of) ?? this.found.set(of, new Map()).get(of)!;
    if (!values.some(isRule)) {
      known.set(name, { formula: this.formulas.find(values) });
      return true;
    }
    // A rule, or none.
    const rule = values.find(isRule);
    const formula = this.formulas.find(values.map((value) => (isRule(value) ? 1 : 0)));
    if (formula === undefined || values.some((value) => value !== null && !isRule(value))) return false;
    known.set(name, { formula, choice: [null, rule] });
    const inner = new Walk(this.formulas.where((plan) => isRule(values[plan]), formula[0]));
    const [first, ...more] = values.filter(isRule);
    if (!inner.visit(first!, more)) return false;
    for (const [one, fields] of inner.found) this.found.set(one, fields);
    return true;
  }
}

const isRule = (value: unknown): value is object => typeof value === "object" && value !== null;

/** Whether a seat begins with the same cells, but for what tells the plans apart, and the styles, which are counted anew. */
function hasSameCells(base: Tables, others: readonly Tables[]): boolean {
  const bytesOf = ({ cells, printAt }: Tables) => {
    const bytes = cells.allocate();
    bytes.fill(0, printAt * 4, printAt * 4 + 4);
    for (const { name, at } of cells.all) if (name === "style") bytes[at] = 0;
    return bytes.join();
  };
  return others.every((other) => bytesOf(other) === bytesOf(base));
}
