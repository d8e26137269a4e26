/** What must and what must not compile, and which types can be named: the compiler itself is asked. */
import { readFileSync } from "node:fs";
import { join } from "node:path";
import ts from "typescript";
import { complaints, root } from "./support/compiler";

const GAME = (more: { swim?: string; kick?: string; use?: string }) => `
import { createInputLayer, definePlan } from "reacher";
const plan = definePlan({
  reacherPlan: 1,
  flags: { hasAir: true },
  actions: {
    swim: { kind: "vector", from: { main: { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyD" } } ${more.swim ?? ""} },
    depth: { kind: "axis", from: { main: { minus: "KeyQ", plus: "KeyE" } } },
    kick: { kind: "switch", from: { main: "ShiftLeft" } ${more.kick ?? ""} },
  },
});
const input = createInputLayer(plan);
const { swim, depth, kick } = input.step(0);
export const used: [number, number, boolean, string | null] = [swim.x, depth.value, kick.on, swim.gait];
${more.use ?? ""}
`;

test.each<[Parameters<typeof GAME>[0], RegExp | undefined]>([
  [{}, undefined],
  [{ use: `input.setFlag("hasAir", false); input.on("kick", "on", (t: number) => t);` }, undefined],
  [{ use: `input.step(1).swmi;` }, /'swmi' does not exist/],
  [{ use: `swim.on;` }, /'on' does not exist on type 'VectorReading'/],
  [{ use: `kick.x;` }, /'x' does not exist on type 'SwitchReading'/],
  [{ use: `input.setFlag("hasAri", true);` }, /"hasAri"' is not assignable to parameter of type '"hasAir"'/],
  [{ use: `input.on("swim", "on", () => {});` }, /"swim"' is not assignable to parameter of type '"kick"'/],
  [{ kick: `, stlye: "hold"` }, /'stlye' does not exist/],
  [{ kick: `, style: "holds"` }, /"holds"' is not assignable/],
  [{ kick: `, gaits: {}` }, /'gaits' does not exist/],
  [{ swim: `, pace: { unit: "m/s" }` }, /'base' is missing/],
])("%j", (more, complaint) => {
  const found = complaints(GAME(more)).join("\n");
  if (complaint === undefined) expect(found).toBe("");
  else expect(found).toMatch(complaint);
});

test("whatever a public type speaks of can be imported from an entry of the package", () => {
  const folder = join(root, "packages/reacher");
  const { exports } = JSON.parse(readFileSync(join(folder, "package.json"), "utf8"));
  const entries = Object.values<{ types: string }>(exports).map(({ types }) => join(folder, types));
  const program = ts.createProgram(entries, {
    skipLibCheck: true,
    target: ts.ScriptTarget.ES2022,
    module: ts.ModuleKind.ESNext,
    moduleResolution: ts.ModuleResolutionKind.Bundler,
    types: [],
  });
  const checker = program.getTypeChecker();
  const meant = (symbol: ts.Symbol) =>
    symbol.flags & ts.SymbolFlags.Alias ? checker.getAliasedSymbol(symbol) : symbol;
  const exported = new Set(
    entries.flatMap((entry) =>
      checker
        .getExportsOfModule(checker.getSymbolAtLocation(program.getSourceFile(entry)!)!)
        .map((symbol) => meant(symbol)),
    ),
  );
  const own = (symbol: ts.Symbol) =>
    (symbol.declarations ?? []).filter((one) => one.getSourceFile().fileName.startsWith(`${folder}/dist/`));
  const missing = new Set<string>();
  const look = (node: ts.Node, whose: string): void => {
    const name = ts.isTypeReferenceNode(node)
      ? node.typeName
      : ts.isExpressionWithTypeArguments(node)
        ? node.expression
        : undefined;
    const found = name && checker.getSymbolAtLocation(name);
    const symbol = found && meant(found);
    const isParameter = symbol !== undefined && (symbol.flags & ts.SymbolFlags.TypeParameter) !== 0;
    if (symbol !== undefined && !isParameter && !exported.has(symbol) && own(symbol).length > 0)
      missing.add(`${whose} speaks of ${symbol.name}`);
    ts.forEachChild(node, (child) => look(child, whose));
  };
  for (const symbol of exported) for (const node of own(symbol)) look(node, symbol.name);
  expect(exported.size).toBeGreaterThan(100);
  expect([...missing]).toEqual([]);
});
