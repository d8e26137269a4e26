/**
 * The engine against a reckoning that shares nothing with it: the rules of keys, styles, gestures, repeats and rests, worked out
 * from the whole list of events with plain sets and lists.
 */
import fc from "fast-check";
import { createInputLayer, type Plan } from "reacher";
import { runs } from "./runs";

interface Event {
  readonly t: number;
  readonly control: string;
  readonly down: boolean;
}

/** What became of a switch, and when: `on 120`. */
type Told = readonly string[];

const WAYS = ["up", "left", "down", "right"] as const;
const OPPOSITE = { up: "down", down: "up", left: "right", right: "left" } as const;
type Way = (typeof WAYS)[number];
const KEYS_OF: Record<Way, readonly string[]> = {
  up: ["KeyW", "ArrowUp"],
  left: ["KeyA", "ArrowLeft"],
  down: ["KeyS", "ArrowDown"],
  right: ["KeyD", "ArrowRight"],
};
const SWIM_KEYS = Object.values(KEYS_OF).flat();

/** Numbers of a plan, all of them small, so that events and deadlines often share a moment. */
const settings = fc.record({
  opposed: fc.constantFrom("latest", "earliest", "neutral"),
  directions: fc.constantFrom("free", 8, 4),
  diagonal: fc.constantFrom("round", "square"),
  taps: fc.integer({ min: 2, max: 3 }),
  gapMs: fc.integer({ min: 5, max: 30 }),
  eachMs: fc.option(fc.integer({ min: 5, max: 20 }), { nil: undefined }),
  tapMs: fc.integer({ min: 5, max: 30 }),
  afterMs: fc.integer({ min: 10, max: 40 }),
  everyMs: fc.integer({ min: 4, max: 20 }),
  firstMs: fc.integer({ min: 4, max: 20 }),
  cooldownMs: fc.integer({ min: 5, max: 40 }),
});
type Settings = typeof settings extends fc.Arbitrary<infer T> ? T : never;

const OTHER_KEYS = "E R T U I O P L K Z X N M".split(" ").map((letter) => `Key${letter}`);
const CONTROLS = [...SWIM_KEYS, ...OTHER_KEYS];
const SERIES = ["KeyN", "KeyN", "KeyM"];
const END = 1300;

/** Presses and releases of single keys in order of time, some at one moment; no key is pressed twice. */
const events = fc
  .array(fc.tuple(fc.integer({ min: 0, max: 15 }), fc.constantFrom(...CONTROLS)), { maxLength: 80 })
  .map((list): Event[] => {
    const held = new Set<string>();
    let t = 1;
    return list.map(([ms, control]) => {
      const down = !held.delete(control);
      if (down) held.add(control);
      return { t: (t += ms), control, down };
    });
  });

function planOf(own: Settings): Plan {
  const keys = (n: number) => Object.fromEntries(WAYS.map((way) => [way, KEYS_OF[way][n]!]));
  const tapped = { taps: own.taps, of: "KeyI", gapMs: own.gapMs };
  return {
    reacherPlan: 1,
    actions: {
      swim: {
        kind: "vector",
        from: { main: keys(0), spare: keys(1) },
        opposed: own.opposed,
        directions: own.directions,
        diagonal: own.diagonal,
      },
      hold: { kind: "switch", from: { main: "KeyE", spare: "KeyR" } },
      toggle: { kind: "switch", style: "toggle", from: { main: ["KeyT", "KeyE"] } },
      either: { kind: "switch", style: "either", tapMs: own.tapMs, from: { main: "KeyU", spare: "KeyR" } },
      tapped: {
        kind: "switch",
        from: { main: own.eachMs === undefined ? tapped : { ...tapped, eachMs: own.eachMs } },
      },
      surge: { kind: "switch", from: { main: { taps: 2, of: "swim.each", gapMs: own.gapMs } } },
      haul: { kind: "switch", from: { main: { long: "KeyO", afterMs: own.afterMs } } },
      grab: { kind: "switch", from: { main: { short: "KeyO" } } },
      snip: {
        kind: "switch",
        repeat: { everyMs: own.everyMs, afterMs: own.firstMs },
        from: { main: "KeyP" },
      },
      flash: { kind: "switch", cooldownMs: own.cooldownMs, from: { main: "KeyL" } },
      kick: { kind: "switch", needs: "hold", from: { main: "KeyK" } },
      dart: { kind: "switch", needs: ["hold"], resume: false, from: { main: "KeyK" } },
      lamp: { kind: "switch", style: "toggle", needs: ["not hold"], from: { main: "KeyK" } },
      chord: { kind: "switch", from: { main: { all: ["KeyZ", "KeyX"], spreadMs: own.gapMs } } },
      combo: { kind: "switch", from: { main: { series: SERIES, gapMs: own.gapMs } } },
    },
  } as unknown as Plan;
}

/** From one event to another, by their places in the list; a span that never ends goes to Infinity. */
interface Span {
  readonly from: number;
  readonly to: number;
}

/** When any of these keys is down. */
function spans(list: readonly Event[], ...keys: string[]): Span[] {
  const found: { from: number; to: number }[] = [];
  let held = 0;
  list.forEach(({ control, down }, place) => {
    if (!keys.includes(control)) return;
    held += down ? 1 : -1;
    if (down && held === 1) found.push({ from: place, to: Infinity });
    if (held === 0) found.at(-1)!.to = place;
  });
  return found;
}

/** Spans that may overlap, as those in which any of them is. */
function joined(all: readonly Span[]): Span[] {
  const result: { from: number; to: number }[] = [];
  for (const { from, to } of [...all].sort((a, b) => a.from - b.from)) {
    const last = result.at(-1);
    if (last !== undefined && from < last.to) last.to = Math.max(last.to, to);
    else result.push({ from, to });
  }
  return result;
}

/** In which both of these are. */
function common(one: readonly Span[], other: readonly Span[]): Span[] {
  const pairs = one.flatMap((a) => other.map((b) => [a, b] as const));
  const both = pairs.map(([a, b]) => ({ from: Math.max(a.from, b.from), to: Math.min(a.to, b.to) }));
  return both.filter(({ from, to }) => from < to).sort((a, b) => a.from - b.from);
}

/** What each switch does, by the rules as a reader of the plan would tell them. */
function reckon(list: readonly Event[], own: Settings): Record<string, Told> {
  const at = (place: number) => (place === Infinity ? Infinity : list[place]!.t);
  const lasted = ({ from, to }: Span) => at(to) - at(from);
  const on = (t: number) => `on ${t}`;
  const off = (t: number) => (t <= END ? [`off ${t}`] : []);
  const told = (found: readonly Span[]) => found.flatMap(({ from, to }) => [on(at(from)), ...off(at(to))]);

  /** Of these presses, those at which enough have followed each other closely, and nothing has come between. */
  const tapped = (presses: readonly Span[], taps: number, eachMs: number, breaks: readonly Span[]) => {
    let count = 0;
    return presses.filter((press, n) => {
      const before = presses[n - 1];
      const follows =
        before !== undefined &&
        at(press.from) - at(before.from) <= own.gapMs &&
        lasted(before) <= eachMs &&
        !breaks.some(({ from }) => from > before.from && from < press.from);
      count = follows ? count + 1 : 1;
      if (count === taps) count = 0;
      return count === 0;
    });
  };
  const either: string[] = [];
  let latched = false;
  for (const span of spans(list, "KeyU", "KeyR")) {
    either.push(latched ? `off ${at(span.from)}` : on(at(span.from)));
    if (!latched && lasted(span) > own.tapMs) either.push(...off(at(span.to)));
    latched = !latched && lasted(span) <= own.tapMs;
  }
  let lastFlash = -Infinity;
  const flashes = spans(list, "KeyL").filter(({ from }) => {
    if (at(from) - lastFlash <= own.cooldownMs) return false;
    lastFlash = at(from);
    return true;
  });
  const hauls = spans(list, "KeyO");
  const holds = spans(list, "KeyE", "KeyR");
  const kicks = spans(list, "KeyK");
  const isHeld = (place: number) => holds.some(({ from, to }) => from < place && place < to);
  /** A toggle that a hold puts out, and keeps from being turned on. */
  const lamp: string[] = [];
  for (let place = 0; place < list.length; place++) {
    const isLit = lamp.at(-1)?.startsWith("on") === true;
    const pressed = kicks.some(({ from }) => from === place) && !isHeld(place);
    const putOut = isLit && holds.some(({ from }) => from === place);
    if (pressed || putOut) lamp.push(`${isLit ? "off" : "on"} ${at(place)}`);
  }
  /** The presses of a series' members so far, of which none came too late after the one before. */
  let row: string[] = [];
  let lastPress = -Infinity;
  const combos: Span[] = [];
  list.forEach(({ t, control, down }, place) => {
    if (!down || !SERIES.includes(control)) return;
    row = [...(t - lastPress <= own.gapMs ? row : []), control];
    lastPress = t;
    if (row.slice(-SERIES.length).join() !== SERIES.join()) return;
    row = [];
    combos.push(spans(list, control).find(({ from }) => from === place)!);
  });
  const waysDown = (way: Way) => spans(list, ...KEYS_OF[way]);
  return {
    hold: told(holds),
    kick: told(common(kicks, holds)),
    dart: told(common(kicks, holds).filter(({ from }) => kicks.some((kick) => kick.from === from))),
    lamp,
    chord: told(
      ["KeyZ", "KeyX"]
        .map((key) => spans(list, key))
        .reduce(common)
        .filter(({ from }) => {
          const first = ["KeyZ", "KeyX"].map(
            (key) => spans(list, key).findLast((span) => span.from <= from)!.from,
          );
          return at(from) - at(Math.min(...first)) <= own.gapMs;
        }),
    ),
    combo: told(combos),
    toggle: spans(list, "KeyT", "KeyE").map(({ from }, n) => `${n % 2 === 0 ? "on" : "off"} ${at(from)}`),
    either,
    tapped: told(tapped(spans(list, "KeyI"), own.taps, own.eachMs ?? Infinity, [])),
    surge: told(joined(WAYS.flatMap((way) => tapped(waysDown(way), 2, Infinity, waysDown(OPPOSITE[way]))))),
    // What is due at the moment of a release comes before it: a press that long is long, and no short one.
    haul: hauls.flatMap((span) => {
      const fires = at(span.from) + own.afterMs;
      return fires <= Math.min(at(span.to), END) ? [on(fires), ...off(at(span.to))] : [];
    }),
    grab: hauls
      .filter((span) => lasted(span) < own.afterMs)
      .flatMap(({ to }) => [on(at(to)), ...off(at(to))]),
    snip: spans(list, "KeyP").flatMap(({ from, to }) => {
      const pulses = [on(at(from)), `pulse ${at(from)}`];
      for (let t = at(from) + own.firstMs; t <= Math.min(at(to), END); t += own.everyMs)
        pulses.push(`pulse ${t}`);
      return [...pulses, ...off(at(to))];
    }),
    flash: told(flashes),
  };
}

/** Where the vector points once these events have happened. */
function pointed(list: readonly Event[], { opposed, directions, diagonal }: Settings): [number, number] {
  const held = new Set<string>();
  const newest = new Map<Way, number>();
  const first = new Map<Way, number>();
  const isDown = (way: Way) => KEYS_OF[way].some((key) => held.has(key));
  list.forEach(({ control, down }, place) => {
    const way = WAYS.find((one) => KEYS_OF[one].includes(control));
    if (way === undefined) return;
    if (down && !isDown(way)) first.set(way, place);
    if (down) newest.set(way, place);
    if (down) held.add(control);
    else held.delete(control);
  });
  const wins = (one: Way, other: Way): Way | undefined => {
    if (!isDown(one) || !isDown(other)) return isDown(one) ? one : isDown(other) ? other : undefined;
    if (opposed === "neutral") return undefined;
    const later = opposed === "latest" ? newest : first;
    return later.get(one)! > later.get(other)! === (opposed === "latest") ? one : other;
  };
  let across = wins("left", "right");
  let along = wins("down", "up");
  if (directions === 4 && across !== undefined && along !== undefined) {
    if (newest.get(across)! > newest.get(along)!) along = undefined;
    else across = undefined;
  }
  const x = across === undefined ? 0 : across === "right" ? 1 : -1;
  const y = along === undefined ? 0 : along === "up" ? 1 : -1;
  const length = x !== 0 && y !== 0 && diagonal === "round" ? Math.SQRT2 : 1;
  return [x / length, y / length];
}

test("keys, styles, gestures, repeats and rests do what a plain reckoning says, at any step rate", () => {
  fc.assert(
    fc.property(settings, events, fc.constantFrom(3, 7, 16, 500), (own, list, stepMs) => {
      const input = createInputLayer(planOf(own));
      const switches = Object.keys(planOf(own).actions).filter((name) => name !== "swim");
      const got: Record<string, string[]> = Object.fromEntries(switches.map((name) => [name, []]));
      for (const name of switches)
        for (const change of ["on", "off", "pulse"] as const)
          input.on(name, change, (t) => got[name]!.push(`${change} ${t}`));
      for (const { t, control, down } of list) input.feed({ t, control, value: down ? 1 : 0 });
      for (let t = 0; t < END; t += stepMs) {
        const { swim } = input.step(t) as any;
        const [x, y] = pointed(
          list.filter((event) => event.t <= t),
          own,
        );
        expect(Math.hypot(swim.x - x, swim.y - y)).toBeLessThan(1e-9);
      }
      input.step(END);
      expect(got).toEqual(reckon(list, own));
    }),
    runs(60),
  );
});
