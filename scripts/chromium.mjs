/** Finds a Chromium, and installs the system's own where there is none. */
import { spawnSync } from "node:child_process";
import { existsSync } from "node:fs";
import { delimiter, join } from "node:path";

const NAMES = ["chromium", "chromium-browser", "google-chrome", "google-chrome-stable", "chrome"];
const PLACES = [
  "/Applications/Chromium.app/Contents/MacOS/Chromium",
  "/Applications/Google Chrome.app/Contents/MacOS/Google Chrome",
];

/** The path of a Chromium; `CHROMIUM` in the environment names one outright. */
export function findChromium() {
  const named = process.env["CHROMIUM"];
  if (named) return existsSync(named) ? named : undefined;
  const folders = (process.env["PATH"] ?? "").split(delimiter);
  return [...folders.flatMap((folder) => NAMES.map((name) => join(folder, name))), ...PLACES].find((path) =>
    existsSync(path),
  );
}

/** Makes sure that there is one, or ends with a clear message. */
export function ensureChromium() {
  const found = findChromium();
  if (found !== undefined) return found;
  const sudo = process.getuid?.() === 0 ? [] : ["sudo", "-n"];
  const apt = (...args) => {
    const [program, ...rest] = [...sudo, "apt-get", ...args];
    const env = { ...process.env, DEBIAN_FRONTEND: "noninteractive" };
    return spawnSync(program, rest, { stdio: ["ignore", "ignore", "inherit"], env }).status === 0;
  };
  if (process.platform === "linux" && spawnSync("apt-get", ["--version"], { stdio: "ignore" }).status === 0) {
    console.log("Installing Chromium from the system's packages, for the tests of the pages ...");
    if (apt("update", "-qq") && apt("install", "-y", "-qq", "chromium")) {
      const installed = findChromium();
      if (installed !== undefined) return installed;
    }
  }
  console.error("The tests of the pages need a Chromium, and none was found or could be installed.");
  console.error(
    "Install one (Debian: sudo apt-get install chromium), or name it: CHROMIUM=/path/to/chromium npm test",
  );
  process.exit(1);
}
