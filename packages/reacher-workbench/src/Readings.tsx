/** Each action's reading as text: now, or at the timeline's cursor. */
import { memo, useEffect, useState } from "react";
import type { Seat } from "reacher";
import { readingText, type AnyReading } from "reacher/panel";
import type { Session } from "./session";
import { isOnAt, movingAt } from "./timeline/timeline";

/** How often it is updated, in ms. */
const EACH_MS = 100;

export function Readings({ session }: { session: Session }) {
  const [, drawAnew] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => drawAnew((n) => n + 1), EACH_MS);
    return () => clearInterval(timer);
  }, []);
  const seat = session.played.input.seat(session.seat);
  const rows = session.cursor === undefined ? present(session, seat) : past(session, session.cursor);
  return (
    <table className="readings" aria-label="Readings">
      <tbody>
        {rows.map((row) => (
          <ReadingRow key={row.action} {...row} />
        ))}
      </tbody>
    </table>
  );
}

/** Memoized, since most rows have not changed. */
const ReadingRow = memo(function ReadingRow({ action, text, isOn, isLive }: Row) {
  return (
    <tr data-on={isOn} className={isLive ? "" : "silent"}>
      <th scope="row">{action}</th>
      <td>{isLive ? text : `${text} (not live)`}</td>
    </tr>
  );
});

interface Row {
  readonly action: string;
  readonly text: string;
  readonly isOn: boolean;
  readonly isLive: boolean;
}

function present({ plan }: Session, seat: Seat): Row[] {
  return Object.keys(plan.actions).map((action) => {
    const reading = (seat.now as Readonly<Record<string, AnyReading>>)[action]!;
    return { action, ...readingText(reading), isLive: seat.live(action) };
  });
}

function past({ shown, seat }: Session, t: number): Row[] {
  return shown.full.actions
    .filter((lane) => lane.seat === seat)
    .map((lane) => {
      const { action, kind } = lane;
      if (kind === "switch") {
        const isOn = isOnAt(lane.bars, t);
        return { action, text: isOn ? "on" : "off", isOn, isLive: true };
      }
      const moving = movingAt(lane, t);
      const value =
        kind === "axis"
          ? (moving?.x ?? 0).toFixed(2)
          : `${(moving?.x ?? 0).toFixed(2)}, ${(moving?.y ?? 0).toFixed(2)}`;
      return {
        action,
        text: movementText(value, moving?.gait ?? null, moving?.pace ?? 0),
        isOn: isOnAt(lane.bars, t),
        isLive: true,
      };
    });
}

function movementText(value: string, gait: string | null, pace: number): string {
  return [value, gait, pace > 0 && `pace ${pace.toFixed(2)}`].filter(Boolean).join(" · ");
}
