/** The plans to start from: each is clean, its recording replays alike at any step rate, and all that happens in it is explained. */
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { parsePlan } from "reacher";
import { checkPlan } from "reacher/check";
import { explain, parseTrace, replay, type ReplayRow } from "reacher/trace";
import { root } from "./support/compiler";

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
