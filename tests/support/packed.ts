/** A package as it is packed, for those who install it. */
import { execFileSync } from "node:child_process";
import { existsSync, readFileSync } from "node:fs";
import { join } from "node:path";

const root = join(__dirname, "../..");

/** Packs a package into a folder, where `npm test` has not done so. Returns the tarball, and the files in it. */
export function packInto(
  folder: string,
  name: string,
): { readonly tarball: string; readonly files: string[] } {
  const cwd = join(root, "packages", name);
  const { version } = JSON.parse(readFileSync(join(cwd, "package.json"), "utf8"));
  const into = process.env["PACKED"] ?? folder;
  const tarball = join(into, `${name}-${version}.tgz`);
  if (!existsSync(tarball)) execFileSync("npm", ["pack", "--pack-destination", into], { cwd, stdio: "pipe" });
  const files = execFileSync("tar", ["-tzf", tarball], { encoding: "utf8" }).trim().split("\n");
  return { tarball, files: files.map((file) => file.replace(/^package\//, "")) };
}
