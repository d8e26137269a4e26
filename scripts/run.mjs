/** Runs a program of the project and shows what it prints; ends this one where it fails. */
import { spawnSync } from "node:child_process";

export function run(program, args, options = {}) {
  const result = spawnSync(program, args, {
    stdio: "inherit",
    shell: process.platform === "win32",
    ...options,
  });
  if (result.error !== undefined) {
    console.error(`${program} could not be started: ${result.error.message}`);
    process.exit(1);
  }
  if (result.signal !== null) process.exit(130);
  if (result.status !== 0) process.exit(result.status ?? 1);
}
