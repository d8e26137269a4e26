/** A figure moved by the plan's movements, as in a game. Drawn when it changes; at the cursor it is drawn as it was then. */
import { useEffect, useRef, useState } from "react";
import { drawStage } from "./drawStage";
import { pastFigure, presentFigure, type AnyReading, type Figure } from "./figure";
import type { Looked, Session } from "./session";
import { Trail } from "./trail";
import { useSession } from "./useSession";

const STAGED: Looked = ({ plan, cursor, seat }) => [
  Object.entries(plan.actions)
    .map(([name, { kind }]) => `${name} ${kind}`)
    .join(),
  cursor,
  seat,
];

/** The figure at the cursor, and its path up to there. */
interface Past {
  readonly figure: Figure;
  readonly way: Trail;
}

export function Stage({ session }: { session: Session }) {
  useSession(session, STAGED);
  const canvas = useRef<HTMLCanvasElement>(null);
  const area = useRef<HTMLDivElement>(null);
  const movements = Object.entries(session.plan.actions).filter(
    ([, { kind }]) => kind === "vector" || kind === "axis",
  );
  const [wanted, choose] = useState("");
  const shown = movements.some(([name]) => name === wanted) ? wanted : (movements[0]?.[0] ?? "");
  useEffect(() => session.played.attach(area.current!), [session]);
  useEffect(() => {
    const trail = new Trail();
    const dark = matchMedia("(prefers-color-scheme: dark)");
    let [past, of]: [Past | undefined, readonly unknown[]] = [undefined, []];
    let [drawn, drawnWay]: [string, Trail | undefined] = ["", undefined];
    // A figure at rest is not redrawn, which leaves the processor to the worker.
    const draw = (figure: Figure, way: Trail) => {
      const { clientWidth, clientHeight } = canvas.current!;
      const looks = JSON.stringify([figure, clientWidth, clientHeight, devicePixelRatio, dark.matches]);
      if (looks === drawn && way === drawnWay) return;
      [drawn, drawnWay] = [looks, way];
      drawStage(canvas.current!, figure, way);
    };
    let frame = requestAnimationFrame(function next(now) {
      frame = requestAnimationFrame(next);
      const { cursor, seat } = session;
      if (cursor !== undefined) {
        const asked = [session.shown.full, seat, cursor];
        if (past === undefined || asked.some((one, n) => one !== of[n])) {
          const way = new Trail();
          past = { figure: pastFigure(session.shown.full, seat, shown, cursor, way), way };
          of = asked;
        }
        draw(past.figure, past.way);
        return;
      }
      const reading = session.played.input.seat(seat).now as Readonly<Record<string, AnyReading>>;
      draw(presentFigure(reading, session.plan, shown, trail, now), trail);
    });
    return () => cancelAnimationFrame(frame);
  }, [session, shown]);
  return (
    <section className="stage" aria-label="Stage" ref={area} tabIndex={-1}>
      <canvas
        ref={canvas}
        role="img"
        aria-label={`A figure that ${shown || "nothing"} moves; its numbers stand beside it`}
      />
      <div className="corner">
        {movements.length > 1 && (
          <label>
            Moves by{" "}
            <select value={shown} onChange={({ target }) => choose(target.value)}>
              {movements.map(([name]) => (
                <option key={name}>{name}</option>
              ))}
            </select>
          </label>
        )}
        <span>
          {session.cursor === undefined
            ? "Press the plan's keys: they play here"
            : `As it was at ${(session.cursor / 1000).toFixed(2)} s`}
        </span>
      </div>
    </section>
  );
}
