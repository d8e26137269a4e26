/** What must and what must not compile: the compiler itself is asked. */
import { join } from "node:path";
import ts from "typescript";

const root = join(__dirname, "..");

/** The compiler's complaints about a program that uses the library. */
export function complaints(code: string): string[] {
  const name = join(root, "examples/starter/asked.ts");
  const options: ts.CompilerOptions = {
    strict: true,
    noEmit: true,
    skipLibCheck: true,
    target: ts.ScriptTarget.ES2022,
    module: ts.ModuleKind.ESNext,
    moduleResolution: ts.ModuleResolutionKind.Bundler,
    lib: ["lib.es2022.d.ts", "lib.dom.d.ts"],
    types: [],
  };
  const host = ts.createCompilerHost(options);
  const read = host.getSourceFile.bind(host);
  host.getSourceFile = (file, ...rest) => (file === name ? ts.createSourceFile(file, code, ts.ScriptTarget.ES2022) : read(file, ...rest));
  const program = ts.createProgram([name], options, host);
  return ts.getPreEmitDiagnostics(program).map(({ messageText }) => ts.flattenDiagnosticMessageText(messageText, "\n"));
}

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
