/** The JSON Schema of one plan in an editor's own language service: what the plan says is fine, and one fault is told once. */
import * as fc from "fast-check";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Plan } from "reacher";
import { ownSchema } from "reacher/check";
import { getLanguageService, TextDocument } from "vscode-json-languageservice";
import { plans } from "../packages/reacher/tests/randomPlans";
import { runs } from "../packages/reacher/tests/runs";
import { runCommand } from "./support/command";
import { root } from "./support/compiler";

const all = JSON.parse(runCommand(["schema"], { ...process.env }).stdout) as object;
const PLATFORMER = "examples/plans/platformer.plan.json";
const planIn = (file: string) => JSON.parse(readFileSync(join(root, file), "utf8"));

async function told(schema: object, plan: object): Promise<string[]> {
  const service = getLanguageService({});
  service.configure({ validate: true, schemas: [{ uri: "plan://schema", fileMatch: ["*.json"], schema }] });
  const document = TextDocument.create("plan://a.json", "json", 1, JSON.stringify(plan, undefined, 1));
  const found = await service.doValidation(document, service.parseJSONDocument(document));
  return found.map(({ message }) => String(message));
}

test.each([PLATFORMER, "examples/plans/two-players.plan.json", "examples/kelpline/plan/kelpline.plan.json"])(
  "nothing is said of %s",
  async (file) => {
    const plan = planIn(file);
    expect(await told(ownSchema(all, plan), plan)).toEqual([]);
  },
);

test("nothing is said of any plan that can run", async () => {
  await fc.assert(
    fc.asyncProperty(plans, async (given) => {
      const plan = JSON.parse(JSON.stringify(given)) as Plan;
      expect(await told(ownSchema(all, plan), plan)).toEqual([]);
    }),
    runs(40),
  );
}, 60_000);

test.each<[string, (actions: any) => void, RegExp]>([
  ["a key that is none", ({ run }) => (run.from.main = "LeftShift"), /not accepted.*"KeyA"/],
  ["a field that is none", ({ run }) => (run.repat = 1), /repat is not allowed/],
  ["a text for a number", ({ run }) => (run.cooldownMs = "5"), /Expected "number"/],
  [
    "a gesture's field",
    ({ dash }) => (dash.from.main = { taps: 2, of: "KeyD", gap: 100 }),
    /gap is not allowed/,
  ],
  ["one of a list", ({ run }) => (run.from.main = ["KeyK", { long: "KeyL", afterMs: -5 }]), /minimum of 0/],
  ["an action that is none", ({ run }) => (run.needs = "wlk"), /not accepted.*"walk"/],
  ["a mode that is none", ({ run }) => (run.in = ["plya"]), /not accepted/],
  ["a direction that is none", ({ dash }) => (dash.from.main = { taps: 2, of: "walk.righ" }), /not accepted/],
])("one fault is told once: %s", async (_, change, message) => {
  const plan = planIn(PLATFORMER);
  const schema = ownSchema(all, planIn(PLATFORMER));
  change(plan.actions);
  expect(await told(schema, plan)).toEqual([expect.stringMatching(message)]);
});

test("the command writes it beside the plan, and says where it is stale", () => {
  const folder = mkdtempSync(join(tmpdir(), "reacher-schema-"));
  const file = join(folder, "reef.plan.json");
  const write = (action: string) =>
    writeFileSync(
      file,
      `{ "reacherPlan": 1, "actions": { "${action}": { "kind": "switch", "from": { "main": "KeyK" } } } }`,
    );
  const asked = (...more: string[]) => runCommand(["schema", file, "--beside", ...more], { ...process.env });
  write("kick");
  expect(asked("--check").stderr).toContain("reef.plan.schema.json: is missing");
  expect(asked().stdout).toContain('"$schema": "./reef.plan.schema.json" in the plan');
  expect(readFileSync(join(folder, "reef.plan.schema.json"), "utf8")).toContain('"not kick"');
  expect(asked("--check").status).toBe(0);
  write("tuck");
  expect(asked("--check").status).toBe(1);
  expect(runCommand(["schema", "--beside"], { ...process.env }).stderr).toContain("need the plan");
  rmSync(folder, { recursive: true });
});
