/**
 * The context of reading a plan: look-ups for all of its parts, and the list of findings. In: names as a plan has them. Out: controls,
 * sources, conditions; `undefined` where a name means nothing. May change: the findings, and the slots of a plan that declares none.
 */
import type { Control } from "../../controls/catalogue.js";
import { Controls, NO_OWN } from "../../controls/ownControls.js";
import { didYouMeanControl } from "../../controls/meant.js";
import { didYouMean } from "../../controls/nearest.js";
import type { ResultSource, Sector, Source, Word } from "../checked.js";
import { finding, type Finding, type Report } from "../findings.js";
import { checkDevice, readOwnControls } from "./ownControls.js";
import type { AxisFields, Direction, Kind, Plan, SourceFields, TimedWord, VectorFields } from "../types.js";
import { DIAGONALS, isDiagonal } from "../ways.js";
import { readThreshold } from "./shapes.js";

/** The ends of an axis that does not name them. */
export const AXIS_ENDS: readonly string[] = ["minus", "plus"];
/** Where the ends of an axis lead. */
const AXIS_WAYS: readonly Direction[] = ["left", "right"];

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
  readonly slots: Map<string, { name: string; label: string; device: string | undefined }>;
  /** All controls that the plan may name: the catalogue, and its own. */
  readonly controls: Controls;
  /** Conditions: flags and actions, which `needs` and the rules of a pace may name. */
  private readonly conditions: ReadonlySet<string>;
  private readonly movements: readonly string[];
  private readonly found = new Map<string, unknown>();
  private suggestions = 0;

  constructor(
    readonly plan: Plan,
    /** Whether it has a player's changes. */
    private readonly isPlayers = false,
  ) {
    this.slots = new Map(
      Object.entries(plan.slots ?? {}).map(([name, slot]) => [
        name,
        { name, label: slot.label ?? name, device: slot.device },
      ]),
    );
    const report: Report = (id, place, message) => this.report(id, place, message);
    this.controls = plan.controls === undefined ? NO_OWN : new Controls(readOwnControls(plan, report));
    for (const { name, device } of this.slots.values())
      checkDevice(device, this.controls.devices, `slots.${name}.device`, report);
    const actions = Object.entries(plan.actions);
    const told = actions.filter(([, { kind }]) => kind !== "turn");
    this.conditions = new Set([...Object.keys(plan.flags ?? {}), ...told.map(([name]) => name)]);
    this.movements = actions
      .filter(([, { kind }]) => kind === "vector" || kind === "axis")
      .map(([name]) => name);
  }

  /** `; did you mean X?`. Only for the first wrong names: guesses are slow, and nobody reads a thousand of them. */
  private didYouMean(word: string, known: Iterable<string>): string {
    return this.suggestions++ < MOST_SUGGESTIONS ? didYouMean(word, known) : "";
  }

  /** What is found out about the whole plan only where somebody asks, and once. */
  once<T>(name: string, find: (reader: Reader) => T): T {
    if (!this.found.has(name)) this.found.set(name, find(this));
    return this.found.get(name) as T;
  }

  /** A control as pressed or released; a direction or the length of an axis or a vector. Looked up in this order. */
  source(given: string | SourceFields, place: string): Source | undefined {
    const { use: name, threshold, result } = typeof given === "string" ? { use: given } : given;
    const at = typeof given === "string" ? place : `${place}.use`;
    const [action, way, ...rest] = name.split(".");
    const isWhole =
      way === undefined && this.controls.find(name) === undefined && Object.hasOwn(this.plan.actions, name);
    if (way === undefined && !isWhole) {
      const control = this.control(name, at, "switch");
      if (control === undefined) return undefined;
      if (result !== undefined)
        this.report("wrong-value", `${place}.result`, `${name} is a control; result is for directions`);
      return { name, control, ...readThreshold(this, threshold, control, place) };
    }
    const ends = this.endsOf(action!);
    if (ends === undefined || rest.length > 0) {
      this.report(
        "unknown-source",
        at,
        `${JSON.stringify(action)} is neither a vector nor an axis${this.didYouMean(action!, this.movements)}`,
      );
      return undefined;
    }
    const kind = this.resultOf(action!, way, result, place);
    const toward = way === undefined ? "up" : this.sectorOf(action!, way);
    if (toward === undefined) return this.noDirection(ends, way!, at);
    if (kind === undefined) {
      if (threshold !== undefined)
        this.report(
          "threshold-none",
          `${place}.threshold`,
          "a direction is pressed where its controls are; with result it has a threshold of its own",
        );
      return { name, action: action!, end: toward as Direction };
    }
    return {
      name,
      action: action!,
      result: kind,
      way: toward,
      ...readThreshold(this, threshold, undefined, place),
    };
  }

  /** What a source of a movement measures; `undefined` where it is a raw direction. */
  private resultOf(
    action: string,
    way: string | undefined,
    result: true | "sector" | undefined,
    place: string,
  ): ResultSource["result"] | undefined {
    if (way === undefined) {
      if (result === "sector")
        this.report("wrong-value", `${place}.result`, `${action} is no direction; take one of it`);
      return "length";
    }
    if (!isDiagonal(way)) return result === true ? "component" : result;
    if ((this.plan.actions[action] as VectorFields).directions === 4)
      this.report("unknown-source", place, `with 4 directions ${action} never goes ${way}`);
    return "sector";
  }

  private noDirection(ends: readonly string[], way: string, at: string): undefined {
    const known = ends === EACH ? [...ends, ...Object.keys(DIAGONALS)] : ends;
    const fix = way === "each" ? "; each is for taps alone" : didYouMean(way, known);
    const all = `${ends.slice(0, -1).join(", ")} or ${ends.at(-1)}`;
    this.report("unknown-source", at, `${JSON.stringify(way)} is no direction: ${all}${fix}`);
  }

  /** The direction or the diagonal of this name; `undefined` if there is none. */
  private sectorOf(action: string, way: string): Sector | undefined {
    return this.endsOf(action) === EACH && isDiagonal(way) ? way : this.wayOf(action, way);
  }

  /** The names of a movement's ends; `undefined` if it is not a movement. */
  endsOf(action: string): readonly string[] | undefined {
    const found = Object.hasOwn(this.plan.actions, action) ? this.plan.actions[action] : undefined;
    if (found?.kind === "vector") return EACH;
    return found?.kind === "axis" ? ((found as AxisFields).ends ?? AXIS_ENDS) : undefined;
  }

  /** The direction of the end with this name; `undefined` if there is none. */
  wayOf(action: string, end: string): Direction | undefined {
    const ends = this.endsOf(action)!;
    return (ends === EACH ? EACH : AXIS_WAYS)[ends.indexOf(end)];
  }

  /** Whether any slot of a vector has a stick. With a player's changes that is up to the player. */
  hasStick(action: string): boolean {
    if (this.isPlayers) return true;
    const { from } = this.plan.actions[action] as VectorFields;
    const entries = Object.values(from).flat() as readonly (string | { readonly use?: string })[];
    const used = entries.map((entry) => (typeof entry === "string" ? entry : entry.use));
    return used.some(
      (name) => name !== undefined && /^(stick|axis)$/.test(this.controls.find(name)?.family ?? ""),
    );
  }

  modeNames(names: readonly string[], place: string): readonly string[] {
    const modes = Object.keys(this.plan.modes ?? {});
    names.forEach((name, n) => {
      if (!modes.includes(name))
        this.report(
          "unknown-mode",
          `${place}.${n}`,
          `there is no mode ${JSON.stringify(name)}${this.didYouMean(name, modes)}`,
        );
    });
    return names;
  }

  /** The entries of an action, each with its address; undeclared slots are reported, or created if the plan declares none. */
  entries<T>(action: string, from: Readonly<Record<string, T | readonly T[]>>): FoundEntry<T>[] {
    return Object.entries(from).flatMap(([slot, given]) => {
      const place = `actions.${action}.from.${slot}`;
      if (!this.slots.has(slot)) {
        if (this.plan.slots !== undefined) {
          this.report(
            "unknown-slot",
            place,
            `there is no slot ${slot}${this.didYouMean(slot, this.slots.keys())}`,
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
    const control = this.controls.find(source);
    if (control !== undefined) return control;
    const shown = source.length > 60 ? source.slice(0, 60) + "..." : source;
    const { names } = this.controls;
    const meant = () => (names.length > 0 && didYouMean(source, names)) || didYouMeanControl(source);
    const fix = this.suggestions++ < MOST_SUGGESTIONS ? meant() : "";
    this.report("unknown-control", place, `${JSON.stringify(shown)} is no control${fix}`);
    return undefined;
  }

  control(source: string, place: string, use: Use): Control | undefined {
    const control = this.known(source, place);
    if (control === undefined) return undefined;
    const fault = misfit(control, use, this.controls);
    if (fault === undefined) return control;
    this.report("wrong-control", place, fault);
    return undefined;
  }

  words(when: string | TimedWord | readonly (string | TimedWord)[], place: string): Word[] {
    return [when].flat().map((given: string | TimedWord) => {
      const { is: word, forMs } = typeof given === "string" ? { is: given } : given;
      const not = word.startsWith("not ");
      const name = not ? word.slice(4).trim() : word;
      const of = name.includes(".") ? this.directionWord(name, place) : undefined;
      if (of === undefined && !this.conditions.has(name) && !name.includes("."))
        this.report(
          "unknown-word",
          place,
          `${JSON.stringify(name)} is neither a flag nor an action${this.didYouMean(name, this.conditions)}`,
        );
      return { name, not, ...(forMs !== undefined && { forMs }), ...(of && { of }) };
    });
  }

  /** A direction of an axis or a vector as a condition: what comes out. */
  private directionWord(name: string, place: string): ResultSource | undefined {
    const of = this.source({ use: name, result: true }, place);
    return of !== undefined && "result" in of ? of : undefined;
  }

  /** Names of flags. */
  flags(names: string | readonly string[], place: string): readonly string[] {
    const known = Object.keys(this.plan.flags ?? {});
    const all = typeof names === "string" ? [names] : names;
    all.forEach((name, n) => {
      if (!known.includes(name))
        this.report(
          "unknown-word",
          typeof names === "string" ? place : `${place}.${n}`,
          `${JSON.stringify(name)} is no flag${this.didYouMean(name, known)}`,
        );
    });
    return all;
  }

  /** A number, or the name of one. */
  amount(given: number | string | undefined, place: string): void {
    const known = Object.keys(this.plan.numbers ?? {});
    if (typeof given !== "string" || known.includes(given)) return;
    this.report(
      "unknown-word",
      place,
      `${JSON.stringify(given)} is none of the plan's numbers${this.didYouMean(given, known)}`,
    );
  }

  report(id: Finding["id"], place: string, message: string): void {
    this.findings.push(finding(id, place, message));
  }
}

/** More guesses than anybody reads. */
const MOST_SUGGESTIONS = 20;

/** The use of a control. */
type Use = Kind | "end";

/** Why this control does not suit this use, or `undefined` if it does. */
function misfit(control: Control, use: Use, controls: Controls): string | undefined {
  const { name, family } = control;
  const isOwn = controls.ownOf(name) !== undefined;
  if (use === "turn") {
    if (family === "stick" || (family === "motion" && control.parts.length === 2)) return undefined;
    return `${name} is neither a stick nor MouseMove${controls.own.length > 0 ? " nor an own amount" : ""}; a turn takes these`;
  }
  if (family === "motion" && isOwn)
    return `${name} is an amount, which adds up; a turn takes it whole, with perUnit`;
  if (family === "motion") return `${name} is a movement of the mouse; a turn takes it, as MouseMove`;
  if (family === "pointer") {
    if (use === "vector" && control.parts.length === 2) return undefined;
    return `${name} is where the pointer is; a vector takes it, as MousePoint`;
  }
  if (use === "vector") {
    if (family === "stick" || family === "dpad") return undefined;
    return `${name} is one control; a vector takes a stick, or a control for each of up, left, down and right`;
  }
  if (use === "axis") {
    if (family === "axis" || family === "trigger" || family === "dpadAxis") return undefined;
    if (family === "dpad")
      return `${name} has four directions; an axis takes two of them: PadDpadX or PadDpadY`;
    if (family === "half")
      return `${name} is one side of ${control.parts[0]}; an axis takes that, or the side as an end: { "plus": "${name}" }`;
    if (family === "stick") return `${name} is a stick; an axis takes one of its axes: ${name}X or ${name}Y`;
    return `${name} is a button; an axis takes it as an end: { "plus": "${name}" }`;
  }
  if (family === "dpadAxis") return `${name} is two buttons; take one: ${control.parts.join(" or ")}`;
  if (family === "stick" || family === "dpad") return `${name} has four directions; take one: ${name}Up`;
  if (family === "axis" && !/^PadAxis/.test(name) && controls.ownOf(name)?.name !== name) {
    const sides = name.endsWith("X") ? ["Left", "Right"] : ["Up", "Down"];
    return `${name} is an axis; take one side: ${sides.map((side) => name.slice(0, -1) + side).join(" or ")}`;
  }
  return undefined;
}
