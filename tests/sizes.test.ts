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

test("what `reacher build` takes calls and layers to add is what they add", () => {
  const some = ["held", "drive", "on", "snapshot"];
  const measured = JSON.parse(
    execFileSync("node", [join(root, "bench/sizes.mjs"), "--calls", ...some], { encoding: "utf8" }),
  );
  const told = readFileSync(join(root, "packages/reacher/src/make/bytes.ts"), "utf8");
  const known = Object.fromEntries(
    [...told.matchAll(/^ {2}(\w+): (\d+),$/gm)].map(([, call, bytes]) => [call, +bytes!]),
  );
  expect(Object.keys(measured.calls)).toEqual(some);
  const wrong = Object.entries<number>({ ...measured.calls, ...measured.bare }).filter(
    ([name, bytes]) => !(Math.abs(known[name]! - bytes) <= 60 + 0.1 * bytes),
  );
  expect(wrong).toEqual([]);
});
