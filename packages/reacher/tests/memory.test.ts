/** What must not grow: recordings of a day, and changes of keys and plans without end. */
import { getHeapSpaceStatistics, setFlagsFromString } from "node:v8";
import { runInNewContext } from "node:vm";
import { createInputLayer, type InputLayer, type Plan } from "reacher";
import { parseTrace, record } from "reacher/trace";
import { kelpline, kickPlan } from "./plans";
import { runs } from "./runs";

setFlagsFromString("--expose-gc");
const collect = runInNewContext("gc") as () => void;
function bytes(): number {
  // What only weak maps hold, one in another, takes several rounds.
  for (let n = 0; n < 8; n++) collect();
  const { heapUsed, arrayBuffers } = process.memoryUsage();
  // Machine code that the runtime makes of what runs often is none of ours.
  const code = getHeapSpaceStatistics().filter(({ space_name: name }) => name.startsWith("code"));
  return heapUsed + arrayBuffers - code.reduce((sum, { space_used_size: used }) => sum + used, 0);
}

test("a settings screen's slider keeps no memory: neither overrides nor plans that were set before", () => {
  const taps = { player: { gapMs: [100, 400] }, from: { main: { taps: 2, of: "KeyK" } } } as const;
  const plan = kickPlan(taps) as unknown as Plan;
  const input: InputLayer = createInputLayer(plan);
  const play = (times: number) => {
    for (let n = 0; n < times; n++) {
      if (n % 2 === 0)
        input.setOverrides({ reacherOverrides: 1, settings: { "kick.gapMs": 100 + (n % 300) } });
      else input.setPlan(structuredClone(plan));
      input.step(n * 20);
    }
  };
  play(500);
  const before = bytes();
  play(runs(5000).numRuns);
  expect(bytes() - before).toBeLessThan(1e6);
});

test("hours of recording take no more memory than the first", () => {
  const input = createInputLayer(kelpline());
  const recorder = record(input);
  let t = 0;
  const playHours = (hours: number) => {
    for (const end = t + hours * 3_600_000; t < end; t += 200) {
      const control = ["KeyW", "KeyC", "ShiftLeft", "KeyF"][Math.floor(t / 400) % 4]!;
      input.feed({ t: t + 1, control, value: (t / 200) % 2 });
      if (t % 60_000 === 0) input[(t / 60_000) % 2 === 0 ? "enter" : "leave"]("menu");
      input.step(t + 200);
    }
  };
  playHours(1.5);
  const before = bytes();
  playHours(4);
  // A day's growth would be 1 MB.
  expect(bytes() - before).toBeLessThan(1.8e5);
  expect(parseTrace(recorder.text()).entries.length).toBeLessThanOrEqual(20_100);
});
