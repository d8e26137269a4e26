/** The page's own window. */
import { ReacherError } from "../plan/errors.js";

/** @throws ReacherError outside a page, naming the call */
export function ownWindow(call: string): Window {
  if (typeof window === "undefined")
    throw new ReacherError(
      `${call} was called outside a page, where there are no keys to hear; in tests use play from reacher/testing`,
    );
  return window;
}
