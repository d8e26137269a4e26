/** Every code block of the documentation is compiled and run. */
import { execFileSync, spawnSync } from "node:child_process";
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { checkPlan, FINDINGS } from "reacher/check";
import ts from "typescript";
import { complaints, root } from "./support/compiler";

interface Block {
  readonly file: string;
  readonly number: number;
  readonly language: string;
  readonly code: string;
}

const docs = [
  "README.md",
  "CONTRIBUTING.md",
  ...readdirSync(join(root, "docs")).flatMap((name) => (name.endsWith(".md") ? [`docs/${name}`] : [])),
];

const blocks: Block[] = docs.flatMap((file) => {
  const text = readFileSync(join(root, file), "utf8");
  return [...text.matchAll(/^```(\w*)\n([\s\S]*?)^```$/gm)].map(([, language, code], number) => ({
    file,
    number,
    language: language!,
    code: code!,
  }));
});

const of = (language: string) =>
  blocks
    .filter((block) => block.language === language)
    .map((block) => [`${block.file} block ${block.number + 1}`, block] as const);

test("every block is of a language that is tried here", () => {
  expect([...new Set(blocks.map(({ language }) => language))].sort()).toEqual(["json", "sh", "text", "ts"]);
});

test.each(of("ts"))("%s compiles, and runs", (_, { code, file, number }) => {
  expect(complaints(code)).toEqual([]);
  if (code.includes("document.")) {
    // A page's script: it is an example, word for word, and the pages' tests run that.
    expect(readFileSync(join(root, "examples/starter/main.ts"), "utf8")).toBe(code);
    return;
  }
  const folder = join(root, "node_modules/.cache/docs");
  mkdirSync(folder, { recursive: true });
  const path = join(folder, `${file.replace(/\W/g, "-")}-${number}.mjs`);
  writeFileSync(
    path,
    ts.transpileModule(code, {
      compilerOptions: { target: ts.ScriptTarget.ES2022, module: ts.ModuleKind.ESNext },
    }).outputText,
  );
  execFileSync("node", [path]);
});

const reacher = (...args: string[]) =>
  spawnSync("node", ["packages/reacher-cli/bin/reacher.cjs", ...args], { cwd: root, encoding: "utf8" });

const FINDINGS_PAGE = "docs/findings.md";
const plans = of("json");

test.each(plans.filter(([, { file }]) => file !== FINDINGS_PAGE))(
  "%s is a plan without fault",
  (_, { code }) => {
    const path = join(root, "node_modules/.cache/docs-plan.json");
    writeFileSync(path, code);
    expect(reacher("check", path).stdout).toContain("no errors, no warnings");
  },
);

test("every finding is explained, with its severity and a plan that shows it", () => {
  const text = readFileSync(join(root, FINDINGS_PAGE), "utf8");
  const sections = [...text.matchAll(/^## (\w+)s$|^### `([\w-]+)`$/gm)];
  let severity = "";
  const told = sections.flatMap(([, heading, id]) => {
    if (heading !== undefined) severity = heading.toLowerCase();
    return id === undefined ? [] : [[id, severity]];
  });
  expect(Object.fromEntries(told)).toEqual(FINDINGS);
  const shown = plans.filter(([, { file }]) => file === FINDINGS_PAGE);
  const found = shown.map(([, { code }]) =>
    checkPlan(JSON.parse(code)).findings.map(({ id }) => id as string),
  );
  expect(told.filter(([id], n) => !found[n]!.includes(id!))).toEqual([]);
});

test.each(
  of("sh").flatMap(([name, { code }]) =>
    code
      .trim()
      .split("\n")
      .map((line) => [name, line] as const),
  ),
)("%s: %s", (_, line) => {
  const [program, command, ...args] = line.split(" ");
  if (program === "npm") {
    const { scripts } = JSON.parse(readFileSync(join(root, "package.json"), "utf8"));
    expect(scripts).toHaveProperty(command === "run" ? args[0]! : command!);
  } else {
    expect([program, command]).toEqual(["npx", "reacher"]);
    // It serves until it is interrupted: the workbench's own tests run it.
    if (args[0] === "try") {
      for (const file of args.slice(1)) expect([file, existsSync(join(root, file))]).toEqual([file, true]);
      return;
    }
    expect(reacher(...args)).toMatchObject({ status: 0, stderr: "" });
  }
});

test("every picture and file that the documentation links to is there", () => {
  for (const file of docs) {
    const links = [...readFileSync(join(root, file), "utf8").matchAll(/\]\(([^)#:]+)\)/g)].map(
      ([, link]) => link!,
    );
    for (const link of links) expect([link, existsSync(join(root, file, "..", link))]).toEqual([link, true]);
  }
});
