/** Many players stepped together are what as many layers are. */
import * as fc from "fast-check";
import { createInputLayer, type InputLayer, type Plan } from "reacher";
import { createCrowd } from "reacher/crowd";
import { record } from "reacher/trace";
import { kelplineForTwo, WASD } from "./plans";
import { events, SWITCHES } from "./randomEvents";
import { plans } from "./randomPlans";
import { runs } from "./runs";

const plan: Plan = {
  reacherPlan: 1,
  flags: { hasAir: true },
  actions: {
    swim: { kind: "vector", from: { main: WASD, pad: "PadLeftStick" } },
    kick: { kind: "switch", from: { main: "KeyK" }, style: "toggle", needs: "hasAir" },
  },
};

/** What a game does between two steps, besides events. */
const others = fc.constantFrom<(input: InputLayer) => void>(
  (input) => void input.setOverrides({ reacherOverrides: 1, controls: { "swim.main.up": "KeyZ" } }),
  (input) => void input.setOverrides(null),
  (input) => input.lose("focus"),
  (input) => void input.onPress(() => input.setNumber("fast", 3)),
  (input) => input.restore(input.snapshot()),
  () => undefined,
);

test("each player of a crowd reads, tells, holds and copies what a layer of its own does", () => {
  fc.assert(
    fc.property(
      plans,
      fc.array(fc.tuple(events, others, fc.nat(1000)), { minLength: 1, maxLength: 4 }),
      fc.constantFrom(7, 17, 240),
      fc.option(fc.nat(900), { nil: undefined }),
      (plan, hands, stepMs, backAt) => {
        const seen = [[], []] as unknown[][][];
        const follow = (input: InputLayer, into: unknown[]) => {
          for (const name of SWITCHES)
            for (const change of ["on", "off", "pulse"] as const)
              input.on(name, change, (t: number, by?: unknown) =>
                into.push([name, change, t, by, input.copy()]),
              );
          input.onPress((press) => into.push(press));
        };
        const crowd = createCrowd(plan, hands.length);
        const together = crowd.players;
        const alone = hands.map(() => createInputLayer(plan));
        [together, alone].forEach((all, side) =>
          all.forEach((input, n) => follow(input, ((seen[side]![n] = []), seen[side]![n] as unknown[]))),
        );
        let kept: Uint8Array | undefined;
        let keptAt = 0;
        let was = 0;
        for (let t = 0; t < 1100; t += stepMs) {
          hands.forEach(([all, other, at], n) => {
            for (const input of [together[n]!, alone[n]!]) {
              for (const event of all) if (event.t >= was && event.t < t + 5) event.tell(input);
              if (at >= was && at < t + 5) other(input);
            }
          });
          was = t + 5;
          crowd.step(t);
          for (const input of alone) input.step(t);
          for (const all of [together, alone])
            all.forEach((input, n) =>
              seen[all === alone ? 1 : 0]![n]!.push([
                input.copy(),
                input.held(),
                input.modes,
                input.lastDevice,
              ]),
            );
          for (const [n, player] of together.entries())
            if (Buffer.compare(player.snapshot(), alone[n]!.snapshot()) !== 0)
              throw new Error(`player ${n} at ${t}`);
          if (backAt === undefined || t < backAt) continue;
          if (kept === undefined) [kept, keptAt] = [crowd.snapshot(), t];
          else if (kept.length > 0 && t > backAt + 200) {
            // All go back, and play on from there.
            let from = 0;
            backAt = undefined;
            try {
              crowd.restore(kept);
            } catch {
              // Somebody has other keys by now: nobody is put back.
              continue;
            }
            for (const input of alone) input.restore(kept.subarray(from, (from += input.snapshot().length)));
            t = was = keptAt;
            kept = new Uint8Array(0);
          }
        }
        expect(seen[0]).toEqual(seen[1]);
      },
    ),
    runs(6),
  );
});

test("players lie side by side: what is copied of all is each one's copy, in a row", () => {
  const crowd = createCrowd(plan, 3);
  const [amber, teal, rust] = crowd.players as [InputLayer, InputLayer, InputLayer];
  amber.feed({ t: 1, control: "KeyD", value: 1 });
  teal.feed({ t: 2, control: "KeyK", value: 1 });
  crowd.step(10);
  expect(crowd.players.map(({ now }) => [now["swim"], now["kick"]])).toMatchObject([
    [{ x: 1 }, { on: false }],
    [{ x: 0 }, { on: true }],
    [{ x: 0 }, { on: false }],
  ]);
  const copy = crowd.snapshot();
  expect(Buffer.concat([amber, teal, rust].map((player) => player.snapshot())).equals(copy)).toBe(true);
  teal.reset();
  crowd.step(20);
  expect(teal.now["kick"]).toMatchObject({ on: false });
  crowd.restore(copy);
  expect(teal.now["kick"]).toMatchObject({ on: true });
});

test("a player is put back alone: nobody else's time is", () => {
  const crowd = createCrowd(plan, 2);
  const [amber, teal] = crowd.players as [InputLayer, InputLayer];
  crowd.step(10);
  const rest = amber.snapshot();
  for (const player of crowd.players) player.feed({ t: 12, control: "KeyK", value: 1 });
  crowd.step(20);
  amber.restore(rest);
  teal.feed({ t: 15, control: "KeyD", value: 1 });
  crowd.step(30);
  expect(crowd.players.map(({ now }) => [now["kick"], now["swim"]])).toMatchObject([
    [{ on: false }, { x: 0 }],
    [{ on: true }, { x: 1 }],
  ]);
  // It came late, by the crowd's clock.
  expect(teal.counters.late).toBe(1);
});

test("one player of a crowd is watched and recorded", () => {
  const crowd = createCrowd(plan, 2);
  const player = crowd.players[1]!;
  const told: string[] = [];
  const off = player.watch({ changed: (t, action) => told.push(`${action} ${t}`) });
  const recorder = record(player);
  player.feed({ t: 5, control: "KeyK", value: 1 });
  crowd.players[0]!.feed({ t: 6, control: "KeyK", value: 1 });
  crowd.step(10);
  off();
  player.feed({ t: 15, control: "KeyK", value: 0 });
  crowd.step(20);
  expect(told).toEqual(["kick 5"]);
  expect(recorder.text().match(/KeyK/g)).toHaveLength(2);
});

test("players have pads of their own, and what cannot be taken is ignored, counted with its player", () => {
  const crowd = createCrowd(plan, 2);
  const [amber, teal] = crowd.players as [InputLayer, InputLayer];
  amber.feed({ t: 5, control: "PadLeftStickX", value: 1 });
  for (let pad = 0; pad < 6; pad++) teal.feed({ t: 5, control: "PadLeftStickX", value: -1, pad });
  for (const bad of [null, {}, { t: 5, control: "Nix", value: 1 }, { t: NaN, control: "KeyD", value: 1 }])
    try {
      amber.feed(bad as never);
    } catch (error) {
      expect(String(error)).toMatch(/null is no event/);
    }
  crowd.step(10);
  expect([amber, teal].map(({ now }) => now["swim"])).toMatchObject([{ x: 1 }, { x: -1 }]);
  expect([amber, teal].map(({ counters }) => counters)).toEqual([
    { late: 0, ignored: 3, skipped: 0 },
    { late: 0, ignored: 2, skipped: 0 },
  ]);
  const taken: string[] = [];
  const end = teal.intercept(teal.seats[0]!, {
    feed: ({ control }) => taken.push(control) > 0,
    passed: (t) => taken.push(`passed ${t}`),
    lost: () => {},
    replaced: () => {},
  });
  teal.feed({ t: 15, control: "KeyK", value: 1 });
  crowd.step(20);
  end();
  crowd.step(30);
  crowd.step(40);
  expect(taken).toEqual(["KeyK", "passed 20"]);
  expect(teal.now["kick"]).toMatchObject({ on: false });
});

test("a callback that throws leaves nobody behind: who has not had their turn has it in the next step", () => {
  const crowd = createCrowd(plan, 3);
  const told: string[] = [];
  crowd.players.forEach((player, n) =>
    player.on("kick", "on", (t) => {
      told.push(`${n} ${t}`);
      if (n === 1) throw new Error("a mishap");
    }),
  );
  crowd.players[0]!.onPress(({ control }) => {
    throw new Error(`${control} is not liked`);
  });
  for (const player of crowd.players) player.feed({ t: 5, control: "KeyK", value: 1 });
  for (const fault of ["KeyK is not liked", "a mishap"]) expect(() => crowd.step(10)).toThrow(fault);
  crowd.step(20);
  expect(told).toEqual(["0 5", "1 5", "2 5"]);
  expect(crowd.players.map(({ now }) => now["kick"])).toMatchObject(Array(3).fill({ on: true }));
});

test("what a crowd touches grows with what its players do, not with their number", () => {
  const crowd = createCrowd(plan, 5000);
  crowd.step(0);
  const work = () => (crowd as unknown as { scheduler: { work: Int32Array } }).scheduler.work[0]!;
  const before = work();
  for (let t = 1; t < 50; t++) crowd.step(t);
  expect(work()).toBe(before);
});

test.each<[string, () => unknown, RegExp]>([
  ["no count", () => createCrowd(plan, 0), /0 is no count of players; give a whole number from 1/],
  ["a half", () => createCrowd(plan, 2.5), /2.5 is no count/],
  ["seats", () => createCrowd(kelplineForTwo(), 2), /this one has seats/],
  ["a player's step", () => createCrowd(plan, 1).players[0]!.step(5), /crowd.step\(t\)/],
  ["no time", () => createCrowd(plan, 1).step(NaN), /not a time/],
  ["another count", () => createCrowd(plan, 1).restore(createCrowd(plan, 2).snapshot()), /not of this plan/],
])("a mend is told: %s", (_, wrong, told) => {
  expect(wrong).toThrow(told);
});
