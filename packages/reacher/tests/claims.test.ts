/**
 * The engine against a third reckoning that shares nothing with it: gestures on shared keys, and presses that wait for them. Every
 * press is followed on its own, millisecond by millisecond, as the documents tell it.
 */
import fc from "fast-check";
import { createInputLayer, type Plan } from "reacher";
import { Chance } from "./anyPlans";
import { runs } from "./runs";

const KEYS = ["KeyA", "KeyB", "KeyC"];
interface Entry {
  use?: string;
  taps?: number;
  of?: string;
  series?: string[];
  all?: string[];
  long?: string;
  short?: string;
  gapMs?: number;
  eachMs?: number;
  withinMs?: number;
  spreadMs?: number;
  afterMs?: number;
  beforeMs?: number;
  with?: string;
  brokenBy?: "any" | "none";
  waits?: boolean;
}
interface Event {
  t: number;
  key: string;
  isDown: boolean;
}

interface Press {
  readonly key: string;
  readonly at: number;
  isDown: boolean;
  heldMs?: number;
  isClaimed: boolean;
  wasLong: boolean;
  /** The chord that it completed: nobody else sees it. */
  takenBy?: Known;
  /** Chords whose member it is no more, since somebody did not wait for them. */
  readonly lapsed: Set<Known>;
}

/** What is known of one entry, each of which presses a switch of its own. */
class Known {
  isUp = false;
  /** The presses in a row; those that wait; the one that holds it. */
  row: Press[] = [];
  waiting: Press[] = [];
  by: Press | undefined;
  firesAt = NaN;
  readonly keys: readonly string[];

  constructor(
    readonly name: string,
    readonly entry: Entry,
  ) {
    const { use, of, series, all, long, short, taps } = entry;
    this.keys =
      series ?? all ?? (of === undefined ? [(use ?? long ?? short)!] : Array<string>(taps!).fill(of));
  }
  get isRow(): boolean {
    return this.entry.taps !== undefined || this.entry.series !== undefined;
  }
  get gapMs(): number {
    return this.entry.gapMs!;
  }
}

class Reckoning {
  private readonly told: string[] = [];
  private now = 0;
  private readonly presses = new Map<string, Press>();
  private readonly all: Known[];

  constructor(entries: readonly Entry[]) {
    this.all = entries.map((entry, n) => new Known(`s${n}`, entry));
  }

  run(events: readonly Event[], end: number): string[] {
    let n = 0;
    for (this.now = 0; this.now <= end; this.now++) {
      for (const one of this.all) if (one.firesAt === this.now) this.fireLong(one);
      this.letGo(false);
      for (; n < events.length && events[n]!.t === this.now; n++) {
        const { key, isDown } = events[n]!;
        if (isDown) this.press(key);
        else this.release(this.presses.get(key)!);
        this.letGo(false);
      }
      this.letGo(true);
    }
    return this.told;
  }

  private turn(one: Known, isUp: boolean): void {
    if (one.isUp !== isUp) this.told.push(`${one.name} ${isUp ? "on" : "off"} ${this.now}`);
    one.isUp = isUp;
  }

  private fireLong(one: Known): void {
    one.firesAt = NaN;
    one.by!.wasLong = one.by!.isClaimed = true;
    this.turn(one, true);
  }

  private press(key: string): void {
    const press: Press = {
      key,
      at: this.now,
      isDown: true,
      isClaimed: false,
      wasLong: false,
      lapsed: new Set(),
    };
    this.presses.set(key, press);
    this.completeChord(press);
    for (const one of this.all) {
      if (one.isRow) this.addToRow(one, press);
      else if (one.entry.all === undefined && one.keys[0] === key && this.sees(one, press))
        this.begin(one, press);
    }
  }

  private sees = (one: Known, { takenBy }: Press) => takenBy === undefined || takenBy === one;
  private members = (one: Known) =>
    one.keys
      .map((key) => this.presses.get(key))
      .filter((press): press is Press => press?.isDown === true && !press.lapsed.has(one));

  private completeChord(press: Press): void {
    const complete = this.all.filter((one) => {
      if (one.entry.all === undefined || one.isUp || !one.keys.includes(press.key)) return false;
      const members = this.members(one);
      const first = Math.min(...members.map(({ at }) => at));
      return members.length === one.keys.length && this.now - first <= (one.entry.spreadMs ?? Infinity);
    });
    const best = complete.sort((a, b) => b.keys.length - a.keys.length)[0];
    if (best === undefined) return;
    this.turn(best, true);
    for (const member of this.members(best)) member.isClaimed = true;
    press.takenBy = best;
  }

  private begin(one: Known, press: Press): void {
    one.by = press;
    if (one.entry.long !== undefined) one.firesAt = this.now + one.entry.afterMs!;
    else if (one.entry.waits) one.waiting.push(press);
    else if (one.entry.use !== undefined) this.turn(one, true);
  }

  private addToRow(one: Known, press: Press): void {
    const { brokenBy, eachMs } = one.entry;
    if (!this.isWithHeld(one)) one.row = [];
    else if (!one.keys.includes(press.key)) {
      if (brokenBy === "any" && press.key !== one.entry.with && this.isBound(press.key)) one.row = [];
    } else if (this.sees(one, press)) {
      const last = one.row.at(-1);
      if (last !== undefined && (this.now - last.at > one.gapMs || (last.heldMs ?? 0) > (eachMs ?? Infinity)))
        one.row = [];
      one.row = this.matching(one, [...one.row, press]);
      if (one.row.length < one.keys.length) return;
      for (const each of one.row) each.isClaimed = true;
      one.row = [];
      one.by = press;
      this.turn(one, true);
    }
  }
  private isWithHeld = ({ entry }: Known) =>
    entry.with === undefined || this.presses.get(entry.with)?.isDown === true;
  private isBound = (key: string) =>
    this.all.some(({ keys, entry }) => keys.includes(key) || entry.with === key);

  /** The longest end of these presses that the row may begin with. */
  private matching({ keys, entry }: Known, presses: readonly Press[], now = this.now): Press[] {
    const { withinMs = Infinity } = entry;
    const matches = (row: readonly Press[]) =>
      row.every(({ key }, n) => key === keys[n]) && !(row.length > 0 && now - row[0]!.at > withinMs);
    let row = [...presses];
    while (row.length > keys.length || !matches(row)) row = row.slice(1);
    return row;
  }

  private release(press: Press): void {
    press.isDown = false;
    press.heldMs = this.now - press.at;
    for (const one of this.all) {
      const { entry, keys } = one;
      if (entry.with === press.key) one.row = [];
      if (entry.all !== undefined && keys.includes(press.key)) this.turn(one, false);
      else if (one.by !== press) continue;
      else if (entry.short !== undefined) {
        if (press.heldMs > entry.beforeMs! || press.wasLong) continue;
        press.isClaimed = true;
        this.turn(one, true);
        this.turn(one, false);
      } else {
        one.firesAt = NaN;
        if (!one.waiting.includes(press)) this.turn(one, false);
      }
    }
  }

  /** Lets presses through that wait for nothing more. `isOver`: windows that end now are over. */
  private letGo(isOver: boolean): void {
    for (const one of this.all) {
      one.waiting = one.waiting.filter(({ isClaimed }) => !isClaimed);
      while (one.waiting.length > 0) {
        const press = one.waiting[0]!;
        if (this.all.some((rival) => this.mayClaim(rival, press, isOver))) break;
        one.waiting.shift();
        for (const rival of this.all) this.lapse(rival, press);
        this.turn(one, true);
        if (press.isDown) one.by = press;
        else this.turn(one, false);
      }
    }
  }

  private mayClaim(one: Known, press: Press, isOver: boolean): boolean {
    const { entry } = one;
    const isOpen = (end: number) => (isOver ? this.now < end : this.now <= end);
    if (!this.sees(one, press)) return false;
    if (one.isRow) return one.row.includes(press) && isOpen(this.rowEnd(one, press));
    if (entry.long !== undefined) return one.by === press && one.firesAt > this.now;
    if (entry.short !== undefined)
      return one.by === press && press.isDown && !press.wasLong && isOpen(press.at + entry.beforeMs!);
    if (entry.all === undefined || entry.spreadMs === undefined || one.isUp) return false;
    const members = this.members(one);
    return members.includes(press) && isOpen(Math.min(...members.map(({ at }) => at)) + entry.spreadMs);
  }

  /** Until when a press of a row may still be one of those that fire it. */
  private rowEnd(one: Known, press: Press): number {
    const { eachMs = Infinity, withinMs = Infinity } = one.entry;
    const last = one.row.at(-1)!;
    if (!last.isDown && last.heldMs! > eachMs) return -Infinity;
    let front = withinMs === Infinity ? Infinity : -Infinity;
    // Without those that are too old, the rest may still match.
    for (
      let row = one.row;
      front < Infinity && row.includes(press);
      row = this.matching(one, row, front + 0.5)
    )
      front = row[0]!.at + withinMs;
    return Math.min(last.at + one.gapMs, last.isDown ? last.at + eachMs : Infinity, front);
  }

  private lapse(one: Known, press: Press): void {
    const { all, spreadMs } = one.entry;
    if (all === undefined || spreadMs === undefined || one.isUp || !one.keys.includes(press.key)) return;
    for (const member of this.members(one))
      if (member === press || member.at + spreadMs <= this.now) member.lapsed.add(one);
  }
}

function entriesOf(chance: Chance): Entry[] {
  const kinds = chance.pick([
    ["taps", "long", "short", "all", "series", "plain"],
    ["taps", "long", "short", "series", "plain", "waits", "waits"],
    ["all", "waits"],
  ]);
  return Array.from({ length: 1 + chance.below(4) }, (): Entry => {
    const key = chance.pick(KEYS);
    const others = KEYS.filter((one) => one !== key);
    const row: Entry = { gapMs: chance.pick([4, 9, 15]) };
    if (chance.may(0.3)) row.withinMs = chance.pick([6, 12, 20]);
    if (row.withinMs !== undefined) row.gapMs = Math.min(row.gapMs!, row.withinMs);
    const taps: Entry = { taps: chance.pick([2, 2, 3]), of: key, ...row };
    if (chance.may(0.3)) taps.eachMs = chance.pick([2, 6]);
    if (chance.may(0.3)) taps.brokenBy = chance.pick(["any", "none"]);
    if (chance.may(0.3)) taps.with = chance.pick(others);
    const chord: Entry = { all: chance.may(0.75) ? [key, chance.pick(others)] : KEYS };
    if (chance.may(0.5)) chord.spreadMs = chance.pick([3, 8]);
    switch (chance.pick(kinds)) {
      case "taps":
        return taps;
      case "series":
        return { series: Array.from({ length: 2 + chance.below(2) }, () => chance.pick(KEYS)), ...row };
      case "all":
        return chord;
      case "long":
        return { long: key, afterMs: chance.pick([8, 10, 18]) };
      case "short":
        return { short: key, beforeMs: chance.pick([4, 8]) };
      default:
        return { use: key, waits: kinds.includes("waits") };
    }
  });
}

function eventsOf(chance: Chance): Event[] {
  const down = new Set<string>();
  let t = 1;
  return Array.from({ length: chance.pick([5, 10, 25]) }, () => {
    const key = chance.pick(KEYS);
    const isDown = !down.delete(key);
    if (isDown) down.add(key);
    t += chance.pick([0, 0, 1, 1, 2, 3, 4, 5, 6, 8, 9, 10, 15, 20]);
    return { t, key, isDown };
  });
}

function played(entries: readonly Entry[], events: readonly Event[], end: number, stepMs: number): string[] {
  const actions = Object.fromEntries(
    entries.map((entry, n) => [`s${n}`, { kind: "switch", from: { main: entry } }]),
  );
  const input = createInputLayer({ reacherPlan: 1, actions } as unknown as Plan);
  const told: string[] = [];
  for (const name of Object.keys(actions))
    for (const change of ["on", "off"] as const)
      input.on(name, change, (t) => void told.push(`${name} ${change} ${t}`));
  input.step(0);
  for (const { t, key, isDown } of events) input.feed({ t, control: key, value: Number(isDown) });
  for (let t = stepMs; t < end; t += stepMs) input.step(t);
  input.step(end);
  return told;
}

/** By switch: the order of callbacks within one moment is another matter. */
const bySwitch = (told: readonly string[]) =>
  [...told].sort((a, b) => a.split(" ")[0]!.localeCompare(b.split(" ")[0]!));

test("gestures on shared keys, and presses that wait for them, do what a reckoning by the press says, at any step rate", () => {
  fc.assert(
    fc.property(fc.nat(), fc.constantFrom(1, 7, 16, 1000), (seed, stepMs) => {
      const chance = new Chance(seed);
      const entries = entriesOf(chance);
      const events = eventsOf(chance);
      const end = events.at(-1)!.t + 40;
      expect(bySwitch(played(entries, events, end, stepMs))).toEqual(
        bySwitch(new Reckoning(entries).run(events, end)),
      );
    }),
    runs(400),
  );
});
