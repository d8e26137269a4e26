/**
 * The same random play gives what it gave when `digests.json` was written: readings, callbacks, snapshots. A change of the loop keeps
 * all of them; one that gives state other cells changes snapshots alone; `DIGESTS=write` writes what is meant to be other.
 */
import { createHash } from "node:crypto";
import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { allControls, createInputLayer, type InputLayer, type Plan } from "reacher";
import * as fc from "fast-check";
import { anyCommands, anyPlan, anyPlay } from "./anyPlans";
import { kelpline, kelplineForTwo } from "./plans";
import { events, type Event } from "./randomEvents";
import { plans as randomPlans } from "./randomPlans";

const FILE = join(__dirname, "digests.json");
const examples = join(__dirname, "../../../examples/plans");
const PLANS: Record<string, () => Plan> = {
  kelpline,
  kelplineForTwo,
  ...Object.fromEntries(
    ["platformer", "shooter", "first-person", "two-players"].map((name) => [
      name,
      () => JSON.parse(readFileSync(join(examples, `${name}.plan.json`), "utf8")) as Plan,
    ]),
  ),
};

/** The controls that a plan speaks of; a stick by its axes. */
function controlsIn(plan: Plan): string[] {
  const text = JSON.stringify(plan);
  const names = allControls()
    .map(({ name }) => name)
    .filter((name) => text.includes(`"${name}"`));
  return [
    ...new Set(
      names.flatMap((name) =>
        /Stick$|^MouseMove$/.test(name)
          ? [`${name}X`, `${name}Y`]
          : name === "PadDpad"
            ? ["PadDpadUp", "PadDpadLeft"]
            : [name],
      ),
    ),
  ];
}

/** Of another processor the last digits of a power may be other. */
const rough = (_: string, value: unknown) =>
  typeof value === "number" && !Number.isInteger(value) ? Number(value.toPrecision(9)) : value;

/** Plays one game, and tells each step, each callback and now and then a snapshot. */
function played(plan: Plan, game: number) {
  let state = game + 1;
  const random = () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
  const pick = <One>(list: readonly One[]) => list[Math.floor(random() * list.length)]!;
  const input: InputLayer = createInputLayer(plan);
  const [seen, snapshots] = [createHash("sha256"), createHash("sha256")];
  const controls = controlsIn(plan);
  const tell = (...what: unknown[]) => void seen.update(JSON.stringify(what, rough));
  // A layer that nobody listens to takes another way.
  if (game % 3 > 0)
    for (const [name, { kind }] of Object.entries(plan.actions))
      if (kind === "switch") {
        input.on(name as never, "on", (t: number, by?: unknown) => tell(name, "on", t, by));
        input.on(name as never, "off", (t, by) => tell(name, "off", t, by));
      }
  let t = 0;
  let kept: Uint8Array | undefined;
  for (let step = 0; step < 150; step++) {
    for (let n = Math.floor(random() * 3); n > 0; n--) {
      const control = pick(controls);
      const isAnalog = /Stick|Trigger|Axis|Mouse/.test(control);
      const value = isAnalog ? (random() < 0.2 ? 0 : random() * 2 - 1) : random() < 0.5 ? 1 : 0;
      const at = Math.max(0, t + (random() < 0.1 ? -5 : random() * 20));
      input.feed({ t: at, control, value });
      if (/Stick[XY]$/.test(control) && random() < 0.7) {
        const other = control.replace(/[XY]$/, (axis) => (axis === "X" ? "Y" : "X"));
        input.feed({ t: at, control: other, value: random() * 2 - 1 });
      }
    }
    if (random() < 0.02) input.lose("focus");
    if (random() < 0.02) input.reset(t + 3);
    t += random() < 0.02 ? 3000 : random() * 40;
    tell(
      input.step(t),
      input.seats.map((name) => input.seat(name).now),
    );
    if (step % 50 === 10) snapshots.update((kept = input.snapshot()));
    if (kept !== undefined && random() < 0.02) input.restore(kept);
  }
  return { seen: seen.digest("hex").slice(0, 16), snapshots: snapshots.digest("hex").slice(0, 16) };
}

/** What was written for these, or writes it. */
function mustBeAsWritten(found: Readonly<Record<string, unknown>>): void {
  const written = JSON.parse(readFileSync(FILE, "utf8")) as Readonly<Record<string, unknown>>;
  if (process.env["DIGESTS"] === "write")
    writeFileSync(FILE, `${JSON.stringify({ ...written, ...found }, null, 2)}\n`);
  else expect(written).toMatchObject(found);
}

test("the same play gives the same readings, callbacks and snapshots as when its digest was written", () => {
  const digests = (plan: () => Plan) => Array.from({ length: 5 }, (_, game) => played(plan(), game));
  mustBeAsWritten(Object.fromEntries(Object.entries(PLANS).map(([name, plan]) => [name, digests(plan)])));
});

/** Plays events of every kind, goes over to another plan in the middle, and back; uneven steps, some of them long. */
function playedAtRandom([plan, other, all]: readonly [
  Plan,
  Plan,
  readonly { t: number; tell: Event }[],
]): string {
  const seen = createHash("sha256");
  const tell = (...what: unknown[]) => void seen.update(JSON.stringify(what, rough));
  const input: InputLayer = createInputLayer(plan);
  for (const name of ["kick", "tuck", "surge", "grab"])
    for (const change of ["on", "off", "pulse", "grant"] as const)
      input.on(name, change, (t: number, by?: unknown) => tell(name, change, t, by, input.copy()));
  let n = 0;
  for (let t = 0; t < 1400; t += 7 + ((t * 13) % 29)) {
    for (; n < all.length && all[n]!.t <= t + 9; n++) all[n]!.tell(input);
    if (t > 500 && input.plan === plan) input.setPlan(other);
    tell(input.step(t), input.modes, input.mutes, input.snapshot().length);
    for (const name of ["swim", "depth", "kick", "tuck", "look"]) tell(input.live(name));
  }
  return seen.digest("hex").slice(0, 12);
}

/** Plays a plan of any shape, through its seats. */
function playedAny(seed: number): string {
  const seen = createHash("sha256");
  const tell = (...what: unknown[]) => void seen.update(JSON.stringify(what, rough));
  const plan = anyPlan(seed);
  const input: InputLayer = createInputLayer(plan);
  // In every other play, callbacks call the game's commands.
  const calls = anyCommands(plan, seed, seed % 2 === 0 ? 40 : 0);
  for (const seat of input.seats.map((name) => input.seat(name)))
    for (const [name, { kind }] of Object.entries(plan.actions))
      for (const change of kind === "switch" ? (["on", "off", "pulse", "grant"] as const) : [])
        seat.on(name, change, (t: number, by?: unknown) => {
          tell(seat.name, name, change, t, by);
          calls.shift()?.(input);
        });
  const acts = anyPlay(plan, seed, 150);
  for (const { tell: act } of [...acts, { tell: () => input.step(acts.at(-1)!.t + 5000) }]) {
    act(input);
    tell(
      input.seats.map((name) => Object.values(input.seat(name).now).map((reading) => ({ ...reading }))),
      input.snapshot().length,
    );
  }
  return seen.digest("hex").slice(0, 12);
}

test.each([0, 1, 2, 3, 4, 5, 6, 7])("so do plans of any shape (%i)", (part) => {
  mustBeAsWritten({ [`any ${part}`]: Array.from({ length: 20 }, (_, n) => playedAny(part * 20 + n)) });
});

const SAMPLES = 120;
const AT_ONCE = 15;

test.each(Array.from({ length: SAMPLES / AT_ONCE }, (_, n) => n))(
  "so do plans with a little of everything, worked by all that a game can call (%i)",
  (part) => {
    const games = fc.sample(fc.tuple(randomPlans, randomPlans, events), { seed: part, numRuns: AT_ONCE });
    mustBeAsWritten({ [`random ${part}`]: games.map(playedAtRandom) });
  },
);
