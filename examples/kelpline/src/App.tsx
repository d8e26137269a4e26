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
      drawFarm(pen, width, height, session.diver, session.seconds(now));
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
        <h1>Kelpline</h1>
        <canvas
          ref={canvas}
          tabIndex={0}
          aria-label="The kelp farm at night, seen from above, with an amber diver"
        />
        {session.menu && (
          <div className="menu" data-testid="menu" role="status">
            <h2>At rest</h2>
            <p>
              <kbd>X</kbd> chooses a buoy · <kbd>Escape</kbd> dives on
            </p>
          </div>
        )}
        <p className="keys">
          <kbd>W A S D</kbd> or arrows swim · <kbd>Shift</kbd> kicks · <kbd>C</kbd> tucks · <kbd>Q</kbd>{" "}
          <kbd>E</kbd> sink and rise · <kbd>I J K L</kbd> aim · <kbd>F</kbd> lamp · twice in one direction
          surges · <kbd>X</kbd> snips · <kbd>G</kbd> grabs, held it hauls · <kbd>F</kbd> with <kbd>G</kbd>{" "}
          flashes · <kbd>Escape</kbd> menu · or a pad
        </p>
        <Chat onDone={() => canvas.current?.focus()} />
      </section>
      <Panel session={session} onDone={() => canvas.current?.focus()} />
    </main>
  );
}
