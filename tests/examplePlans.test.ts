/** The plans to start from: each is clean, its recording replays alike at any step rate, and all that happens in it is explained. */
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { createInputLayer, parsePlan, type InputLayer, type Plan } from "reacher";
import { checkPlan } from "reacher/check";
import { explain, parseTrace, replay, type ReplayRow, type TraceEntry } from "reacher/trace";
import { give } from "../packages/reacher/src/trace/give";
import { root } from "./support/compiler";
import { builtPlanOf, bundledLibrary, shown } from "./support/made";

const folder = join(root, "examples/plans");
const names = readdirSync(folder).flatMap((name) => /^(.*)\.plan\.json$/.exec(name)?.[1] ?? []);
const read = (name: string) => readFileSync(join(folder, name), "utf8");

/** What switches did, and when. */
function presses(rows: readonly ReplayRow[]): string[] {
  return rows
    .flatMap((row) => ("on" in row || "pulse" in row || "grant" in row ? [JSON.stringify(row)] : []))
    .sort();
}

test("there are four of them, and the README leads to each", () => {
  expect(names).toEqual(["first-person", "platformer", "shooter", "two-players"]);
  const readme = readFileSync(join(root, "README.md"), "utf8");
  for (const name of names) expect(readme).toContain(`examples/plans/${name}.plan.json`);
});

test.each(names)("%s", (name) => {
  const raw: unknown = JSON.parse(read(`${name}.plan.json`));
  expect(checkPlan(raw).findings).toEqual([]);
  const plan = parsePlan(raw);
  const { head, entries } = parseTrace(read(`${name}.trace.jsonl`));
  expect(head.plan).toBe(plan.name);
  const rows = presses(replay(plan, entries));
  expect(rows.length).toBeGreaterThan(8);
  for (const hz of [5, 20, 240]) expect(presses(replay(plan, entries, { hz }))).toEqual(rows);
  const first = plan.seats === undefined ? "solo" : Object.keys(plan.seats)[0]!;
  const told = explain(plan, entries).map(
    ({ at, action, outcome }) => `${Math.round(at * 1e6) / 1e6} ${action} ${outcome}`,
  );
  const turned = replay(plan, entries).flatMap((row) =>
    "on" in row && row.seat === first ? [{ ...row, is: row.on ? "on" : "off" }] : [],
  );
  // What turns on and off at one moment is told once.
  for (const { at, action, is } of turned)
    expect([
      `${at} ${action} ${is}`,
      told.some((one) => one === `${at} ${action} ${is}` || one === `${at} ${action} on`),
    ]).toEqual([`${at} ${action} ${is}`, true]);
});

/** Gives a layer a line of a recording, as a game would. */
function play(input: InputLayer, entry: TraceEntry): void {
  const { t } = entry;
  if ("control" in entry) input.feed(entry);
  else if ("lost" in entry)
    input.lose(entry.lost as "focus", ...((entry.pad === undefined ? [t] : [entry.pad, t]) as [number]));
  else if ("seatPad" in entry) input.assignPad(entry.seatPad, entry.pad, t);
  else if (!("end" in entry))
    give(("seat" in entry ? input.seat(entry.seat!) : input) as never, entry as never, t);
  input.step(t);
}

test("each plays its recording on code made for it as on the rules", () => {
  const library = bundledLibrary();
  const calls = ["setFlag", "setNumber", "mute", "unmute", "enter", "leave", "snapshot"];
  for (const name of names) {
    const plan = parsePlan(JSON.parse(read(`${name}.plan.json`)));
    const seated = plan.seats === undefined ? [] : ["assignPad"];
    const built = builtPlanOf(library, plan as Plan, { calls: [...calls, ...seated] });
    expect(built.text).toContain(`madePlan(`);
    const layers = [createInputLayer(plan) as unknown as InputLayer, library.createInputLayer(built.plan)];
    const seen = (input: InputLayer) => [
      ...input.seats.map((seat) => shown(input.seat(seat) as never)),
      input.snapshot().join(),
    ];
    for (const entry of parseTrace(read(`${name}.trace.jsonl`)).entries) {
      for (const input of layers) play(input, entry);
      expect(seen(layers[1]!)).toEqual(seen(layers[0]!));
    }
  }
});
