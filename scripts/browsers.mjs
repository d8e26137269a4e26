/** Finds the browsers that the pages are tested in, and installs the system's own where there are none. */
import { spawnSync } from "node:child_process";
import { existsSync, readdirSync } from "node:fs";
import { delimiter, join } from "node:path";

/** Where a Debian keeps what belongs to one kind of machine. */
const LIBRARIES = existsSync("/usr/lib")
  ? readdirSync("/usr/lib")
      .filter((name) => name.endsWith("-linux-gnu"))
      .map((name) => join("/usr/lib", name))
  : [];

const CHROMIUM = {
  name: "Chromium",
  variable: "CHROMIUM",
  packages: ["chromium"],
  programs: ["chromium", "chromium-browser", "google-chrome", "google-chrome-stable", "chrome"],
  places: [
    "/Applications/Chromium.app/Contents/MacOS/Chromium",
    "/Applications/Google Chrome.app/Contents/MacOS/Google Chrome",
  ],
};
const FIREFOX = {
  name: "Firefox",
  variable: "FIREFOX",
  packages: ["firefox-esr"],
  programs: ["firefox-esr", "firefox"],
  places: ["/Applications/Firefox.app/Contents/MacOS/firefox"],
};

/** WebKit as its own makers try it: a bare window, which stands in no PATH. */
const WEBKIT = {
  name: "WebKitGTK",
  variable: "WEBKIT",
  packages: ["webkit2gtk-driver"],
  programs: [],
  places: ["/usr/libexec", ...LIBRARIES].map((folder) => join(folder, "webkit2gtk-4.1", "MiniBrowser")),
};
/** A screen, hands, a window manager and keyboard layouts, for what only a window system shows. */
const DESK = ["Xvfb xvfb", "xdotool xdotool", "openbox openbox", "setxkbmap x11-xkb-utils"].map((line) => {
  const [program, name] = line.split(" ");
  return { name: program, variable: "", packages: [name], programs: [program], places: [] };
});

/** Makes sure that there is a Chromium, or ends with a clear message. */
export function ensureChromium() {
  const [found] = ensure([CHROMIUM]);
  if (found !== undefined) return found;
  console.error("The tests of the pages need a Chromium, and none was found or could be installed.");
  console.error(
    "Install one (Debian: sudo apt-get install chromium), or name it: CHROMIUM=/path/to/it before the command",
  );
  process.exit(1);
}

/**
 * What else the pages are tried in: variables of the environment for Jest. What cannot be had is named and left out.
 */
export function ensureOthers(chromium) {
  const [firefox, webkit, ...tools] = ensure([FIREFOX, WEBKIT, ...DESK]);
  const missing = DESK.filter((_, n) => tools[n] === undefined).map(({ name }) => name);
  const desk = missing.length === 0;
  const leftOut = [
    firefox === undefined && "the pages in Firefox",
    !desk && `everything at a desk (no ${missing.join(", ")})`,
    desk && webkit === undefined && "WebKit",
  ].filter(Boolean);
  if (leftOut.length > 0)
    console.log(`Left out, since it is not here and could not be installed: ${leftOut.join("; ")}.`);
  return {
    FIREFOX: firefox,
    DESK_CHROMIUM: desk ? chromium : undefined,
    DESK_FIREFOX: desk ? firefox : undefined,
    DESK_WEBKIT: desk ? webkit : undefined,
  };
}

/** The paths of programs, installed where they have to be; `undefined` for those that cannot be had. */
function ensure(programs) {
  const missing = programs.filter((program) => find(program) === undefined);
  if (missing.length > 0 && hasApt()) {
    console.log(
      `Installing ${missing.map(({ name }) => name).join(", ")} from the system's packages, for the tests of the pages ...`,
    );
    if (apt("update", "-qq")) apt("install", "-y", "-qq", ...missing.flatMap(({ packages }) => packages));
  }
  return programs.map(find);
}

/** The path of a program; a variable of the environment names one outright. */
function find({ variable, programs, places }) {
  const named = process.env[variable];
  if (named) return existsSync(named) ? named : undefined;
  const folders = (process.env["PATH"] ?? "").split(delimiter);
  const paths = folders.flatMap((folder) => programs.map((program) => join(folder, program)));
  return [...paths, ...places].find((path) => existsSync(path));
}

function hasApt() {
  return (
    process.platform === "linux" && spawnSync("apt-get", ["--version"], { stdio: "ignore" }).status === 0
  );
}

function apt(...args) {
  const [program, ...rest] = [...(process.getuid?.() === 0 ? [] : ["sudo", "-n"]), "apt-get", ...args];
  const env = { ...process.env, DEBIAN_FRONTEND: "noninteractive" };
  return spawnSync(program, rest, { stdio: ["ignore", "ignore", "inherit"], env }).status === 0;
}
