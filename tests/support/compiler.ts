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

/** Files that were read and parsed before: the library's types and the DOM's are the same for every case. */
const parsed = new Map<string, ts.SourceFile | undefined>();
/** The program before, whose files are taken over as they are. */
let before: ts.Program | undefined;

/** What Vite declares for its games. */
const ofVite = (code: string) =>
  code.includes("import.meta.env")
    ? "\ndeclare global { interface ImportMeta { readonly env: { readonly DEV: boolean } } }"
    : "";

/** The compiler's complaints about a program that uses the library. */
export function complaints(code: string, language: "ts" | "tsx" = "ts"): string[] {
  const name = join(root, `examples/starter/asked.${language}`);
  const host = ts.createCompilerHost(compilerOptions);
  const read = host.getSourceFile.bind(host);
  host.getSourceFile = (file, ...rest) => {
    if (file === name) return ts.createSourceFile(file, code + ofVite(code), ts.ScriptTarget.ES2022);
    if (!parsed.has(file)) parsed.set(file, read(file, ...rest));
    return parsed.get(file);
  };
  const program = (before = ts.createProgram([name], compilerOptions, host, before));
  // The other files are the library's own, checked where it is built.
  const asked = program.getSourceFile(name);
  return [...program.getSyntacticDiagnostics(asked), ...program.getSemanticDiagnostics(asked)].map(
    ({ messageText }) => ts.flattenDiagnosticMessageText(messageText, "\n"),
  );
}

let typed = "";
let version = 0;
const asked = join(root, "examples/starter/asked.ts");
/** An editor that has this one file open. */
const service = ts.createLanguageService({
  getCompilationSettings: () => compilerOptions,
  getScriptFileNames: () => [asked],
  getScriptVersion: (file) => (file === asked ? String(version) : "1"),
  getScriptSnapshot: (file) => {
    const content = file === asked ? typed : ts.sys.readFile(file);
    return content === undefined ? undefined : ts.ScriptSnapshot.fromString(content);
  },
  getCurrentDirectory: () => root,
  getDefaultLibFileName: ts.getDefaultLibFilePath,
  fileExists: (file) => file === asked || ts.sys.fileExists(file),
  readFile: (file) => (file === asked ? typed : ts.sys.readFile(file)),
  directoryExists: ts.sys.directoryExists,
  getDirectories: ts.sys.getDirectories,
});

/** What an editor offers at the mark ‸ of a program that uses the library. */
export function completions(code: string): string[] {
  typed = code.replace("‸", "");
  version++;
  const found = service.getCompletionsAtPosition(asked, code.indexOf("‸"), {})?.entries ?? [];
  return found.filter(({ kind }) => kind !== "keyword").map((entry) => entry.name);
}
