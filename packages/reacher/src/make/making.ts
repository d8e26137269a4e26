/**
 * Makes the code of a plan's seats. In: the compiled tables of their slots. Out: functions for everything that the loop asks of tables, and the numbers that
 * these stand for. Pure, but for the sources that it reads.
 */
import { ALL_CALLS, type Call } from "../built/calls.js";
import { Bounce } from "../engine/bounce.js";
import { Clock } from "../engine/clock.js";
import type { Condition } from "../engine/conditions.js";
import { Width } from "../engine/cells.js";
import type { Chords } from "../engine/gestures/all.js";
import { EventKind } from "../engine/queue.js";
import type { Channel } from "../engine/signals.js";
import { FOCUS_LOST, PADS_TOGETHER } from "../engine/meanings.js";
import type { Situation } from "../engine/situations/modes.js";
import { latchOf, recordableOf, type Latching, type Recordable } from "../engine/recordable.js";
import { Cause, type SeatState } from "../engine/state.js";
import type { Switch } from "../engine/switches/switch.js";
import { DEVICES, type Tables } from "../engine/tables.js";
import type { Timer, Timers } from "../engine/timers.js";
import type { MadeNumbers } from "../made/numbers.js";
import {
  AnySeat,
  TOO_LONG,
  Unmakeable,
  Met,
  type Frame,
  type Made,
  type Surroundings,
} from "./specialiser/frames.js";
import { Specialiser } from "./specialiser/specialiser.js";
import type { OpenNumbers } from "./openNumbers.js";
import type { Sources } from "./source.js";
import { countOf } from "./lines.js";
import { Known, name, UNDEFINED, type Value } from "./values.js";

/** A function of the made seat, by what the library calls it. */
export interface MadeSeat {
  readonly numbers: MadeNumbers;
  /** What the library calls: lists of functions, by what they are for. */
  readonly roots: Readonly<Record<string, readonly (Made | null)[]>>;
  readonly readings: readonly MadeReading[];
  /** All functions that these need, in the order in which they were made. */
  readonly functions: readonly Made[];
  readonly specialiser: Specialiser;
}

export interface MadeReading {
  readonly getters: readonly { readonly name: string; readonly made: Made }[];
  readonly parts: readonly { readonly name: string; readonly reading: MadeReading }[];
  /** Its method as it was written. */
  readonly toJSON: string;
}

/** The buffer as a seat's first step finds it. */
interface Begun {
  readonly f: Float64Array;
  readonly i: Int32Array;
  readonly b: Uint8Array;
}

const PASSES = 80;
/** What another seat's code adds, as a part of the first one's: most functions are the same. */
const ANOTHER = 1 / 4;
/** From seat to seat, names are numbered anew from such a distance. */
export const APART = 1_000_000;

/**
 * `calls`: what the game calls of those that may be left out. `areOne`: whether these are one seat's, whose slots change, so that they go on with each
 * other's cells. `most`: lines that may come of it before anything is folded. `numbers`: what of their rules follows from a player's settings. @throws Unmakeable
 */
export function makeSeats(
  all: readonly Tables[],
  sources: Sources,
  calls: readonly Call[] = ALL_CALLS,
  areOne = false,
  most = Infinity,
  numbers?: OpenNumbers,
): MadeSeat[] {
  const keys = areOne ? new Map<string, number>() : null;
  const makers = all.map((tables, n) => new SeatMaker(tables, sources, calls, keys, n * APART, numbers));
  // Those that something new is known of.
  let open: readonly SeatMaker[] = makers;
  for (let pass = 0; pass < PASSES; pass++) {
    const counts = open.map((maker) => maker.pass());
    if (pass === 0 && Math.max(...counts) * (1 + (all.length - 1) * ANOTHER) > most)
      throw new Unmakeable(TOO_LONG);
    const stale = open.filter(({ isStale }) => isStale);
    open = stale.length > 0 ? stale : makers.filter((maker) => maker.learn(areOne ? makers : [maker]));
    if (open.length === 0) return makers.map((maker) => maker.made());
  }
  throw new Unmakeable("making does not come to an end");
}

class SeatMaker implements Surroundings {
  readonly named = new Map<object, string>();
  private readonly begun: Begun;
  private readonly fresh: Begun;
  private readonly seat: AnySeat;
  private readonly open = new Set<string>();
  private readonly lists = new Set<string>();
  private readonly readings: object[];
  private readonly recordable: Recordable;
  private readonly specialiser: Specialiser;
  /** Cells that there are, but those that count: nothing is carried over to them. */
  private readonly own = new Set<string>();
  private readonly counts = new Set<string>();
  /** How often each function is called. */
  private uses: ReadonlyMap<string, number> = new Map();
  /** What all its functions have met. */
  private met = new Met();
  private outcome: Omit<MadeSeat, "numbers"> | undefined;

  constructor(
    private readonly tables: Tables,
    readonly sources: Sources,
    private readonly calls: readonly Call[],
    /** Of a seat whose slots change: numbers for the rules that its cells refer to. */
    private readonly keys: Map<string, number> | null,
    firstName: number,
    private readonly openNumbers?: OpenNumbers,
  ) {
    this.specialiser = new Specialiser(this, firstName);
    this.seat = new AnySeat(tables);
    this.fresh = viewsOf(tables.cells.allocate());
    this.begun = begin(tables);
    this.readings = tables.readings.map((make, n) => make(this.seat as never, n));
    this.recordable = recordableOf(tables);
    this.named.set(tables.timers, "t");
    for (const timer of tables.timers.all) this.named.set(timer, `t.all[${timer.id}]`);
    const { stamp, eventNumber, instantCount, printAt, started, reasons } = tables;
    for (let n = 0; n < 3; n++) this.open.add(`f${stamp + n}`);
    for (const at of [eventNumber, instantCount, printAt, reasons]) this.open.add(`i${at}`);
    this.open.add(`b${started}`);
    for (const { at, count, width, isCount } of tables.cells.all)
      for (let n = 0; n < count; n++) {
        const cell = `${viewOf(width)}${at + n}`;
        (isCount ? this.counts : this.own).add(cell);
        if (count > 1) this.lists.add(cell);
        // Recounted by code, it is not yet what it will be.
        if (keys !== null && this.initialOf(this.fresh, cell) !== this.initial(cell)) this.open.add(cell);
      }
  }

  /* What the specialiser asks. */

  seatCall(call: string): Value | undefined {
    return call === "reviewWaiting" && this.tables.waiting.length === 0 ? UNDEFINED : undefined;
  }

  /** A timer that nothing sets need not be cleared. */
  namedCall(object: object, call: string, args: readonly Value[]): boolean {
    const timer = args[1] instanceof Known ? (args[1].value as Timer) : undefined;
    if (object !== this.tables.timers || timer === undefined)
      throw new Unmakeable(`${call} of what has a name`);
    const cell = `f${timer.at}`;
    if (call === "set") {
      this.specialiser.met.note("writes", cell);
      return true;
    }
    this.specialiser.met.note("reads", cell);
    return !this.specialiser.constants.has(cell);
  }

  openField(object: object, field: string): Value | undefined {
    return this.openNumbers?.read(object, field);
  }

  initial(cell: string): number {
    return this.initialOf(this.begun, cell);
  }

  private initialOf(views: Begun, cell: string): number {
    return views[cell[0] as "f"][Number(cell.slice(1))]!;
  }

  isOpen(cell: string): boolean {
    return this.open.has(cell);
  }

  isList(cell: string): boolean {
    return this.lists.has(cell);
  }

  /* The passes. */

  /** Makes everything, but what stays as it was. Out: how many lines it has. */
  pass(): number {
    const { specialiser } = this;
    specialiser.begin();
    const roots = this.roots();
    const readings = this.readings.map((reading, n) => this.reading(reading, `${n}`));
    const all = [...Object.values(roots).flat(), ...readings.flatMap(functionsOf)].filter(
      (one) => one !== null,
    );
    this.met = specialiser.whole();
    this.uses = usesOf(all, specialiser.made);
    const functions = [...this.uses.keys()].map((key) => specialiser.made.get(key)!);
    this.outcome = { roots, readings, functions, specialiser };
    return [...functions, ...all].reduce((sum, { lines }) => sum + countOf(lines), 0);
  }

  /** Whether the pass met what changes what was made before. */
  get isStale(): boolean {
    return this.specialiser.isStale;
  }

  made(): MadeSeat {
    return { ...this.outcome!, numbers: this.numbers() };
  }

  /** What the pass has shown. `together`: those that write the same cells. True if something is new. */
  learn(together: readonly SeatMaker[]): boolean {
    return [this.fold(together), this.noteOnce()].includes(true);
  }

  /** Cells that nothing changes are constants. True if there are new ones. */
  private fold(together: readonly SeatMaker[]): boolean {
    const { constants } = this.specialiser;
    let isNew = false;
    for (const cell of [...this.met.of("reads"), ...this.met.of("restarts")]) {
      const others = this.counts.has(cell) ? [this] : together;
      if (constants.has(cell) || others.some((other) => other.changes(cell, this.initial(cell)))) continue;
      this.specialiser.fold(cell, this.initial(cell));
      isNew = true;
    }
    return isNew;
  }

  /** Whether a cell may be anything else. */
  private changes(cell: string, initial: number): boolean {
    if (this.met.of("writes").has(cell) || this.isOpen(cell)) return true;
    if (this.own.has(cell) && this.initial(cell) !== initial) return true;
    return this.met.of("wild").has(cell[0]!) && this.isList(cell);
  }

  /** Functions that are called at one place stand there. True if there are new ones. */
  private noteOnce(): boolean {
    const { onlyOnce, made } = this.specialiser;
    let isNew = false;
    for (const [key, count] of this.uses) {
      if (count !== 1 || onlyOnce.has(key) || made.get(key)!.hasEarlyReturn) continue;
      this.specialiser.inline(key);
      isNew = true;
    }
    return isNew;
  }

  /* What the loop calls. */

  private roots(): Record<string, (Made | null)[]> {
    const { tables, seat } = this;
    const S = new Known(seat);
    const commands = tables.commands as readonly (object | undefined)[];
    const perform = (
      base: string,
      object: object,
      method: string,
      params: readonly string[] = [],
      args: readonly Value[] = params.map(name),
    ) =>
      this.effectOf(base, params, (frame) => this.specialiser.perform(object, method, [S, ...args], frame));
    const asks = (base: string, object: object, method: string) =>
      this.specialiser.root(base, [], (frame) => this.specialiser.ask(object, method, [S], frame));
    const moves: (Made | null)[] = [];
    const pairs: (Made | null)[] = [];
    for (const channel of tables.bound)
      for (let pad = 0; pad < channel.padCount; pad++) {
        const key = `${channel.name} ${pad}`;
        moves.push(perform(`move ${key}`, channel, "move", ["at"], [new Known(pad), name("at")]));
        pairs.push(
          channel.isStickAlone
            ? perform(
                `pair ${key}`,
                channel,
                "moveStick",
                ["at"],
                [new Known(pad), name("at"), new Known(channel.other)],
              )
            : null,
        );
      }
    const [keepers, chords, situation] = [
      tables.keepers as readonly object[],
      tables.chords,
      tables.situation as Situation | undefined,
    ];
    const apply = (kind: EventKind, count: number, params: readonly string[], from = 0) => {
      const rule = commands[kind];
      return Array.from({ length: rule === undefined ? 0 : count }, (_, n) => {
        const index = new Known(from + n);
        return perform(`command ${kind} ${n}`, rule!, "apply", params, [index, ...params.map(name)]);
      });
    };
    const { flags, numbers, spots, modes, actions } = tables.plan;
    const tell = (
      signal: Tables["signals"][number],
      to: "gestures" | "entries",
      method: string,
      listeners: readonly object[] = signal[to],
    ) =>
      listeners.length === 0
        ? null
        : this.effectOf(`${method} ${to} ${signal.id}`, [], (frame) => {
            for (const listener of listeners)
              this.specialiser.perform(listener, method, [S, new Known(signal)], frame);
          });
    const isLate = (signal: Tables["signals"][number]) => signal.isHeard && signal.isHeardLater;
    const has = (call: Call) => this.calls.includes(call);
    const drivable = has("drive") ? tables.actions : [];
    const isHeard = has("on") || has("watch");
    /** As many as there are, if the game makes this call. */
    const each = <T>(call: Call, list: readonly T[]) => (has(call) ? list.length : 0);
    return {
      moves,
      pairs,
      sticks: tables.sticks.map((rule, n) => perform(`stick ${n}`, rule, "update")),
      movements: tables.movements.map((rule) => perform(`movement ${rule.name}`, rule, "update")),
      turns: tables.turns.map((rule, n) => perform(`turn ${n}`, rule, "update")),
      paces: tables.paced.map((rule, n) => perform(`pace ${n}`, rule, "updatePace")),
      updates: tables.ranked.map((rule) => perform(`update ${rule.name}`, rule, "update")),
      instants: tables.ranked.map((rule) =>
        rule.instantPresses < 0 ? null : asks(`instant ${rule.name}`, rule, "playInstantPress"),
      ),
      settles: tables.switches.map((rule) => asks(`settle ${rule.name}`, rule, "settle")),
      pulses: (isHeard ? tables.switches : []).map((rule) =>
        this.specialiser.root(`pulses ${rule.name}`, [], (frame) =>
          this.specialiser.field(rule, "pulses", frame),
        ),
      ),
      news: (isHeard ? tables.switches : []).map((rule) => asks(`news ${rule.name}`, rule, "consumeNews")),
      takes: (has("take") ? tables.switches : []).map((rule) => asks(`take ${rule.name}`, rule, "take")),
      due: tables.timers.all.map((timer) =>
        perform(`due ${timer.id}`, timer.owner, "due", [], [new Known(timer)]),
      ),
      reset: [
        this.effectOf("reset", [], (frame) => {
          for (const rule of tables.resets) this.specialiser.perform(rule, "reset", [S], frame);
        }),
      ],
      recount: this.keys !== null ? [this.recounting()] : [],
      adjust: this.openNumbers !== undefined && this.keys === null ? [this.adjusting(this.openNumbers)] : [],
      refresh: situation === undefined ? [] : [perform("refresh", situation, "refresh")],
      mayBegin: keepers.map((rule, n) => asks(`mayBegin ${n}`, rule, "canBegin")),
      begin: keepers.map((rule, n) => perform(`beginKept ${n}`, rule, "beginKept")),
      review: tables.waiting.map((rule, n) => perform(`review ${n}`, rule, "review", [], [new Known(false)])),
      judge: chords === null ? [] : [perform("judge", chords as Chords, "judge", ["changes", "count"])],
      returnPresses:
        chords === null
          ? []
          : [perform("returnPresses", chords as Chords, "returnPresses", ["changes", "count"])],
      gesturesFall: tables.signals.map((signal) =>
        isLate(signal) ? tell(signal, "gestures", "release") : null,
      ),
      gesturesRise: tables.signals.map((signal) =>
        isLate(signal) ? tell(signal, "gestures", "press") : null,
      ),
      entriesFall: tables.signals.map((signal) =>
        isLate(signal) ? tell(signal, "entries", "release") : null,
      ),
      entriesRise: tables.signals.map((signal) => (isLate(signal) ? tell(signal, "entries", "press") : null)),
      flags: apply(EventKind.Flag, each("setFlag", flags), ["value"]),
      numbers: apply(EventKind.Number, each("setNumber", numbers), ["value"]),
      spots: apply(EventKind.Spot, spots.length, ["value", "other"]),
      enter: apply(EventKind.Enter, each("enter", modes), []),
      leave: apply(EventKind.Leave, each("leave", modes), []),
      mute: apply(EventKind.Mute, each("mute", actions), ["value"]),
      unmute: apply(EventKind.Unmute, each("unmute", actions), ["value"]),
      setSwitch: apply(EventKind.SetSwitch, each("setSwitch", actions), ["value"]),
      blend: drivable.map((action) =>
        action.blendNext === undefined
          ? null
          : perform(`blend ${action.name}`, action, "blendNext", ["value"]),
      ),
      drive: drivable.map((action) =>
        action.drive === undefined
          ? null
          : perform(`drive ${action.name}`, action, "drive", ["reason", "way", "value", "other"]),
      ),
      drivenBy: drivable.map((action) =>
        action.drivenBy === undefined ? null : asks(`drivenBy ${action.name}`, action, "drivenBy"),
      ),
      nextBlend: drivable.map((action) =>
        action.nextBlend === undefined ? null : asks(`nextBlend ${action.name}`, action, "nextBlend"),
      ),
      // The focus, devices of own controls and pads, in this order: -1 stands at the place of the last device.
      latches: (has("watch") ? this.recordable.latches : []).map((one, n) => asks(`latch ${n}`, one, "isOn")),
      toggles: (has("watch") ? this.styled() : []).map((one, n) => one && asks(`toggle ${n}`, one, "isOn")),
      lose: apply(EventKind.Lose, this.lossCount, [], -this.deviceCount),
    };
  }

  /** What is down is counted anew, from nothing. */
  private recounting(): Made {
    const { recounts, timers } = this.tables;
    return this.effectOf("recount", [], (frame) => {
      for (const rule of recounts)
        if (rule !== (timers as object))
          this.specialiser.perform(rule, "recount", [new Known(this.seat)], frame);
    });
  }

  /** What another setting decides otherwise; most counts stay as they are. */
  private adjusting(numbers: OpenNumbers): Made {
    if (numbers.turnsDirections) return this.recounting();
    return this.effectOf("adjust", [], (frame) => {
      for (const rule of this.tables.switches)
        if (numbers.has(rule, "styleKind"))
          this.specialiser.perform(rule, "recount", [new Known(this.seat)], frame);
    });
  }

  /** Losses are numbered from minus the last device, over the focus, to the last pad. */
  private get deviceCount(): number {
    return Math.max(-FOCUS_LOST, this.tables.devices.length - 1);
  }
  private get lossCount(): number {
    return this.deviceCount + (this.tables.plan.seated ? 1 : PADS_TOGETHER);
  }

  private effectOf(base: string, params: readonly string[], fill: (frame: Frame) => void): Made {
    return this.specialiser.root(base, params, (frame) => {
      fill(frame);
      return null;
    });
  }

  private reading(reading: object, of: string): MadeReading {
    const getters: { name: string; made: Made }[] = [];
    const parts: { name: string; reading: MadeReading }[] = [];
    for (const [field, { enumerable, get, value }] of Object.entries(
      Object.getOwnPropertyDescriptors(reading),
    )) {
      if (enumerable !== true) continue;
      if (get === undefined)
        parts.push({ name: field, reading: this.reading(value as object, `${of}.${field}`) });
      else
        getters.push({
          name: field,
          made: this.specialiser.root(`get ${of}.${field}`, [], (frame) =>
            this.specialiser.field(reading, field, frame),
          ),
        });
    }
    const method = this.sources.methodOf(reading, "toJSON");
    const toJSON =
      method === undefined ? "" : `toJSON${method.module.text.slice(method.node.start, method.node.end)}`;
    return { getters, parts, toJSON };
  }

  /* What the library has to know. */

  /** What this seat's cells keep when its slots change: what is down is counted anew. */
  private carried(keys: Map<string, number>): NonNullable<MadeNumbers["carried"]> {
    const bytes = new Uint8Array(this.fresh.b.length);
    const refers: number[][] = [];
    const numberOf = ({ key }: { readonly key: string }) =>
      keys.get(key) ?? keys.set(key, keys.size).get(key)!;
    for (const cell of this.tables.cells.all) {
      if (cell.isCount) continue;
      if (cell.refers !== undefined) refers.push([cell.at, ...cell.refers.map(numberOf)]);
      else bytes.fill(1, cell.at * cell.width, (cell.at + cell.count) * cell.width);
    }
    const bounces = this.tables.bound.flatMap(({ filter }, n) =>
      filter instanceof Bounce ? [[n, filter.until] as const] : [],
    );
    return { runs: runsOf(bytes), refers, bounces };
  }

  /** Of switches whose style a player may set, what they tell with the other one. */
  private styled(): (Latching | null)[] {
    const ranked = this.tables.ranked as readonly Switch[];
    return ranked.map((rule) =>
      this.openNumbers?.has(rule, "styleKind") === true
        ? latchOf(rule, this.tables, rule.style !== null)
        : null,
    );
  }

  /** The same for the made seat: which of them, by which number, and what. */
  private toggledAsTold(): Pick<NonNullable<MadeNumbers["recordable"]>, "others"> {
    const ranked = this.tables.ranked as readonly Switch[];
    const others = this.styled().flatMap((one, n) =>
      one === null
        ? []
        : [[n, this.openNumbers!.placeOf(ranked[n]!, "styleKind"), latchAsTold(one)] as const],
    );
    return others.length > 0 ? { others } : {};
  }

  /** The bytes of what is counted, as runs. */
  private counted(): number[] {
    const bytes = new Uint8Array(this.fresh.b.length);
    for (const { isCount, at, count, width } of this.tables.cells.all)
      if (isCount) bytes.fill(1, at * width, (at + count) * width);
    return runsOf(bytes);
  }

  private numbers(): MadeNumbers {
    const { tables } = this;
    const { timers, situation } = tables;
    const begun = changesOf(this.fresh.b, this.begun.b);
    const conditions = tables.conditions as ReadonlyMap<string, Condition>;
    return {
      print: tables.print,
      bytes: this.fresh.b.length,
      start: changesOf(new Int32Array(this.fresh.i.length), this.fresh.i),
      begun: this.keys === null ? begun : [],
      ...(this.keys !== null && { carried: this.carried(this.keys) }),
      ...(this.keys === null && this.openNumbers?.turnsDirections === true && { counted: this.counted() }),
      cells: [
        tables.started,
        tables.printAt,
        tables.stamp,
        tables.instantCount,
        tables.lastDevice,
        tables.eventNumber,
        tables.reasons,
        tables.kept,
      ],
      channels: tables.bound.map((channel) => numbersOf(channel, tables.bound)),
      names: tables.bound.map(({ name }) => name),
      ownDevices: tables.devices.slice(DEVICES.length) as string[],
      named: [...tables.named].flatMap(([name, ids]) =>
        tables.find(name) === undefined ? [[name, ...ids] as const] : [],
      ),
      users: [...tables.users].map(([control, all]) => [
        control,
        ...all.flatMap(({ liveAt, hiddenAt }) => [liveAt, hiddenAt]),
      ]),
      timers: [
        (timers as Timers).cells.running,
        (timers as Timers).cells.list,
        ...timers.all.flatMap(({ phase, rank, at }) => [phase, rank, at]),
      ],
      live: tables.actions.map(({ liveAt }) => liveAt),
      switches: tables.switches.map((rule) => [
        rule.rank,
        rule.instantPresses,
        (rule as unknown as { reported: number }).reported,
        tables.actions.indexOf(rule as never),
      ]),
      movements: tables.movements.map((rule) => tables.actions.indexOf(rule as never)),
      counts: [tables.sticks, tables.turns, tables.paced, tables.waiting, tables.signals].map(
        ({ length }) => length,
      ),
      keepers: tables.keepers.map((rule) => (rule as unknown as { pressedIn: number }).pressedIn),
      flags: tables.plan.flags.map(({ name }) => conditions.get(name)!.at),
      numbers: tables.plan.numbers.map(({ name }) => tables.numbers.get(name)!.at),
      spots: [...tables.spots].map(([name, { x, y }]) => [name, x, y]),
      levels: (situation as Situation | undefined)?.modes.map(({ level }) => level) ?? null,
      mutes: (situation as Situation | undefined)?.mutedAt ?? null,
      devices: this.deviceCount,
      usesPads: tables.usesPads,
      ...(this.calls.includes("watch") && {
        recordable: {
          latches: this.recordable.latches.map(latchAsTold),
          ...this.toggledAsTold(),
          driven: this.recordable.driven,
        },
      }),
    };
  }
}

const latchAsTold = ({ name, kind, startsOn, by }: Latching) => ({ name, kind, startsOn, by });

/** Bytes in a row are one run: its first, and the one after it. */
function runsOf(bytes: Uint8Array): number[] {
  const runs: number[] = [];
  for (let n = 0; n < bytes.length; n++) {
    if (bytes[n] === 0) continue;
    if (runs.at(-1) === n) runs[runs.length - 1] = n + 1;
    else runs.push(n, n + 1);
  }
  return runs;
}

function numbersOf(channel: Channel, bound: readonly Channel[]): MadeNumbers["channels"][number] {
  const flags = (channel.isAxis ? 1 : 0) | (channel.isAmount ? 2 : 0) | (channel.isStickAlone ? 4 : 0);
  const other = channel.other === null ? -1 : bound.indexOf(channel.other);
  return [
    channel.id,
    channel.value,
    channel.padCount,
    flags,
    channel.least,
    channel.most,
    channel.group,
    other,
  ];
}

function viewsOf(b: Uint8Array): Begun {
  return { f: new Float64Array(b.buffer), i: new Int32Array(b.buffer), b };
}

/** A seat's cells once its first step has counted what is down: nothing. */
function begin(tables: Tables): Begun {
  const views = viewsOf(tables.cells.allocate());
  const nothing = (): void => {};
  const clock = new Float64Array(Clock.Size);
  const seat = new Proxy(
    { ...views, clock, slots: new Float64Array(8), cause: Cause.Reset } as unknown as Record<string, unknown>,
    {
      get: (own, field) => (field in own ? own[field as string] : nothing),
    },
  );
  for (const rule of tables.recounts) rule.recount(seat as unknown as SeatState);
  return views;
}

const viewOf = (width: Width) => (width === Width.Float ? "f" : width === Width.Int ? "i" : "b");

/** What differs: its place and its new value, one after the other. */
function changesOf<View extends Uint8Array | Int32Array>(before: View, after: View): number[] {
  return [...after].flatMap((value, at) => (value === before[at] ? [] : [at, value]));
}

function functionsOf({ getters, parts }: MadeReading): Made[] {
  return [...getters.map(({ made }) => made), ...parts.flatMap(({ reading }) => functionsOf(reading))];
}

/** How often each function is called, of those that the library can reach. */
function usesOf(roots: readonly Made[], made: ReadonlyMap<string, Made>): Map<string, number> {
  const uses = new Map<string, number>();
  const visit = (calls: Iterable<string>): void => {
    for (const key of calls) {
      const count = uses.get(key) ?? 0;
      uses.set(key, count + 1);
      if (count === 0) visit(made.get(key)!.calls);
    }
  };
  for (const root of roots) visit(root.calls);
  return uses;
}

/** The bytes of cells that stay as they are in this code, and not in that with all calls: by place, each with what follows it. */
export function fixedIn({ specialiser }: MadeSeat, whole: MadeSeat): number[][] {
  const runs: number[][] = [];
  const bytes = new Map<number, number>();
  for (const [cell, value] of specialiser.constants) {
    if (whole.specialiser.constants.has(cell)) continue;
    const Cells = { f: Float64Array, i: Int32Array, b: Uint8Array }[cell[0] as "f" | "i" | "b"];
    const at = Number(cell.slice(1)) * Cells.BYTES_PER_ELEMENT;
    new Uint8Array(Cells.of(value).buffer).forEach((byte, n) => bytes.set(at + n, byte));
  }
  for (const [at, byte] of [...bytes].sort(([a], [b]) => a - b)) {
    const last = runs.at(-1);
    if (last !== undefined && last[0]! + last.length - 1 === at) last.push(byte);
    else runs.push([at, byte]);
  }
  return runs;
}
