/** The layer between hands and game: the plan, the devices, and the keys that a player has saved. */
import plan from "./game.plan.json";
import { createInputLayer, type Overrides } from "reacher";
import { attachBrowser } from "reacher/browser";
import { browserStore } from "reacher/stores/browser";

export const input = createInputLayer(plan);
attachBrowser(input);
export const store = browserStore("my-game");

/** What a player changed last time counts from the first step on; who has changed no key loads nothing for it. */
export async function loadKeys(): Promise<void> {
  const saved = await store.read("player").catch(() => undefined);
  if (saved === undefined) return;
  const overrides = JSON.parse(saved) as Overrides;
  await input.bringKeys(overrides);
  input.setOverrides(overrides);
}

/** Shows the settings over the game, which hears nothing meanwhile. */
export async function openSettings(): Promise<void> {
  input.enter("menu");
  const [{ defineSettings }] = await Promise.all([import("reacher/settings"), input.bringKeys()]);
  defineSettings();
  const settings = document.createElement("reacher-settings");
  Object.assign(settings, { input, store });
  settings.addEventListener("done", () => {
    settings.remove();
    input.leave("menu");
  });
  document.body.append(settings);
}
