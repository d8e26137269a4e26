/** Finds the browsers that the pages are tested in, and installs the system's own where there are none. */
import { spawnSync } from "node:child_process";
import { existsSync } from "node:fs";
import { delimiter, join } from "node:path";

const CHROMIUM = {
  name: "Chromium",
  variable: "CHROMIUM",
  package: "chromium",
  programs: ["chromium", "chromium-browser", "google-chrome", "google-chrome-stable", "chrome"],
  places: [
    "/Applications/Chromium.app/Contents/MacOS/Chromium",
    "/Applications/Google Chrome.app/Contents/MacOS/Google Chrome",
  ],
};
const FIREFOX = {
  name: "Firefox",
  variable: "FIREFOX",
  package: "firefox-esr",
  programs: ["firefox-esr", "firefox"],
  places: ["/Applications/Firefox.app/Contents/MacOS/firefox"],
};

/** The path of a browser; a variable of the environment names one outright. */
function find({ variable, programs, places }) {
  const named = process.env[variable];
  if (named) return existsSync(named) ? named : undefined;
  const folders = (process.env["PATH"] ?? "").split(delimiter);
  const paths = folders.flatMap((folder) => programs.map((program) => join(folder, program)));
  return [...paths, ...places].find((path) => existsSync(path));
}

/** The path of a browser, installed where it has to be; `undefined` where that cannot be. */
function ensure(browser) {
  const found = find(browser);
  if (found !== undefined) return found;
  if (process.platform !== "linux" || spawnSync("apt-get", ["--version"], { stdio: "ignore" }).status !== 0)
    return undefined;
  console.log(`Installing ${browser.name} from the system's packages, for the tests of the pages ...`);
  const sudo = process.getuid?.() === 0 ? [] : ["sudo", "-n"];
  const apt = (...args) => {
    const [program, ...rest] = [...sudo, "apt-get", ...args];
    const env = { ...process.env, DEBIAN_FRONTEND: "noninteractive" };
    return spawnSync(program, rest, { stdio: ["ignore", "ignore", "inherit"], env }).status === 0;
  };
  return apt("update", "-qq") && apt("install", "-y", "-qq", browser.package) ? find(browser) : undefined;
}

/** Makes sure that there is one, or ends with a clear message. */
function need(browser) {
  const found = ensure(browser);
  if (found !== undefined) return found;
  const { name, variable } = browser;
  console.error(`The tests of the pages need a ${name}, and none was found or could be installed.`);
  console.error(
    `Install one (Debian: sudo apt-get install ${browser.package}), or name it: ${variable}=/path/to/it before the command`,
  );
  process.exit(1);
}

export const ensureChromium = () => need(CHROMIUM);
export const ensureFirefox = () => need(FIREFOX);
