/** A package as it is packed, for those who install it. */
import { execFileSync } from "node:child_process";
import { join } from "node:path";

const root = join(__dirname, "../..");

/** Packs a package into a folder. Returns the tarball, and the files in it. */
export function packInto(
  folder: string,
  name: string,
): { readonly tarball: string; readonly files: string[] } {
  const [packed] = JSON.parse(
    execFileSync("npm", ["pack", "--json", "--pack-destination", folder], {
      cwd: join(root, "packages", name),
      encoding: "utf8",
      stdio: "pipe",
    }),
  );
  return {
    tarball: join(folder, packed.filename),
    files: packed.files.map(({ path }: { path: string }) => path),
  };
}
