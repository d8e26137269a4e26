import react from "@vitejs/plugin-react";
import { reacher } from "reacher/vite";
import { defineConfig } from "vite";

// What the game calls. Its reasons are told by the rules, which come while it is played already.
const calls = [
  "on",
  "drive",
  "mute",
  "unmute",
  "setFlag",
  "setNumber",
  "number",
  "enter",
  "leave",
  "held",
  "watch",
  "intercept",
  "openSeats",
  "assignPad",
  "onPads",
  "setOverrides",
  "bringKeys",
  "plan",
  "own",
];

export default defineConfig({
  base: "./",
  plugins: [react(), reacher({ calls })],
  build: { target: "es2022", chunkSizeWarningLimit: 900, rollupOptions: { input: "index.html" } },
});
