/**
 * Marks each place of a source file that a mutant changes. In: TypeScript. Out: TypeScript in which `mutant(n)` decides whether place
 * n is changed, and what stands at each place. One program holds all mutants, so that changing one takes no time.
 */
import ts from "typescript";

const { factory, SyntaxKind: Kind } = ts;

/** What a comparison becomes: its edge moves, or it is turned round. */
const OTHER = new Map([
  [Kind.LessThanToken, Kind.LessThanEqualsToken],
  [Kind.LessThanEqualsToken, Kind.LessThanToken],
  [Kind.GreaterThanToken, Kind.GreaterThanEqualsToken],
  [Kind.GreaterThanEqualsToken, Kind.GreaterThanToken],
  [Kind.EqualsEqualsEqualsToken, Kind.ExclamationEqualsEqualsToken],
  [Kind.ExclamationEqualsEqualsToken, Kind.EqualsEqualsEqualsToken],
]);

/** @returns the marked text; appends to `places` */
export function marked(file, text, places) {
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.ES2022, true);
  const place = (node, what) => {
    const line = source.getLineAndCharacterOfPosition(node.getStart()).line + 1;
    places.push({ file, line, what, code: node.getText().split("\n")[0].slice(0, 90) });
    const number = factory.createNumericLiteral(places.length - 1);
    return factory.createCallExpression(factory.createIdentifier("mutant"), undefined, [number]);
  };
  const visitor = (context) => {
    const visit = (node, isRun) => {
      if (ts.isTypeNode(node)) return node;
      // What runs while a module loads runs once, before any mutant is chosen.
      const inside =
        isRun ||
        ts.isFunctionLike(node) ||
        (ts.isPropertyDeclaration(node) && !node.modifiers?.some(({ kind }) => kind === Kind.StaticKeyword));
      const within = () => ts.visitEachChild(node, (child) => visit(child, inside), context);
      if (!inside) return within();
      if (ts.isBinaryExpression(node) && OTHER.has(node.operatorToken.kind)) {
        const is = place(node, ts.tokenToString(OTHER.get(node.operatorToken.kind)));
        const { left, operatorToken, right } = within();
        const compared = (operator) => factory.createBinaryExpression(left, operator, right);
        return factory.createParenthesizedExpression(
          factory.createConditionalExpression(
            is,
            undefined,
            compared(factory.createToken(OTHER.get(operatorToken.kind))),
            undefined,
            compared(operatorToken),
          ),
        );
      }
      if (ts.isExpressionStatement(node) && !isSuper(node.expression)) {
        const is = place(node, "dropped");
        // In a block, so that it takes no `else` of what stands around it.
        return factory.createBlock([factory.createIfStatement(factory.createLogicalNot(is), within())]);
      }
      return within();
    };
    return (root) => ts.visitEachChild(root, (child) => visit(child, false), context);
  };
  const { transformed } = ts.transform(source, [visitor]);
  return ts.createPrinter().printFile(transformed[0]);
}

function isSuper(node) {
  return ts.isCallExpression(node) && node.expression.kind === Kind.SuperKeyword;
}
