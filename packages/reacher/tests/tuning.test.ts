import { tapTest } from "reacher/rebind";
import fc from "fast-check";
import type { TraceEntry } from "reacher/trace";
import {
  allTimes,
  proposeTapWindow,
  proposeZone,
  StickMeter,
  TapCounter,
  tapWindows,
  type TapTimes,
} from "reacher/tuning";
import { runs } from "./runs";

const press = (t: number, control: string, heldMs = 80, pad = 0): TraceEntry[] => [
  { t, control, value: 1, pad },
  { t: t + heldMs, control, value: 0, pad },
];

function counted(entries: TraceEntry[], only?: string): TapTimes[] {
  const counter = new TapCounter(only);
  for (const entry of [...entries].sort((a, b) => a.t - b.t)) counter.push(entry);
  counter.endTrace();
  return counter.times();
}

const pairs = ({ quick, plain }: TapTimes) => [quick.total, plain.total];

// Each row: what was pressed, and how many pairs of it look meant, and how many do not.
test.each<[string, TraceEntry[], [number, number]]>([
  ["a double tap", [...press(0, "KeyD"), ...press(220, "KeyD")], [1, 0]],
  ["three in a row", [...press(0, "KeyD"), ...press(220, "KeyD"), ...press(440, "KeyD")], [2, 0]],
  ["four in a row", [0, 220, 440, 660].flatMap((t) => press(t, "KeyD")), [0, 3]],
  ["600 ms apart", [...press(0, "KeyD"), ...press(600, "KeyD")], [1, 0]],
  ["half a ms more", [...press(0, "KeyD"), ...press(600.5, "KeyD")], [0, 0]],
  ["first held 200 ms", [...press(0, "KeyD", 200), ...press(300, "KeyD")], [1, 0]],
  ["half a ms longer", [...press(0, "KeyD", 200.5), ...press(300, "KeyD")], [0, 1]],
  ["another between", [...press(0, "KeyD"), ...press(90, "KeyA"), ...press(220, "KeyD")], [0, 1]],
  ["the system's repeat", [...press(0, "KeyD", 400), { t: 200, control: "KeyD", value: 1, pad: 0 }], [0, 0]],
  ["two pads", [...press(0, "PadEast", 80, 0), ...press(200, "PadEast", 80, 1)], [0, 0]],
  ["a loss between", [...press(0, "KeyD"), { t: 100, lost: "focus" }, ...press(220, "KeyD")], [0, 0]],
])("%s", (_, entries, expected) => {
  expect(pairs(counted(entries).find(({ control }) => control !== "KeyA")!)).toEqual(expected);
});

test("a stick's flicks are presses of its sides, and a trigger's are those beyond half", () => {
  const flick = (t: number, value: number): TraceEntry => ({ t, control: "PadLeftStickX", value, pad: 0 });
  const flicks = [0.6, 0.45, 0.2, 0.5, 0, -0.9, 0].map((value, n) => flick(n * 60, value));
  const [right, left] = counted(flicks);
  expect([right!.control, right!.presses, ...pairs(right!)]).toEqual(["PadLeftStickRight", 2, 1, 0]);
  expect([left!.control, left!.presses]).toEqual(["PadLeftStickLeft", 1]);
});

test("a trace's end parts its presses from the next trace's, and one control can be asked for", () => {
  const counter = new TapCounter("KeyD");
  for (const trace of [[...press(0, "KeyD"), ...press(5, "KeyW")], press(100, "KeyD")]) {
    trace.sort((a, b) => a.t - b.t).forEach((entry) => counter.push(entry));
    counter.endTrace();
  }
  expect(counter.times().map(({ control, presses, quick }) => [control, presses, quick.total])).toEqual([
    ["KeyD", 2, 0],
  ]);
});

/** Quick pairs and plain ones of these gaps, a second and more apart. */
function times(quick: number[], plain: number[]): TapTimes {
  let t = 0;
  const pair = (gap: number, held: number) => {
    t += 3000;
    return [...press(t, "KeyD", held), ...press(t + gap, "KeyD")];
  };
  return allTimes(
    counted([...quick.map((gap) => pair(gap, 60)), ...plain.map((gap) => pair(gap, 205))].flat()),
  );
}

test("windows count both sorts, their end included", () => {
  const windows = tapWindows(times([180, 200, 200.5, 260], [215, 400.5]));
  const at = (ms: number) => windows.find(({ gapMs }) => gapMs === ms);
  expect(windows.length).toBe(31);
  expect(at(180)).toEqual({ gapMs: 180, quick: 1, plain: 0 });
  expect(at(200)).toEqual({ gapMs: 200, quick: 2, plain: 0 });
  expect(at(210)).toEqual({ gapMs: 210, quick: 3, plain: 0 });
  expect(at(400)).toEqual({ gapMs: 400, quick: 4, plain: 1 });
});

test("the proposed window parts the sorts where they can be parted, and says what it costs", () => {
  const hands = [170, 190, 200, 210, 220, 230, 240, 250, 255];
  expect(proposeTapWindow(times(hands, [290, 300, 350]))).toEqual({
    gapMs: 260,
    reason:
      "it catches 9 of 9 quick pairs, and 0 of 3 that were plain movement; 20 ms more would catch 0 more of them and 0 more of plain movement",
  });
  // Where movement is mixed with the slowest taps, these are given up.
  expect(proposeTapWindow(times([...hands, 390], [300, 310, 320])).gapMs).toBe(260);
  // Never shorter than most hands can meet, whatever these hands can.
  expect(proposeTapWindow(times([90, 90, 90, 95, 95, 95, 99, 99], [])).gapMs).toBe(160);
  expect(proposeTapWindow(times(hands.slice(5), []))).toEqual({
    reason: "quick pairs are too few to go by, 4 where 5 would do",
  });
});

test("a tap test and the statistics of a recording give one window for the same taps, from as few", () => {
  const gap = fc.double({ min: 140, max: 590, noNaN: true });
  fc.assert(
    fc.property(fc.array(gap, { minLength: 5, maxLength: 12 }), (gaps) => {
      const test = tapTest([160, 1000], gaps.length);
      gaps.forEach((ms, n) => {
        for (const t of [n * 5000, n * 5000 + ms]) {
          test.press(t);
          test.release(t + 60);
        }
      });
      // Times are counted in whole ms, as pairs that lie seconds apart.
      expect(proposeTapWindow(times(gaps, [])).gapMs).toBe(test.result.gapMs);
    }),
    runs(100),
  );
  expect(tapTest([160, 1000]).of).toBe(5);
});

test("every two presses near each other are a pair, of one sort or the other", () => {
  const gaps = fc.array(fc.integer({ min: 2, max: 900 }), { maxLength: 60 });
  fc.assert(
    fc.property(gaps, (all) => {
      let t = 0;
      const [keyD] = counted([0, ...all].flatMap((gap) => press((t += gap), "KeyD", 1)));
      expect(pairs(keyD!).reduce((one, other) => one + other)).toBe(all.filter((gap) => gap <= 600).length);
    }),
    runs(100),
  );
});

/** A stick's places over time, as a trace has them: y down. */
function moved(places: [t: number, x: number, y: number][], end: number) {
  const meter = new StickMeter();
  for (const [t, x, y] of places) {
    meter.push({ t, control: "PadLeftStickX", value: x, pad: 0 });
    meter.push({ t, control: "PadLeftStickY", value: 0 - y, pad: 0 });
  }
  meter.push({ t: end, end: true });
  meter.endTrace();
  return meter.measures()[0]!;
}

describe("sticks", () => {
  test("where it rests, how it trembles, how far it reaches: y up", () => {
    const measure = moved(
      [
        [0, 0.05, -0.02],
        [500, 0.07, -0.02],
        [1000, 0.95, 0],
        [1200, 0, 0.9],
        [1300, -0.93, 0],
        [1400, 0, -0.97],
        [1500, 0.06, -0.02],
      ],
      2500,
    );
    expect(measure).toMatchObject({ stick: "PadLeftStick", pad: 0, ms: 2500, restMs: 2000 });
    const { rest, reach } = measure;
    expect([rest!.mean.x, rest!.mean.y]).toEqual([expect.closeTo(0.06, 9), expect.closeTo(-0.02, 9)]);
    expect(rest!.noise).toBeCloseTo(0.02, 9);
    expect([reach[0], reach[9], reach[18], reach[27]]).toEqual([0.95, 0.9, 0.93, 0.97]);
    expect(rest).not.toHaveProperty("drift");
    expect(proposeZone(measure)).toEqual({
      inner: 0.11,
      innerReason: "at rest it stays within 0.09 of the centre",
      outer: 0.12,
      outerReason: "its shortest reach is 0.9, of 4 of 36 directions seen",
    });
  });

  // Each row: how long it is still, how far out, and whether that is a rest.
  test.each([
    [400, 0.25, 400],
    [399.5, 0.25, 0],
    [400, 0.251, 0],
  ])("still for %d ms at %d rests for %d ms", (ms, x, restMs) => {
    expect(
      moved(
        [
          [0, 0.9, 0],
          [100, x, 0],
          [100 + ms, 0.9, 0],
        ],
        1000,
      ).restMs,
    ).toBe(restMs);
  });

  test("a drift is found by its rate and way, and the zone hides all of it", () => {
    const places: [number, number, number][] = [];
    for (let n = 0; n < 60; n++) {
      const t = n * 2000;
      places.push([t, 0.01 + n * 0.002, 0.01], [t + 1500, 0.9, 0]);
    }
    const measure = moved(places, 120_000);
    expect(measure.rest!.drift!.perMinute).toBeCloseTo(0.06, 6);
    expect([measure.rest!.drift!.x, measure.rest!.drift!.y]).toEqual([
      expect.closeTo(0.06, 6),
      expect.closeTo(0, 6),
    ]);
    expect([measure.rest!.first.x, measure.rest!.last.x]).toEqual([
      expect.closeTo(0.01, 6),
      expect.closeTo(0.128, 6),
    ]);
    expect(proposeZone(measure).inner).toBeGreaterThan(0.128);
  });

  test("a lost pad is not at rest, and what is no stick is not measured", () => {
    const meter = new StickMeter();
    meter.push({ t: 0, control: "PadLeftStickX", value: 0.1, pad: 0 });
    meter.push({ t: 1000, lost: "focus" });
    meter.push({ t: 90_000, control: "PadLeftStickX", value: 0.1, pad: 0 });
    meter.push({ t: 90_000, control: "PadAxis4", value: 0.1, pad: 0 });
    meter.push({ t: 91_000, control: "PadLeftStickX", value: 0.9, pad: 0 });
    meter.push({ t: 91_100, end: true });
    expect(meter.measures().map(({ ms, restMs }) => [ms, restMs])).toEqual([[2100, 2000]]);
  });
});

test("whatever a stick does at rest, the proposed zone hides it, and leaves the half of the travel", () => {
  const place = fc.record({
    angle: fc.double({ min: 0, max: 6.28, noNaN: true }),
    far: fc.integer({ min: 0, max: 20 }),
  });
  fc.assert(
    fc.property(fc.array(place, { minLength: 1, maxLength: 12 }), (rests) => {
      const places = rests.flatMap(({ angle, far }, n): [number, number, number][] => [
        [n * 2000, (far / 100) * Math.cos(angle), (far / 100) * Math.sin(angle)],
        [n * 2000 + 1500, Math.cos(angle), Math.sin(angle)],
      ]);
      const measure = moved(places, rests.length * 2000);
      const { inner, outer } = proposeZone(measure);
      expect(inner).toBeGreaterThanOrEqual(Math.max(...rests.map(({ far }) => far)) / 100);
      expect(1 - inner - outer).toBeGreaterThan(0.5);
      expect(measure.restMs).toBe(rests.length * 1500);
    }),
    runs(100),
  );
});
