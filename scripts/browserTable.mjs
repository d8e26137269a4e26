/**
 * Keeps docs/browsers.md as the tests have it: a Jest reporter. A run that has tried every browser at a desk writes it where
 * `BROWSERS=write` is set, and otherwise fails where it is not current. Versions may differ from machine to machine.
 */
import { execFileSync } from "node:child_process";
import { existsSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { format } from "prettier";

const FILE = "docs/browsers.md";
const PAGES = "node_modules/.browser-pages.json";
const BROWSERS = [
  { name: "chromium", label: "Chromium", version: [process.env["DESK_CHROMIUM"], "--version"] },
  { name: "firefox", label: "Firefox", version: [process.env["DESK_FIREFOX"], "--version"] },
  {
    name: "webkit",
    label: "WebKitGTK",
    version: ["dpkg-query", "-W", "-f", "${Version}", "libwebkit2gtk-4.1-0"],
  },
];

export default class BrowserTable {
  async onRunComplete(_, { testResults }) {
    const own = testResults.flatMap(({ displayName, testFilePath, testResults: tests }) =>
      tests.map(({ title, status }) => ({ project: displayName?.name, title, status, file: testFilePath })),
    );
    // The pages and the desks are two runs: the second has the results of both.
    const isDesk = own.some(({ project }) => project?.startsWith("desk "));
    if (!isDesk) writeFileSync(PAGES, JSON.stringify(own));
    const results = isDesk && existsSync(PAGES) ? [...JSON.parse(readFileSync(PAGES, "utf8")), ...own] : own;
    if (isDesk) rmSync(PAGES, { force: true });
    const tried = results.filter(
      ({ project, status }) => project?.startsWith("desk ") && status === "passed",
    );
    const pages = (name) =>
      results.filter(
        ({ project, status, file }) =>
          project === name && status === "passed" && /[\\/]examples[\\/]/.test(file),
      ).length;
    const isWhole = !results.some(
      ({ project, status }) => /^(desk |chromium|firefox)/.test(project ?? "") && status !== "passed",
    );
    if (
      !isWhole ||
      pages("firefox") === 0 ||
      new Set(tried.map(({ project }) => project)).size < BROWSERS.length
    )
      return;
    const text = await format(document(tried, pages), { parser: "markdown", printWidth: 140 });
    if (process.env["BROWSERS"] === "write") writeFileSync(FILE, text);
    else if (withoutVersions(text) !== withoutVersions(read()))
      this.fault = new Error(`${FILE} is not what the tests say; BROWSERS=write npm test makes it anew`);
    // Jest ends with 1 by it and prints nothing.
    if (this.fault !== undefined) console.error(this.fault.message);
  }

  getLastError() {
    return this.fault;
  }
}

function document(tried, pages) {
  const known = JSON.parse(readFileSync("tests/desk/known.json", "utf8"));
  const titles = [...new Set(tried.map(({ title }) => title))];
  const cell = (title, { name }) => {
    if (!tried.some((one) => one.title === title && one.project === `desk ${name}`)) return "not tried";
    const fault = known.findIndex((one) => one.feature === title && one.browser === name);
    return fault < 0 ? "yes" : `no (${fault + 1})`;
  };
  const row = (cells) => `| ${cells.join(" | ")} |`;
  return [
    "# Browsers",
    "",
    "Made from the results of the tests by `BROWSERS=write npm test`; do not change it by hand.",
    "",
    "Each line was tried with the events of a real window system: a keyboard, a mouse and a window manager, in the browser as its maker",
    "ships it, with nothing of a driver between ([the tests](../tests/desk/desk.test.ts)). Pads are the browser's own for tests.",
    "",
    row(["what a player does", ...BROWSERS.map(({ label, version }) => `${label} ${numberOf(version)}`)]),
    row(["---", ...BROWSERS.map(() => "---")]),
    ...titles.map((title) => row([title, ...BROWSERS.map((browser) => cell(title, browser))])),
    row([
      "the tests of the example pages, driven",
      ...BROWSERS.map(({ name }) => (pages(name) > 0 ? "all pass" : "not tried")),
    ]),
    "",
    "Known not to work:",
    "",
    ...known.map(({ browser, feature, why }, n) => `${n + 1}. ${labelOf(browser)}, ${feature}: ${why}.`),
    "",
    "What no page can mend:",
    "",
    ...STAYS.map((one) => `- ${one}.`),
    "",
    "Not tried: other systems than Linux with X11; phones. What is not said here is not known.",
    "",
  ].join("\n");
}

const STAYS = [
  "After a page was busy for a second, WebKitGTK hands over one event, then a frame, then the rest, which are late: two taps in that second are one long hold. After a long frame a game can step twice: to the newest stamp that came, then to now",
  "The mouse's side buttons reach no page in Firefox on this system; WebKitGTK reports them as the main button",
  "A field inside a closed shadow root is not seen as a field: what is typed there steers as well, unless the game covers it with a mode",
  "Firefox with resistFingerprinting rounds stamps, by 16.7 ms and more, and may report other codes: windows for taps are as exact as that",
];

const labelOf = (name) => BROWSERS.find((one) => one.name === name).label;

/** A version as a command reports it; empty if it does not. */
function numberOf([program, ...args]) {
  try {
    const told = execFileSync(program, args, { encoding: "utf8", stdio: ["ignore", "pipe", "ignore"] });
    return /\d+(\.\d+)?/.exec(told)[0];
  } catch {
    return "";
  }
}

function read() {
  try {
    return readFileSync(FILE, "utf8");
  } catch {
    return "";
  }
}

/** Numbers change with the machine, and with them the widths of columns. */
function withoutVersions(text) {
  return text.replace(/(Chromium|Firefox|WebKitGTK) [\d.]+/g, "$1").replace(/ +|-{3,}/g, " ");
}
