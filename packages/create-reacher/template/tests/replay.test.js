/** The recording plays as it did: whoever changes the plan sees here what that changes in play. */
import assert from "node:assert";
import { readFileSync } from "node:fs";
import { test } from "node:test";
import { createInputLayer, parsePlan } from "reacher";
import { play } from "reacher/testing";
import { parseTrace, replay } from "reacher/trace";

const read = (path) => readFileSync(new URL(path, import.meta.url), "utf8");
const plan = parsePlan(JSON.parse(read("../src/game.plan.json")));

test("the first run", () => {
  const rows = read("first-run.rows.jsonl")
    .trim()
    .split("\n")
    .map((line) => JSON.parse(line));
  const { entries } = parseTrace(read("first-run.trace.jsonl"));
  assert.deepEqual(replay(plan, entries), rows);
});

test("a jump that is pressed a little too early comes when the ground does", () => {
  const input = createInputLayer(plan);
  const hands = play(input);
  input.setFlag("grounded", false, { linger: false });
  hands.wait(200).press("Space").wait(60);
  assert.equal(input.now.jump.on, false);
  input.setFlag("grounded", true);
  assert.equal(hands.wait(20).now.jump.on, true);
});
