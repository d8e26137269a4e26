/** The lab makes plans of its own while it runs, so the reading of plans ships with it; it lies beside the game. */
import react from "@vitejs/plugin-react";
import { reacher } from "reacher/vite";
import { defineConfig } from "vite";

export default defineConfig({
  base: "./",
  cacheDir: "node_modules/.vite-lab",
  plugins: [react(), reacher({ ahead: false })],
  build: {
    target: "es2022",
    emptyOutDir: false,
    chunkSizeWarningLimit: 900,
    rollupOptions: { input: "lab.html" },
  },
});
