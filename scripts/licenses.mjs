/** The licences of what is bundled into a file that ships. In: the paths of its modules. Out: the text of a file that ships beside it. */
import { readdirSync, readFileSync } from "node:fs";

/** Our own licence is the same, with other authors. */
const MIT = readFileSync(new URL("../LICENSE", import.meta.url), "utf8").trim();

/** A section for each package, by name. A package without a licence text ends the build. */
export function licenses(inputs) {
  const folders = new Set(
    inputs.flatMap((path) => /^(.*node_modules\/(?:@[^/]+\/)?[^/]+)\//.exec(path)?.[1] ?? []),
  );
  const sections = [...folders].map((folder) => {
    const { name, version, license, author } = JSON.parse(readFileSync(`${folder}/package.json`, "utf8"));
    const files = readdirSync(folder, { recursive: true, withFileTypes: true })
      .filter(
        (one) =>
          one.isFile() &&
          /^(licen[cs]e|notice)/i.test(one.name) &&
          !one.parentPath.slice(folder.length).includes("node_modules"),
      )
      .map((one) => `${one.parentPath}/${one.name}`);
    const texts = files.map((file) => readFileSync(file, "utf8").trim());
    if (texts.length === 0) {
      if (license !== "MIT") throw new Error(`${name} ${version} has no licence text to ship`);
      texts.push(
        MIT.replace(/^Copyright.*$/m, `Copyright (c) ${author?.name ?? author ?? `the authors of ${name}`}`),
      );
    }
    return { name, text: `## ${name} ${version} (${license})\n\n${texts.join("\n\n")}\n` };
  });
  sections.sort((one, other) => (one.name < other.name ? -1 : 1));
  // Two packages may each bring a copy of a third.
  const texts = new Set(sections.map(({ text }) => text));
  return `# Licences of what is bundled here\n\n${[...texts].join("\n")}`;
}
