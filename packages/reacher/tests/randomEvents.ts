/** Events as chance makes them, for the plans of randomPlans.ts. */
import * as fc from "fast-check";
import type { InputLayer } from "reacher";
import { AXES, KEYS, OWN, share } from "./randomPlans";

export type Event = (input: InputLayer) => void;

/** Moments on a coarse grid, so that many fall together and on deadlines. */
export const SWITCHES = ["kick", "tuck", "surge", "grab"] as const;

/** What the game may work itself. */
const driven = fc.oneof(
  fc.tuple(fc.constantFrom(...SWITCHES), fc.constantFrom(true, false)),
  fc.tuple(
    fc.constant("swim"),
    fc.constantFrom({ x: 1, y: 0 }, { x: 0, y: -0.4 }, { x: 0.9, y: 0.9 }, { x: 0, y: 0 }, null),
  ),
  fc.tuple(fc.constant("depth"), fc.constantFrom(-1, 0.3, 7, null)),
);

export function drive(
  input: InputLayer,
  [action, value]: readonly [string, unknown],
  reason: string,
  { t, ...ways }: { t?: number | undefined; how?: unknown; blendMs?: number } = {},
): void {
  // Another plan may have something else of this name, or nothing; switches have no ways.
  const own = (SWITCHES as readonly string[]).includes(action) ? { t } : { t, ...ways };
  input.drive(action as never, value as never, reason, own as never);
}

const moments = fc.integer({ min: 0, max: 200 }).map((n) => n * 5);

export const events = fc
  .array(
    fc.oneof(
      {
        weight: 6,
        arbitrary: fc.record({ t: moments, control: fc.constantFrom(...KEYS), value: fc.constantFrom(0, 1) }),
      },
      {
        weight: 3,
        arbitrary: fc.record({
          t: moments,
          control: fc.constantFrom(...AXES),
          value: share(-1, 1),
          pad: fc.constantFrom(0, 1),
        }),
      },
      {
        weight: 2,
        arbitrary: fc.record({ t: moments, control: fc.constantFrom(...OWN), value: share(-1, 1) }),
      },
      { weight: 1, arbitrary: fc.record({ t: moments, flag: fc.boolean() }) },
      {
        weight: 1,
        arbitrary: fc.record({
          t: moments,
          mode: fc.constantFrom("enter", "leave"),
          name: fc.constantFrom("dive", "menu"),
        }),
      },
      {
        weight: 1,
        arbitrary: fc.record({
          t: moments,
          mute: fc.boolean(),
          action: fc.constantFrom("swim", "kick", "surge"),
        }),
      },
      { weight: 1, arbitrary: fc.record({ t: moments, lost: fc.constantFrom("focus", "pad", "touch") }) },
      {
        weight: 1,
        arbitrary: fc.record({
          t: moments,
          number: fc.constantFrom("fast", "deep"),
          value: fc.constantFrom(1, 7),
        }),
      },
      {
        weight: 1,
        arbitrary: fc.record({ t: moments, set: fc.constantFrom(...SWITCHES), on: fc.boolean() }),
      },
      {
        weight: 2,
        arbitrary: fc.record({
          t: moments,
          drive: driven,
          reason: fc.constantFrom("current", "cutscene"),
          how: fc.constantFrom("longest", "add", "alone", undefined),
          blendMs: fc.constantFrom(0, 0, 50, 333),
        }),
      },
      {
        weight: 1,
        arbitrary: fc.record({
          t: moments,
          spot: fc.constantFrom("figure", "pointer"),
          x: share(-1, 1),
          y: share(-1, 1),
        }),
      },
      { weight: 1, arbitrary: fc.record({ t: moments, reset: fc.constant(true) }) },
    ),
    { maxLength: 60 },
  )
  .map((list) =>
    list
      .sort((a, b) => a.t - b.t)
      .map((event): { t: number; tell: Event } => ({
        t: event.t,
        tell: (input) => {
          if ("control" in event) input.feed(event);
          else if ("flag" in event) input.setFlag("hasAir", event.flag, event.t);
          else if ("drive" in event) drive(input, event.drive, event.reason, event);
          else if ("set" in event) input.setSwitch(event.set, event.on, event.t);
          else if ("spot" in event) {
            if (input.plan.spots !== undefined) input.setSpot(event.spot, event.x, event.y, event.t);
          } else if ("number" in event) input.setNumber(event.number, event.value, event.t);
          else if ("mode" in event) {
            if (input.plan.modes !== undefined) input[event.mode as "enter"](event.name, event.t);
          } else if ("mute" in event) input[event.mute ? "mute" : "unmute"](event.action, "reel", event.t);
          else if ("lost" in event)
            if (event.lost === "pad") input.lose("pad", 1, event.t);
            else if (event.lost === "focus" || input.plan.controls !== undefined)
              input.lose(event.lost, { t: event.t });
            else input.reset(event.t);
        },
      })),
  );
