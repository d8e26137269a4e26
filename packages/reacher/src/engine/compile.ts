/** Makes the engine's tables from a checked plan. In: names. Out: numbers. */
import {
  EndInt,
  EntryInt,
  GestureFloat,
  GestureInt,
  HeadInt,
  SignalInt,
  MoverFloat,
  MoverInt,
  Room,
  StickFloat,
  StickInt,
  TurnFloat,
  SwitchFloat,
  SwitchInt,
} from "./layout.js";
import type { Control } from "../controls/catalogue.js";
import type {
  CheckedAction,
  CheckedEntry,
  CheckedMovement,
  CheckedPlan,
  CheckedShape,
  CheckedStick,
  CheckedSwitch,
  CheckedTurn,
  Source,
  Word,
} from "../plan/checked.js";

import { listOf } from "./lists.js";
import { Bits, Kind } from "./queue.js";
import { endBits, keyVectors, oneMore } from "./keys.js";
import { compileShape } from "./shape.js";
import { findWays, markSpecial, type Growing } from "./ways.js";

import {
  DEVICES,
  PAD,
  Due,
  End,
  Gesture,
  Opposed,
  Style,
  Way,
  type ActionTable,
  type AnalogEndTable,
  type ChannelTable,
  type DeadlineTable,
  type EndTable,
  type EntryTable,
  type GestureTable,
  type Hideable,
  type ModeTable,
  type MoverTable,
  type PaceTable,
  type SignalTable,
  type StickTable,
  type SwitchTable,
  type Tables,
  type TurnTable,
} from "./tables.js";

/** A plan without seats takes up to this many pads at once. */
export const PADS_TOGETHER = 4;

const STYLES = { hold: Style.Hold, toggle: Style.Toggle, either: Style.Either };
const OPPOSED = { latest: Opposed.Latest, earliest: Opposed.Earliest, neutral: Opposed.Neutral };
const ENDS = {
  minus: End.Left,
  plus: End.Right,
  left: End.Left,
  right: End.Right,
  down: End.Down,
  up: End.Up,
};
const FACES = { right: 0, up: 2, left: 4, down: 6 };

/** More pixels than any mouse moves by at once: a whole number, so that all channels are laid out alike. */
const FURTHEST = 1e9;

/** Compiles a plan for a seat with these slots. */
export function compilePlan(plan: CheckedPlan, slots: readonly string[]): Tables {
  return new Compiler(plan, slots).compile();
}

/** An action with the entries that stand in these slots. */
function within(action: CheckedAction, slots: readonly string[]): CheckedAction {
  const mine = ({ slot }: { readonly slot: string }) => slots.includes(slot);
  if (action.kind === "switch") return { ...action, entries: action.entries.filter(mine) };
  if (action.kind === "turn")
    return { ...action, sticks: action.sticks.filter(mine), mice: action.mice.filter(mine) };
  return { ...action, sticks: action.sticks.filter(mine), ends: action.ends.filter(mine) };
}

class Compiler {
  /** How many ints of the state are given away. */
  private ints = HeadInt.End as number;
  private readonly channels = new Map<string, number>();
  private readonly used = new Set<string>();
  readonly channel: Growing<ChannelTable>[] = listOf();
  readonly signal: Growing<SignalTable>[] = listOf();
  private readonly signals = new Map<string, number>();
  readonly stick: Growing<StickTable>[] = listOf();
  private readonly switch: Growing<SwitchTable>[] = listOf();
  readonly mover: Growing<MoverTable>[] = listOf();
  private readonly turn: TurnTable[] = listOf();
  private readonly entry: Growing<EntryTable>[] = listOf();
  private readonly gesture: Growing<GestureTable>[] = listOf();
  private readonly action: Growing<ActionTable>[];
  private readonly due: DeadlineTable[] = [];
  private readonly windows: DeadlineTable[] = [];
  private readonly dueCount: number;
  private readonly facts: Map<string, number>;
  private readonly pacedBy: number[][];
  private readonly neededBy: number[][];

  /** Where facts and live flags stand. */
  private readonly factsAt: number;
  private readonly liveAt: number;
  /** How many pads the seat takes at once. */
  private readonly places: number;
  private readonly actions: readonly CheckedAction[];

  constructor(
    private readonly plan: CheckedPlan,
    private readonly slots: readonly string[],
  ) {
    this.places = plan.seated ? 1 : PADS_TOGETHER;
    this.actions = plan.actions.map((action) => within(action, slots));
    this.facts = new Map([...plan.flags, ...plan.actions].map(({ name }, fact) => [name, fact]));
    this.factsAt = this.takeInts(this.facts.size);
    this.liveAt = this.takeInts(plan.actions.length);
    this.pacedBy = [...this.facts].map(() => []);
    this.neededBy = [...this.facts].map(() => []);
    this.dueCount = this.actions.reduce((count, action) => count + dueCount(action), 0);
    const modes = plan.modes.map(({ name }) => name);
    this.action = this.actions.map((action) => ({
      modes: action.in.map((name) => modes.indexOf(name)),
      switch: -1,
      mover: -1,
      turn: -1,
      hideable: listOf(),
    }));
  }

  compile(): Tables {
    const { plan } = this;
    let due = 0;
    // Movers first: switches may use their directions. Deadlines keep the plan's order all the same.
    const firstDue = this.actions.map((action) => (due += dueCount(action)) - dueCount(action));
    this.actions.forEach((action, n) => {
      if (action.kind === "turn") this.addTurn(action, n);
      else if (action.kind !== "switch") this.addMover(action, n, firstDue[n]!);
    });
    this.actions.forEach((action, n) => action.kind === "switch" && this.addSwitch(action, n, firstDue[n]!));
    this.joinGroups();
    this.rankSwitches();
    this.linkGestures();
    markSpecial(this.channel);
    const linger = listOf(
      plan.flags.map(({ lingerMs }, fact) => ({
        deadline: lingerMs > 0 ? this.addWindow({ kind: Due.Linger, target: fact }) : -1,
        ms: lingerMs,
      })),
    );
    const deadlines = listOf([...this.due, ...this.windows]);
    for (const one of [...this.mover, ...this.switch])
      one.heard = this.pacedBy[one.fact]!.length + this.neededBy[one.fact]!.length > 0;
    findWays(this);
    const hasAlls = this.gesture.some(({ kind }) => kind === Gesture.All);
    return {
      plan,
      print: fingerprint(JSON.stringify([plan, this.slots])),
      places: this.places,
      closed: plan.seated && this.slots.length === 0,
      usesPads: this.channel.some(({ device }) => device === PAD),
      channels: this.channels,
      used: this.used,
      channel: this.channel,
      signal: this.signal,
      stick: this.stick,
      switch: this.switch,
      mover: this.mover,
      turn: this.turn,
      facts: this.facts,
      pacedBy: this.pacedBy,
      neededBy: this.neededBy,
      linger,
      entry: this.entry,
      waiting: listOf(this.entry.filter(({ deadline }) => deadline >= 0)),
      gesture: this.gesture,
      hasAlls,
      mode: this.modeTables(),
      start: plan.start.map((name) => plan.modes.findIndex((mode) => mode.name === name)),
      action: this.action,
      deadlines,
      firstWindow: this.dueCount,
      factsAt: this.factsAt,
      deadlinesAt: this.takeFloats(deadlines.length),
      runningAt: this.takeInts(deadlines.length),
      liveAt: this.liveAt,
      mutesAt: this.takeInts(plan.actions.length),
      takenAt: this.takeInts(hasAlls ? this.channel.length : 0),
      stackAt: this.takeInts(plan.modes.length),
      ints: this.ints,
    };
  }

  private addSwitch(action: CheckedSwitch, number: number, firstDue: number): void {
    const id = this.switch.length;
    this.action[number]!.switch = id;
    const waits = !isSimple(action) || action.repeat !== undefined || action.carry;
    let due = firstDue;
    const table: Growing<SwitchTable> = {
      name: action.name,
      action: number,
      id,
      fact: this.facts.get(action.name)!,
      factAt: this.factsAt + this.facts.get(action.name)!,
      live: this.liveAt + number,
      heard: false,
      simple: isSimple(action),
      waits,
      style: STYLES[action.style],
      tapMs: action.tapMs,
      startsOn: action.startsOn,
      needs: this.words(action.needs, this.neededBy, id),
      rank: 0,
      resume: action.resume,
      group: [],
      everyMs: action.repeat?.everyMs ?? 0,
      afterMs: action.repeat?.afterMs ?? 0,
      repeat: action.repeat === undefined ? -1 : this.addDue(due++, { kind: Due.Repeat, target: id }),
      restMs: action.restMs,
      keepMs: action.keepMs,
      carry: action.carry,
      keeps: action.keeps,
      entries: listOf(),
      gestures: listOf(),
      longs: listOf(),
      f: this.takeFloats(waits ? SwitchFloat.Size : SwitchFloat.Plain),
      i: this.takeInts(waits ? SwitchInt.Size : SwitchInt.Plain),
    };
    this.switch.push(table);
    for (const entry of action.entries) {
      if (entry.kind === "plain") this.addEntry(entry, table, id);
      // Each direction of `swim.each` is counted on its own.
      else if (entry.kind === "taps")
        for (const source of entry.of) this.addGesture(entry, [source], table, id, -1);
      else this.addGesture(entry, entry.of, table, id, entry.kind === "long" ? due++ : -1);
    }
  }

  private addEntry(
    { of, waits }: CheckedEntry & { kind: "plain" },
    table: Growing<SwitchTable>,
    id: number,
  ): void {
    const signal = this.signalOf(of[0]!);
    const known = table.entries.find((entry) => entry.signal === signal.id);
    // The same control in two slots is one source: one press of it counts once.
    if (known !== undefined) return;
    const number = this.entry.length;
    const entry: Growing<EntryTable> = {
      id: number,
      switch: id,
      action: table.action,
      signal: signal.id,
      i: this.takeInts(waits ? EntryInt.Size : EntryInt.Plain),
      owner: table,
      live: this.liveAt + table.action,
      deadline: waits ? this.addWindow({ kind: Due.Claim, target: number }) : -1,
      rivals: listOf(),
    };
    this.entry.push(entry);
    table.entries.push(entry);
    signal.entries.push(entry);
    this.hideable(table.action, entry.i + EntryInt.Hidden, [signal.id], { entry });
  }

  private addGesture(
    entry: Exclude<CheckedEntry, { kind: "plain" }>,
    sources: readonly Source[],
    table: Growing<SwitchTable>,
    id: number,
    due: number,
  ): void {
    const of = sources.map((source) => this.signalOf(source).id);
    const number = this.gesture.length;
    const gesture: Growing<GestureTable> = {
      id: number,
      kind: GESTURES[entry.kind],
      switch: id,
      action: table.action,
      f: this.takeFloats(GestureFloat.Size),
      i: this.takeInts(GestureInt.Size),
      live: this.liveAt + table.action,
      of,
      taps: entry.kind === "taps" ? entry.taps : 0,
      ms: gestureMs(entry),
      eachMs: entry.kind === "taps" ? (entry.eachMs ?? Infinity) : Infinity,
      fallback: fallbacks(of),
      deadline: due < 0 ? -1 : this.addDue(due, { kind: Due.Long, target: number }),
      claims: listOf(),
    };
    this.gesture.push(gesture);
    table.gestures.push(gesture);
    if (entry.kind === "long") table.longs.push(gesture);
    for (const signal of new Set(of))
      this.signal[signal]![entry.kind === "all" ? "alls" : "gestures"].push(gesture);
    if (entry.kind === "long") this.signal[of[0]!]!.long = true;
    this.hideable(table.action, gesture.i + GestureInt.Hidden, of, { gesture });
    if (entry.kind === "taps" && entry.brokenBy !== "none")
      this.broken.push({ gesture, by: entry.brokenBy, source: sources[0]! });
  }

  private readonly broken: { gesture: GestureTable; by: "opposite" | "any"; source: Source }[] = [];

  /** What can only be known when every signal is: who breaks whom, who claims whose press. */
  private linkGestures(): void {
    for (const { gesture, by, source } of this.broken) {
      if (by === "opposite" && "end" in source) {
        this.signalOf({
          ...source,
          name: `${source.action}.${OPPOSITE[source.end]}`,
          end: OPPOSITE[source.end],
        }).breaks.push(gesture);
      } else if (by === "any") {
        const own = this.signal[gesture.of[0]!]!;
        for (const signal of this.signal) {
          const feedsOwn = signal.ends.some((end) => end.direction === own);
          if (signal.channel >= 0 && signal !== own && !feedsOwn && !signal.half) signal.breaks.push(gesture);
        }
      }
    }
    const channelsOf = this.signal.map(({ id }) => this.channelsOf(id));
    const shares = (one: number, other: number) =>
      channelsOf[one]!.some((channel) => channelsOf[other]!.includes(channel));
    for (const entry of this.entry) {
      if (entry.deadline < 0) continue;
      for (const gesture of this.gesture) {
        if (!gesture.of.some((of) => shares(of, entry.signal))) continue;
        entry.rivals.push(gesture);
        (gesture.claims as EntryTable[]).push(entry);
      }
    }
    const ruling = this.signal.filter(({ alls, gestures }) => alls.length > 0 || gestures.length > 0);
    for (const signal of this.signal) {
      signal.ruled = ruling.some((other) => shares(other.id, signal.id));
      signal.direct = !this.signal.some(
        ({ id, alls, entries }) =>
          (alls.length > 0 || entries.some(({ deadline }) => deadline >= 0)) && shares(id, signal.id),
      );
    }
  }

  /** The channels that a signal is read off; those of its keys and sticks where it is a direction. */
  private channelsOf(signal: number): readonly number[] {
    const { channel } = this.signal[signal]!;
    if (channel >= 0) return [channel];
    const keys = this.signal
      .filter((other) => other.ends.some((end) => end.direction === this.signal[signal]))
      .map((other) => other.channel);
    const sticks = this.stick.flatMap((stick, id) =>
      stick.directionSignals?.includes(this.signal[signal]!)
        ? this.channel.flatMap(({ sticks: ids }, n) => (ids.includes(id) ? [n] : []))
        : [],
    );
    return [...keys, ...sticks];
  }

  private hideable(action: number, i: number, signals: readonly number[], what: Partial<Hideable>): void {
    const channels = signals.map((signal) => this.signal[signal]!.channel).filter((channel) => channel >= 0);
    this.action[action]!.hideable.push({
      i,
      channels,
      entry: undefined,
      gesture: undefined,
      end: undefined,
      stick: -1,
      ...what,
    });
  }

  private modeTables(): ModeTable[] {
    return this.plan.modes.map(({ name, covers }, mode) => ({
      name,
      covers,
      channels: new Set(
        this.action
          .filter(({ modes }) => modes.includes(mode))
          .flatMap(({ hideable }) => hideable.flatMap((one) => one.channels)),
      ),
    }));
  }

  private joinGroups(): void {
    const groups = new Map<string, number[]>();
    const switches = this.plan.actions.filter((action) => action.kind === "switch");
    switches.forEach(({ oneOf }, id) => {
      if (oneOf !== undefined) groups.set(oneOf, [...(groups.get(oneOf) ?? []), id]);
    });
    for (const ids of groups.values())
      for (const id of ids) this.switch[id]!.group = ids.filter((other) => other !== id);
  }

  /** Those that are needed come first, else the plan's order. */
  private rankSwitches(): void {
    const byFact = new Map(this.switch.map((table) => [table.fact, table]));
    const ranked = new Set<Growing<SwitchTable>>();
    const rank = (table: Growing<SwitchTable>): void => {
      if (ranked.has(table)) return;
      for (const { fact } of table.needs) if (byFact.has(fact)) rank(byFact.get(fact)!);
      table.rank = ranked.size;
      ranked.add(table);
    };
    this.switch.forEach(rank);
  }

  private addDue(id: number, deadline: DeadlineTable): number {
    this.due[id] = deadline;
    return id;
  }

  private addWindow(deadline: DeadlineTable): number {
    return this.dueCount + this.windows.push(deadline) - 1;
  }

  private addMover(action: CheckedMovement, number: number, due: number): void {
    const id = this.mover.length;
    this.action[number]!.mover = id;
    const up = this.plan.yAxis === "up" ? 1 : -1;
    const analogEnds: AnalogEndTable[][] = [listOf(), listOf(), listOf(), listOf()];
    const sticks: StickTable[] = listOf();
    const hasAnalogEnds = action.ends.some(({ control }) => !isDigital(control));
    const sums = action.combine === "sum";
    const plain = action.ease === undefined && (action.pace?.easeMs ?? 0) === 0;
    const keysAlone = action.ease === undefined && !sums && !hasAnalogEnds;
    const floats = plain && keysAlone ? MoverFloat.Plain : MoverFloat.Size;
    const f = this.takeFloats(floats);
    const moverAt = this.takeInts(MoverInt.Size);
    const directions = action.directions === "free" ? 0 : action.directions;
    for (const end of action.ends) {
      const place = ENDS[end.end];
      const analog = !isDigital(end.control);
      const signal = this.signalOf({
        name: end.control.name,
        control: end.control,
        press: end.press,
        release: end.release,
      });
      if (signal.ends.some((other: EndTable) => other.mover === id && other.end === place)) continue;
      const table: Growing<EndTable> = {
        mover: id,
        end: place,
        moverAt,
        newestAt: moverAt + MoverInt.Newest + place,
        bits: endBits(place),
        key: analog ? 0 : oneMore(place),
        ordered: action.opposed === "earliest",
        i: this.takeInts(EndInt.Size),
        direction: undefined,
      };
      signal.ends.push(table);
      this.hideable(number, table.i + EndInt.Hidden, [signal.id], { end: table });
      if (!analog) continue;
      const channel = this.channel[signal.channel]!;
      const { places } = channel;
      const shape = compileShape(end.shape);
      const source = {
        mover: id,
        end: place,
        f: channel.f,
        places,
        sign: end.control.sign,
        shape,
        hiddenAt: table.i + EndInt.Hidden,
      };
      channel.analogEnds.push(source);
      analogEnds[place]!.push(source);
    }
    for (const stick of action.sticks)
      this.addStick(number, stick, action.kind, sticks, {
        mover: id,
        turn: -1,
        perMs: 0,
        directions,
        moverAt,
      });
    const round = action.diagonal === "round";
    this.mover.push({
      id,
      name: action.name,
      action: number,
      isAxis: action.kind === "axis",
      fact: this.facts.get(action.name)!,
      factAt: this.factsAt + this.facts.get(action.name)!,
      live: this.liveAt + number,
      heard: false,
      opposed: OPPOSED[action.opposed],
      directions,
      round,
      up,
      faces: FACES[action.faces],
      facingFrom: action.facingFrom,
      settleMs: action.settleMs,
      settle: action.kind === "vector" ? this.addDue(due, { kind: Due.Settle, target: id }) : -1,
      gaitNames: action.gaits.map((gait) => gait.name),
      gaitFrom: Float64Array.from(action.gaits, (gait) => gait.from),
      // Rounded, so that 0.45 less 0.04 is 0.41 and not a little more.
      gaitTop: action.gaits.at(-1)?.from ?? FURTHEST,
      gaitKept: Float64Array.from(
        action.gaits,
        (gait) => Math.round((gait.from - gaitMargin(action)) * 1e9) / 1e9,
      ),
      sums,
      ease: action.ease,
      easing:
        action.ease === undefined
          ? -1
          : this.addDue(due + (action.kind === "vector" ? 1 : 0), { kind: Due.Ease, target: id }),
      pace: this.paceOf(action, id),
      easeMs: action.pace?.easeMs ?? 0,
      plain,
      f,
      floats,
      i: moverAt,
      sticks,
      analogEnds,
      hasAnalogEnds,
      keyVectors: keysAlone ? keyVectors(round, up) : null,
    });
  }

  private addTurn(action: CheckedTurn, actionId: number): void {
    const id = this.turn.length;
    this.action[actionId]!.turn = id;
    const up = this.plan.yAxis === "up" ? 1 : -1;
    const sticks: StickTable[] = listOf();
    for (const stick of action.sticks) {
      const perMs = stick.perSecond / 1000;
      this.addStick(actionId, stick, "vector", sticks, {
        mover: -1,
        turn: id,
        perMs,
        directions: 0,
        moverAt: -1,
      });
    }
    for (const { control, perPixelX, perPixelY } of action.mice) {
      const channels = control.parts.map((part) => this.channelOf(part, control));
      const hiddenAt = this.takeInts(1);
      // Pixels count downwards.
      const each = [perPixelX, -perPixelY * up];
      channels.forEach((channel, n) =>
        this.channel[channel]!.mice.push({ turn: id, vertical: n === 1, perPixel: each[n]!, hiddenAt }),
      );
      this.hideChannels(actionId, hiddenAt, channels, -1);
    }
    this.turn.push({ name: action.name, action: actionId, f: this.takeFloats(TurnFloat.Size), sticks });
  }

  /** A stick, once for each pad that the seat takes. */
  private addStick(
    action: number,
    { control, shape }: CheckedStick,
    kind: "axis" | "vector",
    sticks: StickTable[],
    owner: Pick<StickTable, "mover" | "turn" | "perMs" | "directions" | "moverAt">,
  ): void {
    const up = this.plan.yAxis === "up" ? 1 : -1;
    const { x, y, signX, signY } = stickParts(control, kind, up, shape);
    const ids = [x!, ...(y === undefined ? [] : [y])].map((part) => this.channelOf(part, control));
    const [channelX, channelY] = ids.map((channel) => this.channel[channel]!);
    if (channelY !== undefined) {
      channelX!.other = ids[1]!;
      channelX!.otherWhat = channelY.what;
      channelX!.otherF = channelY.f;
      channelY.other = ids[0]!;
      channelY.otherWhat = channelX!.what;
      channelY.otherF = channelX!.f;
    }
    const table = compileShape(shape);
    for (let place = 0; place < channelX!.places; place++) {
      const id = this.stick.length;
      for (const channel of ids) this.channel[channel]!.sticks.push(id);
      const stick: StickTable = {
        ...owner,
        number: sticks.length,
        rawX: channelX!.f + place,
        rawY: channelY === undefined ? -1 : channelY.f + place,
        signX,
        signY,
        f: this.takeFloats(StickFloat.Size),
        i: this.takeInts(StickInt.Size),
        shape: table,
        unusual:
          channelY === undefined ||
          table.cross ||
          table.points !== null ||
          table.gain !== 1 ||
          owner.directions !== 0,
        directionSignals: undefined,
      };
      this.stick.push(stick);
      sticks.push(stick);
      this.hideChannels(action, stick.i + StickInt.Hidden, ids, id);
    }
  }

  private hideChannels(action: number, i: number, channels: readonly number[], stick: number): void {
    const nothing = { entry: undefined, gesture: undefined, end: undefined };
    this.action[action]!.hideable.push({ i, channels, stick, ...nothing });
  }

  private paceOf(action: CheckedMovement, mover: number): PaceTable | undefined {
    if (action.pace === undefined) return undefined;
    const rules = action.pace.rules.map((rule) => ({
      words: this.words(rule.when, this.pacedBy, mover),
      set: rule.set !== undefined,
      by: rule.set ?? rule.times!,
    }));
    return { base: action.pace.base, rules: listOf(rules) };
  }

  /** Facts asked for by `asker`, who is told when they change. */
  private words(words: readonly Word[], askers: number[][], asker: number) {
    return listOf(
      words.map(({ name, not }) => {
        const fact = this.facts.get(name)!;
        if (!askers[fact]!.includes(asker)) askers[fact]!.push(asker);
        return { fact, at: this.factsAt + fact, truth: not ? 0 : 1 };
      }),
    );
  }

  private signalOf(source: Source): Growing<SignalTable> {
    const key = "control" in source ? `${source.name} ${source.press} ${source.release}` : source.name;
    const known = this.signals.get(key);
    if (known !== undefined) return this.signal[known]!;
    const id = this.signal.length;
    const i = this.takeInts(SignalInt.Size);
    const f = this.takeFloats(1);
    const lists = {
      entries: listOf<EntryTable>(),
      ends: listOf<EndTable>(),
      gestures: listOf<GestureTable>(),
      alls: listOf<GestureTable>(),
      breaks: listOf<GestureTable>(),
      movesOnly: false,
      long: false,
      ruled: true,
      direct: false,
    };
    this.signals.set(key, id);
    if ("control" in source) {
      const { control, press, release } = source;
      const channel = this.channelOf(control.parts[0]!, control);
      const device = DEVICES.indexOf(control.device);
      const half = control.family === "half";
      this.signal.push({
        id,
        sign: control.sign,
        press,
        release,
        i,
        device,
        control: control.name,
        channel,
        half,
        f,
        ...lists,
      });
      this.channel[channel]!.signals.push(this.signal[id]!);
      return this.signal[id]!;
    }
    const signal: Growing<SignalTable> = {
      id,
      sign: 1,
      press: 0,
      release: 0,
      i,
      device: 0,
      control: source.name,
      channel: -1,
      half: false,
      f,
      ...lists,
    };
    this.signal.push(signal);
    this.joinDirection(signal, source.action, ENDS[source.end]);
    return signal;
  }

  /** Lets the keys and sticks of a vector's direction drive a signal. */
  private joinDirection(signal: SignalTable, action: string, end: number): void {
    const mover = this.mover.findIndex(({ name }) => name === action);
    for (const { ends } of this.signal) {
      for (const one of ends as Growing<EndTable>[])
        if (one.mover === mover && one.end === end) one.direction = signal;
    }
    for (const stick of this.stick) {
      if (stick.mover !== mover) continue;
      const signals = listOf(stick.directionSignals ?? [undefined, undefined, undefined, undefined]);
      signals[end] = signal;
      stick.directionSignals = signals;
    }
  }

  /** The channel of a control's part. */
  private channelOf(name: string, control: Control): number {
    this.used.add(control.name).add(name);
    const known = this.channels.get(name);
    if (known !== undefined) return known;
    const places = control.device === "pad" ? this.places : 1;
    const isMouse = control.family === "motion";
    const isAxis = !isDigital(control) && control.family !== "trigger" && !isMouse;
    const device = DEVICES.indexOf(control.device);
    const f = this.takeFloats(places);
    const least = isMouse ? -FURTHEST : isAxis ? -1 : 0;
    const what = (this.channel.length << (Bits.Place + Bits.Kind)) | Kind.Control;
    const id = this.channel.push({
      name,
      device,
      isAxis,
      mice: listOf(),
      least,
      most: isMouse ? FURTHEST : 1,
      what,
      other: -1,
      otherWhat: -1,
      otherF: -1,
      special: isMouse,
      f,
      places,
      bounce: this.bounceOf(name, control, what, places),
      signals: listOf(),
      sticks: [],
      analogEnds: listOf(),
      way: Way.Steps,
      laneSticks: listOf(),
      laneMovers: listOf(),
    });
    this.channels.set(name, id - 1);
    return id - 1;
  }

  /** The first of a digital control's deadlines for releases that are held back, or -1. A notch of the wheel is no press of a hand. */
  private bounceOf(name: string, control: Control, what: number, places: number): number {
    if (this.plan.bounceMs === 0 || !isDigital(control) || name.startsWith("Wheel")) return -1;
    const first = this.dueCount + this.windows.length;
    for (let place = 0; place < places; place++)
      this.addWindow({ kind: Due.Bounce, target: what | (place << Bits.Kind) });
    return first;
  }

  private takeFloats(count: number): number {
    const first = Math.ceil(this.ints / Room.IntsInFloat);
    this.ints = (first + count) * Room.IntsInFloat;
    return first;
  }

  private takeInts(count: number): number {
    this.ints += count;
    return this.ints - count;
  }
}

const GESTURES = {
  taps: Gesture.Taps,
  short: Gesture.Short,
  long: Gesture.Long,
  all: Gesture.All,
  series: Gesture.Series,
};
const OPPOSITE = { up: "down", down: "up", left: "right", right: "left" } as const;

/** How many deadlines of its own an action has that are no ends of windows. */
function dueCount(action: CheckedAction): number {
  if (action.kind === "turn") return 0;
  if (action.kind !== "switch")
    return (action.kind === "vector" ? 1 : 0) + (action.ease === undefined ? 0 : 1);
  return action.entries.filter(({ kind }) => kind === "long").length + (action.repeat === undefined ? 0 : 1);
}

/** A hold that nothing but its controls turns on and off. */
function isSimple({ style, needs, oneOf, restMs, keepMs }: CheckedSwitch): boolean {
  return style === "hold" && needs.length === 0 && oneOf === undefined && restMs === 0 && keepMs === 0;
}

function gestureMs(entry: Exclude<CheckedEntry, { kind: "plain" }>): number {
  switch (entry.kind) {
    case "short":
      return entry.beforeMs;
    case "long":
      return entry.afterMs;
    case "all":
      return entry.spreadMs ?? Infinity;
    default:
      return entry.gapMs;
  }
}

/** By members matched: how many of the first still match after the longest end that is a beginning too. */
function fallbacks(of: readonly number[]): number[] {
  const back = [0, 0];
  for (let n = 1, k = 0; n < of.length; n++) {
    while (k > 0 && of[n] !== of[k]) k = back[k]!;
    if (of[n] === of[k]) k++;
    back[n + 1] = k;
  }
  return back;
}

/** Down or up, with nothing between that counts. */
function isDigital({ family }: Control): boolean {
  return family === "key" || family === "button";
}

/** A ramp that falls has to get below the beginning of its gait before it can be seen to leave it. */
function gaitMargin({ gaitMargin: margin, ease }: CheckedMovement): number {
  return ease === undefined ? margin : Math.max(margin, 1e-6);
}

/** Which raw axes a stick reads, and their signs: raw pads report down as +1 (W3C Gamepad, section 7). */
function stickParts(
  control: Control,
  kind: "axis" | "vector",
  up: number,
  { invertX, invertY }: CheckedShape,
) {
  const [first, second] = control.parts;
  const x = invertX ? -1 : 1;
  if (kind === "vector") return { x: first, y: second, signX: x, signY: invertY ? up : -up };
  const vertical = first!.endsWith("Y");
  return { x: first, y: undefined, signX: vertical ? -up * x : x, signY: 1 };
}

/** A number for a text (FNV-1a, 32 bits): snapshots of another plan are told apart by it. */
function fingerprint(text: string): number {
  let hash = 0x811c9dc5 | 0;
  for (let n = 0; n < text.length; n++) hash = Math.imul(hash ^ text.charCodeAt(n), 0x01000193);
  return hash;
}
