/**
 * Reads a plan: anything in, a checked plan or the list of what is wrong out. Nothing is half read.
 */
import * as v from "valibot";
import { allControls, findControl, type Control } from "../controls/catalogue.js";
import { didYouMean } from "../controls/nearest.js";
import type {
  CheckedAction,
  CheckedEnd,
  CheckedEntry,
  CheckedMovement,
  CheckedPace,
  CheckedPlan,
  CheckedShape,
  CheckedStick,
  CheckedSwitch,
  CheckedTurn,
  Source,
  Word,
} from "./checked.js";
import { finding, PlanError, type Finding } from "./findings.js";
import { nameFault } from "./names.js";
import { planSchema } from "./schema.js";
import { schemaFindings } from "./schemaFindings.js";
import type {
  AxisFields,
  Curve,
  Direction,
  EndEntry,
  Kind,
  Kinds,
  MovementFields,
  Plan,
  Shape,
  SwitchEntry,
  SwitchFields,
  Threshold,
  TurnEntry,
  TurnFields,
  UsedEnd,
  VectorEntry,
  VectorFields,
} from "./types.js";

/** Analog controls count as pressed from here ... */
export const PRESS = 0.5;
/** ... and as released below here, so that a trembling trigger is one press. */
export const RELEASE = 0.4;

/** Where only the press is given. */
const RELEASE_SHARE = RELEASE / PRESS;

/** The default of an ease. */
const EASE = { riseMs: 90, fallMs: 60 };

/** The one seat of a plan that names none. */
export const SOLO = "solo";

const DEFAULT_ZONE = { trigger: { inner: 0.05, outer: 0.02 }, stick: { inner: 0.12, outer: 0.04 } };

const EACH: readonly Direction[] = ["up", "left", "down", "right"];
const LONG_MS = 400;

/** An entry with its slot, its place in the plan and its address. */
interface Placed<T> {
  readonly slot: string;
  readonly entry: T;
  readonly place: string;
  readonly address: string;
}

/** What reading a plan gives: the plan, or why it cannot run. */
export type PlanReading =
  | { readonly ok: true; readonly plan: CheckedPlan }
  | { readonly ok: false; readonly findings: readonly Finding[] };

/**
 * Reads a plan from outside (parsed JSON, say) and types it.
 * @throws PlanError naming each place, what is wrong there and the likely mend
 */
export function parsePlan<K extends Kinds = Kinds, F extends string = string>(raw: unknown): Plan<K, F> {
  checkedPlan(raw);
  return raw as Plan<K, F>;
}

/** The checked form of a plan. @throws PlanError */
export function checkedPlan(raw: unknown): CheckedPlan {
  const read = readPlan(raw);
  if (!read.ok) throw new PlanError(read.findings);
  return read.plan;
}

/** Reads a plan without throwing. */
export function readPlan(raw: unknown): PlanReading {
  if (typeof raw !== "object" || raw === null || Array.isArray(raw)) {
    const what = Array.isArray(raw) ? "a list" : raw === null ? "null" : typeof raw;
    return {
      ok: false,
      findings: [
        finding("not-a-plan", "", `a plan is an object with "reacherPlan" and "actions", not ${what}`),
      ],
    };
  }
  const named = badNames(raw as Record<string, unknown>);
  if (named.length > 0) return { ok: false, findings: named };
  const parsed = v.safeParse(planSchema, raw);
  if (!parsed.success) return { ok: false, findings: schemaFindings(parsed.issues, raw) };

  const reader = new Reader(parsed.output as Plan);
  const plan = reader.read();
  return reader.findings.length > 0 ? { ok: false, findings: reader.findings } : { ok: true, plan };
}

/** Names are looked at on the raw object, since schema libraries drop the dangerous ones in silence. */
function badNames(raw: Record<string, unknown>): Finding[] {
  const found: Finding[] = [];
  const look = (value: unknown, place: string) => {
    if (typeof value !== "object" || value === null) return;
    for (const name of Object.keys(value)) {
      const fault = nameFault(name);
      const shown = name.length > 40 ? name.slice(0, 40) + "..." : name;
      if (fault !== undefined) found.push(finding("bad-name", place, `${JSON.stringify(shown)} ${fault}`));
    }
  };
  const own = (value: unknown, key: string): unknown =>
    typeof value === "object" && value !== null && Object.hasOwn(value, key)
      ? (value as Record<string, unknown>)[key]
      : undefined;

  look(own(raw, "slots"), "slots");
  look(own(raw, "flags"), "flags");
  look(own(raw, "modes"), "modes");
  look(own(raw, "seats"), "seats");
  const actions = own(raw, "actions");
  look(actions, "actions");
  if (found.length > 0 || typeof actions !== "object" || actions === null) return found;
  for (const [name, action] of Object.entries(actions)) {
    look(own(action, "from"), `actions.${name}.from`);
    look(own(action, "gaits"), `actions.${name}.gaits`);
  }
  return found;
}

/** Turns a plan of the right shape into its checked form, and collects what it cannot make sense of. */
class Reader {
  readonly findings: Finding[] = [];
  private readonly plan: Plan;
  private readonly slots: Map<
    string,
    { name: string; label: string; device: "keyboard" | "mouse" | "pad" | undefined }
  >;
  private readonly words: Set<string>;
  /** The `afterMs` of each control's long press: shorts on it end there. */
  private readonly longs: ReadonlyMap<string, number>;

  constructor(plan: Plan) {
    this.plan = plan;
    this.slots = new Map(
      Object.entries(plan.slots ?? {}).map(([name, slot]) => [
        name,
        { name, label: slot.label ?? name, device: slot.device },
      ]),
    );
    const told = Object.entries(plan.actions).filter(([, { kind }]) => kind !== "turn");
    this.words = new Set([...Object.keys(plan.flags ?? {}), ...told.map(([name]) => name)]);
    this.longs = longsOf(plan);
  }

  read(): CheckedPlan {
    const { plan } = this;
    for (const name of Object.keys(plan.flags ?? {})) {
      if (Object.hasOwn(plan.actions, name)) {
        this.report(
          "same-name",
          `flags.${name}`,
          `an action has the name ${name} too, so a rule that says ${name} could mean either`,
        );
      }
    }
    const modes = plan.modes ?? {};
    const actions = Object.entries(plan.actions).map(([name, action]): CheckedAction => {
      if (action.kind === "switch") return this.readSwitch(name, action as SwitchFields);
      if (action.kind === "turn") return this.readTurn(name, action as TurnFields);
      return this.readMovement(name, action.kind, action as VectorFields);
    });
    this.findNeedsCircle(actions);
    (plan.protected ?? []).forEach((control, n) => this.known(control, `protected.${n}`));
    this.checkRanges(plan.player, "player");
    this.checkPromises(actions);
    return {
      name: plan.name ?? "",
      version: plan.version ?? 0,
      yAxis: plan.yAxis ?? "up",
      slots: [...this.slots.values()],
      flags: Object.entries(plan.flags ?? {}).map(([name, flag]) => ({
        name,
        start: typeof flag === "boolean" ? flag : (flag.start ?? false),
        lingerMs: typeof flag === "boolean" ? 0 : (flag.lingerMs ?? 0),
      })),
      modes: Object.entries(modes).map(([name, mode]) => ({ name, covers: mode.covers ?? "same" })),
      start: this.modeNames(plan.start ?? Object.keys(modes).slice(0, 1), "start"),
      actions,
      seats: this.readSeats(),
      bounceMs: plan.bounceMs ?? 0,
      protected: plan.protected ?? [],
      seated: plan.seats !== undefined,
    };
  }

  /** What the plan promises of names and of required actions. */
  private checkPromises(actions: readonly CheckedAction[]): void {
    for (const action of actions) {
      const { was = [], required, player } = this.plan.actions[action.name]!;
      this.checkRanges(player, `actions.${action.name}.player`);
      was.forEach((name, n) => {
        if (Object.hasOwn(this.plan.actions, name))
          this.report(
            "name-taken",
            `actions.${action.name}.was.${n}`,
            `another action is called ${name} now`,
          );
      });
      const missing = required === true ? missingControls(action) : undefined;
      if (missing !== undefined)
        this.report("required-bare", `actions.${action.name}`, `it is required, and has ${missing}`);
    }
  }

  /** A range goes from the least to the most. */
  private checkRanges(player: object | undefined, place: string): void {
    for (const [field, range] of Object.entries(player ?? {})) {
      if (!Array.isArray(range) || typeof range[0] !== "number" || !(range[0] > range[1])) continue;
      const mend = `[${range[1]}, ${range[0]}]`;
      this.report(
        "range-order",
        `${place}.${field}`,
        `the least, ${range[0]}, is above the most, ${range[1]}; write ${mend}`,
      );
    }
  }

  private readSeats(): CheckedPlan["seats"] {
    const slots = [...this.slots.keys()];
    const seats = Object.entries(this.plan.seats ?? { [SOLO]: { slots } });
    if (seats.length === 0) this.report("missing-field", "seats", "has no seat; name one, or leave it out");
    return seats.map(([name, seat]) => {
      seat.slots.forEach((slot, n) => {
        if (!slots.includes(slot))
          this.report(
            "unknown-slot",
            `seats.${name}.slots.${n}`,
            `there is no slot ${JSON.stringify(slot)}${didYouMean(slot, slots)}`,
          );
      });
      return { name, slots: seat.slots };
    });
  }

  /** Degrees by the mouse or by a stick. */
  private readTurn(name: string, action: TurnFields): CheckedTurn {
    const mice: CheckedTurn["mice"][number][] = [];
    const sticks: CheckedTurn["sticks"][number][] = [];
    const { invert } = action.shape ?? {};
    for (const { slot, entry, place, address } of this.entries<TurnEntry>(name, action.from)) {
      const control = this.control(entry.use, `${place}.use`, "turn");
      if (control === undefined) continue;
      const { perPixel, perSecond } = entry as { perPixel?: number; perSecond?: number };
      const isMouse = control.family === "motion";
      const amount = isMouse ? perPixel : perSecond;
      if (amount === undefined || (isMouse ? perSecond : perPixel) !== undefined) {
        this.report(
          "turn-unit",
          place,
          isMouse
            ? "a mouse moves by pixels: give perPixel, and no perSecond"
            : `${control.name} turns as long as it is held: give perSecond, and no perPixel`,
        );
        continue;
      }
      if (isMouse) {
        mice.push({
          address,
          slot,
          control,
          perPixelX: invert === "x" || invert === "both" ? -amount : amount,
          perPixelY: invert === "y" || invert === "both" ? -amount : amount,
        });
      } else {
        const own = (entry as { shape?: Shape }).shape;
        sticks.push({
          address,
          slot,
          control,
          shape: this.shape(action.shape, control, place, own),
          perSecond: amount,
        });
      }
    }
    return {
      kind: "turn",
      name,
      label: action.label ?? name,
      in: this.modeNames(action.in ?? [], `actions.${name}.in`),
      mice,
      sticks,
    };
  }

  private readSwitch(name: string, action: SwitchFields): CheckedSwitch {
    const entries: CheckedEntry[] = [];
    for (const { slot, entry, place, address } of this.entries(name, action.from)) {
      const read = this.readEntry(entry, place);
      if (read !== undefined) entries.push({ address, slot, ...read } as CheckedEntry);
    }
    const { repeat } = action;
    if (action.carry === true && (action.style ?? "hold") !== "hold") {
      this.report(
        "carry-hold",
        `actions.${name}.carry`,
        `only a hold can carry a key over; this one's style is ${action.style}`,
      );
    }
    return {
      kind: "switch",
      name,
      label: action.label ?? name,
      style: action.style ?? "hold",
      tapMs: action.tapMs ?? 250,
      startsOn: action.startsOn ?? false,
      in: this.modeNames(action.in ?? [], `actions.${name}.in`),
      needs: this.readWords(action.needs ?? [], `actions.${name}.needs`),
      resume: action.resume ?? true,
      oneOf: action.oneOf,
      repeat: repeat && { everyMs: repeat.everyMs, afterMs: repeat.afterMs ?? repeat.everyMs },
      restMs: action.restMs ?? 0,
      keepMs: action.keepMs ?? 0,
      carry: action.carry ?? false,
      keeps: action.keeps ?? true,
      entries,
    };
  }

  /** An entry without its address; `undefined` where a source in it is none. */
  private readEntry(entry: SwitchEntry, place: string) {
    if (typeof entry === "string") return this.gesture({ kind: "plain", waits: false }, [entry], [place]);
    if ("use" in entry) {
      const plain = { kind: "plain", waits: entry.waits ?? false } as const;
      const read = this.gesture(plain, [entry.use], [`${place}.use`]);
      const source = read?.of[0];
      if (entry.threshold === undefined || source === undefined) return read;
      if (!("control" in source)) {
        this.report("threshold-none", `${place}.threshold`, "a direction is pressed where its controls are");
        return read;
      }
      return { ...plain, of: [{ ...source, ...this.threshold(entry.threshold, source.control, place) }] };
    }
    if ("taps" in entry) {
      const { taps, gapMs = 250, eachMs, brokenBy } = entry;
      const directed = entry.of.includes(".");
      if (brokenBy === "opposite" && !directed) {
        this.report(
          "no-opposite",
          `${place}.brokenBy`,
          `${entry.of} has no opposite; that is for directions, such as swim.right`,
        );
      }
      const of = entry.of.endsWith(".each") ? EACH.map((end) => entry.of.replace(/each$/, end)) : [entry.of];
      const broken = brokenBy ?? (directed ? "opposite" : "none");
      return this.gesture(
        { kind: "taps", taps, gapMs, eachMs, brokenBy: broken },
        of,
        of.map(() => `${place}.of`),
      );
    }
    if ("short" in entry) {
      const beforeMs = entry.beforeMs ?? this.longs.get(entry.short) ?? 250;
      const longest = this.longs.get(entry.short) ?? Infinity;
      if (beforeMs > longest) {
        this.report(
          "short-after-long",
          `${place}.beforeMs`,
          `${beforeMs} is more than the afterMs ${longest} of the long on ${entry.short}; a press between would be both`,
        );
      }
      return this.gesture({ kind: "short", beforeMs }, [entry.short], [`${place}.short`]);
    }
    if ("long" in entry)
      return this.gesture(
        { kind: "long", afterMs: entry.afterMs ?? LONG_MS },
        [entry.long],
        [`${place}.long`],
      );
    const [kind, of] = "all" in entry ? (["all", entry.all] as const) : (["series", entry.series] as const);
    const places = of.map((_, n) => `${place}.${kind}.${n}`);
    if ("all" in entry) {
      if (new Set(of).size < of.length)
        this.report("same-member", place, "names a control twice; it cannot be held twice");
      return this.gesture({ kind: "all", spreadMs: entry.spreadMs }, of, places);
    }
    return this.gesture({ kind: "series", gapMs: entry.gapMs ?? 250 }, of, places);
  }

  private gesture<G extends object>(
    what: G,
    names: readonly string[],
    places: readonly string[],
  ): (G & { of: Source[] }) | undefined {
    const of = names.map((name, n) => this.source(name, places[n]!));
    return of.every((source) => source !== undefined) ? { ...what, of } : undefined;
  }

  /** A control as pressed or released, or a direction of a vector. */
  private source(name: string, place: string): Source | undefined {
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

  /** A switch that needs itself, by whatever way, could never settle. */
  private findNeedsCircle(actions: readonly CheckedAction[]): void {
    const needs = new Map(
      actions.map((action) => [
        action.name,
        action.kind === "switch" ? action.needs.map(({ name }) => name) : [],
      ]),
    );
    const done = new Set<string>();
    const visit = (name: string, path: readonly string[]): void => {
      if (path.includes(name)) {
        const circle = [...path.slice(path.indexOf(name)), name].join(" -> ");
        this.report("needs-circle", `actions.${name}.needs`, `goes in a circle: ${circle}`);
      } else if (!done.has(name)) for (const next of needs.get(name) ?? []) visit(next, [...path, name]);
      done.add(name);
    };
    for (const name of needs.keys()) visit(name, []);
  }

  private modeNames(names: readonly string[], place: string): readonly string[] {
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

  /** An axis has none of a vector's own fields, so that these come out as their defaults. */
  private readMovement(
    name: string,
    kind: "axis" | "vector",
    action: VectorFields | (AxisFields & VectorFields),
  ): CheckedMovement {
    const ends: CheckedEnd[] = [];
    const sticks: CheckedStick[] = [];
    for (const { slot, entry, place, address } of this.entries<VectorEntry>(
      name,
      action.from as Readonly<Record<string, VectorEntry>>,
    )) {
      if (typeof entry === "string" || "use" in entry) {
        const [source, own] = typeof entry === "string" ? [entry, undefined] : [entry.use, entry.shape];
        const control = this.control(source, typeof entry === "string" ? place : `${place}.use`, kind);
        if (control === undefined) continue;
        if (control.family === "dpad") {
          // A direction pad is four buttons: it follows the rules for opposite and diagonal keys.
          for (const part of control.parts) {
            const end = part.slice("PadDpad".length).toLowerCase() as CheckedEnd["end"];
            ends.push({ address, slot, end, ...this.end(findControl(part)!, action, place) });
          }
        } else sticks.push({ address, slot, control, shape: this.shape(action.shape, control, place, own) });
        continue;
      }
      const given = Object.entries(entry as Record<string, EndEntry>);
      if (given.length === 0) this.report("missing-field", place, `no direction has a control`);
      for (const [end, source] of given) {
        const used = typeof source === "string" ? { use: source } : source;
        const at = typeof source === "string" ? `${place}.${end}` : `${place}.${end}.use`;
        const control = this.control(used.use, at, "end");
        if (control === undefined) continue;
        ends.push({
          address: `${address}.${end}`,
          slot,
          end: end as CheckedEnd["end"],
          ...this.end(control, action, `${place}.${end}`, used),
        });
      }
    }
    return {
      kind,
      name,
      label: action.label ?? name,
      in: this.modeNames(action.in ?? [], `actions.${name}.in`),
      opposed: action.opposed ?? "latest",
      directions: action.directions ?? "free",
      diagonal: action.diagonal ?? "round",
      faces: action.faces ?? "down",
      facingFrom: action.facingFrom ?? 0.25,
      settleMs: action.settleMs ?? 60,
      gaits: this.gaits(name, action),
      gaitMargin: action.gaitMargin ?? 0.04,
      pace: this.pace(name, action),
      ease: action.ease && { ...EASE, ...action.ease, through: action.ease.turn === "through" },
      combine: action.combine ?? "longest",
      ends,
      sticks,
    };
  }

  private end(control: Control, action: MovementFields, place: string, used: Partial<UsedEnd> = {}) {
    const shape = this.shape(action.shape, control, place, used.shape);
    return { control, shape, ...this.threshold(used.threshold, control, place) };
  }

  private threshold(given: Threshold | undefined, control: Control, place: string) {
    const press = given?.press ?? PRESS;
    const release = given?.release ?? Math.round(press * RELEASE_SHARE * 1e6) / 1e6;
    if (release > press) {
      this.report(
        "threshold-order",
        `${place}.threshold`,
        `is released below ${release} and pressed only from ${press}; the release has to be the lower`,
      );
    }
    if (given !== undefined && control.family === "key")
      this.report(
        "threshold-none",
        `${place}.threshold`,
        `${control.name} is down or up, and nothing between`,
      );
    return { press, release };
  }

  /** The entries of an action, each with its address; slots not declared are reported, or made where the plan declares none. */
  private entries<T>(action: string, from: Readonly<Record<string, T | readonly T[]>>): Placed<T>[] {
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

  private known(source: string, place: string): Control | undefined {
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

  private control(source: string, place: string, use: Use): Control | undefined {
    const control = this.known(source, place);
    if (control === undefined) return undefined;
    const fault = misfit(control, use);
    if (fault === undefined) return control;
    this.report("wrong-control", place, fault);
    return undefined;
  }

  /** The action's shape for this control, with the entry's own laid over it. */
  private shape(common: Shape | undefined, control: Control, place: string, own?: Shape): CheckedShape {
    const shape = { ...common, ...own, deadZone: { ...common?.deadZone, ...own?.deadZone } };
    const zone = control.family === "trigger" ? DEFAULT_ZONE.trigger : DEFAULT_ZONE.stick;
    const inner = shape.deadZone.inner ?? zone.inner;
    const outer = shape.deadZone.outer ?? zone.outer;
    // A hundredth of travel is the least that anybody can steer in.
    if (inner + outer > 0.99) {
      const action = place.split(".").slice(0, 2).join(".");
      const already = this.findings.some(
        (found) => found.id === "dead-zone-full" && found.place.startsWith(action + "."),
      );
      if (!already) {
        this.report(
          "dead-zone-full",
          `${action}.shape.deadZone`,
          `inner ${inner} and outer ${outer} leave no travel between them`,
        );
      }
    }
    const curve = shape.curve ?? {};
    this.checkCurve(curve, own?.curve === undefined ? place.split(".").slice(0, 2).join(".") : place);
    const one = control.family !== "stick";
    const { invert } = shape;
    return {
      kind: one ? "round" : (shape.deadZone.kind ?? "round"),
      inner,
      outer,
      power: curve.power ?? 1,
      points: curve.points,
      gain: shape.gain ?? 1,
      invertX: one ? invert !== undefined : invert === "x" || invert === "both",
      invertY: !one && (invert === "y" || invert === "both"),
    };
  }

  private checkCurve({ power, points }: Curve, owner: string): void {
    const place = `${owner}.shape.curve`;
    const told = this.findings.some((found) => found.id === "curve-points" && found.place.startsWith(place));
    if (points === undefined || told) return;
    const report = (at: string, message: string) => this.report("curve-points", at, message);
    if (power !== undefined) report(place, "has a power and points; a curve is one or the other");
    if (points[0]![0] !== 0 || points[0]![1] !== 0)
      report(`${place}.points.0`, `begins at [${points[0]!.join(", ")}]; a curve begins at [0, 0]`);
    if (points.at(-1)![0] !== 1)
      report(
        `${place}.points.${points.length - 1}`,
        `ends at a travel of ${points.at(-1)![0]}; it has to reach 1`,
      );
    for (let n = 1; n < points.length; n++) {
      const [x, y] = points[n]!;
      const [beforeX, beforeY] = points[n - 1]!;
      if (x <= beforeX)
        report(
          `${place}.points.${n}`,
          `a travel of ${x} does not come after ${beforeX}; put the points in order`,
        );
      else if (y < beforeY)
        report(`${place}.points.${n}`, `falls from ${beforeY} to ${y}: more tilt would give less movement`);
    }
  }

  private gaits(name: string, action: VectorFields): CheckedMovement["gaits"] {
    const gaits = Object.entries(action.gaits ?? {}).map(([gait, from]) => ({ name: gait, from }));
    gaits.sort((a, b) => a.from - b.from);
    for (let i = 1; i < gaits.length; i++) {
      if (gaits[i]!.from === gaits[i - 1]!.from) {
        const place = `actions.${name}.gaits.${gaits[i]!.name}`;
        this.report(
          "gaits-equal",
          place,
          `begins at ${gaits[i]!.from}, as ${gaits[i - 1]!.name} does; only one of them can be reached`,
        );
      }
    }
    return gaits;
  }

  private pace(name: string, action: VectorFields): CheckedPace | undefined {
    const { pace } = action;
    if (pace === undefined) return undefined;
    const rules = (pace.rules ?? []).map((rule, i) => {
      const place = `actions.${name}.pace.rules.${i}`;
      if ((rule.set === undefined) === (rule.times === undefined)) {
        this.report("pace-rule", place, "a rule has either set (a speed) or times (a factor)");
      }
      return { when: this.readWords(rule.when, `${place}.when`), set: rule.set, times: rule.times };
    });
    return { unit: pace.unit ?? "", base: pace.base, rules, easeMs: pace.easeMs ?? 0 };
  }

  private readWords(when: string | readonly string[], place: string): Word[] {
    return (typeof when === "string" ? [when] : when).map((word) => {
      const not = word.startsWith("not ");
      const name = not ? word.slice(4).trim() : word;
      if (!this.words.has(name)) {
        this.report(
          "unknown-word",
          place,
          `${JSON.stringify(name)} is neither a flag nor an action${didYouMean(name, this.words)}`,
        );
      }
      return { name, not };
    });
  }

  private report(id: Finding["id"], place: string, message: string): void {
    this.findings.push(finding(id, place, message));
  }
}

/** What a required action lacks, or `undefined` where it has all that it needs. */
export function missingControls(action: CheckedAction): string | undefined {
  if (action.kind === "switch") return action.entries.length > 0 ? undefined : "no control";
  if (action.sticks.length > 0) return undefined;
  if (action.kind === "turn") return action.mice.length > 0 ? undefined : "no control";
  const ends = action.kind === "axis" ? ["minus", "plus"] : EACH;
  const missing = ends.filter((end) => !action.ends.some((one) => one.end === end));
  return missing.length === 0 ? undefined : `no control for ${missing.join(" and ")}`;
}

function longsOf(plan: Plan): Map<string, number> {
  const longs = new Map<string, number>();
  for (const action of Object.values(plan.actions)) {
    if (action.kind !== "switch") continue;
    for (const entry of Object.values((action as SwitchFields).from).flat() as SwitchEntry[]) {
      if (typeof entry === "object" && "long" in entry) {
        longs.set(entry.long, Math.min(longs.get(entry.long) ?? Infinity, entry.afterMs ?? LONG_MS));
      }
    }
  }
  return longs;
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
