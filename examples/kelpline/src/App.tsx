/** The page: the farm, the panel, the chat line. */
import { useEffect, useRef, useState } from "react";
import { Button } from "react-aria-components";
import { prompt } from "reacher/rebind";
import { Chat } from "./Chat";
import { ControlSign } from "./ControlSign";
import { drawFarm } from "./draw";
import { Panel } from "./Panel";
import { Prompts } from "./Prompts";
import type { Session } from "./session";
import { Settings } from "./Settings";

/** The panel is read by people: ten times a second is plenty. */
const PANEL_MS = 100;

export function App({ session }: { session: Session }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const touch = useRef<HTMLDivElement>(null);
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

  useEffect(() => session.touch([...touch.current!.children] as HTMLElement[]), [session]);

  const openSettings = () => {
    // A dialog gives the focus back to where it was.
    canvas.current?.focus();
    session.openSettings();
  };
  const diveOn = () => {
    session.shown.toggleMenu();
    canvas.current?.focus();
  };
  return (
    <main>
      <section className="farm">
        <h1>
          Kelpline <a href={(import.meta.env["VITE_LAB"] as string | undefined) ?? "./lab.html"}>the lab</a>
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
        {session.shown.menu && !session.settingUp && (
          <div className="menu" data-testid="menu" role="status" data-pad-screen="">
            <h2>At rest</h2>
            <p>
              <ControlSign parts={prompt(session.shown.seat, "choose", session.labels.label).parts} /> chooses
              a buoy · <ControlSign parts={prompt(session.shown.seat, "pause", session.labels.label).parts} />{" "}
              dives on
            </p>
            <div className="row" onKeyDown={(event) => event.key === "Escape" && diveOn()}>
              <Button onPress={diveOn}>Dive on</Button>
              <Button className="react-aria-Button quiet" onPress={openSettings}>
                Keys and settings
              </Button>
            </div>
          </div>
        )}
        {session.fault !== "" && (
          <p className="lost" role="alert" data-testid="fault">
            {session.fault}{" "}
            <Button className="react-aria-Button quiet small" onPress={() => session.understood()}>
              Understood
            </Button>
          </p>
        )}
        {session.divers.map(({ name }) => (
          <Prompts
            key={name}
            session={session}
            player={session.players.find((player) => player.name === name)!}
          />
        ))}
        <div ref={touch} className="touch">
          {session.touched.map((control) => (
            <div key={control} data-control={control} hidden />
          ))}
        </div>
        <Chat onDone={() => canvas.current?.focus()} />
      </section>
      <Panel session={session} onSettings={openSettings} onDone={() => canvas.current?.focus()} />
      {session.settingUp && <Settings session={session} onClose={() => session.closeSettings()} />}
    </main>
  );
}
