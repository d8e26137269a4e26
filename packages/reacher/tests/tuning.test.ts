import fc from "fast-check";
import type { TraceEntry } from "reacher/trace";
import { allTimes, proposeTapWindow, TapCounter, tapWindows, type TapTimes } from "reacher/tuning";

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
  expect(proposeTapWindow(times(hands.slice(2), []))).toEqual({
    reason: "quick pairs are too few to go by, 7 where 8 would do",
  });
});

test("every two presses near each other are a pair, of one sort or the other", () => {
  const gaps = fc.array(fc.integer({ min: 2, max: 900 }), { maxLength: 60 });
  fc.assert(
    fc.property(gaps, (all) => {
      let t = 0;
      const [keyD] = counted([0, ...all].flatMap((gap) => press((t += gap), "KeyD", 1)));
      expect(pairs(keyD!).reduce((one, other) => one + other)).toBe(all.filter((gap) => gap <= 600).length);
    }),
  );
});
