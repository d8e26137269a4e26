/** What ships must not grow unseen: a size that is meant to grow gets its new figure in bench/sizes.json. */
import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { root } from "./support/compiler";

test("no size is more than 1 % over its figure", () => {
  const known = JSON.parse(readFileSync(join(root, "bench/sizes.json"), "utf8"));
  const measured = JSON.parse(execFileSync("node", [join(root, "bench/sizes.mjs")], { encoding: "utf8" }));
  const over = Object.entries(measured).filter(
    ([name, { gzipped }]: [string, any]) => !(gzipped <= known[name] * 1.01),
  );
  expect(over).toEqual([]);
  expect(Object.keys(known)).toEqual(Object.keys(measured));
});
