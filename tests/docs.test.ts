/** Every code block of the documentation is compiled and run. */
import { execFileSync } from "node:child_process";
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join, normalize } from "node:path";
import { checkPlan, FINDINGS } from "reacher/check";
import ts from "typescript";
import { runCommand } from "./support/command";
import { question, root } from "./support/compiler";

interface Block {
  readonly file: string;
  readonly number: number;
  readonly language: string;
  readonly code: string;
}

const pagesOf = (folder: string) =>
  readdirSync(join(root, folder)).flatMap((name) => (name.endsWith(".md") ? [`${folder}/${name}`] : []));
const docs = ["README.md", "CONTRIBUTING.md", ...pagesOf("docs"), ...pagesOf("docs/how-to")];

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
  const tried = ["html", "json", "sh", "text", "ts", "tsx"];
  expect([...new Set(blocks.map(({ language }) => language))].sort()).toEqual(tried);
});

test("the reference of fields is what the language has: node scripts/field-reference.mjs", () => {
  execFileSync("node", [join(root, "scripts/field-reference.mjs"), "--check"]);
});

const asked = (language: "ts" | "tsx") =>
  of(language).map(([name, block]) => [name, block, question(block.code, language)] as const);

test.each(asked("ts"))("%s compiles, and runs", (_, { code, file, number }, complaints) => {
  expect(complaints()).toEqual([]);
  if (code.includes("document.")) {
    // A page's script. The README's is an example, word for word, and the pages' tests run that, and the guide's.
    if (file === "README.md") expect(readFileSync(join(root, "examples/starter/main.ts"), "utf8")).toBe(code);
    return;
  }
  expect((ran ??= runAll())[moduleOf(file, number)]).toBe("ran");
});

const modules = join(root, "node_modules/.cache/docs");
const moduleOf = (file: string, number: number) => `${file.replace(/\W/g, "-")}-${number}.mjs`;
let ran: Readonly<Record<string, string>> | undefined;

/** Runs all blocks that are no page's script, each as a module of its own, in one process. Returns what became of each. */
function runAll(): Readonly<Record<string, string>> {
  mkdirSync(modules, { recursive: true });
  const names = of("ts").flatMap(([, { code, file, number }]) => {
    if (code.includes("document.")) return [];
    const name = moduleOf(file, number);
    const { outputText } = ts.transpileModule(code, {
      compilerOptions: { target: ts.ScriptTarget.ES2022, module: ts.ModuleKind.ESNext },
    });
    writeFileSync(join(modules, name), outputText);
    return [name];
  });
  const runner = join(modules, "all.mjs");
  writeFileSync(
    runner,
    `const told = {};
for (const name of ${JSON.stringify(names)})
  told[name] = await import("./" + name).then(() => "ran", (error) => String(error.stack ?? error));
process.stdout.write("\\n@" + JSON.stringify(told));
process.exit(0);`,
  );
  const out = execFileSync("node", [runner], { encoding: "utf8", maxBuffer: 1e8 });
  return JSON.parse(out.slice(out.lastIndexOf("\n@") + 2)) as Record<string, string>;
}

test.each(asked("tsx"))("%s compiles", (_name, _block, complaints) => {
  expect(complaints()).toEqual([]);
});

const reacher = (...args: string[]) => runCommand(args, { ...process.env, CI: "true" });

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

/** What a page links to within the project: files, and headings in them. */
function linksIn(file: string): { path: string; heading: string | undefined }[] {
  // A sign in a block of code is no link.
  const text = readFileSync(join(root, file), "utf8").replace(/^```[\s\S]*?^```$/gm, "");
  return [...text.matchAll(/\]\(<?([^)\s>]+)>?\)/g)].flatMap(([, link]) => {
    if (/^[a-z]+:/.test(link!)) return [];
    const [path = "", heading] = link!.split("#");
    return [{ path: path === "" ? file : normalize(join(file, "..", path)), heading }];
  });
}
const anchorOf = (heading: string) =>
  heading
    .toLowerCase()
    .replace(/[^\p{L}\p{N} _-]/gu, "")
    .replaceAll(" ", "-");
const isPage = (path: string) => path.endsWith(".md");

test("every page, picture and heading that the documentation links to is there, and every page is reached from the README", () => {
  const api = readdirSync(join(root, "docs/api"), { recursive: true, encoding: "utf8" });
  const all = [...docs, ...api.flatMap((path) => (isPage(path) ? [`docs/api/${path}`] : []))];
  const dead: string[] = [];
  for (const file of all)
    for (const { path, heading } of linksIn(file)) {
      if (!existsSync(join(root, path))) dead.push(`${file}: ${path}`);
      // What is made from the code has anchors of its own.
      else if (heading !== undefined && isPage(path) && !path.startsWith("docs/api/")) {
        const text = readFileSync(join(root, path), "utf8");
        const anchors = [...text.matchAll(/^#+ (.*)$/gm)].map(([, title]) => anchorOf(title!));
        if (!anchors.includes(heading)) dead.push(`${file}: ${path}#${heading}`);
      }
    }
  expect(dead).toEqual([]);
  const reached = new Set(["README.md"]);
  for (const file of reached)
    for (const { path } of linksIn(file))
      if (isPage(path) && !path.includes("node_modules")) reached.add(path);
  expect(all.filter((file) => !reached.has(file))).toEqual([]);
  const shown = linksIn("README.md").map(({ path }) => path);
  const pictures = readdirSync(join(root, "docs/screenshots")).map((name) => `docs/screenshots/${name}`);
  expect(pictures.filter((picture) => !shown.includes(picture))).toEqual([]);
});

test("the README is short, and the page of controls is as the catalogue is", () => {
  expect(readFileSync(join(root, "README.md"), "utf8").split("\n").length).toBeLessThan(200);
  execFileSync("node", [join(root, "scripts/controls.mjs"), "--check"], { cwd: root });
});

test("what this version was tried with is told for it, and nothing of that failed", () => {
  const { version } = JSON.parse(readFileSync(join(root, "packages/reacher/package.json"), "utf8"));
  const page = readFileSync(join(root, "docs/compatibility.md"), "utf8");
  expect(page).toContain(`Version ${version}, `);
  expect(page).not.toContain("failed");
  // As many rows as there are tools: nobody has left one out by hand.
  const tools = execFileSync("node", [join(root, "scripts/compatibility.mjs"), "--list"], {
    encoding: "utf8",
  });
  for (const name of tools.trim().split("\n")) expect(page).toContain(`| ${name} | `);
});

test("the words of the code are fifty and more, and what they replace is no name in the sources", () => {
  const table = readFileSync(join(root, "CONTRIBUTING.md"), "utf8").split("## The words of the code")[1]!;
  const words = [...table.matchAll(/^\| ([^|]+) \| ([^|]+) \| ([^|]+) \|$/gm)].slice(2);
  expect(words.length).toBeGreaterThanOrEqual(50);
  const not = new Set(words.flatMap(([, , , others]) => others!.split(", ")).filter((one) => one !== "-"));
  const found: string[] = [];
  for (const file of readdirSync(join(root, "packages/reacher/src"), { recursive: true, encoding: "utf8" })) {
    // A player's file may have an old name, which is told the new one.
    if (!file.endsWith(".ts") || file.endsWith("schemaFindings.ts")) continue;
    const text = readFileSync(join(root, "packages/reacher/src", file), "utf8");
    const look = (node: ts.Node): void => {
      if (ts.isIdentifier(node) && not.has(node.text)) found.push(`${file}: ${node.text}`);
      ts.forEachChild(node, look);
    };
    look(ts.createSourceFile(file, text, ts.ScriptTarget.ES2022));
  }
  expect([...new Set(found)]).toEqual([]);
});
