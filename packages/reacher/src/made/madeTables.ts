/**
 * Tables whose rules are made code. In: what a build wrote, and the seat. Out: all that the loop asks of tables, over the same cells that compiled rules
 * would have. Each seat has its own.
 */
import type { Controls } from "../controls/ownControls.js";
import { Bits, DriveBits, EventKind } from "../engine/queue.js";
import type { Recordable } from "../engine/recordable.js";
import { ActionReading } from "../engine/reading.js";
import type { SeatState } from "../engine/state.js";
import { StyleKind } from "../engine/switches/styleKind.js";
import { DEVICES, type CommandRule } from "../engine/tables.js";
import { Timer, TimerList } from "../engine/timers.js";
import type { CheckedPlan } from "../plan/checked.js";
import type { Create, MadeCode } from "./code.js";
import type { MadeNumbers } from "./numbers.js";

const nothing = (): void => {};
const never = (): boolean => false;

export class MadeTables {
  print: number;
  /** Numbers that the code has in hand. */
  readonly open: number[] = [];
  /** Counts anew what they decide. */
  declare readonly adjust?: () => void;
  readonly cells: { allocate(): Uint8Array };
  readonly timers: TimerList;
  readonly channels: (object | undefined)[] = [];
  readonly bound: object[];
  readonly named: ReadonlyMap<string, ReadonlySet<number>>;
  readonly users: ReadonlyMap<number, readonly { readonly liveAt: number; readonly hiddenAt: number }[]>;
  readonly started: number;
  readonly printAt: number;
  readonly stamp: number;
  readonly instantCount: number;
  readonly lastDevice: number;
  readonly eventNumber: number;
  readonly reasons: number;
  readonly kept: number;
  readonly usesPads: boolean;
  readonly devices: readonly (string | null)[];
  readonly fixed: MadeNumbers["fixed"];
  readonly conditions: ReadonlyMap<string, { readonly at: number }>;
  readonly numbers: ReadonlyMap<string, { readonly at: number; readonly paced: number[] }>;
  readonly spots: ReadonlyMap<string, { readonly x: number; readonly y: number }>;

  constructor(
    public plan: CheckedPlan,
    readonly told: MadeNumbers,
    private readonly create: Create,
    /** All controls that the plan may name, where what it does not bind is asked for as well. */
    private readonly controls?: Controls,
  ) {
    const { cells, channels, timers } = told;
    [
      this.started,
      this.printAt,
      this.stamp,
      this.instantCount,
      this.lastDevice,
      this.eventNumber,
      this.reasons,
      this.kept,
    ] = cells as [number, number, number, number, number, number, number, number];
    this.print = told.print;
    this.fixed = told.fixed;
    this.usesPads = told.usesPads;
    this.devices = [...DEVICES, ...told.ownDevices];
    this.cells = {
      allocate: () => {
        const words = new Int32Array(told.bytes / 4);
        write(words, told.start);
        return new Uint8Array(words.buffer);
      },
    };
    this.timers = new TimerList(timers[0]!, timers[1]!);
    this.bound = channels.map(() => ({}));
    const bound = told.names.map((name, n): [string, ReadonlySet<number>] => [
      name,
      new Set([channels[n]![0]!]),
    ]);
    const others = told.named.map(([name, ...controls]): [string, ReadonlySet<number>] => [
      name,
      new Set(controls),
    ]);
    this.named = new Map([...bound, ...others]);
    this.users = new Map(told.users.map(([control, ...cells]) => [control!, pairsOf(cells)]));
    this.conditions = new Map(plan.flags.map(({ name }, n) => [name, { at: told.flags[n]! }]));
    this.numbers = new Map(plan.numbers.map(({ name }, n) => [name, { at: told.numbers[n]!, paced: [] }]));
    this.spots = new Map(told.spots.map(([name, x, y]) => [name, { x, y }]));
  }

  /** Makes the code for a seat, whose buffer is laid out. */
  bind(s: SeatState): MadeCode {
    const { told, plan, timers } = this;
    const code = this.create(s, timers, ActionReading, this.open);
    const actions = plan.actions.map(({ name, kind }, n) => ({
      name,
      kind,
      number: n,
      liveAt: told.live[n],
      drivenBy: code.drivenBy?.[n],
      nextBlend: code.nextBlend?.[n],
    }));
    const nameOf = (action: number) => plan.actions[action]!.name;
    for (let at = 2; at < told.timers.length; at += 3) {
      const id = timers.all.length;
      const [phase, rank, cell] = told.timers.slice(at, at + 3) as [number, number, number];
      timers.all.push(new Timer(id, phase, rank, { due: code.due?.[id] ?? nothing }, cell));
    }
    this.bindChannels(code);
    const [sticks, turns, paces, waiting, signals] = told.counts;
    const switches = told.switches.map(([rank, instantPresses, reported, action], n) => ({
      name: nameOf(action!),
      rank: rank!,
      instantPresses: instantPresses!,
      settle: code.settles?.[n] ?? never,
      isOn: ({ b }: SeatState) => b[reported!] === 1,
      get pulses() {
        return (code.pulses?.[n] ?? never)();
      },
      consumeNews: code.news?.[n] ?? never,
      take: code.takes?.[n] ?? never,
      update: code.updates?.[rank!] ?? nothing,
      playInstantPress: code.instants?.[rank!] ?? never,
    }));
    Object.assign(this, {
      adjust: code.adjust?.[0],
      actions,
      signals: signalsOf(code, signals!),
      switches,
      readings: code.readings.map((Reading) => (s: never, n: number) => new Reading(s, n)),
      sticks: rulesOf(sticks!, "update", code.sticks),
      movements: told.movements.map((action, n) => ({
        name: nameOf(action),
        update: code.movements?.[n] ?? nothing,
      })),
      turns: rulesOf(turns!, "update", code.turns),
      paced: rulesOf(paces!, "updatePace", code.paces),
      ranked: [...switches].sort((a, b) => a.rank - b.rank),
      waiting: rulesOf(waiting!, "review", code.review),
      chords: chordsOf(code),
      keepers: told.keepers.map((pressedIn, n) => ({
        pressedIn,
        canBegin: code.mayBegin?.[n] ?? never,
        isNewer: ({ i }: SeatState, other: { pressedIn: number }) => i[pressedIn]! >= i[other.pressedIn]!,
        beginKept: code.begin?.[n] ?? nothing,
      })),
      commands: commandsOf(code, told),
      recordable: told.recordable === undefined ? null : recordableAsTold(code, told.recordable, this.open),
      resets: [{ reset: code.reset?.[0] ?? nothing }],
      recounts: [
        {
          recount: ({ b }: SeatState) => {
            write(b, told.begun);
            this.adjust?.();
          },
        },
      ],
      situation: told.levels === null ? undefined : situationOf(code, told.levels, told.mutes!),
    });
    return code;
  }

  private bindChannels(code: MadeCode): void {
    let place = 0;
    this.told.channels.forEach(([id, value, padCount, flags, least, most, group, other], n) => {
      const from = place;
      place += padCount!;
      const moves = code.moves?.slice(from, place) ?? [];
      const pairs = code.pairs?.slice(from, place) ?? [];
      this.channels[id!] = Object.assign(this.bound[n]!, {
        id,
        name: this.told.names[n],
        value,
        padCount,
        least,
        most,
        group,
        what: (id! << (Bits.Kind + Bits.Place)) | EventKind.Control,
        isAxis: (flags! & 1) !== 0,
        isAmount: (flags! & 2) !== 0,
        isStickAlone: (flags! & 4) !== 0,
        filter: null,
        other: other! < 0 ? null : this.bound[other!]!,
        move: (_: SeatState, pad: number, at: number) => moves[pad]?.(at),
        moveStick: (_: SeatState, pad: number, at: number) => pairs[pad]?.(at),
      });
    });
  }

  find(control: string): object | undefined {
    return this.bound[this.told.names.indexOf(control)];
  }

  nameOf(control: number): string {
    return this.controls?.nameOf(control) ?? this.told.names[this.bound.indexOf(this.channels[control]!)]!;
  }
}

function write(into: Uint8Array | Int32Array, changes: readonly number[]): void {
  for (let n = 0; n < changes.length; n += 2) into[changes[n]!] = changes[n + 1]!;
}

function pairsOf(cells: readonly number[]): { liveAt: number; hiddenAt: number }[] {
  const all = [];
  for (let n = 0; n < cells.length; n += 2) all.push({ liveAt: cells[n]!, hiddenAt: cells[n + 1]! });
  return all;
}

/** As many rules as there are, each with its method: of some nothing is left. */
function rulesOf(length: number, method: string, list: readonly unknown[] = []): object[] {
  return Array.from({ length }, (_, n) => ({ [method]: list[n] ?? nothing }));
}

function signalsOf(code: MadeCode, length: number): object[] {
  const { gesturesRise, gesturesFall, entriesRise, entriesFall } = code;
  const heard = (rise: MadeCode["sticks"], fall: MadeCode["sticks"], n: number) =>
    rise?.[n] === undefined && fall?.[n] === undefined
      ? []
      : [{ press: rise?.[n] ?? nothing, release: fall?.[n] ?? nothing }];
  return Array.from({ length }, (_, n) => ({
    gestures: heard(gesturesRise, gesturesFall, n),
    entries: heard(entriesRise, entriesFall, n),
  }));
}

function chordsOf({ judge, returnPresses }: MadeCode): object | null {
  if (judge === undefined) return null;
  return {
    judge: (_: SeatState, changes: Int32Array, count: number) => judge[0]!(changes, count),
    returnPresses: (_: SeatState, changes: Int32Array, count: number) => returnPresses?.[0]!(changes, count),
  };
}

function situationOf({ refresh }: MadeCode, levels: readonly number[], mutes: readonly number[]): object {
  return {
    refresh: refresh?.[0] ?? nothing,
    levelOf: ({ i }: SeatState, mode: number) => i[levels[mode]!]!,
    mutes: ({ i }: SeatState, action: number) => i[mutes[action]!]!,
  };
}

function recordableAsTold(
  { latches, toggles }: MadeCode,
  { driven, latches: told, others = [] }: NonNullable<MadeNumbers["recordable"]>,
  open: readonly number[],
): Recordable {
  return {
    driven,
    get latches() {
      const all = told.map((one, n) => ({ ...one, isOn: latches?.[n] ?? never }));
      for (const [n, place, other] of others)
        if ((open[place] !== StyleKind.Hold) !== (told[n]!.kind === "latch"))
          all[n] = { ...other, isOn: toggles?.[n] ?? never };
      return all;
    },
  };
}

/** By kind of command; a kind that the game was built without has none. */
function commandsOf(code: MadeCode, { devices }: MadeNumbers): (CommandRule | undefined)[] {
  const { flags, numbers, spots, enter, leave, mute, unmute, setSwitch, blend, drive, lose } = code;
  const of = (list: MadeCode["numbers"] | MadeCode["spots"], from = 0): CommandRule | undefined =>
    list && { apply: (_, index, value, other) => list[index + from]?.(value, other) };
  const all: (CommandRule | undefined)[] = [];
  all[EventKind.Flag] = of(flags);
  all[EventKind.Number] = of(numbers);
  all[EventKind.Spot] = of(spots);
  all[EventKind.Enter] = of(enter);
  all[EventKind.Leave] = of(leave);
  all[EventKind.Mute] = of(mute);
  all[EventKind.Unmute] = of(unmute);
  all[EventKind.SetSwitch] = of(setSwitch);
  all[EventKind.Lose] = of(lose, devices);
  all[EventKind.Blend] = of(blend);
  all[EventKind.Drive] = drive && {
    apply: (_, index, x, y) =>
      drive[index >> DriveBits.Action]?.(
        (index >> DriveBits.Reason) & DriveBits.ReasonMask,
        index & DriveBits.WayMask,
        x,
        y,
      ),
  };
  return all;
}
