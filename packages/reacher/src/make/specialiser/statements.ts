/** Statements of a method. In: nodes of the source. Out: lines of code; whether what follows is reached. */
import type { Expression, Statement } from "acorn";
import { assignedIn, withoutContinue } from "../analysis.js";
import { placeOf } from "../source.js";
import { isPure, Known, UNDEFINED, type Value } from "../values.js";
import { Unmakeable, type Frame, type Ends, within, branch, NO_MODULE } from "./frames.js";
import { known } from "./kinds.js";
import { Calls } from "./calls.js";

/** More turns than any list of rules has. */
const MOST_TURNS = 600;
/** Turns with a computed test are no more than these: each stands within the one before. */
const MOST_NESTED = 2;

export abstract class Statements extends Calls {
  protected body(args: readonly Value[], frame: Frame): Ends {
    const { node } = frame.run;
    node.params.forEach((param, n) => this.bind(param, args[n] ?? UNDEFINED, frame, true));
    if (node.body.type === "BlockStatement") return this.block(node.body.body, frame);
    this.return(this.value(node.body, frame), frame);
    return true;
  }

  protected return(value: Value, frame: Frame): void {
    const { run } = frame;
    if (frame.depth > run.depth) run.hasEarlyReturn = true;
    run.returned.push(value);
    if (!run.isInlined) frame.lines.push({ kind: "return", value });
  }

  protected block(list: readonly Statement[], frame: Frame): Ends {
    return list.some((node) => this.statement(node, frame));
  }

  protected statement(node: Statement, frame: Frame): Ends {
    const { lines, run } = frame;
    const from = lines.length;
    try {
      const ends = this.statementOf(node, frame);
      if (node.loc != null)
        for (let n = from; n < lines.length; n++)
          lines[n]!.origin ??= { module: run.module, line: node.loc.start.line };
      return ends;
    } catch (error) {
      if (error instanceof Unmakeable && error.place === "" && frame.run.module !== NO_MODULE) {
        error.place = placeOf(frame.run.module, node);
        error.message = `${error.place}: ${error.message}`;
      }
      throw error;
    }
  }

  protected statementOf(node: Statement, frame: Frame): Ends {
    switch (node.type) {
      case "EmptyStatement":
        return false;
      case "BlockStatement":
        return this.block(node.body, within(frame));
      case "ExpressionStatement":
        this.effect(this.value(node.expression, frame, true), frame);
        return false;
      case "VariableDeclaration":
        for (const { id, init } of node.declarations)
          this.bind(id, init == null ? UNDEFINED : this.before(init, frame), frame, node.kind === "const");
        return false;
      case "ReturnStatement":
        this.return(node.argument == null ? UNDEFINED : this.before(node.argument, frame), frame);
        return true;
      case "IfStatement":
        return this.branches(node, frame);
      case "ForStatement": {
        const inner = within(frame);
        if (node.init != null) {
          if (node.init.type === "VariableDeclaration") this.statement(node.init, inner);
          else this.effect(this.value(node.init, inner), inner);
        }
        return this.loop(node, inner);
      }
      case "WhileStatement":
        return this.loop(node, frame);
      case "ForOfStatement":
        return this.each(node, frame);
      case "ContinueStatement":
      case "BreakStatement":
        frame.lines.push({ kind: "do", text: node.type === "BreakStatement" ? "break" : "continue" });
        return true;
    }
    throw new Unmakeable(`${node.type} is not understood`);
  }

  /** An initial or returned value: statements may stand before it. */
  protected before(node: Expression, frame: Frame): Value {
    return this.value(node, frame, node.type === "CallExpression");
  }

  protected branches(node: Statement & { type: "IfStatement" }, frame: Frame): Ends {
    const test = this.before(node.test, frame);
    if (test instanceof Known) {
      const taken = test.value ? node.consequent : node.alternate;
      return taken != null && this.statement(taken, frame);
    }
    this.makeAssigned([node.consequent, node.alternate], frame);
    const [then, otherwise] = [branch(frame), branch(frame)];
    const ends = this.statement(node.consequent, then);
    const endsToo = node.alternate != null && this.statement(node.alternate, otherwise);
    if (then.lines.length + otherwise.lines.length === 0) this.effect(test, frame);
    else if (then.lines.length === 0)
      frame.lines.push({
        kind: "if",
        test: this.text(this.unary("!", test)),
        isPure: isPure(test),
        then: otherwise.lines,
        otherwise: [],
      });
    else
      frame.lines.push({
        kind: "if",
        test: this.text(test),
        isPure: isPure(test),
        then: then.lines,
        otherwise: otherwise.lines,
      });
    return ends && endsToo;
  }

  protected each(node: Statement & { type: "ForOfStatement" }, frame: Frame): Ends {
    const list = known(this.value(node.right, frame)) as Iterable<unknown>;
    const pattern = node.left.type === "VariableDeclaration" ? node.left.declarations[0]!.id : undefined;
    if (pattern === undefined) throw new Unmakeable("a loop without a variable of its own");
    for (const item of list) {
      const inner = within(frame);
      this.bind(pattern, new Known(item), inner, true);
      if (this.statement(withoutContinue(node.body), inner)) return true;
    }
    return false;
  }

  protected loop(node: Statement & { type: "ForStatement" | "WhileStatement" }, frame: Frame): Ends {
    const update = node.type === "ForStatement" ? node.update : null;
    const counts = node.type === "ForStatement" && this.counts(node, frame);
    if (counts) {
      const rolled = this.attempt(frame, () => this.unrolled(node, frame));
      if (rolled !== undefined) return rolled;
    }
    this.makeAssigned([node.test, update, node.body], frame);
    const inner = branch(frame);
    const test = node.test == null ? new Known(true) : this.value(node.test, inner);
    if (inner.lines.length > 0) throw new Unmakeable("statements stand in a loop's test");
    if (test instanceof Known && !test.value) return false;
    this.statement(node.body, inner);
    frame.lines.push({
      kind: "for",
      head: `; ${this.text(test)}; ${this.updateOf(update, inner)}`,
      body: inner.lines,
    });
    return false;
  }

  /** What a loop does after each turn, also after one that was cut short. */
  protected updateOf(update: Expression | null | undefined, frame: Frame): string {
    if (update == null) return "";
    const own = branch(frame);
    const value = this.value(update, { ...own, depth: frame.depth });
    if (own.lines.length === 0) return this.text(value);
    return own.lines
      .map((line) => {
        if (line.kind !== "do") throw new Unmakeable("statements stand in a loop's update");
        return line.text;
      })
      .join(", ");
  }

  /** Whether a loop's own variables are known in each turn. */
  protected counts(node: Statement & { type: "ForStatement" }, frame: Frame): boolean {
    if (node.init?.type !== "VariableDeclaration") return false;
    const inBody = assignedIn([node.body]);
    return node.init.declarations.every(({ id }) => {
      if (id.type !== "Identifier" || inBody.has(id.name)) return false;
      const variable = frame.scope.find(id.name)!;
      return !variable.isMade && variable.value instanceof Known;
    });
  }

  /** Turn after turn; where a test is computed, what follows stands within its branch. Throws where the turns cannot be counted. */
  protected unrolled(node: Statement & { type: "ForStatement" }, outer: Frame): Ends {
    const body = withoutContinue(node.body);
    let frame = outer;
    let open = 0;
    for (let turn = 0; ; turn++) {
      const test = this.value(node.test!, frame);
      if (test instanceof Known && !test.value) return false;
      if (turn > MOST_TURNS || (!(test instanceof Known) && ++open > MOST_NESTED))
        throw new Unmakeable("a loop without a known end");
      if (!(test instanceof Known)) {
        if (open === 1) this.makeAssigned([node.body], frame);
        const inner = branch(frame);
        frame.lines.push({
          kind: "if",
          test: this.text(test),
          isPure: isPure(test),
          then: inner.lines,
          otherwise: [],
        });
        frame = inner;
      }
      if (this.statement(body, frame)) return open === 0;
      this.step(node, outer, frame);
    }
  }

  /** The loop's own variables go on, at whatever depth the turn stands. */
  protected step(node: Statement & { type: "ForStatement" }, outer: Frame, frame: Frame): void {
    if (node.update != null) this.value(node.update, { ...frame, depth: outer.depth, scope: outer.scope });
  }

  /** Tries a way of making code; where it cannot go that way, nothing has happened. */
  protected attempt<T>(frame: Frame, way: () => T): T | undefined {
    const lines = frame.lines.length;
    const variables = frame.scope.all().map((variable) => ({ variable, was: { ...variable } }));
    try {
      return way();
    } catch (error) {
      if (!(error instanceof Unmakeable)) throw error;
      frame.lines.length = lines;
      for (const { variable, was } of variables) Object.assign(variable, was);
      return undefined;
    }
  }
}
