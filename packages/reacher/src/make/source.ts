/** The engine's own modules as syntax trees. In: its folder. Out: the source of each method and function. */
import { readdirSync, readFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { getLineInfo, parse, type AnyNode, type Class, type Expression, type Node } from "acorn";

export type FunctionNode = Extract<
  AnyNode,
  { type: "FunctionDeclaration" | "FunctionExpression" | "ArrowFunctionExpression" }
>;

/** A name at the top of a module. */
export type Binding =
  | { readonly kind: "function"; readonly node: FunctionNode }
  | { readonly kind: "class"; readonly node: Class }
  | { readonly kind: "value"; readonly node: Expression; known?: object }
  | { readonly kind: "import"; readonly file: string; readonly name: string };

export interface SourceModule {
  readonly file: string;
  readonly text: string;
  readonly names: Map<string, Binding>;
}

/** Where a line of made code comes from; `line` from 1. */
export interface Origin {
  readonly module: SourceModule;
  readonly line: number;
}

/** A method of a class, as it was written. */
export interface Method {
  readonly node: FunctionNode;
  readonly module: SourceModule;
  readonly name: string;
}

export class Sources {
  private readonly modules = new Map<string, SourceModule>();
  private readonly classes = new Map<string, { readonly module: SourceModule; readonly node: Class }>();

  constructor(folder: string) {
    for (const entry of readdirSync(folder, { withFileTypes: true, recursive: true })) {
      if (!entry.name.endsWith(".js")) continue;
      const module = this.moduleOf(join(entry.parentPath, entry.name));
      for (const [name, binding] of module.names) {
        if (binding.kind !== "class") continue;
        const known = this.classes.get(name);
        if (known !== undefined)
          throw new Error(`two rules are named ${name}: ${known.module.file}, ${module.file}`);
        this.classes.set(name, { module, node: binding.node });
      }
    }
  }

  moduleOf(file: string): SourceModule {
    const known = this.modules.get(file);
    if (known !== undefined) return known;
    const text = readFileSync(file, "utf8");
    const module: SourceModule = { file, text, names: new Map() };
    this.modules.set(file, module);
    const parsed = parse(text, { ecmaVersion: 2022, sourceType: "module", locations: true });
    for (const node of parsed.body) {
      if (node.type === "ImportDeclaration") {
        const from = join(dirname(file), String(node.source.value));
        for (const one of node.specifiers)
          if (one.type === "ImportSpecifier")
            module.names.set(one.local.name, {
              kind: "import",
              file: from,
              name: (one.imported as { name: string }).name,
            });
      } else declare(module, node.type === "ExportNamedDeclaration" ? (node.declaration ?? node) : node);
    }
    return module;
  }

  /** The method, or getter, of this name that an object has by its class. */
  methodOf(object: object, name: string, kind: "method" | "get" = "method"): Method | undefined {
    for (
      let proto = Object.getPrototypeOf(object) as object | null;
      proto !== null;
      proto = Object.getPrototypeOf(proto) as object | null
    ) {
      if (!Object.hasOwn(proto, name)) continue;
      return this.methodIn(proto.constructor.name, name, kind);
    }
    return undefined;
  }

  /** The same of the class above the one that a method stands in. */
  methodAbove(object: object, node: FunctionNode, name: string): Method | undefined {
    let isAbove = false;
    for (
      let proto = Object.getPrototypeOf(object) as object | null;
      proto !== null;
      proto = Object.getPrototypeOf(proto) as object | null
    ) {
      if (isAbove && Object.hasOwn(proto, name)) return this.methodIn(proto.constructor.name, name, "method");
      const own = this.classes.get(proto.constructor.name)?.node.body.body ?? [];
      isAbove ||= own.some((one) => one.type === "MethodDefinition" && one.value === node);
    }
    return undefined;
  }

  private methodIn(className: string, name: string, kind: "method" | "get"): Method | undefined {
    const found = this.classes.get(className);
    for (const one of found?.node.body.body ?? [])
      if (
        one.type === "MethodDefinition" &&
        one.kind === kind &&
        (one.key as { name?: string }).name === name
      )
        return { node: one.value, module: found!.module, name: `${className}_${name}` };
    return undefined;
  }
}

function declare(module: SourceModule, node: AnyNode): void {
  if (node.type === "FunctionDeclaration" && node.id !== null)
    module.names.set(node.id.name, { kind: "function", node: node as FunctionNode });
  else if (node.type === "ClassDeclaration" && node.id !== null)
    module.names.set(node.id.name, { kind: "class", node });
  else if (node.type === "VariableDeclaration")
    for (const { id, init } of node.declarations)
      if (id.type === "Identifier" && init != null) module.names.set(id.name, { kind: "value", node: init });
}

/** The folder of the engine's compiled modules. */
export const ENGINE = fileURLToPath(new URL("../engine/", import.meta.url));

/** Where a piece of the source stands. */
export function placeOf(module: SourceModule, node: Node): string {
  const file = module.file.slice(module.file.lastIndexOf("engine"));
  return `${file}:${getLineInfo(module.text, node.start).line}`;
}
