import { StrictMode, useEffect, useRef } from "react";
import { createRoot } from "react-dom/client";
import { useReading } from "reacher/react";
import { play } from "./game.js";
import { input, openSettings } from "./input.js";

function Game() {
  const canvas = useRef<HTMLCanvasElement>(null);
  const isRunning = useReading(input, "run", (run) => run.on);
  useEffect(() => {
    const playing = play(canvas.current!);
    return () => void playing.then((end) => end());
  }, []);
  return (
    <>
      <canvas ref={canvas} aria-label="A diver on the sea floor" />
      <p id="hint">
        Walk, run, jump{isRunning ? ": running" : ""}.{" "}
        <button onClick={() => void openSettings()}>Keys and settings</button>
      </p>
    </>
  );
}

createRoot(document.querySelector("#root")!).render(
  <StrictMode>
    <Game />
  </StrictMode>,
);
