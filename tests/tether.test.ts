/** Rollback over a bad line: two sides that never hear each other in time, and never disagree on what both know. */
import { MOST_AHEAD, Side, TICK_MS } from "../examples/tether/src/side";
import { Match } from "../examples/tether/src/match";
import { plan, SEATS, type Seat } from "../examples/tether/src/plan";
import { builtPlanOf, bundledLibrary } from "./support/made";

/** Numbers from 0 up to 1, the same for the same seed. */
function dice(seed: number): () => number {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

const KEYS: Readonly<Record<Seat, readonly string[]>> = {
  amber: ["KeyW", "KeyA", "KeyS", "KeyD", "ShiftLeft"],
  teal: ["ArrowUp", "ArrowLeft", "ArrowDown", "ArrowRight", "ShiftRight"],
};

/** Both players press and let go of keys, some so fast that they tap twice, for so long. */
function playFor(match: Match, ms: number, chance: () => number) {
  const held = new Set<string>();
  const next = { amber: 0, teal: 0 };
  const last = { amber: "KeyW", teal: "ArrowUp" };
  for (let tick = 1; tick * TICK_MS <= ms; tick++) {
    const now = tick * TICK_MS;
    for (const seat of SEATS)
      while (next[seat] <= now) {
        const key = chance() < 0.6 ? last[seat] : KEYS[seat][Math.floor(chance() * 5)]!;
        last[seat] = key;
        const value = held.delete(key) ? 0 : 1;
        if (value === 1) held.add(key);
        match.feed(seat, { t: next[seat], control: key, value, pad: 0 });
        next[seat] += 20 + chance() * (chance() < 0.5 ? 120 : 900);
      }
    match.advance(now);
  }
}

test("ten minutes over a line that loses a tenth, one side on made code: never unequal at a tick that both know", () => {
  const chance = dice(7);
  const heard = { amber: 0, teal: 0 };
  const library = bundledLibrary();
  const calls = ["assignPad", "on", "snapshot", "restore", "plan"];
  const made = builtPlanOf(library, plan as never, { calls });
  expect(made.text).toContain("madePlan(");
  const layers = { teal: library.createInputLayer(made.plan) as never };
  const line = { delayMs: 100, jitterMs: 60, loss: 0.1 };
  const match = new Match(line, (side) => void heard[side]++, chance, layers);
  playFor(match, 600_000, chance);
  const { amber, teal } = match.sides;
  expect(match.unequalAt).toBeUndefined();
  expect(match.compared).toBeGreaterThan(35_900);
  for (const { cost, tick } of [amber, teal]) {
    expect(tick).toBe(36_000);
    expect(cost.rollbacks).toBeGreaterThan(1000);
    expect(cost.mostTicks).toBeLessThan(MOST_AHEAD);
  }
  // A surge is heard once on each side, whoever's it is, however often its tick is stepped; a few were heard that then never were.
  expect(heard.amber).toBeGreaterThan(150);
  expect(Math.abs(heard.amber - heard.teal)).toBeLessThan(heard.amber / 20);
  // A tick's events are a few bytes, also with all that a lost message makes to be told again.
  expect(match.sent.bytes / 2 / 36_000).toBeLessThan(40);
});

test("what both come to is what a single machine makes of the same events", () => {
  const play = (delayMs: number, loss: number) => {
    const match = new Match({ delayMs, jitterMs: 0, loss }, undefined, dice(1));
    playFor(match, 20_000, dice(3));
    return match;
  };
  const [bad, perfect] = [play(180, 0.2), play(0, 0)];
  const tick = Math.min(bad.compared, perfect.compared);
  expect(tick).toBeGreaterThan(1100);
  expect(bad.sides.amber.sumAt(tick)).toBe(perfect.sides.teal.sumAt(tick));
});

test("a side without word of the other waits, and goes on when it comes; what nobody packed is refused", () => {
  const [amber, teal] = [new Side("amber"), new Side("teal")];
  const first = teal.advance([])!;
  for (let n = 0; n < MOST_AHEAD; n++) expect(amber.advance([])).toBeDefined();
  expect(amber.advance([])).toBeUndefined();
  const hostile = { ...first, ticks: [Uint8Array.from([1, 200])] };
  expect(() => amber.receive(hostile)).toThrow("packed events: byte 2");
  amber.receive(first);
  expect(amber.advance([])).toBeDefined();
  expect([amber.confirmed, amber.cost.rollbacks]).toEqual([1, 0]);
});
