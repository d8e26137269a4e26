/** What must and what must not compile, and which types can be named: the compiler itself is asked. */
import { readFileSync } from "node:fs";
import { join } from "node:path";
import ts from "typescript";
import { allControls } from "reacher";
import { complaints, completions, question, root } from "./support/compiler";

const GAME = (more: { swim?: string; kick?: string; use?: string }) => `
import { createInputLayer, definePlan } from "reacher";
const plan = definePlan({
  reacherPlan: 1,
  flags: { hasAir: true },
  actions: {
    swim: { kind: "vector", from: { main: { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyD" } } ${more.swim ?? ""} },
    depth: { kind: "axis", from: { main: { minus: "KeyQ", plus: "KeyE" } } },
    kick: { kind: "switch", from: { main: "ShiftLeft" } ${more.kick ?? ""} },
  },
});
const input = createInputLayer(plan);
const { swim, depth, kick } = input.step(0);
export const used: [number, number, boolean, string | null] = [swim.x, depth.value, kick.on, swim.gait];
${more.use ?? ""}
`;

/** Rows of a table, each with its question. */
const asked = <Row extends readonly unknown[]>(codeOf: (...row: Row) => string, rows: readonly Row[]) =>
  rows.map((row) => [...row, question(codeOf(...row))] as const);

const OVERRIDES = (address: string) =>
  `input.setOverrides({ reacherOverrides: 1, controls: { "${address}": "KeyZ" } });`;

test.each(
  asked<[Parameters<typeof GAME>[0], RegExp | undefined]>(GAME, [
    [{}, undefined],
    [{ use: `input.setFlag("hasAir", false); input.on("kick", "on", (t: number) => t);` }, undefined],
    [{ use: `input.step(1).swmi;` }, /'swmi' does not exist/],
    [{ use: `swim.on;` }, /'on' does not exist on type 'VectorReading'/],
    [{ use: `kick.x;` }, /'x' does not exist on type 'SwitchReading'/],
    [
      { use: `input.setFlag("hasAri", true);` },
      /"hasAri"' is not assignable to parameter of type '"hasAir"'/,
    ],
    [{ use: `input.on("swim", "on", () => {});` }, /"swim"' is not assignable to parameter of type '"kick"'/],
    [{ kick: `, stlye: "hold"` }, /'stlye' does not exist/],
    [{ kick: `, style: "holds"` }, /"holds"' is not assignable/],
    [{ kick: `, gaits: {}` }, /'gaits' does not exist/],
    [{ swim: `, pace: { unit: "m/s" }` }, /'base' is missing/],
    [{ use: `input.setSwitch("kick", false);`, swim: `, lingerMs: 80` }, undefined],
    [{ use: `input.setSwitch("kick", true);` }, /No overload matches/],
    [
      {
        kick: `, style: "either"`,
        use: `input.setSwitch("kick", true); input.seat("solo").setSwitch("kick", true);`,
      },
      undefined,
    ],
    [{ kick: `, needs: ["swim.upLeft", { is: "not depth.plus", forMs: 100 }]` }, undefined],
    [{ kick: `, needs: { is: "swim.each", forMs: 100 }` }, /"swim.each"' is not assignable/],
    // The likeliest mistakes: the message ends in the name that was meant.
    [{ kick: `, needs: "hasAri"` }, /"hasAri"' .* Did you mean '"hasAir"'\?$/],
    [{ swim: `, from: { main: "PadLeftStik" }` }, /"PadLeftStik"' .* Did you mean '"PadLeftStick"'\?$/m],
    [{ swim: `, from: { main: { up: "keyW" } }` }, /"keyW"' .* Did you mean '"KeyW"'\?$/m],
    // A plan without named slots has those that its actions use.
    [{ use: OVERRIDES("swim.main.up") }, undefined],
    [{ use: OVERRIDES("swim.mian.up") }, /'"swim.mian.up"' does not exist/],
    [{ use: OVERRIDES("swmi.main.up") }, /'"swmi.main.up"' does not exist/],
  ]),
)("%j", (_, complaint, answer) => {
  const found = answer().join("\n");
  if (complaint === undefined) expect(found).toBe("");
  else expect(found).toMatch(complaint);
});

const OWN = (from: string) => `
import { definePlan } from "reacher";
export const plan = definePlan({
  reacherPlan: 1,
  controls: { Fire: "button", Thumb: { kind: "stick", device: "touch" }, Tilt: "amount", Pedal: "trigger" },
  actions: {
    fire: { kind: "switch", from: { main: { taps: 2, of: "Fire" }, spare: "ThumbUp" } },
    gas: { kind: "axis", from: { main: "Pedal", spare: { plus: "Pedal" } } },
    look: { kind: "turn", from: { main: { use: "Tilt", perUnit: 2 } } },
    ${from}
  },
});`;

test.each(
  asked<[string, RegExp | undefined]>(OWN, [
    [`swim: { kind: "vector", from: { main: "Thumb" } }`, undefined],
    [`swim: { kind: "vector", from: { main: "Tilt" } }`, /"Tilt"' is not assignable/],
    [`swim: { kind: "vector", from: { main: "Thmub" } }`, /"Thmub"' .* Did you mean '"Thumb"'\?$/m],
    [`hop: { kind: "switch", from: { main: "Fier" } }`, /"Fier"' is not assignable/],
    [`hop: { kind: "switch", from: { main: "Thumb" } }`, /"Thumb"' is not assignable/],
  ]),
)("own controls are names like others: %s", (_, complaint, answer) => {
  const found = answer().join("\n");
  if (complaint === undefined) expect(found).toBe("");
  else expect(found).toMatch(complaint);
});

/** A plan that names everything, and a game that uses it; one thing is put in place of another. */
const NAMED = `
import { createInputLayer, definePlan } from "reacher";
const plan = definePlan({
  reacherPlan: 1,
  slots: { main: { label: "Keys" }, pad: { device: "pad" } },
  flags: { grounded: { start: true, lingerMs: 100 }, wet: false },
  numbers: { easy: 2.4, fast: 4.8 },
  modes: { field: {}, menu: { covers: "all" } },
  start: ["field"],
  seats: { amber: { slots: ["main"] }, teal: { slots: ["pad"] } },
  actions: {
    swim: {
      kind: "vector",
      in: ["field"],
      from: { main: { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyD" }, pad: "PadLeftStick" },
      gaits: { drift: 0.05, race: 0.9 },
      pace: { base: "easy", rules: [{ when: ["kick", "not wet"], set: "fast" }, { when: "walk", times: 2 }] },
    },
    walk: { kind: "axis", ends: ["left", "right"], from: { main: { left: "KeyJ", right: "KeyL" }, pad: "PadDpadX" } },
    kick: { kind: "switch", from: { main: ["ShiftLeft", { taps: 2, of: "swim.each" }], pad: "PadButton17" }, needs: "not wet" },
    hop: { kind: "switch", from: { main: { flick: "walk.left" } }, beginsIf: "grounded", spends: "grounded" },
    look: { kind: "turn", from: { main: { use: "MouseMove", perPixel: 1 } }, pace: { rules: [{ when: "kick", times: 0.5 }] } },
  },
});
const input = createInputLayer(plan);
const gait: "drift" | "race" | null = input.step(0).swim.gait;
input.enter("menu");
input.seat("teal").setNumber("fast", 9);
input.setOverrides({ reacherOverrides: 1, controls: { "swim.main.up": "KeyZ" }, settings: { "kick.style": "toggle" } });
input.drive("swim", [0, 1], "current");
const loose: import("reacher").Overrides = JSON.parse("{}");
input.setOverrides(loose);
export const used = gait;
`;

test.each(
  asked<[string, string, RegExp]>(
    (was, is) => NAMED.replace(was, () => is),
    [
      ["", "", /^$/],
      ['main: ["ShiftLeft"', 'main: ["LeftShift"', /"LeftShift"' is not assignable/],
      ['up: "KeyW"', 'up: "KeyQQ"', /"KeyQQ"' is not assignable/],
      ['pad: "PadLeftStick"', 'pad: "PadLeftTrigger"', /"PadLeftTrigger"' is not assignable/],
      ['pad: "PadDpadX"', 'pad: "PadDpad"', /"PadDpad"' is not assignable/],
      ['use: "MouseMove"', 'use: "MouseMain"', /"MouseMain"' is not assignable/],
      ['"swim.each"', '"swim.rigth"', /Did you mean '"swim.right"'/],
      ['"walk.left"', '"walk.minus"', /"walk.minus"' is not assignable/],
      ["from: { main: { flick", "from: { mian: { flick", /'mian' does not exist/],
      ['in: ["field"]', 'in: ["feild"]', /"feild"' is not assignable/],
      ['start: ["field"]', 'start: ["feild"]', /"feild"' is not assignable/],
      ['slots: ["pad"]', 'slots: ["pda"]', /"pda"' is not assignable/],
      ['needs: "not wet"', 'needs: "not wte"', /"not wte"' is not assignable/],
      ['beginsIf: "grounded"', 'beginsIf: "look"', /"look"' is not assignable/],
      ['spends: "grounded"', 'spends: "kick"', /"kick"' is not assignable/],
      ['set: "fast"', 'set: "fsat"', /"fsat"' is not assignable to type 'number \| "easy" \| "fast"/],
      ['ends: ["left", "right"]', 'ends: ["left"]', /Source has 1 element/],
      [
        'input.enter("menu")',
        'input.enter("mnu")',
        /"mnu"' is not assignable to parameter of type '"field" \| "menu"'/,
      ],
      ['seat("teal")', 'seat("tael")', /"tael"' is not assignable/],
      ['setNumber("fast"', 'setNumber("fsat"', /"fsat"' is not assignable/],
      ['"swim.main.up": ', '"swmi.main.up": ', /"swmi.main.up"' does not exist/],
      ['"swim.main.up": ', '"swim.mian.up": ', /"swim.mian.up"' does not exist/],
      ['"kick.style": ', '"kcik.style": ', /"kcik.style"' does not exist/],
      ['drive("swim", [0, 1]', 'drive("swim", true', /'true' is not assignable/],
      ['drive("swim", [0, 1]', 'drive("look", 1', /"look"' is not assignable/],
      ['"drift" | "race" | null =', '"drift" | null =', /"race"' is not assignable/],
    ],
  ),
)("typed names: %s as %s", (_was, _is, complaint, answer) => {
  expect(answer().join("\n")).toMatch(complaint);
});

test("the controls' types have the names of the catalogue, and no others", () => {
  const names = allControls().map(({ name }) => JSON.stringify(name));
  const others = "`PadButton${number}` | `PadAxis${number}`";
  const code = (more: string) => `
import type { ControlName } from "reacher";
export const all: ControlName[] = [${names.join(", ")}${more}];
export const none: [Exclude<ControlName, ${names.join(" | ")} | ${others}>] extends [never] ? true : false = true;`;
  expect(complaints(code(""))).toEqual([]);
  expect(complaints(code(', "KeyQQ"'))).toHaveLength(1);
});

test("an editor offers the fields of the kind at hand, and the names that fit", () => {
  const plan = (inside: string) => `
import { definePlan } from "reacher";
definePlan({ reacherPlan: 1, flags: { wet: false }, actions: {
  swim: { kind: "vector", from: { main: "PadLeftStick" } },
  kick: ${inside},
} });`;
  const fields = completions(plan(`{ kind: "switch", from: { main: "KeyE" }, ‸ }`));
  expect(fields).toEqual(expect.arrayContaining(["needs", "bufferMs", "style"]));
  expect(fields).not.toEqual(expect.arrayContaining(["gaits"]));
  expect(fields.filter((one) => ["gaits", "ends", "pace", "perPixel", "directions"].includes(one))).toEqual(
    [],
  );
  const axis = completions(plan(`{ kind: "axis", from: { main: { minus: "KeyQ", plus: "KeyE" } }, ‸ }`));
  expect(axis).toEqual(expect.arrayContaining(["gaits", "ends", "pace"]));
  expect(axis.filter((one) => ["needs", "bufferMs", "directions"].includes(one))).toEqual([]);
  const controls = completions(plan(`{ kind: "switch", from: { main: "‸" } }`));
  expect(controls).toEqual(expect.arrayContaining(["KeyE", "PadSouth", "swim.up", "swim.each"]));
  expect(controls).not.toContain("PadLeftStick");
  expect(completions(plan(`{ kind: "switch", from: { main: "KeyE" }, needs: "‸" }`))).toEqual(
    expect.arrayContaining(["wet", "not wet", "swim"]),
  );
});

test("whatever a public type speaks of can be imported from an entry of the package", () => {
  const folder = join(root, "packages/reacher");
  const { exports } = JSON.parse(readFileSync(join(folder, "package.json"), "utf8"));
  // A file of data has no types.
  const entries = Object.values<{ types?: string }>(exports).flatMap(({ types }) =>
    types === undefined ? [] : [join(folder, types)],
  );
  const program = ts.createProgram(entries, {
    skipLibCheck: true,
    target: ts.ScriptTarget.ES2022,
    module: ts.ModuleKind.ESNext,
    moduleResolution: ts.ModuleResolutionKind.Bundler,
    types: [],
  });
  const checker = program.getTypeChecker();
  const meant = (symbol: ts.Symbol) =>
    symbol.flags & ts.SymbolFlags.Alias ? checker.getAliasedSymbol(symbol) : symbol;
  /** What a module exports, and what its namespaces do. */
  const exportsOf = (module: ts.Symbol): ts.Symbol[] =>
    checker
      .getExportsOfModule(module)
      .map((symbol) => meant(symbol))
      .flatMap((symbol) => (symbol.flags & ts.SymbolFlags.ValueModule ? exportsOf(symbol) : [symbol]));
  const exported = new Set(
    entries.flatMap((entry) => exportsOf(checker.getSymbolAtLocation(program.getSourceFile(entry)!)!)),
  );
  // What made modules import is internal.
  const named = entries
    .filter((entry) => !entry.includes("/built/"))
    .flatMap((entry) =>
      checker.getExportsOfModule(checker.getSymbolAtLocation(program.getSourceFile(entry)!)!),
    );
  const isValue = (symbol: ts.Symbol) => (meant(symbol).flags & ts.SymbolFlags.Value) !== 0;
  const counted = [true, false].map(
    (value) => new Set(named.filter((one) => isValue(one) === value).map(({ name }) => name)),
  );
  expect(counted[0]!.size).toBeLessThanOrEqual(100);
  expect(counted[1]!.size).toBeLessThanOrEqual(125);
  const own = (symbol: ts.Symbol) =>
    (symbol.declarations ?? []).filter((one) => one.getSourceFile().fileName.startsWith(`${folder}/dist/`));
  const missing = new Set<string>();
  const look = (node: ts.Node, whose: string): void => {
    const name = ts.isTypeReferenceNode(node)
      ? node.typeName
      : ts.isExpressionWithTypeArguments(node)
        ? node.expression
        : undefined;
    const found = name && checker.getSymbolAtLocation(name);
    const symbol = found && meant(found);
    const isParameter = symbol !== undefined && (symbol.flags & ts.SymbolFlags.TypeParameter) !== 0;
    if (symbol !== undefined && !isParameter && !exported.has(symbol) && own(symbol).length > 0)
      missing.add(`${whose} speaks of ${symbol.name}`);
    ts.forEachChild(node, (child) => look(child, whose));
  };
  for (const symbol of exported) for (const node of own(symbol)) look(node, symbol.name);
  expect(exported.size).toBeGreaterThan(100);
  expect([...missing]).toEqual([]);
});
