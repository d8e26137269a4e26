/**
 * Matchers for tests of a game, for Jest, Vitest and whoever has `expect.extend`: `expect(hands.now.jump).toBeOn()`. In: the reading of a switch. Out: whether it is so, and
 * what it is instead.
 *
 * @module reacher/matchers
 */
import { mustBeObject } from "../plan/arguments.js";
import { ReacherError } from "../plan/errors.js";
import type { SwitchReading } from "../engine/readings.js";

/** What a matcher gives its runner. */
export interface Matched {
  readonly pass: boolean;
  readonly message: () => string;
}

/** A reading as a message shows it. */
function told(reading: SwitchReading): string {
  const { on, onMs, turnedOn, turnedOff, endedBy } = reading;
  const turned = turnedOn ? ", turned on in this step" : turnedOff ? ", turned off in this step" : "";
  return `it is ${on ? `on for ${Math.round(onMs)} ms` : "off"}${turned}${endedBy === null ? "" : ` (${endedBy})`}`;
}

function matcher(what: string, is: (reading: SwitchReading) => boolean) {
  return (reading: SwitchReading): Matched => {
    mustBeObject(reading, "reading of a switch; give input.now.jump");
    if (typeof reading.on !== "boolean")
      throw new ReacherError("this reading is of no switch: only a switch is on or off");
    const pass = is(reading);
    return { pass, message: () => `expected the switch ${pass ? "not " : ""}to ${what}: ${told(reading)}` };
  };
}

/** For `expect.extend(matchers)`. */
export const matchers = {
  /** It is on now. */
  toBeOn: matcher("be on", ({ on }) => on),
  /** It turned on in the last step, also where it went off again within it. */
  toHaveTurnedOn: matcher("have turned on", ({ turnedOn }) => turnedOn),
  /** It turned off in the last step. */
  toHaveTurnedOff: matcher("have turned off", ({ turnedOff }) => turnedOff),
};

declare global {
  // eslint-disable-next-line @typescript-eslint/no-namespace -- as Jest has it.
  namespace jest {
    interface Matchers<R> {
      toBeOn(): R;
      toHaveTurnedOn(): R;
      toHaveTurnedOff(): R;
    }
  }
}
