/** Traces and reports that are dropped anywhere on the page. */
import { useEffect } from "react";
import type { Session } from "./session";

export function useDrops(session: Session): void {
  useEffect(() => {
    const allow = (event: DragEvent) => event.preventDefault();
    const drop = (event: DragEvent) => {
      event.preventDefault();
      for (const file of event.dataTransfer?.files ?? []) void session.load(file);
    };
    addEventListener("dragover", allow);
    addEventListener("drop", drop);
    return () => {
      removeEventListener("dragover", allow);
      removeEventListener("drop", drop);
    };
  }, [session]);
}
