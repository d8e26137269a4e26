/** Lets a component be drawn anew when something of the session has changed that it shows. */
import { useSyncExternalStore } from "react";
import type { Session } from "./session";

/** What a component looks at: drawn anew where one of these is another. By default all that changes. */
export type Looked = (session: Session) => readonly unknown[];

export function useSession(session: Session, looked?: Looked): Session {
  const snapshot = (): unknown => (looked === undefined ? session.snapshot() : session.seen(looked));
  useSyncExternalStore(session.subscribe, snapshot);
  return session;
}
