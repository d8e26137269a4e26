/** What a game says of devices: what is lost, and events that are none. */
import { momentOf } from "../plan/arguments.js";
import { shown } from "../plan/depth.js";
import { ReacherError } from "../plan/errors.js";

/** The index of a pad; the focus, or a device of own controls. */
export type Lost = number | string;

/** What is lost: the index of a pad, or `undefined` for everything; and when. */
export function lostOf(
  what: unknown,
  [first, second]: readonly unknown[],
  devices: readonly string[],
): [lost: Lost, t: number | undefined] {
  if (what === "focus" || devices.includes(what as string)) return [what as string, momentOf(first)];
  if (what !== "pad") {
    const own = devices.map((device) => `, ${JSON.stringify(device)}`).join("");
    throw new ReacherError(`${shown(what)} is nothing to lose; it is "focus"${own}, or "pad" with its index`);
  }
  if (typeof first !== "number" || !Number.isInteger(first) || first < 0)
    throw new ReacherError(
      `${shown(first)} is no pad; lose("pad", pad, t) takes the index of a pad, then the time`,
    );
  return [first, momentOf(second)];
}

export function noEvent(given: unknown): ReacherError {
  return new ReacherError(
    `${shown(given)} is no event; feed takes { t, control, value }, and pad where it is one's`,
  );
}
