/** The TypeScript compiler, asked about a program that uses the library. */
import { join } from "node:path";
import ts from "typescript";

export const root = join(__dirname, "../..");

const compilerOptions: ts.CompilerOptions = {
  strict: true,
  noEmit: true,
  skipLibCheck: true,
  target: ts.ScriptTarget.ES2022,
  module: ts.ModuleKind.ESNext,
  moduleResolution: ts.ModuleResolutionKind.Bundler,
  lib: ["lib.es2022.d.ts", "lib.dom.d.ts"],
  types: ["node"],
  jsx: ts.JsxEmit.ReactJSX,
};

/** The compiler's complaints about a program that uses the library. */
export function complaints(code: string, language: "ts" | "tsx" = "ts"): string[] {
  const name = join(root, `examples/starter/asked.${language}`);
  const host = ts.createCompilerHost(compilerOptions);
  const read = host.getSourceFile.bind(host);
  host.getSourceFile = (file, ...rest) =>
    file === name ? ts.createSourceFile(file, code, ts.ScriptTarget.ES2022) : read(file, ...rest);
  const program = ts.createProgram([name], compilerOptions, host);
  return ts
    .getPreEmitDiagnostics(program)
    .map(({ messageText }) => ts.flattenDiagnosticMessageText(messageText, "\n"));
}

/** What an editor offers at the mark ‸ of a program that uses the library. */
export function completions(code: string): string[] {
  const name = join(root, "examples/starter/asked.ts");
  const at = code.indexOf("‸");
  const text = code.replace("‸", "");
  const service = ts.createLanguageService({
    getCompilationSettings: () => compilerOptions,
    getScriptFileNames: () => [name],
    getScriptVersion: () => "1",
    getScriptSnapshot: (file) => {
      const content = file === name ? text : ts.sys.readFile(file);
      return content === undefined ? undefined : ts.ScriptSnapshot.fromString(content);
    },
    getCurrentDirectory: () => root,
    getDefaultLibFileName: ts.getDefaultLibFilePath,
    fileExists: (file) => file === name || ts.sys.fileExists(file),
    readFile: (file) => (file === name ? text : ts.sys.readFile(file)),
    directoryExists: ts.sys.directoryExists,
    getDirectories: ts.sys.getDirectories,
  });
  const found = service.getCompletionsAtPosition(name, at, {})?.entries ?? [];
  return found.filter(({ kind }) => kind !== "keyword").map((entry) => entry.name);
}
