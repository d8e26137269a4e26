/** What went into made code: by action, by call and by part of the engine. In: made seats. Out: how long each is, minified. Pure. */
import { EACH, Phase } from "../engine/timers.js";
import { minified } from "./merge.js";
import type { MadeReading, MadeSeat } from "./making.js";
import type { Made } from "./specialiser/frames.js";

/** A share of the code. */
export interface CodeShare {
  /** An action's name, a call, or in words. */
  readonly of: string;
  readonly kind: "action" | "call" | "part";
  /** Characters, minified. */
  readonly length: number;
}

type Owner = Omit<CodeShare, "length">;

/** The calls of a layer whose code these lists are. */
const CALLED: Readonly<Record<string, string>> = {
  takes: "take",
  pulses: "on",
  news: "on",
  flags: "setFlag",
  numbers: "setNumber",
  spots: "setSpot",
  enter: "enter",
  leave: "leave",
  mute: "mute",
  unmute: "unmute",
  setSwitch: "setSwitch",
  blend: "drive",
  drive: "drive",
  drivenBy: "drive",
  nextBlend: "drive",
};
const PARTS: Readonly<Record<string, string>> = {
  moves: "controls",
  pairs: "controls",
  judge: "chords",
  returnPresses: "chords",
  begin: "kept presses",
  mayBegin: "kept presses",
  review: "waiting gestures",
  due: "windows",
  lose: "losses",
  reset: "reset",
  refresh: "modes and mutes",
  recount: "seats that open",
  adjust: "settings",
};

/** The longest first. What several use is a share of its own. */
export function sharesOf(seat: MadeSeat, actions: readonly string[]): readonly CodeShare[] {
  const owners = new Map<Made, Set<string>>();
  const named = new Map<string, Owner>();
  const byKey = new Map(seat.functions.map((made) => [made.key, made]));
  const give = (made: Made, owner: Owner): void => {
    const label = `${owner.kind} ${owner.of}`;
    named.set(label, owner);
    const known = owners.get(made) ?? new Set();
    if (known.has(label)) return;
    owners.set(made, known.add(label));
    for (const key of made.calls) give(byKey.get(key)!, owner);
  };
  for (const [list, all] of Object.entries(seat.roots))
    all.forEach((made, n) => made !== null && give(made, ownerOf(seat, list, made, n, actions)));
  const read = ({ getters, parts }: MadeReading, owner: Owner): void => {
    for (const { made } of getters) give(made, owner);
    for (const { reading } of parts) read(reading, owner);
  };
  seat.readings.forEach((reading, n) => read(reading, { of: actions[n]!, kind: "action" }));
  const lengths = new Map<string, number>();
  for (const [made, labels] of owners) {
    // What one action alone needs is its own, though a call or a part reaches it too.
    const own = [...labels].filter((label) => label.startsWith("action "));
    const label = own.length === 1 ? own[0]! : labels.size === 1 ? [...labels][0]! : "part shared";
    const length = minified(seat.specialiser.bodyOf(made)).length;
    lengths.set(label, (lengths.get(label) ?? 0) + length);
  }
  named.set("part shared", { of: "used by several", kind: "part" });
  return [...lengths]
    .map(([label, length]) => ({ ...named.get(label)!, length }))
    .filter(({ length }) => length > 0)
    .sort((a, b) => b.length - a.length);
}

function ownerOf(
  { numbers }: MadeSeat,
  list: string,
  made: Made,
  n: number,
  actions: readonly string[],
): Owner {
  const call = CALLED[list];
  if (call !== undefined) return { of: call, kind: "call" };
  // `root update kick`
  const name = made.key.split(" ").slice(2).join(" ");
  if (actions.includes(name)) return { of: name, kind: "action" };
  const [phase, rank] = numbers.timers.slice(2 + 3 * n);
  const ofTimer = list === "due" && phase === Phase.Due ? actions[Math.floor(rank! / EACH)] : undefined;
  if (ofTimer !== undefined) return { of: ofTimer, kind: "action" };
  return { of: PARTS[list] ?? (/Rise|Fall/.test(list) ? "presses and gestures" : list), kind: "part" };
}
