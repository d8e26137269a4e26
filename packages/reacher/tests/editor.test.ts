/** A player's changes one after another, and where they are kept. */
import { mkdtemp, readdir, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import * as fc from "fast-check";
import { applyOverrides, createInputLayer, type InputLayer, type Overrides, type Plan } from "reacher";
import {
  capture,
  controlAt,
  editOverrides,
  memoryStore,
  openProfiles,
  overridesText,
  readOverrides,
  upToDate,
  type OverridesEditor,
  type ProfileFault,
  type TextStore,
} from "reacher/rebind";
import { resolvePlan } from "reacher/internal";
import { fileStore } from "reacher/stores/file";
import { kelplineForTwo } from "./plans";
import { runs } from "./runs";

const plan = kelplineForTwo();
const missing = (editor: OverridesEditor) => {
  const { actions } = resolvePlan(editor.plan);
  const swim = actions.find(({ name }) => name === "swim") as any;
  const ends = new Set(swim.ends.map(({ end }: { end: string }) => end));
  const pause = actions.find(({ name }) => name === "pause") as any;
  return (swim.sticks.length === 0 && ends.size < 4) || pause.entries.length === 0;
};

test("after any captures, clears, swaps, undos and resets nothing required is bare, and undoing all gives the plan", async () => {
  const address = fc.constantFrom(
    ...[
      "swim.main.up",
      "swim.main.left",
      "swim.spare.up",
      "swim.pad",
      "kick.main",
      "pause.main",
      "pause.spare",
    ],
    ...[
      "pause.pad",
      "snip.main",
      "flash.main.1.third",
      "flash.pad",
      "surge.pad",
      "grab.main",
      "go.main.up",
      "x.y",
    ],
  );
  const key = fc.constantFrom(
    "KeyW",
    "KeyX",
    "KeyZ",
    "ShiftLeft",
    "Backspace",
    "Escape",
    "PadSouth",
    "PadNorth",
  );
  const doing = fc.oneof(
    fc.record({
      do: fc.constant("capture"),
      address,
      key,
      choice: fc.constantFrom("swap", "take", "both", "refuse"),
    }),
    fc.record({ do: fc.constant("clear"), address }),
    fc.record({ do: fc.constant("undo") }),
    fc.record({
      do: fc.constant("reset"),
      address: fc.oneof(address, fc.constantFrom("*", "*.main", "swim", "pause")),
    }),
    fc.record({
      do: fc.constant("set"),
      address: fc.constantFrom("bounceMs", "swapSticks", "holds", "kick.style", "surge.gapMs", "x.style"),
      value: fc.constantFrom(30, 500, true, "toggle", "either", undefined),
    }),
  );
  await fc.assert(
    fc.asyncProperty(fc.array(doing, { maxLength: 12 }), async (list) => {
      const editor = editOverrides(plan);
      const first = JSON.stringify(editor.overrides);
      const input = createInputLayer(plan) as unknown as InputLayer;
      let t = 0;
      for (const one of list as any[]) {
        if (one.do === "capture") {
          let open = 0;
          const watched = {
            address: one.address,
            onProgress: ({ state }: any) => state === "over" && open--,
          };
          try {
            const older = capture(input, watched);
            const caught = capture(input, watched);
            open += 2;
            expect([older.progress.state, caught.progress.state]).toEqual(["over", "listening"]);
            for (const value of [1, 0]) input.feed({ t: (t += 5), control: one.key, value });
            caught.cancel();
            const { control } = await caught.done;
            if (control !== null) editor.rebind(one.address, control, one.choice);
          } catch (error) {
            expect(String(error)).toMatch("is no address");
          }
          expect(input.intercepted).toBe(false);
        } else if (one.do === "clear") editor.clear(one.address);
        else if (one.do === "undo") editor.undo();
        else if (one.do === "reset") editor.reset(one.address);
        else editor.set(one.address, one.value);
        expect(missing(editor)).toBe(false);
        expect(controlAt(editor.plan, "snip.main")).not.toBe("Escape");
        const again = editOverrides(plan, readOverrides(overridesText(editor.overrides)));
        expect([again.overrides, again.plan]).toEqual([editor.overrides, editor.plan]);
      }
      while (editor.undo());
      expect(JSON.stringify(editor.overrides)).toBe(first);
      expect(editor.plan).toEqual(applyOverrides(plan, { reacherOverrides: 1 }).plan);
    }),
    runs(20),
  );
});

test("a dragged slider is one change, a value out of range is refused, and each change is told", () => {
  const editor = editOverrides(plan);
  const told: unknown[] = [];
  const off = editor.onChange(({ settings }) => told.push(settings));
  for (const value of [230, 240, 250]) editor.set("surge.gapMs", value);
  expect([editor.undoable, told.length]).toEqual([1, 3]);
  expect(editor.set("surge.gapMs", 90)?.message).toBe("90 is not within 160 and 400; 160 is taken");
  expect(editor.overrides.settings).toEqual({ "surge.gapMs": 250 });
  off();
  expect([editor.undo(), editor.undo(), editor.overrides.settings, told.length]).toEqual([
    true,
    false,
    {},
    3,
  ]);
  // After an undo the same slider begins a change of its own.
  editor.set("surge.gapMs", 260);
  expect([editor.undoable, editor.undo(), editor.overrides.settings]).toEqual([1, true, {}]);
});

test("a preset is one change, of which what does not fit is told and the rest taken", () => {
  const editor = editOverrides(plan);
  const { faults } = editor.merge({
    controls: { "kick.main": "KeyV", "go.main.up": "KeyT" },
    settings: { holds: "toggle" },
  });
  expect(faults.map(({ place }) => place)).toEqual(["controls.go.main.up"]);
  expect([editor.overrides.controls, editor.overrides.settings, editor.undoable]).toEqual([
    { "kick.main": "KeyV" },
    { holds: "toggle" },
    1,
  ]);
  expect(() => editor.replace({ reacherPlan: 1 })).toThrow("this is a plan");
  editor.replace({ reacherOverrides: 1, settings: { "kick.style": "either" } });
  expect([editor.undo(), editor.overrides.controls]).toEqual([true, { "kick.main": "KeyV" }]);
});

test("a preset that clashes with others changes nothing until it is told what to do", () => {
  const other = editOverrides(plan).rebind("kick.main", "KeyV").overrides;
  const editor = editOverrides(plan, other);
  const preset = { controls: { "tuck.main": "KeyV" } };
  expect(editor.merge(preset)).toMatchObject({
    changed: false,
    clashes: [{ action: "kick", address: "kick.main", control: "KeyV" }],
    faults: [],
  });
  expect([editor.undoable, editor.overrides]).toEqual([0, other]);
  expect(editor.merge(preset, "take").changed).toBe(true);
  expect(editor.overrides.controls).toEqual({ "kick.main": null, "tuck.main": "KeyV" });
  editor.undo();
  expect(editor.merge(preset, "both").clashes).toHaveLength(1);
  expect(editor.overrides.controls).toEqual({ "kick.main": "KeyV", "tuck.main": "KeyV" });
  // Keys that change places within a preset meet nobody.
  const swapped = editOverrides(plan).merge({
    controls: { "kick.main": controlAt(plan, "tuck.main"), "tuck.main": controlAt(plan, "kick.main") },
  });
  expect(swapped).toMatchObject({ changed: true, clashes: [] });
  expect(() => editor.merge(preset, "swap" as never)).toThrow(/"swap" is no choice for a preset/);
});

test("in a draft a required key may be cleared on the way, and it says what is missing", () => {
  const game: Plan = {
    reacherPlan: 1,
    actions: {
      go: {
        kind: "vector",
        required: true,
        from: { main: { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyD" }, spare: { up: "ArrowUp" } },
      },
      jump: { kind: "switch", required: true, from: { main: "Space", pad: "PadSouth" } },
    },
  };
  expect(editOverrides(game).clear("go.main.left").changed).toBe(false);
  const draft = editOverrides(game, undefined, { draft: true });
  expect([draft.missing, draft.finished]).toEqual([[], true]);
  for (const address of ["go.main.left", "go.main.up", "jump.main"])
    expect(draft.clear(address).changed).toBe(true);
  // Up has its spare key, and jump its button.
  expect([draft.missing, draft.finished]).toEqual([["go.main.left"], false]);
  draft.clear("jump.pad");
  draft.clear("go.spare.up");
  expect(draft.missing).toEqual(["go.main.up", "go.main.left", "go.spare.up", "jump.main", "jump.pad"]);
  // What is saved is applied but for what lacks a key, and that is told.
  const input = createInputLayer(game);
  const faults = input.setOverrides({ ...draft.overrides, settings: { "jump.style": "toggle" } });
  expect(faults.map(({ message }) => message)).toContain("jump is required; this would leave it bare");
  expect(faults.every(({ place }) => /^controls\.(go|jump)\./.test(place))).toBe(true);
  expect(input.own.actions["jump"]).toMatchObject({ style: "toggle" });
  // It goes on where it was left.
  const again = editOverrides(game, draft.overrides, { draft: true });
  expect(again.missing).toEqual(draft.missing);
  again.rebind("go.main.left", "KeyQ");
  again.rebind("go.main.up", "KeyE");
  again.rebind("jump.pad", "PadEast");
  expect([again.finished, editOverrides(game, again.overrides).faults]).toEqual([true, []]);
  expect(() => editOverrides(game, undefined, { draft: 1 as never })).toThrow(
    /1 for draft; give true or false/,
  );
});

test("a hundred changes can be undone; a fault that was there before is not told again", () => {
  const small: Plan = {
    reacherPlan: 1,
    actions: { kick: { kind: "switch", from: { main: "KeyK" }, player: { tapMs: [100, 400] } } },
  };
  const editor = editOverrides(small, { reacherOverrides: 1, controls: { "go.main.up": "KeyT" } });
  expect(editor.faults.map(({ place }) => place)).toEqual(["controls.go.main.up"]);
  expect(editor.merge({ settings: { "kick.style": "either" } })).toMatchObject({ changed: true, faults: [] });
  expect(editor.overrides).toMatchObject({
    controls: { "go.main.up": "KeyT" },
    settings: { "kick.style": "either" },
  });
  for (let n = 0; n < 101; n++) editor.rebind("kick.main", n % 2 ? "KeyV" : "KeyB");
  expect(editor.undoable).toBe(100);
  while (editor.undo());
  expect(editor.overrides.settings).toEqual({ "kick.style": "either" });
});

test("a profile that is removed is the plan's own again; another's removal changes nothing; saves go one after another", async () => {
  const store = memoryStore();
  const ends: string[] = [];
  const profiles = await openProfiles({
    store: { ...store, watch: () => () => void ends.push("watching") },
    plan,
  });
  await profiles.save(withGap(300));
  await profiles.remove("somebody");
  expect(profiles.overrides.settings).toEqual({ "surge.gapMs": 300 });
  await Promise.all([profiles.save(withGap(310)), profiles.use("teal"), profiles.save(withGap(320))]);
  expect(readOverrides((await store.read("player"))!).settings).toEqual({ "surge.gapMs": 320 });
  await profiles.use("player");
  await profiles.remove("player");
  expect([profiles.overrides, await store.read("player")]).toEqual([
    editOverrides(plan).overrides,
    undefined,
  ]);
  profiles.close();
  expect(ends).toEqual(["watching"]);
});

test("older overrides go by the names of today; what is written by both names is the newer one's", () => {
  const renamed = {
    ...plan,
    version: 3,
    actions: { ...plan.actions, kick: { ...plan.actions["kick"], was: ["sprint"] } },
  } as Plan;
  const old: Overrides = {
    reacherOverrides: 1,
    plan: "kelpline",
    planVersion: 1,
    controls: { "sprint.main": "KeyV", "sprint.pad": "PadNorth", "kick.pad": "PadWest", "gone.main": "KeyT" },
    settings: { "sprint.style": "toggle", holds: "toggle" },
  };
  expect(upToDate(renamed, old)).toEqual({
    reacherOverrides: 1,
    plan: "kelpline",
    planVersion: 3,
    controls: { "kick.main": "KeyV", "kick.pad": "PadWest", "gone.main": "KeyT" },
    settings: { "kick.style": "toggle", holds: "toggle" },
  });
  const editor = editOverrides(renamed, old);
  expect(editor.faults.map(({ place }) => place)).toEqual(["controls.gone.main"]);
  expect(editor.rebind("kick.main", "KeyB").overrides.controls).toMatchObject({
    "kick.main": "KeyB",
    "gone.main": "KeyT",
  });
});

/** The overrides with one setting, and a store that does as it is told. */
const withGap = (gapMs: number): Overrides => ({
  ...editOverrides(plan).overrides,
  settings: { "surge.gapMs": gapMs },
});
function unruly(store: TextStore) {
  const state = { refuses: false };
  const asked = <T>(ask: () => Promise<T>) =>
    state.refuses ? Promise.reject(new Error("the disk is full")) : ask();
  const unrulyStore: TextStore = {
    read: (name) => asked(() => store.read(name)),
    change: (name, change) => asked(() => store.change(name, change)),
    names: () => asked(() => store.names()),
  };
  return { state, store: unrulyStore };
}

test.each([
  ["memory", async () => memoryStore()],
  ["a folder", async () => fileStore(join(await mkdtemp(join(tmpdir(), "reacher-")), "settings"))],
])("%s keeps profiles by name, which are switched at once", async (_, made) => {
  const store = await made();
  const profiles = await openProfiles({ store, plan, profile: "amber" });
  expect([profiles.overrides, await profiles.names()]).toEqual([editOverrides(plan).overrides, ["amber"]]);
  await profiles.save(withGap(300));
  await profiles.use("../Téal? *.json");
  await profiles.save(withGap(350));
  expect((await profiles.use("amber")).settings).toEqual({ "surge.gapMs": 300 });
  expect(await profiles.names()).toEqual(["../Téal? *.json", "amber"]);
  const again = await openProfiles({ store, plan, profile: "../Téal? *.json" });
  expect(again.overrides.settings).toEqual({ "surge.gapMs": 350 });
  await again.remove("amber");
  expect([await again.names(), await store.read("amber")]).toEqual([["../Téal? *.json"], undefined]);
  expect(() => again.use("  ")).toThrow("a profile's name has 1 to 60 characters");
});

test("a store that refuses is told of once, the settings stay in use, and what could not be kept is kept later", async () => {
  const { state, store } = unruly(memoryStore());
  const faults: ProfileFault[] = [];
  state.refuses = true;
  const profiles = await openProfiles({ store, plan, onFault: (fault) => faults.push(fault) });
  await profiles.save(withGap(300));
  const both = { ...withGap(300), controls: { "kick.main": "KeyV" } };
  await profiles.save(both);
  expect([profiles.overrides, faults.map(({ what }) => what)]).toEqual([both, ["refused"]]);
  expect(faults[0]!.message).toMatch("cannot be kept here (the disk is full)");
  state.refuses = false;
  await profiles.save({ ...both, controls: { "kick.main": "KeyV", "kick.pad": "PadNorth" } });
  expect(readOverrides((await store.read("player"))!)).toMatchObject({
    controls: { "kick.main": "KeyV", "kick.pad": "PadNorth" },
    settings: { "surge.gapMs": 300 },
  });
  state.refuses = true;
  await profiles.save(withGap(310));
  expect(faults).toHaveLength(2);
});

test("settings that cannot be read are kept under another name, told of, and the plan's own apply", async () => {
  const store = memoryStore({ amber: "{ half a fi", teal: '{"reacherPlan":1}' });
  const faults: string[] = [];
  const profiles = await openProfiles({
    store,
    plan,
    profile: "amber",
    onFault: ({ message }) => faults.push(message),
  });
  expect(profiles.overrides).toEqual(editOverrides(plan).overrides);
  await profiles.use("teal");
  expect(faults).toEqual([
    expect.stringMatching(
      /^The settings of amber cannot be read \(this is no JSON: .*They are kept as "amber \(unreadable\)"/,
    ),
  ]);
  expect(await store.names()).toEqual(["amber (unreadable)", "teal (unreadable)"]);
  expect(await store.read("amber (unreadable)")).toBe("{ half a fi");
  expect(await profiles.names()).toEqual(["teal"]);
});

test("two tabs do not destroy each other's settings", async () => {
  const store = memoryStore();
  const heard: ((name: string) => void)[] = [];
  const watched: TextStore = { ...store, watch: (fn) => (heard.push(fn), () => undefined) };
  const changes: Overrides[] = [];
  const [one, other] = [
    await openProfiles({ store: watched, plan, onChange: (overrides) => changes.push(overrides) }),
    await openProfiles({ store: watched, plan }),
  ];
  const base = editOverrides(plan).overrides;
  await one.save({ ...base, controls: { "kick.main": "KeyV", "tuck.main": "KeyB" } });
  // The other tab knows nothing of it yet, and changes something else.
  expect(await other.save(withGap(300))).toMatchObject({
    controls: { "kick.main": "KeyV", "tuck.main": "KeyB" },
    settings: { "surge.gapMs": 300 },
  });
  heard[0]!("player");
  await one.names();
  await new Promise((done) => setTimeout(done, 5));
  expect([one.overrides.settings, changes.length]).toEqual([{ "surge.gapMs": 300 }, 1]);
  // What one of them takes back is taken back.
  await other.save({ ...other.overrides, controls: { "kick.main": "KeyV" } });
  expect(await one.save({ ...one.overrides, settings: {} })).toMatchObject({
    controls: { "kick.main": "KeyV" },
    settings: {},
  });
  expect(readOverrides((await store.read("player"))!).controls).toEqual({ "kick.main": "KeyV" });
});

test("what another program broke meanwhile is kept aside when the player's own is saved", async () => {
  const folder = await mkdtemp(join(tmpdir(), "reacher-"));
  const profiles = await openProfiles({ store: fileStore(folder), plan, profile: "amber" });
  await profiles.save(withGap(300));
  await writeFile(join(folder, "amber.overrides.json"), "broken");
  await profiles.save(withGap(320));
  expect((await readdir(folder)).map(decodeURIComponent).sort()).toEqual([
    "amber (unreadable).overrides.json",
    "amber.overrides.json",
  ]);
  expect((await profiles.use("amber")).settings).toEqual({ "surge.gapMs": 320 });
});

test("a folder takes any name, and what others put there hides and overwrites nothing", async () => {
  const folder = await mkdtemp(join(tmpdir(), "reacher-"));
  const store = fileStore(folder);
  const names = [
    "かな".repeat(40),
    "é".repeat(300),
    "amber",
    "CON",
    "a/b:c",
    "half \ud800 pair",
    "..",
    "x".repeat(121),
  ];
  for (const name of names)
    await store.change(name, () => JSON.stringify({ reacherOverrides: 1, of: name.length }));
  await writeFile(join(folder, "100%.overrides.json"), "stray");
  await writeFile(join(folder, "long~0000.overrides.json"), "stray");
  expect(await store.names()).toEqual(names.map((name) => name.replace("\ud800", "\ufffd")).sort());
  for (const name of names) expect(JSON.parse((await store.read(name))!).of).toBe(name.length);
  const texts: string[] = [];
  for (const broken of ["{ one", "{ two"]) {
    await store.change("amber", () => broken);
    await openProfiles({ store, plan, profile: "amber", onFault: ({ message }) => texts.push(message) });
  }
  const kept = (await store.names()).filter((name) => name.startsWith("amber "));
  expect((await Promise.all(kept.map((name) => store.read(name)))).sort()).toEqual(["{ one", "{ two"]);
  expect(texts).toHaveLength(2);
  await store.change(names[0]!, () => undefined);
  expect(await store.read(names[0]!)).toBeUndefined();
  expect(await store.names()).not.toContain(names[0]);
});
