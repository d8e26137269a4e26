/** Reports: a plan, a player's changes and what happened, in one file that replays as it was played. */
import * as fc from "fast-check";
import { createInputLayer, parsePlan, type InputLayer } from "reacher";
import { parseReport, record, replayReport, startReplay, type Report } from "reacher/trace";
import { events } from "./randomEvents";
import { plans } from "./randomPlans";
import { runs } from "./runs";

/** Plays a report, and gives the layer at its end. */
function played(report: Report): InputLayer {
  const running = startReplay(report.plan);
  for (const entry of report.trace) running.push(entry);
  running.finish();
  expect([...running.skipped]).toEqual([]);
  return running.layer;
}

test("a report begun at any moment of any play ends in the same readings", () => {
  fc.assert(
    fc.property(plans, events, fc.nat(60), fc.boolean(), (plan, list, from, changed) => {
      const input: InputLayer = createInputLayer(plan);
      if (changed) input.setOverrides({ reacherOverrides: 1, controls: { "swim.main.up": "KeyZ" } });
      input.step(0);
      let recorder = record(input);
      list.forEach(({ t, tell }, n) => {
        if (n === from) {
          recorder.stop();
          recorder = record(input);
        }
        tell(input);
        input.step(t);
      });
      input.step(1300);
      const report = parseReport(JSON.stringify(recorder.report("it stuck")));
      // What was turned is a step's own.
      const shown = (layer: InputLayer) => JSON.stringify({ ...layer.now, look: null });
      expect(shown(played(report))).toBe(shown(input));
      expect(report.about).toBe("it stuck");
    }),
    runs(100),
  );
});

test("what a restore takes back has not happened: it is in no recording", () => {
  fc.assert(
    fc.property(plans, events, fc.nat(30), fc.nat(30), (plan, list, from, length) => {
      const input: InputLayer = createInputLayer(plan);
      input.step(0);
      const recorder = record(input);
      const playOn = (some: typeof list) => {
        for (const { t, tell } of some) {
          tell(input);
          input.step(t);
        }
      };
      playOn(list.slice(0, from));
      const snapshot = input.snapshot();
      playOn(list.slice(from, from + length));
      input.restore(snapshot);
      playOn(list.slice(from));
      input.step(1300);
      const shown = (layer: InputLayer) => JSON.stringify({ ...layer.now, look: null });
      expect(shown(played(parseReport(recorder.report())))).toBe(shown(input));
    }),
    runs(60),
  );
});

const PLAN = parsePlan({
  reacherPlan: 1,
  name: "farm",
  actions: {
    swim: { kind: "vector", from: { main: { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyD" } } },
    haul: { kind: "switch", from: { main: { long: "KeyE", afterMs: 400 } } },
    lamp: { kind: "switch", style: "toggle", from: { main: "KeyF" } },
    dash: { kind: "switch", cooldownMs: 700, from: { main: { taps: 2, of: "KeyQ", gapMs: 250 } } },
  },
});

/** A minute of it: the lamp on at 500, and a press of E and of Q under way at each full second. */
function minute() {
  const input = createInputLayer(PLAN);
  const recorder = record(input);
  const press = (t: number, control: string, value: number) => input.feed({ t, control, value });
  press(400, "KeyF", 1);
  press(450, "KeyF", 0);
  for (let second = 1; second <= 60; second++) {
    const t = second * 1000;
    press(t - 200, "KeyE", 1);
    press(t - 100, "KeyQ", 1);
    press(t - 80, "KeyQ", 0);
    press(t + 50, "KeyQ", 1);
    press(t + 90, "KeyQ", 0);
    press(t + 300, "KeyE", 0);
  }
  for (let n = 0; n <= 60 * 62; n++) input.step((n * 1000) / 60);
  return { input, recorder };
}

test("the last seconds of a minute begin with the state, so that windows and long presses go on", () => {
  const { recorder } = minute();
  const report = recorder.report(undefined, { lastMs: 5000 });
  const [first, ...others] = report.trace;
  expect(first).toEqual({ t: expect.any(Number), state: { solo: expect.any(String) } });
  expect(first!.t).toBeGreaterThan(55_000);
  expect(first!.t).toBeLessThanOrEqual(57_000);
  expect(others[0]).toEqual({ t: first!.t, control: "KeyE", value: 1 });
  const rows = replayReport(report);
  // What is on is told at its beginning; the press of E that was under way by then fires at its own moment.
  expect(rows[0]).toEqual({ at: first!.t, seat: "solo", action: "lamp", on: true });
  const whole = replayReport(recorder.report());
  const after = (one: { at: number }) => one.at > first!.t;
  expect(rows.filter(after)).toEqual(whole.filter(after));
  expect(rows.filter((row) => "on" in row && row.action === "haul" && row.on).map(({ at }) => at)).toEqual(
    [56, 57, 58, 59, 60].map((second) => second * 1000 + 200).filter((at) => at > first!.t),
  );
  // Regular moments are those of the layer's clock.
  const nows = replayReport(report, { every: 500 });
  expect(nows[0]!.at % 500).toBe(0);
  expect(nows.map(({ at }) => at)).toEqual(nows.map((_, n) => nows[0]!.at + n * 500));
});

test("with another plan the lines are played instead, and it says so", () => {
  const { recorder } = minute();
  const report = recorder.report(undefined, { lastMs: 3000 });
  const plan = { ...PLAN, actions: { ...PLAN.actions, haul: { kind: "switch", from: { main: "KeyE" } } } };
  const running = startReplay(plan as never);
  for (const entry of report.trace) running.push(entry);
  running.finish();
  expect([...running.skipped.keys()]).toEqual(["state"]);
  const now = running.layer.now as unknown as Record<string, { on: boolean }>;
  expect(now["lamp"]!.on).toBe(true);
});

test("two divers with keys of their own, who plays and whose pad", () => {
  const plan = parsePlan({
    reacherPlan: 1,
    seats: { amber: { slots: ["left", "pad"] }, teal: { slots: ["right", "pad"] } },
    actions: {
      kick: { kind: "switch", style: "toggle", from: { left: "KeyE", right: "KeyO", pad: "PadSouth" } },
    },
  });
  const input = createInputLayer(plan);
  input.seat("teal").setOverrides({ reacherOverrides: 1, controls: { "kick.right": "KeyP" } });
  input.assignPad("teal", 3);
  input.step(0);
  const recorder = record(input);
  input.openSeats(["teal"]);
  input.feed({ t: 10, control: "KeyP", value: 1 });
  input.feed({ t: 20, control: "KeyP", value: 0 });
  input.step(2000);
  input.step(4000);
  const report = recorder.report("the pad", { lastMs: 100 });
  expect(report.trace[0]!.t).toBe(2000);
  input.feed({ t: 4010, control: "PadSouth", value: 1, pad: 3 });
  input.step(4020);
  const live = input.seat("teal").now as never as { kick: { on: boolean } };
  expect(live.kick.on).toBe(false);
  const layer = played(report);
  layer.feed({ t: 4010, control: "PadSouth", value: 1, pad: 3 });
  layer.step(4020);
  expect([layer.open, layer.seat("teal").pad]).toEqual([["teal"], 3]);
  expect((layer.seat("teal").now as never as { kick: { on: boolean } }).kick.on).toBe(false);
});

test.each<[unknown, RegExp]>([
  ["{", /the report is not JSON/],
  [5, /5 is no report/],
  [{ reacherPlan: 1 }, /this is no report: reacherReport is missing/],
  [{ reacherReport: 2 }, /reacherReport 2 is not known; this version reads 1/],
  [{ reacherReport: 1, plan: PLAN, overrides: {}, trace: [], more: 1 }, /more is no field of a report/],
  [{ reacherReport: 1, plan: PLAN }, /trace: it is a list of lines/],
  [{ reacherReport: 1, plan: PLAN, overrides: { solo: {} }, trace: [] }, /overrides.solo: /],
  [{ reacherReport: 1, plan: {}, trace: [] }, /reacherPlan/],
  [{ reacherReport: 1, plan: PLAN, trace: [{ t: 1, control: "KeyW" }] }, /trace.0: value is missing/],
  [{ reacherReport: 1, plan: PLAN, trace: [{ t: 1, state: { solo: "?" } }] }, /trace.0: state is/],
  [{ reacherReport: 1, plan: PLAN, trace: [null] }, /trace.0: null is no object/],
])("%j is told", (raw, message) => {
  expect(() => parseReport(raw)).toThrow(message);
});
