import { play } from "./game.js";

document.querySelector("#hint")!.textContent =
  "Walk, run, jump. Escape shows the keys, and lets you choose your own.";
void play(document.querySelector("canvas")!);
// While you build: what the layer hears, over the game. A release leaves it out.
if (import.meta.env.DEV && location.search.includes("panel"))
  void Promise.all([import("reacher/panel"), import("./input.js")]).then(([{ showPanel }, { input }]) =>
    showPanel(input),
  );
