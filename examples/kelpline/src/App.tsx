/** The page: the farm, the panel, the chat line. */
import { useEffect, useRef, useState } from "react";
import { Chat } from "./Chat";
import { drawFarm } from "./draw";
import { Panel } from "./Panel";
import type { Session } from "./session";

/** The panel is read by people: ten times a second is plenty. */
const PANEL_MS = 100;

export function App({ session }: { session: Session }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [, showAnew] = useState(0);

  useEffect(() => {
    const farm = canvas.current!;
    const pen = farm.getContext("2d")!;
    let shown = 0;
    let frame = requestAnimationFrame(function next() {
      frame = requestAnimationFrame(next);
      const now = performance.now();
      session.frame(now);
      const { clientWidth, clientHeight } = farm;
      const width = Math.round(clientWidth * devicePixelRatio);
      const height = Math.round(clientHeight * devicePixelRatio);
      if (farm.width !== width) farm.width = width;
      if (farm.height !== height) farm.height = height;
      drawFarm(pen, width, height, session.divers, session.seconds(now));
      if (now - shown >= PANEL_MS) {
        shown = now;
        showAnew(now);
      }
    });
    farm.focus();
    return () => cancelAnimationFrame(frame);
  }, [session]);

  return (
    <main>
      <section className="farm">
        <h1>
          Kelpline <a href="./lab.html">the lab</a>
        </h1>
        <canvas
          ref={canvas}
          tabIndex={0}
          aria-label={`The kelp farm at night, seen from above, with ${session.two ? "an amber and a teal diver" : "an amber diver"}`}
        />
        {session.waiting.map(({ name }) => (
          <p key={name} className="lost" data-testid="lost" role="alert">
            {name}'s pad is lost. Plug it in again, or press a button of another.
          </p>
        ))}
        {session.shown.menu && (
          <div className="menu" data-testid="menu" role="status">
            <h2>At rest</h2>
            <p>
              <kbd>X</kbd> chooses a buoy · <kbd>Escape</kbd> dives on
            </p>
          </div>
        )}
        <p className="keys" hidden={!session.two}>
          amber: <kbd>W A S D</kbd> <kbd>Shift</kbd> <kbd>C</kbd> <kbd>X</kbd> <kbd>G</kbd> <kbd>F</kbd>{" "}
          <kbd>Escape</kbd> · teal: <kbd>arrows</kbd> <kbd>right Shift</kbd> <kbd>/</kbd> <kbd>Enter</kbd>{" "}
          <kbd>.</kbd> <kbd>,</kbd> <kbd>Backspace</kbd> · swim, kick, tuck, snip, grab, lamp, menu · or a pad
          each: press any button of it
        </p>
        <p className="keys" hidden={session.two}>
          <kbd>W A S D</kbd> or arrows swim · <kbd>Shift</kbd> kicks · <kbd>C</kbd> tucks · <kbd>Q</kbd>{" "}
          <kbd>E</kbd> sink and rise · <kbd>I J K L</kbd> or the mouse aim · <kbd>F</kbd> lamp · twice in one
          direction surges · <kbd>X</kbd> snips · <kbd>G</kbd> grabs, held it hauls · <kbd>F</kbd> with{" "}
          <kbd>G</kbd> flashes · <kbd>Escape</kbd> menu · or a pad
        </p>
        <Chat onDone={() => canvas.current?.focus()} />
      </section>
      <Panel session={session} onDone={() => canvas.current?.focus()} />
    </main>
  );
}
