/** The TypeScript compiler, asked about a program that uses the library. */
import { join } from "node:path";
import ts from "typescript";

export const root = join(__dirname, "../..");

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
    types: ["node"],
  };
  const host = ts.createCompilerHost(options);
  const read = host.getSourceFile.bind(host);
  host.getSourceFile = (file, ...rest) =>
    file === name ? ts.createSourceFile(file, code, ts.ScriptTarget.ES2022) : read(file, ...rest);
  const program = ts.createProgram([name], options, host);
  return ts
    .getPreEmitDiagnostics(program)
    .map(({ messageText }) => ts.flattenDiagnosticMessageText(messageText, "\n"));
}
