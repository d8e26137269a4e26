/**
 * The engine against a second reckoning that shares nothing with it: keys in situations. What needs, flags that linger, modes, mutes,
 * groups, cooldowns and kept presses make of switches is worked out millisecond by millisecond, as the documents tell it.
 */
import fc from "fast-check";
import { createInputLayer, type Plan } from "reacher";
import { Chance } from "./anyPlans";
import { runs } from "./runs";

interface Fields {
  style?: "hold" | "toggle" | "either";
  tapMs?: number;
  needs?: string[];
  resume?: false;
  beginsIf?: string;
  spends?: string;
  cooldownMs?: number;
  bufferMs?: number;
  in?: string[];
  carry?: true;
  comesBack?: false;
  startsOn?: true;
  oneOf?: string;
  from: { main: string[] };
}
interface Play {
  modes: Record<string, { covers: "none" | "same" | "all" }>;
  flags: Record<string, { start: boolean; lingerMs: number }>;
  actions: Record<string, Fields>;
}
/** What happens: a key that goes down or up, or a call of the game's. */
interface Act {
  t: number;
  call: "key" | "setFlag" | "enter" | "leave" | "mute" | "unmute";
  name: string;
  value?: boolean | string;
}

/** A press: not evaluated yet, waiting for its needs, for its mode, one that turned its switch on, or good for nothing more. */
type Press = "new" | "waits" | "carried" | "begun" | "spent" | null;

/** What is known of one switch. */
class Known {
  readonly style;
  readonly keys;
  /** Keys that are down and were seen going down. */
  readonly down = new Set<string>();
  on = false;
  press: Press = null;
  pressedAt = 0;
  /** The number of the act that pressed it: the newest of a group stays on. */
  newness = 0;
  rose = 0;
  fell = false;
  roseMuted = false;
  latched: boolean;
  coolUntil = -1;
  keptUntil = -1;
  keptIn = 0;
  wasLive = true;

  constructor(
    readonly name: string,
    readonly place: number,
    readonly fields: Fields,
  ) {
    this.style = fields.style ?? "hold";
    this.keys = fields.from.main;
    this.latched = fields.startsOn === true && this.style !== "hold";
  }
}

class Reckoning {
  readonly told: string[] = [];
  private now = 0;
  private act = 0;
  private firstOfSettle = 0;
  private readonly flags: Record<string, boolean> = {};
  private readonly lingers = new Map<string, number>();
  private readonly spent = new Map<string, number>();
  private modes = ["play"];
  private readonly mutes = new Set<string>();
  private readonly all: Known[];

  constructor(private readonly play: Play) {
    for (const [name, { start }] of Object.entries(play.flags)) this.flags[name] = start;
    // Words name earlier switches alone, so the plan's order is that of the needs.
    this.all = Object.entries(play.actions).map(([name, fields], place) => new Known(name, place, fields));
    for (const one of this.all) one.wasLive = this.away(one) === null;
    this.settle();
  }

  run(acts: readonly Act[], end: number): string[] {
    let n = 0;
    for (this.now = 0; this.now <= end; this.now++) {
      for (; n < acts.length && acts[n]!.t === this.now; n++) {
        this.act = n + 1;
        this.apply(acts[n]!);
        this.settle();
      }
      const over = [...this.lingers].filter(([, until]) => until === this.now);
      for (const [name] of over) this.lingers.delete(name);
      if (over.length > 0) this.settle();
      // A cooldown's end is part of it; what is kept to this moment may begin now.
      for (const one of this.all)
        if (one.coolUntil === this.now) {
          one.coolUntil = -1;
          this.settle();
        }
      for (const one of this.all) if (one.keptUntil === this.now) one.keptUntil = -1;
    }
    return this.told;
  }

  private apply({ call, name, value }: Act): void {
    if (call === "key") for (const one of this.all) this.key(one, name, value === true);
    else if (call === "enter" || call === "leave") {
      this.modes = this.modes.filter((mode) => mode !== name);
      if (call === "enter") this.modes.push(name);
    } else if (call === "mute") this.mutes.add(name);
    else if (call === "unmute") this.mutes.delete(name);
    else if (value === true) {
      this.flags[name] = true;
      this.lingers.delete(name);
    } else if (this.flags[name]) {
      this.flags[name] = false;
      const { lingerMs } = this.play.flags[name]!;
      if (lingerMs > 0 && !(this.now - (this.spent.get(name) ?? -Infinity) < lingerMs))
        this.lingers.set(name, this.now + lingerMs);
    }
  }

  private key(one: Known, key: string, isDown: boolean): void {
    if (!one.keys.includes(key)) return;
    const isFirst = !this.isUp(one);
    if (!isDown) {
      if (!one.down.delete(key)) return;
      if (!isFirst && !this.isUp(one)) one.fell = true;
      else if (one.down.size === 0) one.press = null;
      return;
    }
    const away = this.away(one);
    if (away === null) {
      if (this.isHidden(one, key)) return;
      if (isFirst) one.rose = this.act;
    } else if (one.fields.carry) {
      if (isFirst) this.carry(one, away);
    } else if (away === "muted" && one.fields.bufferMs !== undefined) {
      if (isFirst) one.roseMuted = !one.latched;
      if (isFirst) one.press = "spent";
    } else return;
    one.down.add(key);
  }

  private carry(one: Known, away: string): void {
    one.press = "carried";
    one.newness = this.act;
    if (away === "muted") this.keep(one);
  }

  private is(word: string): boolean {
    const name = word.replace("not ", "");
    const known = this.all.find((one) => one.name === name);
    const isSo = known === undefined ? this.flags[name]! || this.lingers.has(name) : known.on;
    return isSo !== word.startsWith("not ");
  }
  private needsHold = ({ fields }: Known) => (fields.needs ?? []).every((word) => this.is(word));
  private mayBegin = ({ fields, coolUntil }: Known) =>
    coolUntil < 0 && (fields.beginsIf === undefined || this.is(fields.beginsIf));

  /** Why it is not live. */
  private away({ name, fields }: Known): "mode" | "muted" | null {
    const isShown = (mode: string) => {
      const at = this.modes.indexOf(mode);
      return at >= 0 && this.modes.slice(at + 1).every((above) => this.play.modes[above]!.covers !== "all");
    };
    if (fields.in !== undefined && !fields.in.some(isShown)) return "mode";
    return this.mutes.has(name) ? "muted" : null;
  }

  /** Whether a mode above has this key for itself. */
  private isHidden({ fields }: Known, key: string): boolean {
    const level = this.modes.findLastIndex((mode) => fields.in?.includes(mode));
    const hides = (mode: string) =>
      this.play.modes[mode]!.covers === "same" &&
      this.all.some((other) => other.fields.in?.includes(mode) && other.keys.includes(key));
    return level >= 0 && this.modes.slice(level + 1).some(hides);
  }
  private isUp = (one: Known) => [...one.down].some((key) => !this.isHidden(one, key));

  private others = (one: Known) =>
    one.fields.oneOf === undefined ? [] : this.all.filter((rival) => rival !== one && rival.fields.oneOf);

  /** Whether a newer press of its group is on, or turns on in this act. */
  private isBeaten(one: Known): boolean {
    const isNewer = (newness: number, rival: Known) =>
      newness > one.newness || (newness === one.newness && rival.place > one.place);
    return this.others(one).some((rival) =>
      rival.on
        ? isNewer(rival.newness, rival)
        : rival.rose > 0 &&
          isNewer(rival.rose, rival) &&
          !rival.latched &&
          this.mayBegin(rival) &&
          this.away(rival) === null,
    );
  }

  private lose(one: Known): void {
    one.latched = false;
    if (one.press !== null || one.rose > 0) one.press = one.down.size > 0 ? "spent" : null;
    one.rose = 0;
  }

  private turnOn(one: Known): void {
    if (this.isBeaten(one)) return this.lose(one);
    one.on = true;
    this.told.push(`${one.name} on ${this.now}`);
    for (const rival of this.others(one)) {
      if (!rival.on) continue;
      // Of two that turn on in one act, only the later is told.
      const unseen = this.told.indexOf(`${rival.name} on ${this.now}`, this.firstOfSettle);
      if (unseen >= 0) {
        this.told.splice(unseen, 1);
        rival.on = false;
      } else this.turnOff(rival, "oneOf");
      this.lose(rival);
    }
  }

  private turnOff(one: Known, how: string): void {
    if (one.on) this.told.push(`${one.name} off ${this.now} ${how}`);
    one.on = false;
  }

  private begin(one: Known): void {
    for (const rival of this.others(one)) rival.keptUntil = -1;
    one.keptUntil = -1;
    const { cooldownMs, spends } = one.fields;
    if (cooldownMs !== undefined) one.coolUntil = this.now + cooldownMs;
    this.turnOn(one);
    if (spends === undefined) return;
    this.flags[spends] = false;
    this.lingers.delete(spends);
    this.spent.set(spends, this.now);
  }

  private keep(one: Known): void {
    if (one.fields.bufferMs === undefined) return;
    one.keptUntil = this.now + one.fields.bufferMs;
    one.keptIn = one.newness;
  }

  private settle(): void {
    this.firstOfSettle = this.told.length;
    this.settleAll();
    for (;;) {
      // Of kept presses the newest begins first; of one act the later in the plan.
      const [one] = this.all
        .filter((known) => known.keptUntil >= 0 && !known.on && this.away(known) === null)
        .filter((known) => this.needsHold(known) && this.mayBegin(known))
        .sort((a, b) => b.keptIn - a.keptIn || b.place - a.place);
      if (one === undefined) return;
      one.newness = this.act + 0.5;
      this.begin(one);
      const isHeld = one.down.size > 0;
      if (isHeld) [one.press, one.pressedAt] = ["begun", this.now];
      if (one.style === "toggle" || (one.style === "either" && !isHeld)) one.latched = true;
      this.settleAll();
      if (one.style === "hold" && !isHeld) this.turnOff(one, "released");
      this.settleAll();
    }
  }

  /** Until nothing changes: what one turns on or spends may concern an earlier one. */
  private settleAll(): void {
    for (let before = ""; ;) {
      for (const one of this.all) this.settleOne(one);
      const after = JSON.stringify([this.told.length, this.flags]);
      if (after === before) return;
      before = after;
    }
  }

  private settleOne(one: Known): void {
    const { style, fields } = one;
    const { rose, fell } = one;
    const away = this.away(one);
    const needsHold = this.needsHold(one);
    [one.rose, one.fell] = [0, false];
    if (away === "mode") one.keptUntil = -1;
    if (one.roseMuted && away === "muted") {
      one.newness = this.act;
      this.keep(one);
    }
    one.roseMuted = false;
    if (away !== null) {
      if (one.wasLive && fields.comesBack === false) this.lose(one);
      this.turnOff(one, away);
      one.wasLive = false;
      if (!needsHold) this.failNeeds(one);
      if (fell) one.press = null;
      return;
    }
    if (!one.wasLive) one.newness = this.act;
    one.wasLive = true;
    if (fields.comesBack === false) this.dropHidden(one, fell);
    if (rose > 0 && !(one.latched && style !== "hold")) one.newness = rose;

    const wasLatched = one.latched;
    if (!needsHold) {
      this.turnOff(one, "needs");
      this.failNeeds(one);
    }
    if (fell) {
      const isTap = this.now - one.pressedAt <= fields.tapMs!;
      if (style === "either" && one.on && one.press === "begun" && isTap) one.latched = true;
      if (!one.latched) this.turnOff(one, "released");
      one.press = null;
    }
    if (rose > 0 && style !== "hold" && wasLatched) {
      // The press that ends it, whatever else did.
      one.latched = false;
      this.turnOff(one, "pressed");
      one.press = "spent";
    } else if (rose > 0) [one.press, one.pressedAt] = ["new", this.now];
    if (!one.latched && one.down.size > 0 && !this.isUp(one)) {
      // What holds it is hidden.
      this.turnOff(one, "mode");
      return;
    }
    if (!one.on && one.latched) this.turnOn(one);
    if (!one.on && one.press !== null && one.press !== "spent") this.tryPress(one, one.press, needsHold);
  }

  private dropHidden(one: Known, fell: boolean): void {
    for (const key of one.down) {
      if (!this.isHidden(one, key)) continue;
      one.down.delete(key);
      if (one.down.size > 0 || fell) continue;
      if (one.style === "hold") this.turnOff(one, "mode");
      one.press = null;
    }
  }

  private failNeeds(one: Known): void {
    one.latched = false;
    if (one.fields.resume === false && one.press !== null) one.press = "spent";
  }

  private tryPress(one: Known, press: Press, needsHold: boolean): void {
    const { resume, bufferMs } = one.fields;
    const isToggle = one.style === "toggle";
    if (press === "begun") {
      if (needsHold && !isToggle) this.turnOn(one);
    } else if (needsHold && this.mayBegin(one) && !this.isBeaten(one)) {
      one.press = "begun";
      if (isToggle) one.latched = true;
      this.begin(one);
    } else {
      if (press === "new") this.keep(one);
      if (needsHold || (press === "new" && (isToggle || resume === false || bufferMs !== undefined)))
        one.press = "spent";
      else if (press === "new") one.press = "waits";
    }
  }
}

const KEYS = ["KeyA", "KeyB", "KeyC", "KeyD"];

function playOf(chance: Chance): Play {
  const actions: Play["actions"] = {};
  for (const name of ["one", "two", "three"].slice(0, 1 + chance.below(3))) {
    const style = chance.pick(["hold", "hold", "toggle", "either"] as const);
    const isHold = style === "hold";
    const earlier = Object.keys(actions);
    const word = () => `${chance.may(0.3) ? "not " : ""}${chance.pick(["air", "edge", ...earlier])}`;
    const fields: Fields = { style, from: { main: chance.some(KEYS, 2) } };
    if (style === "either") fields.tapMs = chance.pick([2, 5, 8]);
    if (chance.may(0.35)) fields.needs = chance.may(0.2) ? [word(), word()] : [word()];
    // What spends what it or its group needs ends in the act that began it, which is told elsewhere.
    else if (chance.may(0.5)) fields.oneOf = "stance";
    if (fields.needs !== undefined && chance.may(0.3)) fields.resume = false;
    if (chance.may(0.3)) fields.beginsIf = word();
    if (chance.may(0.3)) fields.cooldownMs = chance.pick([4, 9, 15]);
    if (chance.may(0.35)) fields.bufferMs = chance.pick([3, 8, 14]);
    if (chance.may(0.4)) fields.in = chance.pick([["play"], ["play", "chat"], ["chat"], ["menu"]]);
    if (isHold && chance.may(0.2)) fields.carry = true;
    else if (chance.may(0.2)) fields.comesBack = false;
    if (!isHold && chance.may(0.2)) fields.startsOn = true;
    actions[name] = fields;
  }
  if (Object.values(actions).every(({ needs }) => needs === undefined))
    for (const fields of Object.values(actions))
      if (chance.may(0.3)) fields.spends = chance.pick(["air", "edge"]);
  const isSimple = Object.values(actions).every(({ carry, bufferMs }) => !carry && bufferMs === undefined);
  const covers = () => chance.pick(isSimple ? (["same", "same", "none"] as const) : (["none"] as const));
  const modes = { play: { covers: covers() }, menu: { covers: "all" as const }, chat: { covers: covers() } };
  const flag = () => ({ start: chance.may(0.6), lingerMs: chance.pick([0, 0, 3, 10]) });
  return { modes, flags: { air: flag(), edge: flag() }, actions };
}

function actsOf(chance: Chance, { actions }: Play): Act[] {
  const keys = [...new Set(Object.values(actions).flatMap(({ from }) => from.main))];
  const down = new Set<string>();
  let t = 1;
  return Array.from({ length: chance.pick([6, 12, 30]) }, (): Act => {
    t += chance.pick([0, 0, 1, 1, 2, 3, 4, 6, 9, 15]);
    if (chance.may(0.7)) {
      const name = chance.pick(keys);
      const value = !down.delete(name);
      if (value) down.add(name);
      return { t, call: "key", name, value };
    }
    const call = chance.pick(["setFlag", "setFlag", "enter", "leave", "mute", "unmute"] as const);
    if (call === "setFlag") return { t, call, name: chance.pick(["air", "edge"]), value: chance.may(0.5) };
    const isMode = call === "enter" || call === "leave";
    return isMode
      ? { t, call, name: chance.pick(["play", "menu", "menu", "chat"]) }
      : { t, call, name: chance.pick(Object.keys(actions)), value: "reel" };
  });
}

/** What the engine tells: in a moment, in the order of the plan. */
function played(
  { modes, flags, actions }: Play,
  acts: readonly Act[],
  end: number,
  stepMs: number,
): string[] {
  const named = Object.fromEntries(
    Object.entries(actions).map(([name, fields]) => [name, { kind: "switch", ...fields }]),
  );
  const input = createInputLayer({ reacherPlan: 1, modes, flags, actions: named } as unknown as Plan);
  const told: string[] = [];
  for (const name of Object.keys(actions)) {
    input.on(name, "on", (t) => void told.push(`${name} on ${t}`));
    input.on(name, "off", (t, how) => void told.push(`${name} off ${t} ${how}`));
  }
  input.step(0);
  for (const { t, call, name, value } of acts)
    if (call === "key") input.feed({ t, control: name, value: Number(value) });
    else if (call === "enter" || call === "leave") input[call](name, t);
    else input[call as "setFlag"](name, value as boolean, t);
  for (let t = stepMs; t < end; t += stepMs) input.step(t);
  input.step(end);
  return told;
}

/** By moment; what is told within one is a matter of the order of callbacks. */
const byMoment = (told: readonly string[]) =>
  [...told].sort((a, b) => Number(a.split(" ")[2]) - Number(b.split(" ")[2]) || (a < b ? -1 : 1));

test("keys in situations do what a reckoning by the millisecond says, at any step rate", () => {
  fc.assert(
    fc.property(fc.nat(), fc.constantFrom(1, 7, 16, 1000), (seed, stepMs) => {
      const chance = new Chance(seed);
      const play = playOf(chance);
      const acts = actsOf(chance, play);
      const end = acts.at(-1)!.t + 40;
      expect(byMoment(played(play, acts, end, stepMs))).toEqual(byMoment(new Reckoning(play).run(acts, end)));
    }),
    runs(400),
  );
});
