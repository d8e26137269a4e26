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

/** Files that were read and parsed before: the library's types and the DOM's are the same for every program. */
const parsed = new Map<string, ts.SourceFile | undefined>();
/** Programs that are compiled together, by their names. */
interface Batch {
  readonly codes: Map<string, string>;
  program?: ts.Program;
}
let open: Batch = { codes: new Map() };
let count = 0;

/** What Vite declares for its games. */
const ofVite = (code: string) =>
  code.includes("import.meta.env")
    ? "\ndeclare global { interface ImportMeta { readonly env: { readonly DEV: boolean } } }"
    : "";

/**
 * A question about a program that uses the library: the compiler's complaints. All that were put before the first answer are compiled
 * together, which takes a fraction of the time.
 */
export function question(code: string, language: "ts" | "tsx" = "ts"): () => string[] {
  const name = join(root, `examples/starter/asked${++count}.${language}`);
  const batch = open;
  batch.codes.set(name, `${code}${ofVite(code)}\nexport {};`);
  let answer: string[] | undefined;
  return () => (answer ??= complaintsIn((batch.program ??= compiled(batch)), name));
}

/** The compiler's complaints about a program that uses the library. */
export const complaints = (code: string, language?: "ts" | "tsx"): string[] => question(code, language)();

/** One program of several that know nothing of each other. */
function compiled({ codes }: Batch): ts.Program {
  open = { codes: new Map() };
  const host = ts.createCompilerHost(compilerOptions);
  const read = host.getSourceFile.bind(host);
  host.getSourceFile = (file, ...rest) => {
    const code = codes.get(file);
    if (code !== undefined) return ts.createSourceFile(file, code, ts.ScriptTarget.ES2022);
    if (!parsed.has(file)) parsed.set(file, read(file, ...rest));
    return parsed.get(file);
  };
  return ts.createProgram([...codes.keys()], compilerOptions, host);
}

function complaintsIn(program: ts.Program, name: string): string[] {
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
