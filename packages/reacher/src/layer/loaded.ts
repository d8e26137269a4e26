/** The second part of a game whose players set their own keys. In: what loads it. Out: its contents. */
import { shown } from "../plan/depth.js";
import { ReacherError } from "../plan/errors.js";
import { FIXED } from "./fixed.js";

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
