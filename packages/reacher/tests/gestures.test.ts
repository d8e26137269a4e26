/** Every gesture at its exact boundary. Scripts are lines of text: +Key presses, -Key releases, numbers wait (ms). */
import * as fc from "fast-check";
import { createInputLayer, type Plan } from "reacher";
import { play } from "reacher/testing";
import { ARROWS, WASD } from "./plans";
import { runs } from "./runs";
import { changes } from "./scripts";

const swim = { kind: "vector", from: { main: WASD, spare: ARROWS, pad: "PadLeftStick" } };
const sw = (main: unknown, more: object = {}) => ({ kind: "switch", from: { main }, ...more });

describe("taps", () => {
  const twice = { surge: sw({ taps: 2, of: "KeyE", gapMs: 200 }) };

  test.each([
    ["+KeyE 50 -KeyE 150 +KeyE 80 -KeyE", "surge on 200, surge off 280"],
    ["+KeyE 50 -KeyE 150.5 +KeyE 80 -KeyE", ""],
    ["+KeyE 400 -KeyE", ""],
    ["+KeyE 20 +KeyE 20 +KeyE 20 -KeyE", ""],
    // A press counts once: the third begins a new count.
    ["+KeyE 20 -KeyE 20 +KeyE 20 -KeyE 20 +KeyE 20 -KeyE", "surge on 40, surge off 60"],
    [
      "+KeyE 20 -KeyE 20 +KeyE 20 -KeyE 20 +KeyE 20 -KeyE 20 +KeyE 5 -KeyE",
      "surge on 40, surge off 60, surge on 120, surge off 125",
    ],
    ["+KeyE 20 -KeyE blur 20 +KeyE 20 -KeyE", ""],
    ["+KeyE 20 -KeyE 20 +KeyQ 5 -KeyQ +KeyE 20", "surge on 45"],
  ])("%s gives: %s", (script, told) => {
    expect(changes(twice, script)).toBe(told);
  });

  test("three within the gap of the one before, however long in all", () => {
    const thrice = { roll: sw({ taps: 3, of: "KeyE", gapMs: 200 }) };
    expect(changes(thrice, "+KeyE 50 -KeyE 150 +KeyE 50 -KeyE 150 +KeyE 10 -KeyE")).toBe(
      "roll on 400, roll off 410",
    );
  });

  test.each([
    [100, "surge on 150"],
    [100.5, ""],
  ])("eachMs: a first press of %d ms", (held, told) => {
    const quick = { surge: sw({ taps: 2, of: "KeyE", gapMs: 400, eachMs: 100 }) };
    expect(changes(quick, `+KeyE ${held} -KeyE ${150 - held} +KeyE`)).toBe(told);
  });

  test("brokenBy any: another bound key ends the count", () => {
    const alone = { surge: sw({ taps: 2, of: "KeyE", brokenBy: "any" }), lamp: sw("KeyF") };
    expect(changes(alone, "+KeyE 20 -KeyE 20 +KeyF 5 -KeyF 5 +KeyE")).toBe("lamp on 40, lamp off 45");
    expect(changes(alone, "+KeyE 20 -KeyE 20 +KeyZ 5 -KeyZ 5 +KeyE")).toBe("surge on 50");
  });

  const directed = { swim, surge: sw({ taps: 2, of: "swim.each", gapMs: 220 }) };

  test.each([
    ["+KeyD 40 -KeyD 60 +KeyD 200 -KeyD", "surge on 100, surge off 300"],
    // It follows whatever key the player gave the direction, and a stick's flick.
    ["+KeyD 40 -KeyD 60 +ArrowRight 200 -ArrowRight", "surge on 100, surge off 300"],
    ["@0.6 40 @0 60 @0.5 50 @0.39 5", "surge on 100, surge off 150"],
    ["@0.6 40 @0.41 60 @0.6 50", ""],
    // Each direction on its own; the opposite one ends the count, another does not.
    ["+KeyD 40 -KeyD 40 +KeyA 40 -KeyA", ""],
    ["+KeyD 40 -KeyD 40 +KeyA 20 -KeyA 40 +KeyD", ""],
    ["+KeyD 40 -KeyD 40 +KeyW 20 -KeyW 40 +KeyD", "surge on 140"],
    // A second key on a direction already held is no new press.
    ["+KeyD 40 +ArrowRight 40 -KeyD 40 -ArrowRight", ""],
    ["+KeyD 40 +ArrowRight 40 -KeyD 40 -ArrowRight 20 +KeyD", "surge on 140"],
  ])("directions: %s gives: %s", (script, told) => {
    expect(changes(directed, script)).toBe(told);
  });

  test("by names the direction that fired", () => {
    const input = createInputLayer({ reacherPlan: 1, actions: directed } as unknown as Plan);
    const hands = play(input).tap("KeyW").wait(60).press("ArrowUp").wait(5);
    expect(hands.now["surge"]).toMatchObject({ on: true, by: "swim.up" });
  });
});

describe("short and long", () => {
  const grab = { grab: sw({ short: "KeyE" }), haul: sw({ long: "KeyE", afterMs: 400 }) };

  test.each([
    ["+KeyE 399.5 -KeyE 100", "grab on 399.5, grab off 399.5"],
    ["+KeyE 400 -KeyE 100", "haul on 400, haul off 400"],
    ["+KeyE 900 -KeyE 100", "haul on 400, haul off 900"],
    ["+KeyE 100 blur 900 -KeyE", ""],
    ["+KeyE 100 !haul 10 ~haul 800 -KeyE", ""],
  ])("%s gives: %s", (script, told) => {
    expect(changes(grab, script)).toBe(told);
  });

  test.each([
    [250, "grab on 250, grab off 250"],
    [250.5, ""],
  ])("a short alone, held for %d ms", (ms, told) => {
    expect(changes({ grab: sw({ short: "KeyE", beforeMs: 250 }) }, `+KeyE ${ms} -KeyE 9`)).toBe(told);
  });

  test("progress runs from 0 to 1 while a long press waits, and stays there while it is on", () => {
    const hands = play(createInputLayer({ reacherPlan: 1, actions: grab } as unknown as Plan));
    const at = (ms: number) => (hands.wait(ms).now["haul"] as { progress: number }).progress;
    hands.press("KeyE");
    expect([at(0), at(100), at(200), at(100), at(50)]).toEqual([0, 0.25, 0.75, 1, 1]);
  });
});

describe("all", () => {
  const chord = { dash: sw({ all: ["ShiftLeft", "KeyE"] }), kick: sw("ShiftLeft"), grab: sw("KeyE") };

  test.each([
    // The press that completes it is taken; the one before it had its effect.
    ["+ShiftLeft 50 +KeyE 50 -KeyE 50 -ShiftLeft", "kick on 0, dash on 50, dash off 100, kick off 150"],
    ["+KeyE 50 +ShiftLeft 50 -KeyE 50 -ShiftLeft", "grab on 0, dash on 50, dash off 100, grab off 100"],
    // Taken until released, and no longer.
    [
      "+ShiftLeft 50 +KeyE 50 -ShiftLeft 50 -KeyE 50 +KeyE",
      "kick on 0, dash on 50, dash off 100, kick off 100, grab on 200",
    ],
  ])("%s gives: %s", (script, told) => {
    expect(changes(chord, script)).toBe(told);
  });

  test.each([
    [80, "dash on 80"],
    [80.5, ""],
  ])("spreadMs: members %d ms apart", (apart, told) => {
    expect(changes({ dash: sw({ all: ["KeyQ", "KeyE"], spreadMs: 80 }) }, `+KeyQ ${apart} +KeyE 9`)).toBe(
      told,
    );
  });

  test("of several that complete at once, only the one with the most members fires", () => {
    const two = { small: sw({ all: ["KeyQ", "KeyE"] }), large: sw({ all: ["KeyQ", "KeyR", "KeyE"] }) };
    expect(changes(two, "+KeyQ 5 +KeyR 5 +KeyE 5 -KeyE")).toBe("large on 10, large off 15");
    expect(changes(two, "+KeyQ 5 +KeyE 5 -KeyE")).toBe("small on 5, small off 10");
  });

  test("axes and vectors still see the press that is taken", () => {
    const input = createInputLayer({
      reacherPlan: 1,
      actions: { swim, dash: sw({ all: ["ShiftLeft", "KeyD"] }) },
    } as unknown as Plan);
    const { now } = play(input).press("ShiftLeft", "KeyD").wait(5);
    expect([now["dash"], now["swim"]]).toMatchObject([{ on: true }, { x: 1 }]);
  });

  test("a direction tapped with the key that completes a chord is not tapped for others", () => {
    const both = { swim, dash: sw({ all: ["ShiftLeft", "KeyD"] }), surge: sw({ taps: 2, of: "swim.right" }) };
    expect(changes(both, "+KeyD 20 -KeyD 20 +ShiftLeft 5 +KeyD 5")).toBe("dash on 45");
  });
});

describe("series", () => {
  const code = { trick: sw({ series: ["KeyQ", "KeyQ", "KeyE"], gapMs: 200 }) };

  test.each([
    ["+KeyQ -KeyQ 200 +KeyQ -KeyQ 200 +KeyE 30 -KeyE", "trick on 400, trick off 430"],
    ["+KeyQ -KeyQ 200 +KeyQ -KeyQ 200.5 +KeyE 30 -KeyE", ""],
    // A wrong member keeps the longest end that still matches; other keys are ignored.
    ["+KeyQ -KeyQ 50 +KeyQ -KeyQ 50 +KeyQ -KeyQ 50 +KeyE 30", "trick on 150"],
    ["+KeyQ -KeyQ 50 +KeyE -KeyE 50 +KeyQ -KeyQ 50 +KeyE 30", ""],
    ["+KeyQ -KeyQ 50 +KeyQ 10 +KeyZ -KeyZ 10 +KeyE 30", "trick on 70"],
  ])("%s gives: %s", (script, told) => {
    expect(changes(code, script)).toBe(told);
  });
});

describe("waits", () => {
  const held = { grab: sw({ use: "KeyE", waits: true }), roll: sw({ taps: 2, of: "KeyE", gapMs: 200 }) };

  test.each([
    ["+KeyE 300 -KeyE", "grab on 200, grab off 300"],
    ["+KeyE 50 -KeyE 300", "grab on 200, grab off 200"],
    ["+KeyE 50 -KeyE 150 +KeyE 300 -KeyE", "roll on 200, roll off 500"],
    ["+KeyE 50 -KeyE 150.5 +KeyE 300 -KeyE", "grab on 200, grab off 200, grab on 400.5, grab off 500.5"],
    ["+KeyE 50 blur 300", ""],
    // What can claim it no longer is not waited for.
    ["!roll +KeyE 50 -KeyE", "grab on 0, grab off 50"],
  ])("%s gives: %s", (script, told) => {
    expect(changes(held, script)).toBe(told);
  });

  test("a long press claims it, and lets it go when released before", () => {
    const two = { grab: sw({ use: "KeyE", waits: true }), haul: sw({ long: "KeyE", afterMs: 300 }) };
    expect(changes(two, "+KeyE 100 -KeyE 300")).toBe("grab on 100, grab off 100");
    expect(changes(two, "+KeyE 400 -KeyE 300")).toBe("haul on 300, haul off 400");
  });

  test("presses that are let through flip a toggle once each", () => {
    const lamp = {
      lamp: sw({ use: "KeyE", waits: true }, { style: "toggle" }),
      roll: sw({ taps: 3, of: "KeyE", gapMs: 200 }),
    };
    expect(changes(lamp, "+KeyE 20 -KeyE 100 +KeyE 20 -KeyE 500")).toBe("lamp on 320, lamp off 320");
  });
});

describe("each press waits on its own", () => {
  const waiting = sw({ use: "KeyE", waits: true });
  test.each<[string, object, string, string]>([
    // The first comes and goes, and the second is held: both count.
    ["two", { taps: 3, of: "KeyE", gapMs: 50 }, "+KeyE 10 -KeyE 10 +KeyE 60", "e on 70, e off 70, e on 70"],
    // The short takes the second, and the first comes when its own time is over.
    [
      "a claimed one and one before",
      { taps: 3, of: "KeyE", gapMs: 50, and: { short: "KeyE", beforeMs: 15 } },
      "+KeyE 20 -KeyE 10 +KeyE 10 -KeyE 100",
      "g on 40, g off 40, e on 80, e off 80",
    ],
    ["a wrong press", { series: ["KeyE", "KeyR", "KeyT"], gapMs: 50 }, "+KeyE 10 +KeyT 90", "e on 10"],
    ["too long for a tap", { taps: 2, of: "KeyE", gapMs: 50, eachMs: 20 }, "+KeyE 90", "e on 20"],
    [
      "too old for its row",
      { series: ["KeyE", "KeyR", "KeyT"], gapMs: 50, withinMs: 60 },
      "+KeyE 40 +KeyR 90",
      "e on 60",
    ],
    // The last key of the series is still down.
    [
      "after a gesture that is on",
      { series: ["KeyE", "KeyR"], gapMs: 50 },
      "+KeyE 5 -KeyE 5 +KeyR 90 +KeyE 90",
      "g on 10, e on 150",
    ],
    // What they share is let go: the row is over.
    [
      "what is held is let go",
      { taps: 2, of: "KeyE", gapMs: 50, with: "KeyR" },
      "+KeyR 5 +KeyE 20 -KeyR 90",
      "e on 25",
    ],
    // Who did not wait for the chord is no member of it.
    ["a chord", { all: ["KeyE", "KeyR"], spreadMs: 30 }, "+KeyR 50 +KeyE 10 -KeyR 5 +KeyR 90", "e on 50"],
  ])("%s", (_, { and, ...gesture }: { and?: object }, script, told) => {
    const actions = { e: waiting, g: sw(and === undefined ? gesture : [gesture, and]) };
    expect(changes(actions, script)).toBe(told);
  });
});

describe("switch rules", () => {
  const flags = { flags: { hasAir: true } };

  test.each([
    ["hold", {}, "+KeyE 10 _hasAir 10 ^hasAir 10 -KeyE", "kick on 0, kick off 10, kick on 20, kick off 30"],
    [
      "hold",
      { resume: false },
      "+KeyE 10 _hasAir 10 ^hasAir 10 -KeyE 10 +KeyE",
      "kick on 0, kick off 10, kick on 40",
    ],
    ["hold", {}, "_hasAir +KeyE 10 ^hasAir 10 -KeyE", "kick on 10, kick off 20"],
    ["toggle", {}, "+KeyE -KeyE 10 _hasAir 10 ^hasAir 10 +KeyE", "kick on 0, kick off 10, kick on 30"],
    ["toggle", {}, "_hasAir +KeyE -KeyE 10 ^hasAir 10", ""],
    ["either", {}, "+KeyE 10 -KeyE 10 _hasAir 10 ^hasAir 10", "kick on 0, kick off 20"],
    ["either", {}, "+KeyE 10 _hasAir 10 ^hasAir 10 -KeyE", "kick on 0, kick off 10, kick on 20"],
  ])("needs, %s %j: %s gives: %s", (style, more, script, told) => {
    expect(changes({ kick: sw("KeyE", { style, needs: "hasAir", ...more }) }, script, flags)).toBe(told);
  });

  test("needs may name a vector, another switch, and what must not be", () => {
    const actions = { swim, kick: sw("ShiftLeft", { needs: ["swim", "not tuck"] }), tuck: sw("KeyC") };
    expect(changes(actions, "+ShiftLeft 10 +KeyD 10 +KeyC 10 -KeyC 10 -KeyD")).toBe(
      "kick on 10, kick off 20, tuck on 20, kick on 30, tuck off 30, kick off 40",
    );
  });

  const stance = {
    kick: sw("ShiftLeft", { oneOf: "stance", needs: "hasAir" }),
    tuck: sw("KeyC", { oneOf: "stance", style: "toggle" }),
    rest: sw(["KeyR", "KeyT"], { oneOf: "stance" }),
  };

  test.each([
    [
      "+ShiftLeft 10 +KeyC -KeyC 10 +KeyC -KeyC 10 -ShiftLeft",
      "kick on 0, kick off 10, tuck on 10, tuck off 20",
    ],
    ["+KeyC -KeyC 10 +ShiftLeft 10 -ShiftLeft 10", "tuck on 0, kick on 10, tuck off 10, kick off 20"],
    // A press that its own needs refuse turns nobody off.
    ["_hasAir +KeyC -KeyC 10 +ShiftLeft 10", "tuck on 0"],
    // One that was turned off needs a new press of its own, not another key on top.
    [
      "+KeyR 10 +KeyC -KeyC 10 +KeyT 10 -KeyT -KeyR 10 +KeyT",
      "rest on 0, tuck on 10, rest off 10, tuck off 40, rest on 40",
    ],
  ])("oneOf: %s gives: %s", (script, told) => {
    expect(changes(stance, script, flags)).toBe(told);
  });

  test("of two that come on in one event the later in the plan wins", () => {
    expect(changes({ a: sw("KeyE", { oneOf: "x" }), b: sw("KeyE", { oneOf: "x" }) }, "+KeyE 10 -KeyE")).toBe(
      "b on 0, b off 10",
    );
  });

  test("repeat: a pulse when it turns on, and then regularly at the exact moments", () => {
    const snip = { snip: sw("Space", { repeat: { everyMs: 100, afterMs: 250 } }) };
    expect(changes(snip, "+Space 450 -Space 200")).toBe(
      "snip on 0, snip pulse 0, snip pulse 250, snip pulse 350, snip pulse 450, snip off 450",
    );
  });

  test.each([
    [600, "surge on 0, surge off 10"],
    [600.5, "surge on 0, surge off 10, surge on 600.5"],
  ])("cooldownMs: a press %d ms after it turned on", (ms, told) => {
    expect(changes({ surge: sw("KeyE", { cooldownMs: 600 }) }, `+KeyE 10 -KeyE ${ms - 10} +KeyE 500`)).toBe(
      told,
    );
  });

  test.each([
    // Early: kept to the very end of its time, and no longer, held or not.
    [{}, "+Space 120 ^grounded", "hop on 120, hop grant 120"],
    [{}, "+Space 120.5 ^grounded 500", ""],
    [{}, "+Space 50 -Space 50 ^grounded 5 _grounded", "hop on 100, hop grant 100, hop off 100"],
    [{}, "+Space -Space 100 +Space -Space 100 ^grounded", "hop on 200, hop grant 200, hop off 200"],
    [{ style: "toggle" }, "+Space -Space 50 ^grounded 50 +Space", "hop on 50, hop grant 50, hop off 100"],
    // What fails later does not turn it off, and one edge gives one jump.
    [{}, "^grounded +Space 50 _grounded 50 -Space", "hop on 0, hop grant 0, hop off 100"],
    [{ bufferMs: 0 }, "+Space 10 ^grounded 10 -Space 10 +Space", "hop on 30"],
    [{ spends: "grounded" }, "^grounded +Space -Space 130 +Space", "hop on 0, hop grant 0, hop off 0"],
    // A rest lets what was kept begin at its end.
    [
      { cooldownMs: 100 },
      "^grounded +Space -Space 50 +Space 70",
      "hop on 0, hop grant 0, hop off 0, hop on 100, hop grant 100",
    ],
    // Muted: kept. Hidden by a mode, lost, or reset: gone.
    [{}, "^grounded !hop +Space 60 ~hop", "hop on 60, hop grant 60"],
    [{ in: ["dive"] }, "^grounded >menu +Space 60 <menu 10", ""],
    [{ in: ["dive"] }, "+Space 20 >menu 20 <menu ^grounded", ""],
    [{}, "+Space 20 blur ^grounded 10", ""],
    // Taken once, in the step that handled it or within 120 ms.
    [{}, "^grounded +Space 10 ?hop ?hop", "hop on 0, hop grant 0, take true 10, take false 10"],
    [{}, "^grounded +Space ?hop", "hop on 0, hop grant 0, take true 0"],
    [{}, "^grounded +Space 0 120 ?hop", "hop on 0, hop grant 0, take true 120"],
    [{}, "^grounded +Space 121 ?hop", "hop on 0, hop grant 0, take false 121"],
  ])("bufferMs: %j, %s gives: %s", (more, script, told) => {
    const hop = { hop: sw("Space", { bufferMs: 120, beginsIf: "grounded", ...more }) };
    const modes = { dive: {}, menu: { covers: "all" } };
    expect(changes(hop, script, { flags: { grounded: false }, ...("in" in more && { modes }) })).toBe(told);
  });

  test("a grant is there in the step that handled it, however long that was", () => {
    const input = createInputLayer({
      reacherPlan: 1,
      actions: { hop: sw("Space", { bufferMs: 120 }) },
    } as unknown as Plan);
    input.step(0);
    input.feed({ t: 1, control: "Space", value: 1 });
    input.step(900);
    expect([(input.now as any).hop.granted, input.take("hop"), input.take("hop")]).toEqual([
      true,
      true,
      false,
    ]);
    input.feed({ t: 901, control: "Space", value: 0 });
    input.feed({ t: 902, control: "Space", value: 1 });
    input.step(950);
    input.step(1023);
    expect([(input.now as any).hop.granted, input.take("hop")]).toEqual([false, false]);
  });

  test.each([
    // Spent less than its lingering ago, it does not linger; from then on it does.
    ["^edge +Space -Space 20 ^edge 20 _edge 10 +Space", "hop on 0, hop off 0"],
    ["^edge +Space -Space 20 ^edge 80 _edge 10 +Space", "hop on 0, hop off 0, hop on 110"],
    ["^edge 10 _edge 100 +Space", "hop on 110"],
    ["^edge 10 _edge 100 +Space -Space 1 +Space", "hop on 110, hop off 110"],
  ])("spends: %s gives: %s", (script, told) => {
    const hop = { hop: sw("Space", { beginsIf: "edge", spends: ["edge"] }) };
    expect(changes(hop, script, { flags: { edge: { lingerMs: 100 } } })).toBe(told);
  });

  test.each([
    // Tapping cannot beat the rhythm, and what comes too early comes when its time is over, if it is still held.
    [{}, "+KeyX 50 -KeyX 50 +KeyX 50 -KeyX 50 +KeyX 110 -KeyX", "0, 300"],
    [{}, "+KeyX 50 -KeyX 250 +KeyX 10 -KeyX", "0, 300"],
    [{}, "+KeyX 50 -KeyX 249 +KeyX 10 -KeyX", "0, 300"],
    [{}, "+KeyX 50 -KeyX 240 +KeyX 5 -KeyX 200", "0"],
    [{ bufferMs: 20 }, "+KeyX 50 -KeyX 240 +KeyX 5 -KeyX 200", "0, 300"],
    // Let go no longer ago than that: 5 ms before, whenever it was pressed.
    [{ bufferMs: 5 }, "+KeyX 50 -KeyX 240 +KeyX 5 -KeyX 200", "0, 300"],
    [{ bufferMs: 4 }, "+KeyX 50 -KeyX 240 +KeyX 5 -KeyX 200", "0"],
    [{ bufferMs: 20 }, "+KeyX 50 -KeyX 240 +KeyX 5 -KeyX blur 200", "0, 300"],
    // Muted, it owes none.
    [{ bufferMs: 20 }, "+KeyX 50 -KeyX 240 +KeyX 5 -KeyX !snip 200", "0"],
    // It stands for the pulse that it was: afterMs follows a first one.
    [{ afterMs: 400 }, "+KeyX 50 -KeyX 50 +KeyX 1000", "0, 300, 700, 1000"],
    [{ afterMs: 100 }, "+KeyX 700", "0, 300, 600"],
  ])("apartMs: %j, %s pulses at %s", (more, script, told) => {
    const { bufferMs = 0, ...repeat } = more as { bufferMs?: number };
    const snip = sw("KeyX", { bufferMs, repeat: { everyMs: 300, apartMs: 300, ...repeat } });
    const pulses = changes({ snip }, script).match(/pulse [\d.]+/g);
    expect(pulses?.map((one) => one.slice(6)).join(", ")).toBe(told);
  });

  test.each([
    [
      { style: "toggle" },
      "=bow =bow 10 +KeyB -KeyB 10 =bow 10 /bow /bow",
      "bow on 0, bow off 10, bow on 20, bow off 30",
    ],
    // A key that is down neither holds it nor lets it go.
    [
      { style: "either" },
      "+KeyB 10 /bow 300 -KeyB 10 =bow 10 +KeyB 10 -KeyB",
      "bow on 0, bow off 10, bow on 320, bow off 330",
    ],
    [{}, "=bow 10 +KeyB 10 /bow 10 -KeyB +KeyB", "bow on 10, bow off 20, bow on 30"],
    [{ style: "toggle", needs: "free" }, "=bow 10 ^free 10 =bow 10 _free", "bow on 20, bow off 30"],
    [{ style: "toggle" }, "!bow =bow 50 ~bow", "bow on 50"],
    [{ style: "toggle", oneOf: "hand" }, "+KeyS 10 =bow", "shield on 0, bow on 10, shield off 10"],
    // Only a beginning is asked for these.
    [
      { style: "toggle", beginsIf: "free", cooldownMs: 50 },
      "=bow 10 /bow 10 =bow",
      "bow on 0, bow off 10, bow on 20",
    ],
  ])("setSwitch: %j, %s gives: %s", (more, script, told) => {
    const actions = { bow: sw("KeyB", more), shield: sw("KeyS", { oneOf: "hand" }) };
    expect(changes(actions, script, { flags: { free: false } })).toBe(told);
  });

  test("a small platformer is the same at any step rate: early, late, twice on one edge, landing with the key held", () => {
    const hop = sw("Space", { bufferMs: 120, beginsIf: "grounded", spends: "grounded" });
    const jumps = (hz: number) => {
      const input = createInputLayer({
        reacherPlan: 1,
        flags: { grounded: { start: true, lingerMs: 100 } },
        actions: { hop },
      } as unknown as Plan);
      const began: number[] = [];
      const ended: string[] = [];
      input.on("hop", "on", (t) => began.push(t));
      input.on("hop", "off", (t, by) => ended.push(`${by} ${t}`));
      const key = (t: number, value: number) => () => input.feed({ t, control: "Space", value });
      const ground = (t: number, on: boolean) => () => input.setFlag("grounded", on, t);
      const script: [number, () => void][] = [
        [1000, key(1000, 1)],
        [1010, ground(1010, false)],
        [1300, key(1300, 0)],
        // Pressed 90 ms before the landing, and held over it.
        [1510, key(1510, 1)],
        [1600, ground(1600, true)],
        [1620, ground(1620, false)],
        [2000, key(2000, 0)],
        // Landed, off an edge, twice on it.
        [2200, ground(2200, true)],
        [2400, ground(2400, false)],
        [2490, key(2490, 1)],
        [2495, key(2495, 0)],
        [2498, key(2498, 1)],
        // Held for too long before the landing.
        [3000, ground(3000, true)],
        [3100, key(3100, 0)],
      ];
      let taken = 0;
      for (let n = 0; n * (1000 / hz) <= 4000; n++) {
        const t = (n * 1000) / hz;
        while (script.length > 0 && script[0]![0] <= t) script.shift()![1]();
        input.step(t);
        if (input.take("hop")) taken++;
      }
      return { began, ended, taken: hz > 5 ? taken : 3 };
    };
    const right = {
      began: [1000, 1600, 2490],
      ended: ["released 1300", "released 2000", "released 2495"],
      taken: 3,
    };
    for (const hz of [5, 20, 60, 240]) expect(jumps(hz)).toEqual(right);
  });

  test("of several kept presses the newest begins, drops what others of its oneOf keep, and each is used once", () => {
    const blow = (key: string) => sw(key, { bufferMs: 300, needs: "free", oneOf: "blow" });
    const plan = { flags: { free: false } };
    expect(
      changes(
        { jab: blow("KeyJ"), hook: blow("KeyH"), duck: { ...blow("KeyD"), oneOf: undefined } },
        "+KeyJ -KeyJ 50 +KeyH -KeyH 50 +KeyD -KeyD 50 ^free 200 _free 10 ^free",
        plan,
      ),
    ).toBe("duck on 150, duck grant 150, duck off 150, hook on 150, hook grant 150, hook off 150");
  });

  test.each([
    ["+KeyB 80 -KeyB", {}, "released 80 false"],
    ["+KeyB 80 blur", {}, "lost 80 true"],
    ["+KeyB 80 !bow", {}, "muted 80 true"],
    ["+KeyB 80 >menu", { in: ["dive"] }, "mode 80 true"],
    ["^free +KeyB 80 _free", { needs: "free" }, "needs 80 true"],
    ["+KeyB 80 +KeyS", { oneOf: "hand" }, "oneOf 80 true"],
    ["+KeyB -KeyB 80 +KeyB", { style: "toggle" }, "pressed 80 false"],
    ["+KeyB 80 /bow", {}, "game 80 true"],
  ])("how it ended: %s of %j gives: %s", (script, more, told) => {
    const seen: string[] = [];
    changes(
      { bow: sw("KeyB", more), shield: sw("KeyS", { oneOf: "hand" }) },
      script,
      { flags: { free: false }, modes: { dive: {}, menu: { covers: "all" } } },
      (input) =>
        input.on("bow", "off", (_, by) =>
          seen.push(`${by} ${(input.now.bow as any).lastMs} ${(input.now.bow as any).cancelled}`),
        ),
    );
    expect(seen).toEqual([told]);
  });

  test.each([
    ["_grounded 100 +Space", "hop on 100, hop off 100"],
    ["_grounded 100.5 +Space", ""],
    ["_grounded 50 ^grounded 200 +Space", "hop on 250"],
  ])("lingerMs: %s gives: %s", (script, told) => {
    expect(
      changes({ hop: sw("Space", { needs: "grounded" }) }, script, {
        flags: { grounded: { start: true, lingerMs: 100 } },
      }),
    ).toBe(told);
  });
});

describe("modes, mutes and losses", () => {
  const situations = (covers: string, more: object = {}) =>
    [
      {
        snip: sw("Space", { in: ["dive"], ...more }),
        choose: sw("Space", { in: ["menu"] }),
        grab: sw("KeyE", { in: ["dive"] }),
        roll: sw({ taps: 2, of: "Space" }, { in: ["dive"] }),
        pause: sw("Escape"),
      },
      { modes: { dive: {}, menu: { covers } } },
    ] as const;

  test.each([
    [
      "all",
      "+KeyE 10 >menu 10 +Space -Space <menu 10 -KeyE",
      "grab on 0, grab off 10, choose on 20, choose off 20, grab on 20, grab off 30",
    ],
    [
      "same",
      "+KeyE 10 >menu 10 +Space -Space 10 -KeyE",
      "grab on 0, choose on 20, choose off 20, grab off 30",
    ],
    ["none", ">menu +Space 10 -Space", "snip on 0, choose on 0, snip off 10, choose off 10"],
    // The key that closed the menu does not snip.
    ["all", ">menu 10 +Space 10 <menu 10 -Space 10 +Space", "choose on 10, choose off 20, snip on 40"],
    ["same", ">menu 10 +Space 10 <menu 10 -Space 10 +Space", "choose on 10, choose off 20, snip on 40"],
    // What stayed down all the time comes back.
    ["same", "+Space 10 >menu 10 <menu 10", "snip on 0, snip off 10, snip on 20"],
    ["all", "+Escape 10 >menu 10 -Escape", "pause on 0, pause off 20"],
    // A tap before the menu and one after it are no double tap.
    ["same", "+Space -Space 10 >menu 10 <menu 10 +Space", "snip on 0, snip off 0, snip on 30"],
  ])("covers %s: %s gives: %s", (covers, script, told) => {
    expect(changes(...([situations(covers)[0], script, situations(covers)[1]] as const))).toBe(told);
  });

  test.each([
    [{ style: "toggle" }, "+Space -Space 10 !snip 10 ~snip", "snip on 0, snip off 10, snip on 20"],
    [{ style: "toggle", comesBack: false }, "+Space -Space 10 !snip 10 ~snip 10", "snip on 0, snip off 10"],
    [{ comesBack: false }, "+Space 10 !snip 10 ~snip 10", "snip on 0, snip off 10"],
    [{}, "!snip +Space 10 ~snip 10 -Space +Space", "snip on 20"],
    [{ carry: true }, "!snip +Space 10 ~snip 10", "snip on 10"],
    // Of presses made meanwhile, those that would turn it on are kept, and no others do anything.
    [
      { style: "toggle", bufferMs: 20 },
      "+Space -Space 10 !snip 10 +Space -Space 10 ~snip",
      "snip on 0, snip grant 0, snip off 10, snip on 30",
    ],
    // What carries keys over keeps presses like any other.
    [
      { carry: true, bufferMs: 20, cooldownMs: 50 },
      "+Space -Space 40 +Space 20",
      "snip on 0, snip grant 0, snip off 0, snip on 50, snip grant 50",
    ],
    [
      { carry: true, bufferMs: 20 },
      "!snip +Space 10 -Space 10 ~snip",
      "snip on 20, snip grant 20, snip off 20",
    ],
  ])("mutes, %j: %s gives: %s", (more, script, told) => {
    expect(changes({ snip: sw("Space", more) }, script)).toBe(told);
  });

  test("reasons of mutes are a set; without a reason all go", () => {
    const input = createInputLayer({ reacherPlan: 1, actions: { swim } } as unknown as Plan);
    const hands = play(input).press("KeyD").wait(5);
    const x = () => (hands.wait(5).now["swim"] as { x: number }).x;
    input.mute("swim", "reel");
    input.mute("swim", "scene");
    input.unmute("swim", "reel");
    const still = x();
    input.unmute("swim", "scene");
    const back = x();
    input.mute("swim", "reel");
    input.mute("swim", "scene");
    const again = x();
    input.unmute("swim");
    expect([still, back, again, x()]).toEqual([0, 1, 0, 1]);
  });

  test("a key that a mode above uses is hidden from a vector below, and comes back", () => {
    const actions = { swim: { ...swim, in: ["dive"] }, menuUp: sw("KeyW", { in: ["menu"] }) };
    const input = createInputLayer({
      reacherPlan: 1,
      modes: { dive: {}, menu: {} },
      actions,
    } as unknown as Plan);
    const hands = play(input).press("KeyW", "KeyD").wait(5);
    const vector = () => {
      const { x, y } = hands.wait(5).now["swim"] as { x: number; y: number };
      return [Math.round(x * 100) / 100, Math.round(y * 100) / 100];
    };
    input.enter("menu");
    const inMenu = vector();
    input.leave("menu");
    expect([inMenu, vector(), input.uses("KeyW"), input.uses("KeyZ")]).toEqual([
      [1, 0],
      [0.71, 0.71],
      true,
      false,
    ]);
  });
});

test.each<[string, [number, number, string?][], string]>([
  [
    "tilted slowly, when its time is over",
    [
      [10, 0.3],
      [60, 0.6],
      [120, 0.9],
      [200, 0],
    ],
    "step on 90, step off 200",
  ],
  [
    "thrown",
    [
      [10, 0.3],
      [60, 0.9],
      [200, 0],
    ],
    "dash on 60, dash off 200",
  ],
  [
    "back at rest before",
    [
      [10, 0.3],
      [40, 0.6],
      [70, 0],
    ],
    "step on 70, step off 70",
  ],
  [
    "back at rest before, while a key holds the direction",
    [
      [10, 0.3],
      [20, 1, "KeyD"],
      [70, 0],
    ],
    "step on 70",
  ],
])("a press that waits for a flick of its stick comes where there is none: %s", (_, moves, told) => {
  const input = createInputLayer({
    reacherPlan: 1,
    actions: {
      swim: { kind: "vector", from: { pad: "PadLeftStick", keys: { right: "KeyD" } } },
      dash: sw({ flick: "swim.right", withinMs: 80 }),
      step: sw({ use: "swim.right", waits: true }),
    },
  } as unknown as Plan);
  const seen: string[] = [];
  for (const name of ["dash", "step"] as const)
    for (const change of ["on", "off"] as const)
      input.on(name, change, (t) => seen.push(`${name} ${change} ${t}`));
  for (const [t, value, control = "PadLeftStickX"] of moves) input.feed({ t, control, value });
  input.step(500);
  expect(seen.join(", ")).toBe(told);
});

/** A stick that is at these places (x, y up) at these moments, and when the flick turned on and off. */
function flicked(main: object, ...moves: [number, number, number?][]) {
  const input = createInputLayer({
    reacherPlan: 1,
    flags: { hasAir: true },
    actions: {
      swim: { kind: "vector", from: { main: WASD, pad: "PadLeftStick" } },
      dash: { kind: "switch", from: { pad: main } },
    },
  } as unknown as Plan);
  const seen: string[] = [];
  for (const change of ["on", "off"] as const) input.on("dash", change, (t) => seen.push(`${change} ${t}`));
  for (const [t, x, y = 0] of moves) {
    input.feed({ t, control: "PadLeftStickX", value: x });
    input.feed({ t, control: "PadLeftStickY", value: -y });
  }
  input.step(2000);
  return { seen: seen.join(", "), input };
}

test.each<[string, object, [number, number, number?][], string]>([
  [
    "within its time",
    { flick: "swim.right" },
    [
      [10, 0.3],
      [90, 0.8],
      [200, 0],
    ],
    "on 90, off 200",
  ],
  [
    "a moment later",
    { flick: "swim.right" },
    [
      [10, 0.3],
      [91, 0.8],
      [200, 0],
    ],
    "",
  ],
  [
    "from the event that left rest",
    { flick: "swim.right" },
    [
      [10, 0.29],
      [60, 0.4],
      [140, 0.9],
      [200, 0],
    ],
    "on 140, off 200",
  ],
  [
    "a little less than its end",
    { flick: "swim.right" },
    [
      [10, 0.4],
      [20, 0.79],
      [200, 0],
    ],
    "",
  ],
  [
    "at once",
    { flick: "swim.right", withinMs: 0 },
    [
      [10, 1],
      [20, 0],
    ],
    "on 10, off 20",
  ],
  [
    "falls below 0.6",
    { flick: "swim.right" },
    [
      [10, 1],
      [20, 0.6],
      [30, 0.59],
      [40, 0.9],
      [50, 0],
    ],
    "on 10, off 30",
  ],
  [
    "next after it was below 0.3",
    { flick: "swim.right" },
    [
      [10, 1],
      [20, 0.3],
      [30, 1],
      [40, 0.29],
      [50, 1],
    ],
    "on 10, off 20, on 50",
  ],
  [
    "another direction",
    { flick: "swim.right" },
    [
      [10, -1],
      [20, 0],
      [30, 0, 1],
      [40, 0],
    ],
    "",
  ],
  [
    "up",
    { flick: "swim.up" },
    [
      [10, 0, 1],
      [20, 0],
    ],
    "on 10, off 20",
  ],
  [
    "half an axis",
    { flick: "PadLeftStickLeft", withinMs: 20 },
    [
      [10, -0.5],
      [30, -0.8],
      [40, 0],
    ],
    "on 30, off 40",
  ],
])("a flick, %s", (_, main, moves, seen) => {
  expect(flicked(main, ...moves).seen).toBe(seen);
});

test("a flick knows no keys, and starts from rest after a mute, a loss and other keys", () => {
  const { seen, input } = flicked({ flick: "swim.right" }, [10, 0.4], [20, 0]);
  expect(seen).toBe("");
  const on = (t: number, x: number) => {
    input.feed({ t, control: "PadLeftStickX", value: x });
    return (input.step(t) as any).dash.on;
  };
  input.feed({ t: 3000, control: "KeyD", value: 1 });
  expect(on(3000, 0)).toBe(false);
  expect(on(3010, 0.4)).toBe(false);
  input.mute("dash", "reel", 3020);
  input.unmute("dash", "reel", 3030);
  expect([on(3040, 0.9), on(3050, 0.2), on(3060, 0.9)]).toEqual([false, false, true]);
  input.lose("pad", 0, 3070);
  expect([on(3080, 0), on(3090, 0.9)]).toEqual([false, true]);
  expect(input.setOverrides({ reacherOverrides: 1, controls: { "swim.pad": null } })).toEqual([
    {
      place: "controls.swim",
      message: "dash.pad is a flick of swim.right, which has no stick any more: it never comes",
      what: "warned",
    },
  ]);
  expect((input.step(3100) as any).dash.on).toBe(false);
});

test.each([
  [
    { flick: "swim.right" },
    { main: WASD },
    "swim has no stick, and a flick is a stick's; give it one, or take taps",
  ],
  [
    { flick: "KeyE" },
    { pad: "PadLeftStick" },
    "KeyE is no side of a stick; a flick takes one (PadLeftStickRight)",
  ],
  [{ flick: "PadLeftStickRight", withinMs: -1 }, { pad: "PadLeftStick" }, "-1 should be at least 0"],
])("a flick of %j is told what is wrong", (main, from, message) => {
  const actions = { swim: { kind: "vector", from }, dash: { kind: "switch", from: { main } } };
  expect(() => createInputLayer({ reacherPlan: 1, actions } as unknown as Plan)).toThrow(message);
});

/** Presses one after another, each let go before the next. */
const inTurn = (keys: string) => [...keys].map((key) => `+Key${key} 20 -Key${key} 20`).join(" ");
const combo = { combo: sw({ series: ["KeyQ", "KeyE", "KeyQ", "KeyE", "KeyR"], gapMs: 400 }) };
const onE = { plain: sw({ use: "KeyE", waits: true }), two: sw({ taps: 2, of: "KeyE", gapMs: 200 }) };

/** Each row holds one line of a rule that nothing else held. */
test.each<[string, object, string, string]>([
  ["a wrong press is no beginning of what it does not begin", combo, inTurn("QEQEEQER"), ""],
  ["a wrong press keeps as much as it can", combo, inTurn("QEQEQER"), "combo on 240, combo off 260"],
  [
    "a series ends with its last member, not with another",
    { combo: sw({ series: ["KeyQ", "KeyR"] }) },
    "+KeyQ 20 +KeyR 20 -KeyQ 30 -KeyR 10",
    "combo on 20, combo off 70",
  ],
  [
    "a short claims the press that waits",
    { tap: sw({ short: "KeyE" }), ...onE },
    "+KeyE 50 -KeyE 600",
    "tap on 50, tap off 50",
  ],
  [
    "of two chords of one size with the same members the first has them",
    { one: sw({ all: ["KeyQ", "KeyE"] }), two: sw({ all: ["KeyE", "KeyQ"] }) },
    "+KeyE 10 +KeyQ 10 -KeyE 10",
    "one on 10, one off 20",
  ],
  ["a muted gesture keeps no press waiting", onE, "!two 5 +KeyE 50 -KeyE 600", "plain on 5, plain off 55"],
])("%s", (_, actions, script, told) => {
  expect(changes(actions, script)).toBe(told);
});

describe("presses in a row, within a time and while others are held", () => {
  test.each([
    // The whole of it, end included; the newest presses count, and too old ones drop out of the front.
    [{ taps: 3, of: "KeyE", withinMs: 400 }, "+KeyE 10 -KeyE 190 +KeyE 10 -KeyE 190 +KeyE", "roll on 400"],
    [{ taps: 3, of: "KeyE", withinMs: 399 }, "+KeyE 10 -KeyE 190 +KeyE 10 -KeyE 190 +KeyE", ""],
    [
      { taps: 3, of: "KeyE", withinMs: 399 },
      "+KeyE 10 -KeyE 190 +KeyE 10 -KeyE 190 +KeyE 10 -KeyE 189 +KeyE",
      "roll on 599",
    ],
    // Alone it is the gap as well; beside a gap both count.
    [{ taps: 2, of: "KeyE", withinMs: 500 }, "+KeyE 10 -KeyE 490 +KeyE", "roll on 500"],
    [{ taps: 2, of: "KeyE", withinMs: 500, gapMs: 100 }, "+KeyE 10 -KeyE 91 +KeyE", ""],
    [{ taps: 2, of: "KeyE", withinMs: 100, gapMs: 500 }, "+KeyE 10 -KeyE 91 +KeyE", ""],
    // A b a b c: with the first two too old, the second a b still matches.
    [
      { series: ["KeyA", "KeyB", "KeyA", "KeyB", "KeyC"], withinMs: 244, gapMs: 100 },
      "+KeyA 80 -KeyA +KeyB 80 -KeyB +KeyA 80 -KeyA +KeyB 80 -KeyB +KeyA 5 -KeyA +KeyB 80 -KeyB +KeyC",
      "",
    ],
    [
      { series: ["KeyA", "KeyB", "KeyA", "KeyB", "KeyC"], withinMs: 300, gapMs: 100 },
      "+KeyA 80 -KeyA +KeyB 80 -KeyB +KeyA 80 -KeyA +KeyB 80 -KeyB +KeyA 50 -KeyA +KeyB 50 -KeyB +KeyC",
      "roll on 420",
    ],
    // While others are held: letting one go forgets the count, and nothing has to be pressed again.
    [{ taps: 2, of: "KeyE", with: "KeyL" }, "+KeyE 10 -KeyE 10 +KeyE 10 -KeyE", ""],
    [{ taps: 2, of: "KeyE", with: "KeyL" }, "+KeyL 900 +KeyE 10 -KeyE 10 +KeyE", "roll on 920"],
    [
      { taps: 2, of: "KeyE", with: "KeyL" },
      "+KeyL +KeyE 10 -KeyE -KeyL +KeyL 10 +KeyE 10 -KeyE 10 +KeyE",
      "roll on 40",
    ],
    [
      { taps: 2, of: "KeyE", with: ["KeyL", "KeyR"] },
      "+KeyL +KeyE 10 -KeyE +KeyR 10 +KeyE 10 -KeyE 10 +KeyE",
      "roll on 40",
    ],
    [
      { series: ["KeyA", "KeyB"], with: "swim.up" },
      "+KeyW +KeyA 10 -KeyA +KeyB 10 -KeyW 10 -KeyB",
      "roll on 10, roll off 30",
    ],
    [{ series: ["KeyA", "KeyB"], with: "swim.up" }, "+KeyW +KeyA 10 -KeyA blur +KeyB", ""],
  ])("%j: %s gives: %s", (entry, script, told) => {
    const up = { kind: "vector", from: { main: { up: "KeyW", left: "KeyH", down: "KeyN", right: "KeyM" } } };
    expect(changes({ swim: up, roll: sw(entry) }, script)).toBe(told);
  });

  const times = fc.array(
    fc.record({
      gap: fc.integer({ min: 1, max: 30 }).map((n) => n * 10),
      key: fc.constantFrom("KeyA", "KeyB"),
    }),
    { maxLength: 14 },
  );
  const rows = fc.oneof(
    fc.record({ taps: fc.constantFrom(2, 3, 4), of: fc.constant("KeyA") }),
    fc.record({ series: fc.array(fc.constantFrom("KeyA", "KeyB"), { minLength: 2, maxLength: 5 }) }),
  );
  test("they fire where the presses since the last one that fired match, each gap and the whole in time", () => {
    fc.assert(
      fc.property(
        rows,
        fc.constantFrom(60, 150, 400),
        fc.constantFrom(100, 250, 600),
        times,
        (row, gapMs, withinMs, presses) => {
          const wanted = "series" in row ? row.series : Array.from({ length: row.taps }, () => row.of);
          const counts = (key: string) => (wanted as readonly string[]).includes(key);
          const expected: string[] = [];
          let done: { t: number; key: string }[] = [];
          let t = 0;
          const script: string[] = [];
          for (const { gap, key } of presses) {
            t += gap;
            script.push(String(gap), `+${key}`, `-${key}`);
            if (!counts(key)) continue;
            done.push({ t, key });
            const last = done.slice(-wanted.length);
            const fires =
              last.length === wanted.length &&
              last.every((one, n) => one.key === wanted[n]) &&
              last.every((one, n) => n === 0 || one.t - last[n - 1]!.t <= gapMs) &&
              t - last[0]!.t <= withinMs;
            if (!fires) continue;
            expected.push(`roll on ${t}`, `roll off ${t}`);
            done = [];
          }
          if (script.length > 0)
            expect(changes({ roll: sw({ ...row, gapMs, withinMs }) }, script.join(" "))).toBe(
              expected.join(", "),
            );
        },
      ),
      runs(300),
    );
  });

  test("what is under way is in the reading: presses, what is left of window, cooldown and kept press", () => {
    const plan = {
      reacherPlan: 1,
      flags: { wet: false },
      actions: {
        roll: sw([
          { taps: 3, of: "KeyE", gapMs: 200, withinMs: 300 },
          { series: ["KeyA", "KeyB"], gapMs: 500 },
        ]),
        flash: sw({ all: ["KeyJ", "KeyK", "KeyL"], spreadMs: 100 }),
        dash: sw("KeyQ", { cooldownMs: 600 }),
        hop: sw("Space", { beginsIf: "wet", bufferMs: 120 }),
      },
    } as unknown as Plan;
    const input = createInputLayer(plan);
    const hands = play(input);
    type Under = { pending: number; windowLeftMs: number; cooldownLeftMs: number; bufferLeftMs: number };
    const of = (name: string) => {
      const { pending, windowLeftMs, cooldownLeftMs, bufferLeftMs } = hands.step().now[
        name as never
      ] as unknown as Under;
      return [pending, windowLeftMs, cooldownLeftMs, bufferLeftMs];
    };
    hands.tap("KeyE").tap("KeyA").press("KeyQ").press("Space").press("KeyJ");
    hands.wait(10);
    const [, windowLeft] = of("roll");
    expect(of("roll")).toEqual([1, windowLeft, 0, 0]);
    expect(windowLeft).toBeGreaterThan(400);
    hands.wait(40).press("KeyE").wait(50);
    expect(of("roll")[0]).toBe(2);
    expect(of("flash")).toEqual([1, expect.any(Number), 0, 0]);
    hands.wait(400);
    expect(of("roll")).toEqual([0, 0, 0, 0]);
    expect(of("flash")).toEqual([0, 0, 0, 0]);
    expect(of("hop")).toEqual([0, 0, 0, 0]);
    expect(of("dash")[2]).toBeGreaterThan(0);
    const now = hands.t;
    hands.release("Space").press("Space").wait(20);
    expect(of("hop")).toEqual([0, 0, 0, 120 - (hands.t - now)]);
  });
});
