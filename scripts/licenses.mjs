/** The licences of what is bundled into a file that ships. In: esbuild's results. Out: the text of a file that ships beside it. */
import { readdirSync, readFileSync } from "node:fs";

/** A section for each package, by name. A package without a licence text ends the build. */
export function licenses(...results) {
  const inputs = results.flatMap(({ metafile }) => Object.keys(metafile.inputs));
  const folders = new Set(
    inputs.flatMap((path) => /^(.*node_modules\/(?:@[^/]+\/)?[^/]+)\//.exec(path)?.[1] ?? []),
  );
  const sections = [...folders].map((folder) => {
    const { name, version, license } = JSON.parse(readFileSync(`${folder}/package.json`, "utf8"));
    const files = readdirSync(folder).filter((file) => /^(licen[cs]e|notice)/i.test(file));
    if (files.length === 0) throw new Error(`${name} ${version} has no licence text to ship`);
    const texts = files.map((file) => readFileSync(`${folder}/${file}`, "utf8").trim());
    return { name, text: `## ${name} ${version} (${license})\n\n${texts.join("\n\n")}\n` };
  });
  sections.sort((one, other) => (one.name < other.name ? -1 : 1));
  return `# Licences of what is bundled here\n\n${sections.map(({ text }) => text).join("\n")}`;
}
