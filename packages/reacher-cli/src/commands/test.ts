/** `reacher test REPORT -o FILE`: a test that replays a report and fails where its rows differ. */
import { readFile } from "node:fs/promises";
import { basename, relative, resolve } from "node:path";
import { replayReport } from "reacher/trace";
import { didYouMean } from "../didYouMean.js";
import { UseError } from "../faults.js";
import { write } from "../made.js";
import { count, print, printJson } from "../output.js";
import { reportIn } from "../reportFile.js";

export interface TestOptions {
  readonly json?: boolean;
  readonly output: string;
  readonly runner: "jest" | "vitest" | "node";
  readonly action?: string;
}

/** What each runner's test begins with, and how it compares. */
const RUNNERS = {
  jest: {
    imports: 'import { expect, test } from "@jest/globals";',
    compares: "expect(rows).toEqual(expected)",
  },
  vitest: { imports: 'import { expect, test } from "vitest";', compares: "expect(rows).toEqual(expected)" },
  node: {
    imports: 'import assert from "node:assert/strict";\nimport test from "node:test";',
    compares: "assert.deepEqual(rows, expected)",
  },
};

export async function testCommand(
  file: string,
  { json, output, runner, action }: TestOptions,
): Promise<number> {
  const text = await readFile(file, "utf8").catch((error: NodeJS.ErrnoException) => {
    throw new UseError(`${file}: ${error.code === "ENOENT" ? "there is no such file" : error.message}`);
  });
  const report = reportIn(file, text);
  const names = Object.keys(report.plan.actions);
  if (action !== undefined && !names.includes(action))
    throw new UseError(
      `--action ${action}: the plan has no such action, it has ${names.join(", ")}${didYouMean(action, names)}`,
    );
  const rows = replayReport(report, action === undefined ? {} : { action });
  const { imports, compares } = RUNNERS[runner];
  // From where the tests are run, which both kinds of modules can say.
  const path = relative(process.cwd(), resolve(file)).replaceAll("\\", "/");
  const lines = rows.map((row) => `  ${JSON.stringify(row)},`);
  const source = `// Made by \`reacher test ${basename(file)}\`. Make it anew when what it shows is what you want.
import { readFileSync } from "node:fs";
${imports}
import { parseReport, replayReport } from "reacher/trace";

const report = parseReport(readFileSync(${JSON.stringify(path)}, "utf8"));

/** What changed, and when. */
const expected = [
${lines.join("\n")}
];

test(${JSON.stringify(report.about ?? basename(file))}, () => {
  const rows = replayReport(report${action === undefined ? "" : `, { action: ${JSON.stringify(action)} }`});
  ${compares};
});
`;
  await write(output, source, [file]);
  if (json === true) printJson({ written: output, rows: rows.length, runner });
  else print(`${output}: ${count(rows.length, "row")} for ${runner}`);
  return 0;
}
