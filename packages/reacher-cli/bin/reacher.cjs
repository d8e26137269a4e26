#!/usr/bin/env node
// CommonJS, which starts sooner.
const main = "../dist/bundle/main.cjs";
if (isBuilt()) require(main);
else {
  process.stderr.write("reacher is not built yet; run: npm run build\n");
  process.exitCode = 2;
}

function isBuilt() {
  try {
    return require.resolve(main) !== "";
  } catch {
    return false;
  }
}
