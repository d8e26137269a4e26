import react from "@vitejs/plugin-react";
import { reacher } from "reacher/vite";
import { defineConfig } from "vite";

export default defineConfig({
  base: "./",
  // The lab makes plans of its own while it runs, so the reading of plans ships too.
  plugins: [react(), reacher({ ahead: false })],
  build: {
    target: "es2022",
    chunkSizeWarningLimit: 900,
    rollupOptions: { input: ["index.html", "lab.html"] },
  },
});
