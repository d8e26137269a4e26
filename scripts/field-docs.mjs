/** Takes the comments of the plan's types over as descriptions for the JSON Schema, so that each is written once. */
import { readFileSync, writeFileSync } from "node:fs";
import ts from "typescript";

const from = new URL("../packages/reacher/src/plan/types.ts", import.meta.url);
const to = new URL("../packages/reacher-cli/src/fieldDocs.ts", import.meta.url);
const source = ts.createSourceFile("types.ts", readFileSync(from, "utf8"), ts.ScriptTarget.Latest, true);

const docs = {};
const heirs = {};
for (const node of source.statements.filter(ts.isInterfaceDeclaration)) {
  const name = node.name.text;
  heirs[name] = node.heritageClauses?.[0]?.types[0]?.expression.getText();
  docs[name] = { "": commentOf(node) };
  // An index signature has no name.
  for (const member of node.members.filter(ts.isPropertySignature))
    docs[name][member.name.text] = commentOf(member);
}
for (const name of Object.keys(docs)) {
  for (let parent = heirs[name]; parent !== undefined; parent = heirs[parent])
    docs[name] = { ...docs[parent], ...docs[name] };
}
const text = `/** Made by scripts/field-docs.mjs from the comments of the plan's types. */
const fieldDocs: Record<string, Record<string, string>> = ${JSON.stringify(docs, null, 2)};
export default fieldDocs;
`;
writeFileSync(to, text);

function commentOf(node) {
  const [comment] = ts.getJSDocCommentsAndTags(node);
  if (comment === undefined) throw new Error(`no comment at ${node.getText().slice(0, 60)}`);
  const preset = comment.tags?.find((tag) => tag.tagName.text === "default")?.comment;
  return (
    ts.getTextOfJSDocComment(comment.comment).replace(/\s+/g, " ") +
    (preset === undefined ? "" : ` Default: ${preset}.`)
  );
}
