/** Directions as they come out, and conditions that last: as sources and as words. */
import * as fc from "fast-check";
import { checkPlan, createInputLayer, parsePlan } from "reacher";
import { applyOverrides } from "../src/plan/players/applyOverrides";
import { explain } from "../src/trace/explain";
import { WASD } from "./plans";
import { runs } from "./runs";

const SECTORS = ["right", "upRight", "up", "upLeft", "left", "downLeft", "down", "downRight"] as const;
const WAYS = { up: [0, 1], left: [-1, 0], down: [0, -1], right: [1, 0] } as const;

interface Nav {
  directions?: 4 | 8;
  diagonal?: "square";
  opposed?: "neutral";
}

/** A switch for every result of `nav`, and one for each as a word. */
function planOf(nav: Nav, yAxis: "up" | "down") {
  const names = SECTORS.filter((name) => nav.directions !== 4 || name in WAYS);
  const of = (name: string, entry: object) => [name, { kind: "switch", in: ["play"], from: { main: entry } }];
  return parsePlan({
    reacherPlan: 1,
    yAxis,
    modes: { play: { covers: "none" }, talk: { covers: "none" } },
    start: ["play", "talk"],
    actions: {
      nav: { kind: "vector", in: ["talk"], from: { main: WASD, pad: "PadLeftStick" }, ...nav },
      ...Object.fromEntries([
        ...Object.keys(WAYS).map((name) => of(`way-${name}`, { use: `nav.${name}`, result: true })),
        ...names.map((name) => of(`near-${name}`, { use: `nav.${name}`, result: "sector" })),
        of("any", { use: "nav", threshold: { press: 0.6, release: 0.3 } }),
        ...Object.keys(WAYS).map((name) => [
          `word-${name}`,
          { kind: "switch", needs: `nav.${name}`, from: { main: "Space" } },
        ]),
      ]),
    },
  });
}

/** The same by angles, one event after the other. */
class Oracle {
  private readonly up = new Map<string, boolean>();
  private readonly pressed = new Map<string, boolean>();
  private sector = -1;

  constructor(private readonly directions: 4 | 8) {}

  /** `byHand`: what rises is a press. */
  take(x: number, y: number, byHand: boolean): void {
    const length = Math.hypot(x, y);
    for (const [name, [toX, toY]] of Object.entries(WAYS))
      this.set(`way-${name}`, x * toX + y * toY, 0.5, 0.4, byHand);
    this.set("any", length, 0.6, 0.3, byHand);
    if (length < (this.sector < 0 ? 0.5 : 0.4)) this.sector = -1;
    else {
      const width = 360 / this.directions;
      const angle = (Math.atan2(y, x) * 180) / Math.PI;
      const apart = (n: number) => Math.abs(((angle - n * 45 + 540) % 360) - 180);
      const every = this.directions === 4 ? [0, 2, 4, 6] : [0, 1, 2, 3, 4, 5, 6, 7];
      if (this.sector < 0 || apart(this.sector) > width / 2 + 5)
        this.sector = every.reduce((best, n) => (apart(n) < apart(best) - 1e-9 ? n : best));
    }
    SECTORS.forEach((name, n) => this.set(`near-${name}`, n === this.sector ? 1 : 0, 0.5, 0.4, byHand));
  }

  private set(name: string, value: number, press: number, release: number, byHand: boolean): void {
    const was = this.up.get(name) === true;
    const is = value >= (was ? release : press);
    this.up.set(name, is);
    if (!is) this.pressed.set(name, false);
    else if (!was) this.pressed.set(name, byHand);
  }

  isUp(name: string): boolean {
    return this.up.get(name) === true;
  }

  isPressed(name: string): boolean {
    return this.pressed.get(name) === true;
  }
}

test("results and words of directions are what angles and lengths say, for any play", () => {
  const event = fc.oneof(
    { weight: 3, arbitrary: fc.tuple(fc.constantFrom(...Object.values(WASD)), fc.constantFrom(0, 1)) },
    {
      weight: 4,
      arbitrary: fc.tuple(
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.double({ min: -1, max: 1, noNaN: true }),
      ),
    },
    { weight: 1, arbitrary: fc.constantFrom("mute", "unmute", "leave", "enter", "reset", "focus") },
  );
  const nav = fc.record(
    { directions: fc.constantFrom(4, 8), diagonal: fc.constant("square"), opposed: fc.constant("neutral") },
    { requiredKeys: [] },
  );
  fc.assert(
    fc.property(
      nav,
      fc.constantFrom("up", "down"),
      fc.array(event, { maxLength: 40 }),
      (nav, yAxis, play) => {
        const input = createInputLayer(planOf(nav as Nav, yAxis as "up"));
        const oracle = new Oracle((nav as Nav).directions === 4 ? 4 : 8);
        let t = 0;
        input.feed({ t, control: "Space", value: 1 });
        input.step(t);
        for (const one of play) {
          t += 10;
          const byHand = typeof one !== "string";
          if (one === "mute") input.mute("nav", "scene");
          else if (one === "unmute") input.unmute("nav", "scene");
          else if (one === "leave") input.leave("talk");
          else if (one === "enter") input.enter("talk");
          else if (one === "focus") input.lose("focus");
          else if (one === "reset") input.reset();
          else if (typeof one[0] === "string") input.feed({ t, control: one[0], value: one[1] });
          else {
            input.feed({ t, control: "PadLeftStickX", value: one[0], pad: 0 });
            input.feed({ t, control: "PadLeftStickY", value: one[1] as number, pad: 0 });
          }
          // A reset puts switches off whose results stay down, and a lost focus lets go of the key of the words.
          if (one === "reset") return;
          input.step(t);
          const reading = input.now as unknown as Record<string, { on: boolean; x: number; y: number }>;
          oracle.take(reading["nav"]!.x, reading["nav"]!.y * (yAxis === "up" ? 1 : -1), byHand);
          if (one === "focus") input.feed({ t, control: "Space", value: 1 });
          if (one === "focus") input.step(t + 1);
          for (const [name, { on }] of Object.entries(reading)) {
            if (name === "nav") continue;
            const way = name.slice(5);
            const expected = name.startsWith("word-") ? oracle.isUp(`way-${way}`) : oracle.isPressed(name);
            expect(`${t} ${name} ${on}`).toBe(`${t} ${name} ${expected}`);
          }
        }
      },
    ),
    runs(60),
  );
});
