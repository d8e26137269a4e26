/**
 * A plan while it is read: what all of its parts ask for, and the list of what is wrong. In: names as a plan has them. Out: controls,
 * sources, words; `undefined` where a name means nothing. May change: the findings, and the slots of a plan that declares none.
 */
import { allControls, findControl, type Control } from "../../controls/catalogue.js";
import { didYouMean } from "../../controls/nearest.js";
import type { Source, Word } from "../checked.js";
import { finding, type Finding } from "../findings.js";
import type { Direction, Kind, Plan } from "../types.js";

/** Analog controls count as pressed from here ... */
export const PRESS = 0.5;
/** ... and as released below here, so that a trembling trigger is one press. */
export const RELEASE = 0.4;

/** The directions of a vector. */
export const EACH: readonly Direction[] = ["up", "left", "down", "right"];

/** An entry with its slot, its place in the plan and its address. */
interface FoundEntry<T> {
  readonly slot: string;
  readonly entry: T;
  readonly place: string;
  readonly address: string;
}

export class Reader {
  readonly findings: Finding[] = [];
  readonly slots: Map<
    string,
    { name: string; label: string; device: "keyboard" | "mouse" | "pad" | undefined }
  >;
  /** Flags, and actions that are so or not so: what `needs` and the rules of a pace may name. */
  private readonly facts: Set<string>;

  constructor(readonly plan: Plan) {
    this.slots = new Map(
      Object.entries(plan.slots ?? {}).map(([name, slot]) => [
        name,
        { name, label: slot.label ?? name, device: slot.device },
      ]),
    );
    const told = Object.entries(plan.actions).filter(([, { kind }]) => kind !== "turn");
    this.facts = new Set([...Object.keys(plan.flags ?? {}), ...told.map(([name]) => name)]);
  }

  /** A control as pressed or released, or a direction of a vector. */
  source(name: string, place: string): Source | undefined {
    const [action, end, ...rest] = name.split(".");
    if (end === undefined) {
      const control = this.control(name, place, "switch");
      return control && { name, control, press: PRESS, release: RELEASE };
    }
    const vector = Object.hasOwn(this.plan.actions, action!) ? this.plan.actions[action!] : undefined;
    if (vector?.kind !== "vector" || rest.length > 0) {
      const vectors = Object.entries(this.plan.actions).flatMap(([known, { kind }]) =>
        kind === "vector" ? [known] : [],
      );
      this.report(
        "unknown-source",
        place,
        `${JSON.stringify(action)} is no vector${didYouMean(action!, vectors)}`,
      );
      return undefined;
    }
    if (EACH.includes(end as Direction)) return { name, action: action!, end: end as Direction };
    const mend = end === "each" ? "; each is for taps alone" : didYouMean(end, EACH);
    this.report(
      "unknown-source",
      place,
      `${JSON.stringify(end)} is no direction: up, left, down or right${mend}`,
    );
    return undefined;
  }

  modeNames(names: readonly string[], place: string): readonly string[] {
    const modes = Object.keys(this.plan.modes ?? {});
    names.forEach((name, n) => {
      if (!modes.includes(name))
        this.report(
          "unknown-mode",
          `${place}.${n}`,
          `there is no mode ${JSON.stringify(name)}${didYouMean(name, modes)}`,
        );
    });
    return names;
  }

  /** The entries of an action, each with its address; slots not declared are reported, or made where the plan declares none. */
  entries<T>(action: string, from: Readonly<Record<string, T | readonly T[]>>): FoundEntry<T>[] {
    return Object.entries(from).flatMap(([slot, given]) => {
      const place = `actions.${action}.from.${slot}`;
      if (!this.slots.has(slot)) {
        if (this.plan.slots !== undefined) {
          this.report(
            "unknown-slot",
            place,
            `there is no slot ${slot}${didYouMean(slot, this.slots.keys())}`,
          );
          return [];
        }
        this.slots.set(slot, { name: slot, label: slot, device: undefined });
      }
      const address = `${action}.${slot}`;
      if (!Array.isArray(given)) return [{ slot, entry: given as T, place, address }];
      return (given as readonly T[]).map((entry, n) => ({
        slot,
        entry,
        place: `${place}.${n}`,
        address: n === 0 ? address : `${address}.${n}`,
      }));
    });
  }

  known(source: string, place: string): Control | undefined {
    const control = findControl(source);
    if (control !== undefined) return control;
    const shown = source.length > 60 ? source.slice(0, 60) + "..." : source;
    const names = allControls().map((known) => known.name);
    this.report(
      "unknown-control",
      place,
      `${JSON.stringify(shown)} is no control${didYouMean(source, names)}`,
    );
    return undefined;
  }

  control(source: string, place: string, use: Use): Control | undefined {
    const control = this.known(source, place);
    if (control === undefined) return undefined;
    const fault = misfit(control, use);
    if (fault === undefined) return control;
    this.report("wrong-control", place, fault);
    return undefined;
  }

  words(when: string | readonly string[], place: string): Word[] {
    return (typeof when === "string" ? [when] : when).map((word) => {
      const not = word.startsWith("not ");
      const name = not ? word.slice(4).trim() : word;
      if (!this.facts.has(name)) {
        this.report(
          "unknown-word",
          place,
          `${JSON.stringify(name)} is neither a flag nor an action${didYouMean(name, this.facts)}`,
        );
      }
      return { name, not };
    });
  }

  report(id: Finding["id"], place: string, message: string): void {
    this.findings.push(finding(id, place, message));
  }
}

/** What a control is to serve. */
type Use = Kind | "end";

/** Why this control cannot serve this use, or `undefined` where it can. */
function misfit(control: Control, use: Use): string | undefined {
  const { name, family } = control;
  if (use === "turn") {
    if (name === "MouseMove" || family === "stick") return undefined;
    return `${name} is neither a stick nor MouseMove; a turn takes these`;
  }
  if (family === "motion") return `${name} is a movement of the mouse; a turn takes it, as MouseMove`;
  if (use === "vector") {
    if (family === "stick" || family === "dpad") return undefined;
    return `${name} is one control; a vector takes a stick, or a control for each of up, left, down and right`;
  }
  if (use === "axis") {
    if (family === "axis" || family === "trigger") return undefined;
    if (family === "half")
      return `${name} is one side of ${control.parts[0]}; an axis takes that, or the side as an end: { "plus": "${name}" }`;
    if (family === "stick") return `${name} is a stick; an axis takes one of its axes: ${name}X or ${name}Y`;
    return `${name} is a button; an axis takes it as an end: { "plus": "${name}" }`;
  }
  if (family === "stick" || family === "dpad") return `${name} has four directions; take one: ${name}Up`;
  if (family === "axis" && !/^PadAxis/.test(name)) {
    const sides = name.endsWith("X") ? ["Left", "Right"] : ["Up", "Down"];
    return `${name} is an axis; take one side: ${sides.map((side) => name.slice(0, -1) + side).join(" or ")}`;
  }
  return undefined;
}
