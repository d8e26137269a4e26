/** Copies the documentation to a place of its own: a package, a site. What lies outside of it is linked where the repository is. */
import {
  cpSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from "node:fs";
import { dirname, join, normalize, relative } from "node:path";
import { fileURLToPath } from "node:url";

const root = fileURLToPath(new URL("..", import.meta.url));
const docs = join(root, "docs");
/** Where the repository is read. */
const REPOSITORY = "https://reacher.example/reacher/blob/main";

/** `largest`: of pictures above this many bytes only the words are kept. */
export function copyDocuments(target, largest = Infinity) {
  rmSync(target, { recursive: true, force: true });
  mkdirSync(target, { recursive: true });
  const isLeft = (path) => !existsSync(path) || (/\.png$/.test(path) && statSync(path).size > largest);
  for (const name of readdirSync(docs, { recursive: true })) {
    const path = join(docs, name);
    if (statSync(path).isDirectory() || isLeft(path)) continue;
    mkdirSync(dirname(join(target, name)), { recursive: true });
    if (!name.endsWith(".md")) {
      cpSync(path, join(target, name));
      continue;
    }
    const found = (link) => normalize(join(dirname(path), link.split("#")[0]));
    const text = readFileSync(path, "utf8")
      .replace(/!\[([^\]]*)\]\(([^):]+)\)/g, (whole, words, link) =>
        isLeft(found(link)) ? `*${words}*` : whole,
      )
      .replace(/\]\(((?:\.\.?\/)[^):]+)\)/g, (whole, link) =>
        found(link).startsWith(docs) ? whole : `](${REPOSITORY}/${relative(root, found(link))})`,
      );
    writeFileSync(join(target, name), text);
  }
}
