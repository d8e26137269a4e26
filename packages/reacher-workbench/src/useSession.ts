/** Lets a component be drawn anew whenever the session has changed. */
import { useSyncExternalStore } from "react";
import type { Session } from "./session";

export function useSession(session: Session): Session {
  useSyncExternalStore(session.subscribe, session.snapshot);
  return session;
}
