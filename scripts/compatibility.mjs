/**
 * `npm run compatibility`: installs the packages as they are packed beside each tool, plays a game with it, and writes what it found to
 * docs/compatibility.md. `npm run compatibility -- webpack` tries only what has that name, and writes nothing; `--list` names
 * all.
 */
import { execFileSync } from "node:child_process";
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { ensureBuilt, ensureInstalled, root } from "./ensure.mjs";
import { TRIED_BY_TESTS, TOOLS } from "./compatibility/tools.mjs";

const only = process.argv[2];
if (only === "--list") {
  console.log(TOOLS.map(({ name }) => name).join("\n"));
  process.exit();
}
ensureInstalled();
ensureBuilt();
const folder = mkdtempSync(join(tmpdir(), "reacher-compatibility-"));
process.on("exit", () => rmSync(folder, { recursive: true, force: true }));
process.on("SIGINT", () => process.exit(130));

/** What a program prints. It has the environment of a terminal, not of this script. */
function run(cwd, program, ...args) {
  const env = { ...process.env };
  delete env.NODE_ENV;
  return execFileSync(program, args, {
    cwd,
    encoding: "utf8",
    stdio: ["ignore", "pipe", "pipe"],
    timeout: 300_000,
    env: { ...env, NO_COLOR: "1", CI: "1", PATH: `${join(cwd, "node_modules/.bin")}:${env.PATH}` },
  });
}

const tarballs = run(
  root,
  "npm",
  "pack",
  "--silent",
  "--pack-destination",
  folder,
  "--workspace=reacher",
  "--workspace=reacher-cli",
)
  .trim()
  .split("\n")
  .map((name) => join(folder, name));

/** Installs a tool at a version beside the packages, and lets it play. Returns the version that came. */
function tried({ files, play }, [first, ...others], place) {
  mkdirSync(place);
  for (const [name, text] of Object.entries({
    "package.json": '{ "private": true, "type": "module" }',
    ...files,
  })) {
    mkdirSync(dirname(join(place, name)), { recursive: true });
    writeFileSync(join(place, name), text);
  }
  run(
    place,
    "npm",
    "install",
    "--no-audit",
    "--no-fund",
    "--loglevel=error",
    ...tarballs,
    ...[first, ...others].filter(Boolean),
  );
  play((program, ...args) => run(place, program, ...args), place);
  if (first === undefined) return process.versions.node;
  const name = first.slice(0, first.lastIndexOf("@"));
  return JSON.parse(readFileSync(join(place, "node_modules", name, "package.json"), "utf8")).version;
}

let failed = 0;
const rows = TOOLS.filter(({ name }) => only === undefined || name.includes(only)).map((tool, row) => {
  const versions = tool.with.map((packages, n) => {
    process.stderr.write(`${tool.name}: ${packages.join(" ") || "as it is here"} ... `);
    try {
      const version = tried(tool, packages, join(folder, `${row}-${n}`));
      process.stderr.write(`${version}\n`);
      return version;
    } catch (error) {
      failed++;
      process.stderr.write(`failed\n${error.message}\n${error.stdout ?? ""}\n`);
      return `${packages[0]} failed`;
    }
  });
  return [tool.name, versions.join(", "), tool.does];
});

const { version } = JSON.parse(readFileSync(join(root, "packages/reacher/package.json"), "utf8"));
const table = (lines) =>
  [["what", "version", "what it did"], ["---", "---", "---"], ...lines]
    .map((cells) => `| ${cells.join(" | ")} |`)
    .join("\n");
const text = `# What it was tried with

Version ${version}, as it is packed. \`npm run compatibility\` installs it beside each of these, lets a game play, and makes this page:

${table(rows)}

\`npm test\` tries these at each change:

${table(TRIED_BY_TESTS)}

Not tried: Windows and macOS themselves. Browsers, with a real window system, have [a page of their own](browsers.md).
`;
if (only === undefined) writeFileSync(join(root, "docs/compatibility.md"), text);
else console.log(text);
process.exit(failed === 0 ? 0 : 1);
