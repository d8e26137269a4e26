/** Expressions of a method. In: a node of the source. Out: a value, or code. */
import type { CallExpression, Expression, MemberExpression, Node, SpreadElement } from "acorn";
import type { FunctionNode, SourceModule } from "../source.js";
import {
  Choice,
  Closure,
  Code,
  Fields,
  Known,
  Rank,
  Scope,
  UNDEFINED,
  type Value,
  type Variable,
} from "../values.js";
import { Unmakeable, type Frame, NOTHING, NO_NODE } from "./frames.js";
import { orNone, known, ClassName } from "./kinds.js";
import { Variables } from "./variables.js";

/** What a rule may keep to work in, outside a seat's cells. */
const ARRAYS = new Map<string, Float64ArrayConstructor | Int32ArrayConstructor>([
  ["Float64Array", Float64Array],
  ["Int32Array", Int32Array],
]);

export abstract class Expressions extends Variables {
  protected abstract callOf(node: CallExpression, frame: Frame, isStatement: boolean): Value;

  protected value(node: Expression | SpreadElement | Node, frame: Frame, isStatement = false): Value {
    const one = node as Expression;
    switch (one.type) {
      case "Literal":
        return new Known(one.value);
      case "ParenthesizedExpression":
        return this.value(one.expression, frame);
      case "ThisExpression":
        return frame.run.self;
      case "Identifier":
        return this.named(one.name, frame);
      case "TemplateLiteral": {
        const parts = one.quasis.map((part, n) =>
          n < one.expressions.length
            ? `${part.value.cooked ?? ""}${String(known(this.value(one.expressions[n]!, frame)))}`
            : (part.value.cooked ?? ""),
        );
        return new Known(parts.join(""));
      }
      case "ChainExpression":
        return this.value(one.expression, frame, isStatement);
      case "MemberExpression": {
        const of = this.value(one.object, frame);
        if (one.optional && of instanceof Known && of.value == null) return UNDEFINED;
        return this.get(one.optional ? orNone(of) : of, this.keyOf(one, frame), frame);
      }
      case "CallExpression":
        return this.callOf(one, frame, isStatement);
      case "UnaryExpression":
        return this.unary(one.operator, this.value(one.argument, frame));
      case "BinaryExpression":
        return this.binary(one.operator, this.value(one.left, frame), this.value(one.right, frame));
      case "LogicalExpression":
        return this.logical(one.operator, this.value(one.left, frame), one.right, frame);
      case "ConditionalExpression":
        return this.conditional(one, frame);
      case "AssignmentExpression":
        return this.assign(one, frame);
      case "UpdateExpression":
        return this.update(one, frame);
      case "ArrowFunctionExpression":
      case "FunctionExpression":
        return new Closure(one as FunctionNode, frame.scope, frame.run.self, frame.run.module);
      case "NewExpression": {
        const array = ARRAYS.get((one.callee as { name?: string }).name ?? "");
        if (array === undefined) throw new Unmakeable("an object is made");
        return new Known(new array(known(this.value(one.arguments[0]!, frame)) as number));
      }
      case "ArrayExpression":
        return new Known(
          one.elements.flatMap((element) =>
            element!.type === "SpreadElement"
              ? [...(known(this.value(element!.argument, frame)) as Iterable<unknown>)]
              : [known(this.value(element!, frame))],
          ),
        );
      case "ObjectExpression": {
        const all = new Map<string, Value>();
        for (const property of one.properties) {
          if (property.type !== "Property") throw new Unmakeable("an object that is spread");
          const key = property.computed
            ? String(known(this.value(property.key, frame)))
            : ((property.key as { name?: string }).name ??
              String((property.key as { value: unknown }).value));
          all.set(key, this.value(property.value, frame));
        }
        if ([...all.values()].every((value) => value instanceof Known))
          return new Known(Object.fromEntries([...all].map(([key, value]) => [key, (value as Known).value])));
        return new Fields(all);
      }
    }
    throw new Unmakeable(`${one.type} is not understood`);
  }

  protected keyOf(node: MemberExpression, frame: Frame): Value {
    return node.computed
      ? this.value(node.property as Expression, frame)
      : new Known((node.property as { name: string }).name);
  }

  protected named(text: string, frame: Frame): Value {
    const variable = frame.scope.find(text);
    return variable === undefined ? this.global(text, frame.run.module) : this.heldBy(variable);
  }

  protected heldBy(variable: Variable): Value {
    if (!variable.isMade) return variable.value;
    const code = new Code(variable.name, Rank.Primary, true, !variable.isAssigned);
    return variable.list === undefined ? code : new Choice(variable.list, code, variable.other);
  }

  protected global(text: string, module: SourceModule): Value {
    if (text === "undefined") return UNDEFINED;
    if (text === "Infinity") return new Known(Infinity);
    if (text === "NaN") return new Known(NaN);
    if (text === "Math" || text === "Number") return new Known(text === "Math" ? Math : Number);
    const found = module.names.get(text);
    if (found === undefined) throw new Unmakeable(`${text} is not known`);
    if (found.kind === "import") return this.global(found.name, this.around.sources.moduleOf(found.file));
    if (found.kind === "function") return new Closure(found.node, null, UNDEFINED, module);
    if (found.kind === "class") return new Known(new ClassName(text));
    found.known ??= this.value(found.node, {
      run: {
        node: NO_NODE,
        module,
        self: UNDEFINED,
        made: NOTHING,
        isInlined: true,
        depth: 0,
        returned: [],
        hasEarlyReturn: false,
      },
      scope: new Scope(null),
      lines: [],
      depth: 0,
    });
    return found.known as Value;
  }
}
