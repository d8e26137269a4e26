/**
 * A new word of the language is one file and a line in each list: a gesture and an option that only this test has go through all of
 * the library, and without any one of their parts it does not compile.
 */
import { build } from "esbuild";
import { readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import ts from "typescript";

const src = join(__dirname, "../src");
const words = join(__dirname, "words");

/** A line for a list: the file, the line before which it goes, the line, and the import that it needs. */
type Line = readonly [file: string, before: string, line: string, imported?: string];

const LINES: readonly Line[] = [
  ["plan/gestures/index.ts", "  flick,\n", "  tapHold,\n", "{ language as tapHold } from tapHold"],
  [
    "plan/gestures/shown.ts",
    "  flick: flickShown,\n",
    "  tapHold: shown_,\n",
    "{ shown as shown_ } from tapHold",
  ],
  ["engine/every.ts", "  flick,\n", "  tapHold,\n", "{ tapHold } from tapHold"],
  ["engine/why.ts", "  flick: [", "  tapHold: [TapHold, why],\n", "{ TapHold, why } from tapHold"],
  ["plan/options/index.ts", "  comesBack,\n", "  maxMs,\n", "{ option as maxMs } from maxMs"],
  ["engine/every.ts", "  repeat,\n", "  maxMs,\n", "{ maxMs } from maxMs"],
  ["engine/every.ts", '  comesBack: "switches";\n', '  maxMs: "maxMs";\n'],
];

/** The library's files with these lines in them, by path. */
function changed(lines: readonly Line[]): Map<string, string> {
  const files = new Map<string, string>();
  for (const [name, before, line, imported] of lines) {
    const file = join(src, name);
    const text = files.get(file) ?? readFileSync(file, "utf8");
    expect(text).toContain(before);
    const [what, from] = imported?.split(" from ") ?? [];
    const head = from === undefined ? "" : `import ${what} from "${join(words, from)}";\n`;
    files.set(file, head + text.replace(before, line + before));
  }
  return files;
}

const options: ts.CompilerOptions = {
  ...ts.readConfigFile(join(__dirname, "../../../tsconfig.base.json"), ts.sys.readFile).config
    .compilerOptions,
  target: ts.ScriptTarget.ES2022,
  module: ts.ModuleKind.ESNext,
  moduleResolution: ts.ModuleResolutionKind.Bundler,
  lib: ["lib.es2022.d.ts"],
  types: [],
  noEmit: true,
  composite: false,
  skipLibCheck: true,
  paths: { "#whole": [join(src, "layer/whole.ts")], "#*": [join(src, "plan/read.ts")] },
};
const parsed = new Map<string, ts.SourceFile | undefined>();
let before: ts.Program | undefined;

/** The library with these files, both words and any copies of them. */
function compiled(files: ReadonlyMap<string, string>): ts.Program {
  const host = ts.createCompilerHost(options);
  const read = host.getSourceFile.bind(host);
  host.getSourceFile = (file, ...rest) => {
    const text = files.get(file);
    if (text !== undefined) return ts.createSourceFile(file, text, ts.ScriptTarget.ES2022);
    if (!parsed.has(file)) parsed.set(file, read(file, ...rest));
    return parsed.get(file);
  };
  const roots = ["plan/check", "plan/players/overrides", "engine/every", "engine/why"].map((file) =>
    join(src, file),
  );
  const own = ["tapHold", "maxMs"].map((file) => join(words, file));
  const all = [...roots, ...own].map((file) => `${file}.ts`);
  return (before = ts.createProgram([...all, ...files.keys()], options, host, before));
}

function complaintsIn(program: ts.Program, file: string): string[] {
  return program
    .getSemanticDiagnostics(program.getSourceFile(file))
    .map(({ messageText }) => `${file}: ${ts.flattenDiagnosticMessageText(messageText, "\n")}`);
}

test("it compiles with all of its parts, and with no line or part left out", () => {
  // Each part is left out of a copy of its file; the first copy lacks none.
  const copies = ["tapHold", "maxMs"].flatMap(copiesOf);
  const files = new Map([...changed(LINES), ...copies.map(({ path, text }) => [path, text] as const)]);
  const program = compiled(files);
  const own = program.getSourceFiles().map(({ fileName }) => fileName);
  const library = own.filter((file) => copies.every(({ path }) => path !== file));
  expect(library.flatMap((file) => complaintsIn(program, file))).toEqual([]);
  for (const { path, lacks } of copies)
    expect([lacks, complaintsIn(program, path).length > 0]).toEqual([lacks, lacks !== "nothing"]);
  // Of each list one line at a time.
  for (const round of [0, 1, 2]) {
    const left = LINES.filter(
      ([file], n) => LINES.slice(0, n).filter(([other]) => other === file).length === round,
    );
    const without = compiled(changed(LINES.filter((line) => !left.includes(line))));
    for (const line of left)
      expect([line, complaintsIn(without, join(src, line[0]))]).not.toEqual([line, []]);
  }
}, 120_000);

/** What a word may leave out. */
const OPTIONAL = ["isTapped", "window", "decides of option"];

/** Copies of a word's file without its types, each without one part of its descriptors. */
function copiesOf(name: string): { readonly path: string; readonly text: string; readonly lacks: string }[] {
  const whole = readFileSync(join(words, `${name}.ts`), "utf8");
  const source = ts.createSourceFile(name, whole, ts.ScriptTarget.ES2022, true);
  const isType = (node: ts.Node) => ts.isModuleDeclaration(node) || ts.isInterfaceDeclaration(node);
  const types = source.statements.filter(isType);
  const parts = source.statements.filter(ts.isVariableStatement).flatMap((statement) => {
    const [one] = statement.declarationList.declarations;
    const of = one!.name.getText();
    if (!["language", "shown", "option"].includes(of)) return [];
    return (one!.initializer as ts.ObjectLiteralExpression).properties.filter((part) => {
      const field = part.name!.getText();
      return !OPTIONAL.includes(field) && !OPTIONAL.includes(`${field} of ${of}`);
    });
  });
  return [undefined, ...parts].map((part, n) => ({
    path: join(words, `${name}.${n}.ts`),
    text: [...types, ...(part === undefined ? [] : [part])]
      .sort((one, other) => other.pos - one.pos)
      .reduce((text, node) => text.slice(0, node.pos) + text.slice(node.end).replace(/^,/, ""), whole),
    lacks: part?.name!.getText() ?? "nothing",
  }));
}

describe("all of the library knows it", () => {
  const outfile = join(tmpdir(), `reacher-words-${process.pid}.cjs`);
  let library: any;

  beforeAll(async () => {
    const files = changed(LINES);
    const entry = ["index", "plan/check", "built/index", "rebind/index", "trace/index"];
    await build({
      stdin: {
        contents: entry.map((file) => `export * from "${src}/${file}.ts";`).join(""),
        resolveDir: src,
      },
      bundle: true,
      platform: "node",
      format: "cjs",
      outfile,
      plugins: [
        {
          name: "words",
          setup(made) {
            made.onResolve({ filter: /^#/ }, ({ path }) => ({
              path: join(src, path === "#whole" ? "layer/whole.ts" : "plan/read.ts"),
            }));
            made.onLoad({ filter: /\.ts$/ }, ({ path }) =>
              files.has(path) ? { contents: files.get(path)!, loader: "ts" } : undefined,
            );
          },
        },
      ],
    });
    library = jest.requireActual(outfile);
  });
  afterAll(() => rmSync(outfile, { force: true }));

  const plan = {
    reacherPlan: 1,
    actions: {
      dig: {
        kind: "switch",
        maxMs: 300,
        player: { gapMs: [100, 500], maxMs: [0, 1000] },
        from: { main: { tapHold: 2, of: "KeyE", afterMs: 200 } },
      },
    },
  };

  test("it is played, told, listed, set and refused as all the others", () => {
    const {
      createInputLayer,
      checkPlan,
      planNumbers,
      resolvePlan,
      shownOf,
      settingsOf,
      applyOverrides,
      prompt,
    } = library;
    const input = createInputLayer(plan);
    const on: number[] = [];
    input.on("dig", "on", (t: number) => on.push(t));
    const off: number[] = [];
    input.on("dig", "off", (t: number) => off.push(t));
    for (const [t, value] of [
      [0, 1],
      [40, 0],
      [100, 1],
      [900, 0],
    ])
      input.feed({ t, control: "KeyE", value });
    input.step(2000);
    expect([on, off]).toEqual([[300], [600]]);

    expect(checkPlan(plan).findings).toEqual([]);
    const wrong = {
      ...plan,
      actions: { dig: { ...plan.actions.dig, maxMs: -1, from: { main: { tapHold: 1, of: "KeyE" } } } },
    };
    expect(checkPlan(wrong).findings.map(({ place }: any) => place)).toEqual([
      "actions.dig.from.main.tapHold",
      "actions.dig.maxMs",
    ]);

    const places = planNumbers(plan).map(({ place, value }: any) => [place, value]);
    expect(places).toEqual([
      ["actions.dig.maxMs", 300],
      ["actions.dig.from.main.tapHold", 2],
      ["actions.dig.from.main.afterMs", 200],
      ["actions.dig.from.main.gapMs", 250],
    ]);
    expect(shownOf(resolvePlan(plan).actions[0].entries[0])).toMatchObject({
      brief: "2x KeyE held",
      window: { ms: 250 },
    });
    const overrides = {
      reacherOverrides: 1,
      controls: { "dig.main": "KeyR" },
      settings: { "dig.gapMs": 400, "dig.maxMs": 50 },
    };
    expect(applyOverrides(plan, overrides)).toMatchObject({
      faults: [],
      plan: { actions: { dig: { maxMs: 50, from: { main: { tapHold: 2, of: "KeyR", gapMs: 400 } } } } },
    });
    expect(settingsOf(plan, overrides).map(({ address, value }: any) => [address, value])).toEqual(
      expect.arrayContaining([
        ["dig.gapMs", 400],
        ["dig.maxMs", 50],
      ]),
    );
    input.setOverrides(overrides);
    expect(prompt(input, "dig").text).toBe("tap 2 times and hold R");
  });
});
