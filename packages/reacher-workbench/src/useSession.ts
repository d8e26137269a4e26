/** Redraws a component when the values that it selects from the session have changed. */
import { useSyncExternalStore } from "react";
import type { Looked, Session } from "./session";

/** By default, any change redraws it. */
export function useSession(session: Session, looked?: Looked): Session {
  const snapshot = (): unknown => (looked === undefined ? session.snapshot() : session.seen(looked));
  useSyncExternalStore(session.subscribe, snapshot);
  return session;
}
