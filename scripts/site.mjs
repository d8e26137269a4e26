/**
 * `npm run site`: the documentation as a site of files, in site/dist: with search, light and dark, and a link under each plan that opens it in the workbench,
 * within the page. `-- --base /reacher/` for a folder of that name.
 */
import { cpSync, readdirSync, readFileSync, renameSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { parseArgs } from "node:util";
import ts from "typescript";
import { ensureBuilt, ensureInstalled } from "./ensure.mjs";
import { copyDocuments } from "./documents.mjs";
import { run } from "./run.mjs";

process.chdir(fileURLToPath(new URL("..", import.meta.url)));
const { values } = parseArgs({ options: { base: { type: "string", default: "/" } } });
const { base } = values;
ensureInstalled();
ensureBuilt();

const pages = "node_modules/.cache/reacher-site";
copyDocuments(pages);
cpSync("site/index.md", join(pages, "index.md"));
// A folder's first page is its index here.
renameSync(join(pages, "README.md"), join(pages, "pages.md"));
for (const name of readdirSync(pages, { recursive: true }).filter((one) => one.endsWith("README.md")))
  renameSync(join(pages, name), join(pages, name.replace("README", "index")));
for (const name of readdirSync(pages, { recursive: true }).filter((one) => one.endsWith(".md"))) {
  const path = join(pages, name);
  const home = name.includes("/") ? "index.md" : "pages.md";
  const text = readFileSync(path, "utf8").replace(/\]\(([^):\s]*?)README\.md/g, (_, folder) =>
    folder === "" || folder === "./" ? `](${folder}${home}` : `](${folder}index.md`,
  );
  writeFileSync(path, text.replace(/^```(?:ts|json)\n([^]*?)^```$/gm, withLink));
}
cpSync("packages/reacher-cli/dist/workbench", join(pages, "public/workbench"), { recursive: true });
cpSync("packages/reacher/dist/plan.schema.json", join(pages, "public/workbench/plan.schema.json"));
process.env.SITE_BASE = base;
run("node", ["node_modules/vitepress/bin/vitepress.js", "build", "site"]);

/** A block, with a link that opens its plan. */
function withLink(block, code) {
  const plan = planIn(code);
  if (plan === undefined) return block;
  const hash = Buffer.from(JSON.stringify(plan, undefined, 2)).toString("base64url");
  return `${block}\n\n<a class="try" href="${base}workbench/index.html#plan=${hash}" target="_blank">Try it</a>`;
}

/** The plan of a block: JSON, or what is given to definePlan; `undefined` if it has none that stands for itself. */
function planIn(code) {
  const file = ts.createSourceFile(
    "block.ts",
    code.startsWith("{") ? `definePlan(${code})` : code,
    ts.ScriptTarget.ES2022,
  );
  const find = (node) =>
    ts.isCallExpression(node) && node.expression.getText(file) === "definePlan"
      ? node.arguments[0]
      : ts.forEachChild(node, find);
  const found = find(file);
  if (found === undefined) return undefined;
  try {
    // Blocks of the documentation itself, which its tests run as well.
    const plan = new Function(`return (${found.getText(file)});`)();
    return plan?.reacherPlan === 1 ? plan : undefined;
  } catch {
    return undefined;
  }
}
