#!/usr/bin/env node
import { existsSync } from "node:fs";

const main = new URL("../dist/bundle/main.js", import.meta.url);
if (existsSync(main)) await import(main.href);
else {
  process.stderr.write("reacher is not built yet; run: npm run build\n");
  process.exitCode = 2;
}
