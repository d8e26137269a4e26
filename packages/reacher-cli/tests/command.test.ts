/** The built command: what it answers, and that the program itself answers so. */
import { spawn, spawnSync } from "node:child_process";
import { chmodSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { runCommand } from "../../../tests/support/command";

const root = join(__dirname, "../../..");
const bin = join(root, "packages/reacher-cli/bin/reacher.cjs");
const PLAN = "examples/kelpline/plan/kelpline.plan.json";
const DIVE = "examples/kelpline/dives/night-round.trace.jsonl";

let folder: string;
beforeAll(() => (folder = mkdtempSync(join(tmpdir(), "reacher-"))));
afterAll(() => rmSync(folder, { recursive: true }));

function reacher(...args: string[]) {
  return reacherIn({}, ...args);
}

/** With more in its environment. A build service says CI=true, and its output is a pipe. */
function reacherIn(more: Record<string, string>, ...args: string[]) {
  return runCommand(args, { ...ENVIRONMENT, ...more });
}
const ENVIRONMENT = { ...process.env, CI: "true", NO_COLOR: "", FORCE_COLOR: "" };

test.each([
  ["check", PLAN],
  ["table", PLAN],
  ["replay", PLAN, DIVE],
  ["why", PLAN, DIVE, "--action", "kick"],
  ["taps", DIVE],
  ["sticks", DIVE],
  ["draw", PLAN, "-o", "FOLDER/curve.svg"],
  ["compare", PLAN, PLAN, DIVE],
  ["controls", "shift"],
  ["rebind", PLAN, "kick.main", "KeyK", "--overrides", "FOLDER/mine.json"],
  ["types", PLAN],
  ["test", "REPORT", "-o", "FOLDER/made.test.mjs"],
  ["build", PLAN],
  ["schema"],
])("the program itself answers as it does here: %s", (...line) => {
  const report = { reacherReport: 1, plan: { reacherPlan: 1, actions: {} }, trace: [] };
  const args = line.map((word) =>
    word === "REPORT" ? file("small.report.json", report) : word.replace("FOLDER", folder),
  );
  const asked = spawnSync("node", [bin, ...args], { cwd: root, encoding: "utf8", env: ENVIRONMENT });
  rmSync(join(folder, "mine.json"), { force: true });
  const { stdout, stderr, status } = reacher(...args);
  expect({ stdout: asked.stdout, stderr: asked.stderr, status: asked.status }).toEqual({
    stdout,
    stderr,
    status,
  });
});

/** A file of the test's own. */
function file(name: string, content: string | object): string {
  const path = join(folder, name);
  writeFileSync(path, typeof content === "string" ? content : JSON.stringify(content));
  return path;
}

const rowsOf = (text: string) =>
  text
    .trim()
    .split("\n")
    .map((line) => JSON.parse(line));

test("colours only where they are wanted", () => {
  expect(reacher("table", PLAN).stdout).not.toContain("\u001b[");
  expect(reacherIn({ FORCE_COLOR: "1" }, "table", PLAN).stdout).toContain("\u001b[");
  expect(reacherIn({ FORCE_COLOR: "1", NO_COLOR: "1" }, "table", PLAN).stdout).not.toContain("\u001b[");
});

test("table says what every control does", () => {
  const { stdout, status } = reacher("table", PLAN);
  expect(status).toBe(0);
  for (const line of [
    "KeyW -> swim (0, +1)",
    "ArrowLeft -> swim (-1, 0)",
    "PadLeftStick -> swim (stick)",
    "KeyE -> depth (+1)",
    "PadLeftTrigger -> depth (0 to -1)",
    "ShiftLeft -> kick (hold)",
    "KeyF -> lamp (waits, toggle, starts on)",
    "swim.up -> surge (2 taps within 220 ms, hold)",
    "KeyG -> haul (press of 600 ms, hold)",
    "KeyG -> flash (with KeyF, hold)",
  ]) {
    expect(stdout).toContain(line + "\n");
  }
  const bound = new Set(
    JSON.stringify(JSON.parse(readFileSync(join(root, PLAN), "utf8")).actions).match(
      /"(Key|Arrow|Shift|Pad)\w+"/g,
    ),
  );
  for (const control of bound)
    expect(stdout).toContain(
      `${control
        .slice(1, -1)
        .replace(/Dpad$/, "DpadUp")
        .replace(/DpadX$/, "DpadLeft")} -> `,
    );
  expect(rowsOf(reacher("table", PLAN, "--json").stdout)[0]).toEqual({
    control: "KeyW",
    label: "W",
    action: "swim",
    does: "(0, +1)",
  });
});

test("check tells place, line and mend, and its exit code tells how bad it is", () => {
  expect(reacher("check", PLAN)).toMatchObject({
    stdout: expect.stringContaining(": 19 actions in 4 slots; no errors, no warnings, 2 hints\n"),
    status: 0,
  });
  const bad = file(
    "bad.plan.json",
    '{\n  "reacherPlan": 1,\n  "actions": {\n    "kick": { "kind": "switch", "from": { "main": "LeftShift" } }\n  }\n}\n',
  );
  const { stdout, status } = reacher("check", bad);
  expect(status).toBe(1);
  expect(stdout).toContain(
    `error    actions.kick.from.main (${bad}:4:43, unknown-control)\n         "LeftShift" is no control; did you mean ShiftLeft?`,
  );
  expect(rowsOf(reacher("check", bad, "--json").stdout)).toEqual([
    {
      id: "unknown-control",
      severity: "error",
      place: "actions.kick.from.main",
      message: expect.any(String),
      line: 4,
      column: 43,
    },
  ]);
  const hinted = file("hint.plan.json", {
    reacherPlan: 1,
    actions: { kick: { kind: "switch", from: { pad: "PadSouth" } } },
  });
  expect(reacher("check", hinted)).toMatchObject({ status: 0, stdout: expect.stringContaining("1 hint") });
});

test("replay tells changes, whole readings, and differences from an earlier replay", () => {
  const { stdout } = reacher("replay", PLAN, DIVE);
  expect(stdout).toMatch(/^ +ms {2}seat {3}action {2}change\n {7}0\.0 {2}amber {2}lamp {4}on\n/);
  const rows = reacher("replay", PLAN, DIVE, "--json").stdout;
  const expected = file("rows.jsonl", rows);
  expect(reacher("replay", PLAN, DIVE, "--expect", expected)).toMatchObject({
    status: 0,
    stdout: expect.stringContaining("as expected"),
  });
  const other = file("other.jsonl", rows.replace('"action":"kick","on":true', '"action":"kick","on":false'));
  const { stdout: differences, status } = reacher("replay", PLAN, DIVE, "--expect", other);
  expect([status, differences.split("\n").filter((line) => /^[-+]/.test(line)).length]).toEqual([1, 2]);
  const readings = rowsOf(
    reacher("replay", PLAN, DIVE, "--every", "1000", "--json", "--action", "kick").stdout,
  );
  expect(readings[3]).toEqual({
    at: 3000,
    seat: "amber",
    now: { kick: { on: true, onMs: expect.any(Number), progress: 0 } },
  });
  const switches = (hz: string) =>
    rowsOf(reacher("replay", PLAN, DIVE, "--json", "--hz", hz).stdout).filter((row) => "on" in row);
  expect(switches("7")).toEqual(switches("240"));
});

test("why tells the story of one action, or of one moment", () => {
  const { stdout } = reacher("why", PLAN, DIVE, "--action", "snip");
  expect(stdout).toMatch(
    /counts {3}muted: reel; kept for 120 ms to begin later\n.*nothing {2}muted: reel; kept for 120 ms, and could not begin\n.*nothing {2}menu covers it\n[^]*\n\nsnip: on 2 times, 3 presses did nothing\n$/,
  );
  const rows = rowsOf(reacher("why", PLAN, DIVE, "--action", "surge", "--json").stdout);
  expect(rows.map((row) => row.text)).toContain(
    "swim.left: press 270 ms after the one before: 50 ms too late for 220; it counts as the first",
  );
  expect(reacher("why", PLAN, DIVE, "--action", "surge", "--at", "1").stdout).toContain("surge around 1 ms");
  expect(reacher("why", PLAN, DIVE, "--action", "swim")).toMatchObject({
    status: 2,
    stderr: "--action swim: is no switch; replay shows how it moves\n",
  });
});

describe("a report stands in place of a plan and a trace", () => {
  /** The dive of the demo, as a player would send it. */
  const report = (more: object = {}) => {
    const [, ...lines] = readFileSync(join(root, DIVE), "utf8").trim().split("\n");
    const entries = lines.map((line) => JSON.parse(line) as { t: number });
    const plan = JSON.parse(readFileSync(join(root, PLAN), "utf8"));
    const trace = entries.map((entry) => ({ ...entry, t: entry.t + 60_000 }));
    return file("dive.report.json", {
      reacherReport: 1,
      about: "kick stuck",
      plan,
      overrides: {},
      trace,
      ...more,
    });
  };

  test("replay, why, check, table, draw and compare take it", () => {
    const one = report();
    const rows = reacher("replay", one, "--json", "--action", "kick").stdout.trim().split("\n");
    const before = reacher("replay", PLAN, DIVE, "--json", "--action", "kick").stdout.trim().split("\n");
    expect(rows.map((row) => JSON.parse(row).at - 60_000)).toEqual(before.map((row) => JSON.parse(row).at));
    expect(reacher("why", one, "--action", "kick").stdout).toMatch(/kick: on \d+ times/);
    expect(reacher("table", one).stdout).toBe(reacher("table", PLAN).stdout);
    expect(reacher("check", one).stdout).toMatch(/dive.report.json: 19 actions/);
    expect(reacher("draw", one, "-o", join(folder, "r.svg"), "--from", "60000").stdout).toMatch(
      /r.svg: 20.0 s of/,
    );
    expect(reacher("compare", PLAN, one, one).stdout).toMatch(/no difference in any of 19 actions/);
  });

  test.each(["jest", "vitest", "node"])("a test for %s fails where the rows differ", (runner) => {
    const one = report();
    const made = join(folder, `dive.${runner}.test.mjs`);
    expect(reacher("test", one, "-o", made, "--runner", runner, "--action", "kick").stdout).toMatch(
      new RegExp(`: \\d+ rows for ${runner}\\n$`),
    );
    const source = readFileSync(made, "utf8");
    expect(source).toMatch(/test\("kick stuck", /);
    if (runner !== "node") return;
    const inside = join(root, "node_modules/.cache/report.test.mjs");
    mkdirSync(join(inside, ".."), { recursive: true });
    const run = (text: string) => {
      writeFileSync(inside, text);
      return spawnSync("node", ["--test", inside], { cwd: root, encoding: "utf8" }).status;
    };
    expect(run(source)).toBe(0);
    expect(run(source.replace('"on":true', '"on":false'))).toBe(1);
    rmSync(inside);
  });

  test("what is wrong with it is told with its place, and nothing is written over it", () => {
    expect(reacher("replay", PLAN)).toMatchObject({
      status: 2,
      stderr: expect.stringMatching(/missing the trace of/),
    });
    expect(reacher("replay", report({ trace: [{ t: 1, control: "KeyW" }] })).stderr).toMatch(
      /dive.report.json: trace.0: value is missing/,
    );
    expect(
      reacher("check", report({ plan: { reacherPlan: 1, actions: { a: { kind: "swich" } } } })).stdout,
    ).toMatch(/actions.a.kind \(.*dive.report.json:1:\d+, unknown-kind\)/);
    const one = report();
    expect(reacher("test", one, "-o", one).stderr).toMatch(/which would be lost/);
  });
});

test("taps shows how hands tap, proposes a window, and reads many traces", () => {
  const practice = "examples/kelpline/dives/surge-practice.trace.jsonl";
  const { stdout, status } = reacher("taps", practice);
  expect(status).toBe(0);
  expect(stdout).toMatch(/^KeyD +84 +17 +26 +246 ms /m);
  expect(stdout).toMatch(/^ +340 ms .* 97 % of quick pairs, +21 plain {2}<- proposed$/m);
  expect(stdout).toContain(
    "gapMs 330: it catches 73 of 75 quick pairs, and 20 of 72 that were plain movement",
  );
  const rows = rowsOf(reacher("taps", practice, DIVE, "--control", "KeyD", "--json").stdout);
  expect(rows.map((row) => row.control).filter(Boolean)).toEqual(["KeyD"]);
  expect(rows[0]).toMatchObject({ presses: 90, quick: { pairs: 18, medianMs: 232 } });
  expect(rows.at(-1)).toHaveProperty("proposed");
  expect(reacher("taps", DIVE, "--control", "PadEast").stdout).toBe("PadEast was not pressed\n");
});

test("sticks names a drift, and proposes a zone that hides it", () => {
  const worn = "examples/kelpline/dives/worn-stick.trace.jsonl";
  const { stdout } = reacher("sticks", worn);
  expect(stdout).toContain("0.050 a minute up and right: from (+0.018, -0.008) to (+0.115, +0.065)");
  expect(stdout).toMatch(
    /^ {2}inner {2}0\.17 {2}at rest it stays within 0\.15 of the centre, drift included$/m,
  );
  const [row] = rowsOf(reacher("sticks", worn, "--json").stdout);
  expect(row).toMatchObject({ stick: "PadLeftStick", proposed: { inner: 0.17, outer: 0.11 } });
  expect(Math.hypot(row.rest.last.x, row.rest.last.y) + row.rest.noise).toBeLessThan(row.proposed.inner);
  expect(reacher("sticks", DIVE).stdout).toBe("no stick was moved\n");
});

test("draw writes a curve, a cloud and a timeline, as SVG that names what it shows and as PNG", () => {
  const svg = join(folder, "drawn.svg");
  const text = () => readFileSync(svg, "utf8").replace(/<[^>]+>/g, "\n");
  expect(reacher("draw", PLAN, "-o", svg).stdout).toBe(`${svg}: the response curve of swim\n`);
  expect(text()).toContain("cruise from 0.45");
  reacher(
    "draw",
    "examples/kelpline/dives/worn-stick.trace.jsonl",
    "--stick",
    "PadLeftStick",
    "-o",
    svg,
    "--dark",
  );
  expect(text()).toContain("drift of its rest");
  reacher("draw", DIVE, "--plan", PLAN, "--from", "6000", "--to", "9000", "-o", svg);
  for (const row of ["KeyD", "amber: swim", "amber: surge"]) expect(text()).toContain(`\n${row}\n`);
  expect(text()).not.toContain("KeyQ\n\n\nKeyJ");
  const png = join(folder, "drawn.png");
  expect(reacher("draw", DIVE, "-o", png, "--json").stdout).toContain('"shows"');
  expect(readFileSync(png).subarray(1, 4).toString()).toBe("PNG");
});

test("a player's overrides are checked, and replayed with", () => {
  const slow = "examples/kelpline/plan/slow-hands.overrides.json";
  expect(reacher("check", PLAN, "--overrides", slow)).toMatchObject({
    stdout: expect.stringContaining(`${slow}: all of it applies; nothing new to warn of\n`),
    status: 0,
  });
  const bad = file("bad.overrides.json", {
    reacherOverrides: 1,
    controls: { "kick.main": "LeftShift", "tuck.main": "KeyX" },
    settings: { "surge.gapMs": 900 },
  });
  const { stdout, status } = reacher("check", PLAN, "--overrides", bad);
  expect(status).toBe(1);
  expect(stdout).toContain('"LeftShift" is no control; did you mean ShiftLeft?');
  expect(stdout).toContain("900 is not within 160 and 400; 400 is taken");
  expect(stdout).toMatch(/^warning {2}actions\.snip\.from\.main \(with these overrides, same-control\)$/m);
  const faults = rowsOf(reacher("check", PLAN, "--overrides", bad, "--json").stdout);
  expect(faults[0]).toMatchObject({ place: "controls.kick.main", what: "rejected", line: 1 });
  // With a window of 320 ms the tap that was 50 ms too late is in time; KeyW swims no longer, so that its taps surge no more.
  const surges = (...more: string[]) =>
    rowsOf(reacher("replay", PLAN, DIVE, "--action", "surge", "--json", ...more).stdout).flatMap((row) =>
      row.on ? [row.at] : [],
    );
  expect([surges(), surges("--overrides", slow)]).toEqual([
    [7056, 8646],
    [7056, 7706],
  ]);
  expect(reacher("check", PLAN, "--overrides", PLAN)).toMatchObject({
    status: 2,
    stderr: `${PLAN}: these are no overrides: reacherOverrides is missing; this is a plan\n`,
  });
});

test("table and why tell of one player, and of one situation", () => {
  const teal = reacher("table", PLAN, "--seat", "teal").stdout;
  expect(teal).toContain("ShiftRight -> kick (hold)\n");
  expect(teal).not.toMatch(/Left hand|KeyW/);
  const menu = reacher("table", PLAN, "--mode", "menu", "--json").stdout;
  expect([...new Set(rowsOf(menu).map(({ action }) => action))]).toEqual([
    ...["lamp", "choose", "go", "walk", "back", "pause"],
  ]);
  expect(reacher("table", PLAN).stdout).toMatch(/^ +MouseMove -> sweep \(turns\)$/m);
  const two = "examples/kelpline/dives/two-divers.trace.jsonl";
  const why = (seat: string) =>
    rowsOf(reacher("why", PLAN, two, "--action", "surge", "--seat", seat, "--json").stdout);
  expect(why("teal").filter(({ outcome }) => outcome === "on")).toHaveLength(1);
  expect(why("amber").filter(({ outcome }) => outcome === "on")).toHaveLength(0);
});

test("a replay for two names whose each change is, and a pad that is lost", () => {
  const two = "examples/kelpline/dives/two-divers.trace.jsonl";
  const { stdout } = reacher("replay", PLAN, two, "--action", "kick");
  expect(stdout.split("\n").slice(0, 5)).toEqual([
    "        ms  seat   action  change",
    "     320.0  amber  kick    on",
    "     470.0  teal   kick    on",
    "     970.0  amber  kick    off after 650.0 ms",
    "    1250.0  teal   kick    off after 780.0 ms, cancelled: needs",
  ]);
  const swims = rowsOf(reacher("replay", PLAN, two, "--action", "swim", "--json").stdout);
  const after = swims.filter(({ seat, at }) => seat === "amber" && at > 4300);
  // At rest where its pad was lost, until the pad is back.
  expect(after.map(({ x }) => x)).toEqual([0, expect.closeTo(-0.553, 2), 0]);
});

test("nothing that comes from a file or an argument reaches the terminal as it is, nor makes a drawing that is no XML", () => {
  const evil = "a\u001b[2Jb\u0007c\u009bd\u202ee\r";
  const plan = file("evil.plan.json", {
    reacherPlan: 1,
    name: evil,
    slots: { main: { label: evil } },
    actions: {
      kick: { kind: "switch", label: evil, from: { main: evil } },
      swim: { kind: "vector", from: { main: "PadLeftStick" } },
    },
  });
  const good = file("labelled.plan.json", {
    reacherPlan: 1,
    slots: { main: { label: evil } },
    actions: { swim: { kind: "vector", label: evil, from: { main: "PadLeftStick" } } },
  });
  const trace = file(
    "evil.trace.jsonl",
    [
      { reacherTrace: 1, note: evil, plan: evil },
      { t: 0, control: "PadLeftStickX", value: 1 },
      { t: 5, mute: "swim", reason: evil },
      { t: 9, flag: evil, value: true },
      { t: 10, end: true },
    ]
      .map((line) => JSON.stringify(line))
      .join("\n"),
  );
  // eslint-disable-next-line no-control-regex -- these are what is looked for
  const unsafe = /[\u0000-\u0009\u000b-\u001f\u007f-\u009f\u202e]/;
  for (const args of [
    ["check", plan],
    ["check", plan, "--json"],
    ["check", evil],
    [evil],
    ["table", good],
    ["table", good, "--json"],
    ["table", good, "--mode", evil],
    ["replay", good, trace],
    ["replay", good, trace, "--action", evil],
    ["why", good, trace, "--action", "swim"],
    ["controls", evil],
    ["rebind", good, evil, "KeyA", "--overrides", file("none.json", "{}")],
    ["types", good],
  ]) {
    const { stdout, stderr } = reacher(...args);
    expect([args[0], stdout + stderr]).toEqual([args[0], expect.not.stringMatching(unsafe)]);
  }
  expect(
    reacherIn({ FORCE_COLOR: "1" }, "table", good).stdout.replace(
      new RegExp(`${String.fromCharCode(27)}\\[\\d+m`, "g"),
      "",
    ),
  ).not.toMatch(unsafe);
  const drawing = join(folder, "evil.svg");
  reacher("draw", good, "-o", drawing);
  // eslint-disable-next-line no-control-regex -- these are what is looked for
  expect(readFileSync(drawing, "utf8")).not.toMatch(/[\u0000-\u0008\u000b-\u001f]/);
});

test("controls lists them by family, or those that a word means", () => {
  const all = reacher("controls").stdout;
  expect(all).toMatch(/^Keys\n {2}KeyA +A\n/);
  expect(all).toContain("\nPad triggers, 0 to 1\n  PadLeftTrigger        Pad left trigger\n");
  const names = (...words: string[]) =>
    rowsOf(reacher("controls", "--json", ...words).stdout).map(({ control }) => control);
  expect(names("mouse", "left")).toEqual(["MouseMain"]);
  expect(names("Esc")).toEqual(["Escape"]);
  expect(names("w")).toEqual(["KeyW"]);
  expect(names("left shift")).toEqual(["ShiftLeft"]);
  expect(names("bumper")).toEqual(["PadLeftBumper", "PadRightBumper"]);
  expect(reacher("controls", "zzz")).toMatchObject({
    status: 1,
    stderr: 'no control fits "zzz"; reacher controls lists all of them\n',
  });
});

test("rebind changes a player's file whole or not at all", () => {
  const mine = join(folder, "mine.overrides.json");
  const change = (...more: string[]) =>
    reacher("rebind", PLAN, "kick.main", "KeyX", "--overrides", mine, ...more);
  expect(change()).toMatchObject({
    status: 1,
    stdout: "KeyX does snip too, at snip.main\nnot changed: choose --choice swap, take or both\n",
  });
  expect(change("--choice", "swap").stdout).toContain(
    `${mine}: kick.main is KeyX (the plan has ShiftLeft there)\n`,
  );
  expect(JSON.parse(readFileSync(mine, "utf8"))).toEqual({
    reacherOverrides: 1,
    plan: "kelpline",
    planVersion: 1,
    controls: { "kick.main": "KeyX", "snip.main": "ShiftLeft" },
  });
  expect(reacher("check", PLAN, "--overrides", mine).stdout).toContain("all of it applies");
  const kept = readFileSync(mine, "utf8");
  const [row] = rowsOf(reacher("rebind", PLAN, "pause.main", "none", "--overrides", mine, "--json").stdout);
  expect(row).toMatchObject({ changed: true });
  expect(reacher("rebind", PLAN, "swim.main.up", "KyeZ", "--overrides", mine)).toMatchObject({
    status: 1,
    stdout: 'not changed: controls.swim.main.up: "KyeZ" is no control; did you mean KeyZ?\n',
  });
  writeFileSync(mine, "{");
  expect(change().status).toBe(2);
  expect([kept.length > 0, readFileSync(mine, "utf8")]).toEqual([true, "{"]);
});

test("try ends where its port is taken, or what it is given cannot be read", async () => {
  const taken = createServer();
  await new Promise<void>((done) => taken.listen(0, "127.0.0.1", done));
  const { port } = taken.address() as { port: number };
  const tried = (...args: string[]) =>
    new Promise<[number | null, string]>((done) => {
      const child = spawn("node", [bin, "try", ...args], { cwd: root });
      let said = "";
      child.stderr.on("data", (data) => (said += data));
      child.on("exit", (code) => done([code, said]));
    });
  expect(await tried(PLAN, "--port", String(port))).toEqual([
    2,
    expect.stringContaining("something else listens there"),
  ]);
  expect(await tried(PLAN, PLAN)).toEqual([
    2,
    expect.stringContaining("not JSON; a trace has one whole object on each line"),
  ]);
  expect(await tried(join(folder, "no/such.plan.json"))).toEqual([
    2,
    expect.stringContaining("there is no such file"),
  ]);
  await new Promise((done) => taken.close(done));
});

test("made files: current or stale, never over what they are made from, and made anew at each change", async () => {
  const written = readFileSync(join(root, "examples/plans/platformer.plan.json"), "utf8");
  const plan = file("made.plan.json", written);
  const types = join(folder, "made.plan.d.json.ts");
  const out = join(folder, "made.ts");
  const says = (...args: string[]) => {
    const { status, stdout, stderr } = reacher(...args);
    return [status, (stdout + stderr).trim().replaceAll(folder, "F")];
  };
  expect(says("types", plan, "--beside", "--check")).toEqual([
    1,
    "F/made.plan.d.json.ts: is missing; reacher types F/made.plan.json --beside makes it anew",
  ]);
  expect(says("types", plan, "--beside")[0]).toBe(0);
  expect(says("types", plan, "--beside", "--check")).toEqual([
    0,
    "F/made.plan.d.json.ts: current, types of 7 actions",
  ]);
  writeFileSync(types, "// older");
  expect(says("types", plan, "--beside", "--check")[1]).toContain("is not what its plan makes now");
  expect(says("build", plan, "-o", out)[0]).toBe(0);
  expect(says("build", plan, "-o", out, "--check")[0]).toBe(0);
  expect(says("build", plan, "-o", out, "--check", "--fixed-keys")[0]).toBe(1);
  expect(readFileSync(out, "utf8")).toMatch(/^.*anything in the plan changes\.\n\/\* eslint-disable \*\/\n/);
  for (const args of [["types"], ["build"]]) {
    expect(says(...args, plan, "-o", plan)).toEqual([
      2,
      "F/made.plan.json: this is F/made.plan.json itself, which would be lost; name another file",
    ]);
    expect(says(...args, plan, "-o", join(folder, "none/made.ts"))[1]).toContain("there is no folder F/none");
  }
  chmodSync(out, 0o444);
  expect(says("build", plan, "-o", out, "--fixed-keys")[1]).toContain("it is write-protected");
  expect(readFileSync(plan, "utf8")).toBe(written);

  const watched = join(folder, "watched.js");
  const watching = spawn("node", [bin, "build", plan, "-o", watched, "--watch"]);
  const made = async (text: string) => {
    for (let n = 0; n < 200; n++) {
      if (existsSync(watched) && readFileSync(watched, "utf8").includes(text)) return true;
      await new Promise((done) => setTimeout(done, 50));
    }
    return false;
  };
  expect(await made("seafloor")).toBe(true);
  writeFileSync(plan, written.replace('"name": "seafloor"', '"name": "tide watch"'));
  expect(await made("tide watch")).toBe(true);
  watching.kill("SIGINT");
  expect(await new Promise((done) => watching.on("exit", done))).toBe(0);
}, 60_000);

test("types compile to the plan's own names; schema is JSON Schema with every field described", () => {
  const out = join(folder, "kelpline.ts");
  expect(reacher("types", PLAN, "-o", out).status).toBe(0);
  // The plugin for Vite writes the same beside the plan, and says that the plan itself is of these types.
  const beside = readFileSync(PLAN.replace(/\.json$/, ".d.json.ts"), "utf8");
  const [first, , ...types] = readFileSync(out, "utf8").split("\n");
  expect(first).toMatch(/^\/\/ Made by `reacher types kelpline\.plan\.json`/);
  expect(beside).toContain(types.join("\n"));
  const schema = JSON.parse(reacher("schema").stdout);
  expect(schema.properties.yAxis).toEqual({
    enum: ["up", "down"],
    type: "string",
    description: expect.stringContaining('Default: "up"'),
  });
  expect(schema.definitions.control.anyOf[1].enum).toContain("PadLeftStick");
  const bare: string[] = [];
  const look = (node: any, path: string) => {
    for (const [name, child] of Object.entries<any>(node?.properties ?? {}))
      if (child.description === undefined) bare.push(`${path}.${name}`);
      // Conditions are no controls.
      else if (name === "is") expect(child.type).toBe("string");
    for (const [key, child] of Object.entries(node ?? {}))
      if (typeof child === "object") look(child, `${path}.${key}`);
  };
  look(schema, "");
  expect(bare.filter((path) => !path.endsWith(".kind"))).toEqual([]);
});

describe("compare", () => {
  const plan = (actions: object) => ({ reacherPlan: 1, actions });
  const swim = { up: "KeyW", down: "KeyS", left: "KeyA", right: "KeyD" };
  const surge = (gapMs: number) => ({ kind: "switch", from: { main: { taps: 2, of: "KeyE", gapMs } } });
  const kick = { kind: "switch", from: { main: "ShiftLeft" } };
  const snip = (everyMs: number) => ({
    kind: "switch",
    from: { main: "KeyX" },
    repeat: { everyMs, afterMs: 200 },
  });
  const paced = (base: number) => ({ kind: "vector", from: { main: swim }, pace: { base } });
  const tap = (control: string, from: number, to: number) =>
    [1, 0].map((value) => `${JSON.stringify({ t: value ? from : to, control, value })}\n`).join("");
  const trace = [
    '{"reacherTrace":1}\n',
    tap("KeyW", 100, 300),
    tap("KeyE", 400, 420),
    tap("KeyE", 640, 700),
    tap("ShiftLeft", 1000, 1100),
    tap("ShiftLeft", 1400, 1500),
    tap("KeyX", 2000, 2450),
    '{"t":3000,"end":true}\n',
  ].join("");

  function compared(other: object, ...more: string[]) {
    const actions = { swim: paced(2), surge: surge(200), kick, snip: snip(100) };
    const files = [
      file("one.plan.json", plan(actions)),
      file("other.plan.json", plan({ ...actions, ...other })),
    ];
    return reacher("compare", ...files, file("own.trace.jsonl", trace), ...more);
  }

  const on = (from: number, to: number, ...pulses: number[]) => ({ on: from, off: to, pulses });
  const moves = (vy: number) => expect.objectContaining({ y: 1, vy });

  test.each<[string, object, object[], string]>([
    [
      "a wider window",
      { surge: surge(240) },
      [{ at: 640, action: "surge", first: null, second: on(640, 700) }],
      "1 of 4 actions differs\n  surge  on 0 and 1 time; 1 only by the second\n",
    ],
    [
      "hold and toggle",
      { kick: { ...kick, style: "toggle" } },
      [
        { at: 1000, action: "kick", first: on(1000, 1100), second: on(1000, 1400) },
        { at: 1400, action: "kick", first: on(1400, 1500), second: null },
      ],
      "  kick  on 2 and 1 time; 1 only by the first, 1 differently\n",
    ],
    [
      "pulses that come less often",
      { snip: snip(200) },
      [
        {
          at: 2000,
          action: "snip",
          first: on(2000, 2450, 2000, 2200, 2300, 2400),
          second: on(2000, 2450, 2000, 2200, 2400),
        },
      ],
      "on for 450.0 ms, 4 pulses to 2400.0  on for 450.0 ms, 3 pulses to 2400.0\n",
    ],
    [
      "another pace, for as long as it moves",
      { swim: paced(3) },
      [{ at: 100, action: "swim", ms: 200, first: moves(2), second: moves(3) }],
      "     100.0  swim    (0, +1) at 2  (0, +1) at 3  differs for 0.20 s, most here\n",
    ],
    [
      "an action that only one has, on to the end",
      { lamp: { kind: "switch", style: "toggle", startsOn: true, from: { main: "KeyL" } } },
      [{ at: 0, action: "lamp", first: null, second: { on: 0, pulses: [] } }],
      "       0.0  lamp    -      on to the end\n",
    ],
    ["nothing", {}, [], "own.trace.jsonl, 3.00 s: the same\n\nno difference in any of 4 actions\n"],
  ])("tells of %s", (_, other, differences, text) => {
    const rows = compared(other, "--json").stdout.trim();
    const own = { trace: join(folder, "own.trace.jsonl"), seat: "solo" };
    expect(rows === "" ? [] : rowsOf(rows)).toEqual(differences.map((one) => ({ ...own, ...one })));
    const { stdout, stderr, status } = compared(other);
    expect(stdout).toContain(text);
    expect(stderr).toBe("lamp" in other ? `note: ${join(folder, "one.plan.json")} has no lamp\n` : "");
    expect(status).toBe(0);
  });

  test("the demo's plan with itself, and with another window, either way round", () => {
    const dives = ["night-round", "surge-practice", "two-divers"].map(
      (name) => `examples/kelpline/dives/${name}.trace.jsonl`,
    );
    expect(reacher("compare", PLAN, PLAN, ...dives).stdout).toMatch(/no difference in any of 19 actions\n$/);
    const text = readFileSync(join(root, PLAN), "utf8");
    const wide = file("wide.plan.json", text.replaceAll('"gapMs": 220', '"gapMs": 260'));
    const one = rowsOf(reacher("compare", PLAN, wide, ...dives, "--json").stdout);
    const other = rowsOf(reacher("compare", wide, PLAN, ...dives, "--json").stdout);
    expect(one.filter(({ first }) => first === null).length).toBeGreaterThan(one.length / 2);
    expect(other.map(({ first, second, ...rest }) => ({ ...rest, first: second, second: first }))).toEqual(
      one,
    );
    const slow = "examples/kelpline/plan/slow-hands.overrides.json";
    const own = rowsOf(reacher("compare", PLAN, PLAN, dives[0]!, "--overrides", slow, "--json").stdout);
    expect(new Set(own.map(({ action }) => action))).toEqual(new Set(["swim", "kick", "surge"]));
  });
});

const HEAD = '{"reacherTrace":1}\n';

// Each row: the arguments (a name with * is a file of the test's), the exit code, and what standard error says.
test.each<[string[], Record<string, string>, number, string | RegExp]>([
  [["check", "none.json"], {}, 2, "none.json: there is no such file\n"],
  [["check", "examples"], {}, 2, "examples: this is a folder; name a file in it\n"],
  [["check", "*"], { "*": "" }, 2, /the file is empty; a plan begins with/],
  [
    ["check", "*"],
    { "*": '{ "reacherPlan": 1,\n  "actions": {,} }' },
    2,
    /:2:15: not JSON: value expected\n$/,
  ],
  [
    ["check", "*"],
    { "*": '{ "a": "' + "x".repeat(2_000_000) + '" }' },
    2,
    /has 2\.0 MB, and the largest plan has 1 MB; is it a trace\?\n$/,
  ],
  [
    ["table", "*"],
    { "*": '{ "reacherPlan": 1, "actions": { "__proto__": {} } }' },
    1,
    /:1:\d+: actions: "__proto__" is reserved\n$/,
  ],
  [["replay", PLAN, "none.jsonl"], {}, 2, "none.jsonl: there is no such file\n"],
  [["replay", PLAN, "*"], { "*": "" }, 2, /: line 1: the trace is empty; it begins with/],
  [["replay", PLAN, "*"], { "*": HEAD + "[]\n" }, 2, /: line 2: \[\] is no object; a line is like/],
  [
    ["replay", PLAN, "*"],
    { "*": HEAD + '{"t":2,"end":true}\n{"t":1,"end":true}\n' },
    2,
    /: line 3: t 1 comes after 2; a trace is in order of t\n$/,
  ],
  [["replay", PLAN, PLAN], {}, 2, /: line 1: not JSON; a trace has one whole object on each line\n$/],
  [
    ["replay", PLAN, DIVE, "--action", "kcik"],
    {},
    2,
    /^--action kcik: the plan has no such action, it has swim, .*; did you mean kick\?\n$/,
  ],
  [
    ["replay", PLAN, DIVE, "--hz", "0"],
    {},
    2,
    /argument '0' is invalid\. It is a number from 1 to 100000\.\n/,
  ],
  [
    ["replay", PLAN, DIVE, "--expect", "*"],
    { "*": "no rows" },
    2,
    /line 1: not JSON; it takes the rows of an earlier replay --json\n$/,
  ],
  [
    ["taps", DIVE, "--control", "KyeD"],
    {},
    2,
    /^--control KyeD: there is no such control; did you mean KeyD/,
  ],
  [
    ["taps", DIVE, "--control", "PadLeftStick"],
    {},
    2,
    /it is not pressed as one; take a key, a button or one/,
  ],
  [["draw", PLAN, "-o", "x.gif"], {}, 2, "-o x.gif: the name has to end in .svg or .png\n"],
  [["draw", PLAN, "-o", "x.svg", "--action", "lamp"], {}, 2, /it has no stick; these have: swim, aim/],
  [["draw", DIVE, "-o", "x.svg", "--from", "9e9"], {}, 2, /it has nothing from 9000000000 ms on/],
  [
    ["why", PLAN, DIVE, "--action", "kick", "--seat", "tael"],
    {},
    2,
    /the plan has amber, teal; did you mean teal/,
  ],
  [["compare", PLAN, PLAN], {}, 2, /missing required argument 'traces'/],
  [["compare", PLAN, DIVE, DIVE], {}, 2, /night-round\.trace\.jsonl: this is a trace, no plan/],
  [
    ["table", PLAN, "--mode", "meun"],
    {},
    2,
    /^--mode meun: the plan has dive, bank, menu; did you mean menu/,
  ],
  [["types", PLAN, "-o", "examples"], {}, 2, "examples: this is a folder; name a file in it\n"],
  [["chekc", PLAN], {}, 2, /unknown command 'chekc'\n\(Did you mean check\?\)/],
  [["check"], {}, 2, /missing required argument 'plan'/],
  [
    ["replay", PLAN, "*"],
    {
      "*":
        HEAD +
        '{"t":2,"control":"LeftShift","value":1}\n{"t":3,"flag":"warm","value":true}\n{"t":4,"enter":"dock"}\n',
    },
    0,
    "note: flag warm: not in this plan, skipped 1 time\nnote: mode dock: not in this plan, skipped 1 time\nnote: 1 event of unknown controls or pads ignored\n",
  ],
])("bad input %#: %j", (args, files, code, message) => {
  const paths = Object.fromEntries(
    Object.entries(files).map(([name, content]) => [name, file("input.json", content)]),
  );
  const { stderr, status } = reacher(...args.map((arg) => paths[arg] ?? arg));
  expect(stderr).toEqual(typeof message === "string" ? message : expect.stringMatching(message));
  expect(stderr).not.toMatch(/ {4}at /);
  expect(status).toBe(code);
});

test("a pipe that is closed early ends the command quietly", async () => {
  const long = file(
    "long.jsonl",
    HEAD +
      Array.from({ length: 40_000 }, (_, n) => `{"t":${n * 5},"control":"KeyF","value":${n % 2}}`).join("\n"),
  );
  const child = spawn("node", [bin, "replay", PLAN, long, "--json"], { cwd: root });
  let stderr = "";
  child.stderr.on("data", (data) => (stderr += data));
  child.stdout.once("data", () => child.stdout.destroy());
  const code = await new Promise((done) => child.on("close", done));
  expect([code, stderr]).toEqual([0, ""]);
});

test("standard input in place of a plan or a trace, comments in a plan, and completion", () => {
  const piped = (input: string, ...args: string[]) =>
    spawnSync("node", [bin, ...args], { cwd: root, encoding: "utf8", env: ENVIRONMENT, input });
  const plan = readFileSync(join(root, PLAN), "utf8");
  const dive = readFileSync(join(root, DIVE), "utf8");
  expect(piped(plan, "check", "-").stdout).toContain("-: 19 actions");
  expect(piped(plan.replace('"KeyW"', '"LeftShift"'), "check", "-").stdout).toMatch(/-:\d+:\d+/);
  expect(piped(dive, "replay", PLAN, "-").stdout.split("\n").slice(0, -2)).toEqual(
    reacher("replay", PLAN, DIVE).stdout.split("\n").slice(0, -2),
  );
  expect(piped("not a trace", "replay", PLAN, "-").stderr).toMatch(/^-: line 1/);
  expect(reacher("try", "-").stderr).toContain("standard input is no file");

  // The place of a fault stays what it is in the file.
  const text =
    '// What hops.\n{ "reacherPlan": 1, /* one action */\n  "actions": { "hop": { "kind": "switch", "from": { "main": "LeftShift" } } } }\n';
  const commented = file("hop.plan.jsonc", text);
  expect(reacher("check", commented).stdout).toContain("hop.plan.jsonc:3:");
  expect(reacher("check", file("hop.plan.json", text)).stderr).toContain("hop.plan.json:1:1: not JSON");
  writeFileSync(commented, text.replace("LeftShift", "ShiftLeft"));
  expect(reacher("types", commented, "--beside").status).toBe(0);
  expect(readFileSync(join(folder, "hop.plan.d.jsonc.ts"), "utf8")).toContain('hop: "switch"');
  expect(reacher("try", commented).stderr).toContain("would lose the comments");

  const script = reacher("completion", "bash").stdout;
  const complete = (...words: string[]) =>
    spawnSync(
      "bash",
      [
        "-c",
        `${script}\nCOMP_WORDS=(reacher ${words.join(" ")}); COMP_CWORD=${words.length}; _reacher; echo "\${COMPREPLY[@]}"`,
      ],
      { encoding: "utf8" },
    ).stdout.trim();
  expect(complete("rep")).toBe("replay");
  expect(complete("replay", "--ex")).toBe("--expect");
  for (const shell of ["zsh", "fish"])
    expect(reacher("completion", shell).stdout).toMatch(/compare[^]*what changes between two plans/);
  expect(reacher("completion", "tcsh").status).toBe(2);
});

test("in a terminal that is too narrow, tables and reasons go on below; in a pipe each stays one line", () => {
  const shown = (columns: number, ...args: string[]) =>
    runCommand(args, { ...ENVIRONMENT, NO_COLOR: "1" }, columns).stdout.split("\n");
  const why = shown(70, "why", PLAN, DIVE, "--action", "surge");
  expect(Math.max(...why.map(({ length }) => length))).toBeLessThanOrEqual(70);
  expect(why[why.findIndex((line) => /1955\.5/.test(line)) + 1]).toMatch(/^ {21}\S/);
  const table = shown(100, "table", PLAN);
  const actions = table.slice(table.indexOf("Actions"));
  expect(Math.max(...actions.map(({ length }) => length))).toBeLessThanOrEqual(100);
  expect(actions.join("\n")).toMatch(/swim +vector +KeyW KeyA.*\n {20,}\S/);
  expect(shown(400, "table", PLAN)).toEqual(reacher("table", PLAN).stdout.split("\n"));
});
