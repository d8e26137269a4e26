#!/usr/bin/env node
/** `create-reacher FOLDER [--react]`: copies a game into a new folder. Nothing that is there already is touched. */
import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from "node:fs";
import { basename, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";
import { parseArgs } from "node:util";

const USAGE =
  "npm create reacher FOLDER          a game in a new folder\nnpm create reacher FOLDER -- --react   the same with React";

function fail(message) {
  process.stderr.write(`${message}\n`);
  process.exit(2);
}

let given;
try {
  given = parseArgs({
    allowPositionals: true,
    options: { react: { type: "boolean" }, help: { type: "boolean", short: "h" } },
  });
} catch (error) {
  fail(`${error.message}\n\n${USAGE}`);
}
const { values, positionals } = given;
if (values.help) {
  process.stdout.write(`${USAGE}\n`);
  process.exit(0);
}
if (positionals.length > 1) fail(`one folder, please; there are ${positionals.length}\n\n${USAGE}`);
const folder = resolve(positionals[0] ?? "my-game");
if (existsSync(folder) && readdirSync(folder).length > 0)
  fail(`${folder} is not empty, and nothing in it was changed; name a new folder`);

const here = (part) => fileURLToPath(new URL(`../${part}`, import.meta.url));
mkdirSync(folder, { recursive: true });
cpSync(here("template"), folder, { recursive: true });
if (values.react) cpSync(here("react"), folder, { recursive: true });
// A package does not ship files of these names.
renameSync(join(folder, "gitignore"), join(folder, ".gitignore"));

const { version } = JSON.parse(readFileSync(here("package.json"), "utf8"));
const name =
  basename(folder)
    .toLowerCase()
    .replace(/[^a-z0-9-]+/g, "-")
    .replace(/^-+|-+$/g, "") || "game";
const file = join(folder, "package.json");
const own = readFileSync(file, "utf8").replaceAll('"my-game"', `"${name}"`).replaceAll("VERSION", version);
const { react, ...kept } = JSON.parse(own);
if (values.react)
  for (const part of ["dependencies", "devDependencies"]) Object.assign(kept[part], react[part]);
writeFileSync(file, `${JSON.stringify(kept, undefined, 2)}\n`);
process.stdout.write(`${positionals[0] ?? "my-game"} is ready:

  cd ${positionals[0] ?? "my-game"}
  npm install
  npm run dev     play it
  npm test        check the plan, replay the recording
  npm run build   as players get it
`);
