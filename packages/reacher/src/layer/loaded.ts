/** The second part of a game whose players set their own keys. In: what loads it. Out: its contents. */
import { shown } from "../plan/depth.js";
import { ReacherError } from "../plan/errors.js";
import type { Overrides } from "../plan/players/overrides.js";
import { FIXED, isBare } from "./fixed.js";

/** Whether these overrides, where they are known, need nothing that is loaded. */
export const needsNothing = (
  overrides: Overrides | null | undefined,
  opens?: (overrides: Overrides) => boolean,
): boolean => overrides !== undefined && (isBare(overrides) || opens?.(overrides!) === true);

/** @throws ReacherError if it does not come, or the game was built without it; the game plays on */
export async function loaded<T>(bring: (() => Promise<T>) | undefined): Promise<T> {
  if (bring === undefined) throw new ReacherError(FIXED);
  try {
    return await bring();
  } catch (error) {
    throw new ReacherError(
      `what players' keys need could not be loaded (${shown((error as Error).message)}); the game plays on, and bringKeys may be called again`,
    );
  }
}
